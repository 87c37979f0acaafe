"""FEEL's built-in functions and operators: what each computes, and all that is known of it.

Source: DMN 1.4, clauses 10.3.2 and 10.3.4.
"""

from . import conversion, lists, numbers, ranges, temporal, text
from .internal import INTERNAL
from .record import Function, Parameter, Shape

FUNCTIONS: dict[str, Function] = {
    one.name: one
    for room in (conversion, text, numbers, lists, temporal, ranges)
    for one in room.FUNCTIONS
}
"""By name."""

__all__ = ["FUNCTIONS", "INTERNAL", "Function", "Parameter", "Shape"]
