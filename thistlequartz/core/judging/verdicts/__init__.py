"""Verdicts: results of the rules at each moment, and what follows for saving and submitting."""
