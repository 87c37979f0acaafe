"""Approvals: submitted records approved, sent back, or taken back by whoever submitted them."""
