"""Showing: a value in plain words, with or without its type."""

from datetime import date, datetime, time, timedelta
from decimal import Decimal

from thistlequartz.core.translation import listed, tr
from thistlequartz.core.values.showing import (
    USUAL,
    WritingStyle,
    show_clock,
    show_day,
    show_instant,
    show_length,
    show_number,
)
from thistlequartz.core.values.temporal import Months
from thistlequartz.core.values.value import Value

from .base import FieldType


def show_value(
    value: Value | None, type_: FieldType | None = None, style: WritingStyle = USUAL
) -> str:
    """`value` in plain words: thousands marks, written months, labels of choices, the unit.

    Rules and messages are written in the usual style; `style` is for what one person reads. A value
    that its type does not hold, as a formula may give it, is shown by what it is.
    """
    if value is None:
        return tr("blank")
    if type_ is not None and type_.holds(value):
        return type_.shower(style)(value)
    match value:
        case str():
            return f"“{value}”"
        case Decimal():
            return show_number(value, None, False, True, style)
        case bool():
            return tr("yes") if value else tr("no")
        case datetime():
            return show_instant(value, "UTC", style)
        case date():
            return show_day(value, style)
        case time():
            return show_clock(value)
        case timedelta() | Months():
            return show_length(value)
        case _:
            return listed(value)
