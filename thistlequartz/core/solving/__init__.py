"""Questions about all records of a form, put to the solver: its records as variables."""
