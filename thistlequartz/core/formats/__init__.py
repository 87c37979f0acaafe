"""Patterns of one's own, and named formats."""

from .check_digits import with_article
from .lists import POSTAL_COUNTRIES
from .named import NAMED_FORMATS, NamedFormat
from .patterns import PatternError, compile_pattern
from .possible import can_match

__all__ = [
    "NAMED_FORMATS",
    "POSTAL_COUNTRIES",
    "NamedFormat",
    "PatternError",
    "can_match",
    "compile_pattern",
    "with_article",
]
