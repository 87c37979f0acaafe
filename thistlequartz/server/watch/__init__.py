"""Watch: what the rules in force say at work, over time."""
