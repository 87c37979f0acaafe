"""Findings: what is wrong with the rules of a draft, known before any record exists."""
