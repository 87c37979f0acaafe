"""Patterns of one's own, and named formats."""

from .patterns import PatternError, compile_pattern

__all__ = ["PatternError", "compile_pattern"]
