"""Links: a form filled in without an account."""
