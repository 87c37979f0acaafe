"""How much the cases of a form prove of its rules."""
