"""Webhooks: other systems called when a record changes."""
