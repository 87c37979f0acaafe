"""Other records: one port to look them up, one index by value, one unique key."""
