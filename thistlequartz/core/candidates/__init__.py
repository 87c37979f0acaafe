"""Entries worth trying in a form, and searches among them that change as little as they can."""
