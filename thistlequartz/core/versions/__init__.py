"""Two versions of a form: what differs between them, in words, and applying a difference."""
