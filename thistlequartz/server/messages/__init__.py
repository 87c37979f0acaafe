"""What is said to people when something has become of a record, and the outbox that keeps it."""
