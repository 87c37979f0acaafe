"""Thistlequartz: say what a record form must satisfy, and prove what warns and what blocks."""
