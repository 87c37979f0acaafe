"""Drafted cases: boundaries, choices, pairs, and the parts of decisions."""
