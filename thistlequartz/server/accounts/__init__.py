"""Accounts made, changed and closed, and passwords."""
