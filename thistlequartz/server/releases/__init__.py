"""Releases: what clerks' records are judged by."""
