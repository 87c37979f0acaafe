"""Approvals: submitted records approved, returned, or taken back by whoever submitted them."""
