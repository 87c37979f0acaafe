"""Commands of the doors."""
