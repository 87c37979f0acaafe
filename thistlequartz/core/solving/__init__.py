"""What the solver knows of a form: its records as variables, and questions about all of them."""
