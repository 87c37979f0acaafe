"""Showing: a value as people read it, and as JSON carries it."""

from datetime import date
from decimal import Decimal

from .reading import Value
from .types import ChoiceType, NumberType, ValueType

_CLOSE_UNITS = ("°", "%", "′", "″")
"""Units written without a space before them."""


def show_value(value: Value | None, type_: ValueType | None = None) -> str:
    """`value` in plain words: thousands marks, written months, labels of choices, the unit."""
    match value:
        case None:
            return "blank"
        case bool():
            return "yes" if value else "no"
        case Decimal():
            unit = type_.unit if isinstance(type_, NumberType) else None
            space = "" if unit in _CLOSE_UNITS else " "
            number = f"{value:,f}".replace("-", "−")
            return f"{number}{space}{unit}" if unit else number
        case date():
            return f"{value.day} {value:%B} {value.year}"
        case str():
            return type_.label_of(value) if isinstance(type_, ChoiceType) else f"“{value}”"


def to_json(value: Value | None) -> str | bool | None:
    """`value` as it is stored: decimals as plain text, dates by ISO 8601."""
    match value:
        case Decimal():
            return f"{value:f}"
        case date():
            return value.isoformat()
        case _:
            return value
