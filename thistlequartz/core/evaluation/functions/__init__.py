"""What FEEL's built-in functions compute (DMN 1.4, clause 10.3.4)."""

from collections.abc import Callable
from typing import Any

from . import conversion, lists, numbers, ranges, temporal, text

BUILT_IN: dict[str, Callable[..., Any]] = {
    **conversion.FUNCTIONS,
    **text.FUNCTIONS,
    **numbers.FUNCTIONS,
    **lists.FUNCTIONS,
    **temporal.FUNCTIONS,
    **ranges.FUNCTIONS,
}
"""By name. Each takes its arguments by place, null for one left out, and gives null where it
cannot answer; a TypeError, ValueError or arithmetic error it raises counts as null."""
