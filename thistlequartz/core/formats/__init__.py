"""Patterns of one's own, and named formats."""

from .check_digits import with_article
from .lists import COUNTRIES, time_zones
from .named import NAMED_FORMATS, NamedFormat
from .patterns import InClasses, PatternError, compile_pattern, in_classes, is_plain
from .possible import can_match

__all__ = [
    "COUNTRIES",
    "NAMED_FORMATS",
    "InClasses",
    "NamedFormat",
    "PatternError",
    "can_match",
    "compile_pattern",
    "in_classes",
    "is_plain",
    "time_zones",
    "with_article",
]
