"""Who changed what, when and why."""
