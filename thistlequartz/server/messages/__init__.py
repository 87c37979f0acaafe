"""Messages to people about records, and the mail that was sent."""
