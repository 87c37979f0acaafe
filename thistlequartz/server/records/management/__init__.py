"""Commands of records."""
