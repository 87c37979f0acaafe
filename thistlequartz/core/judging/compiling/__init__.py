"""Compiling: a form and its rules, prepared once for any number of records."""
