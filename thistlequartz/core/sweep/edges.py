"""Where values begin and end, and how that is said."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from thistlequartz.core.translation import tr
from thistlequartz.core.values import NumberType, ValueType, show_value


@dataclass(frozen=True, slots=True)
class Endpoint:
    """An end of a band."""

    value: Any
    included: bool


Ends = tuple[Endpoint | None, Endpoint | None]


def band_words(
    low: Endpoint | None, high: Endpoint | None, type_: ValueType, is_length: bool
) -> str:
    """“over 1,000 to 5,000”, “12 June 2026 and later”."""
    unit = " characters" if is_length else ""
    shown_by = NumberType(0) if is_length else type_
    ordinary = is_length or isinstance(type_, NumberType)

    def said(edge: Endpoint) -> str:
        return shown(edge.value, shown_by)

    if low is None and high is None:
        return tr("any value") if not is_length else tr("any length")
    if low is not None and high is not None and low == high:
        return f"{said(low)}{unit}"
    if low is None:
        assert high is not None
        if high.included:
            return tr("up to {said}{unit}", said=said(high), unit=unit)
        return tr(
            "{part} {said}{unit}",
            part="under" if ordinary else "before",
            said=said(high),
            unit=unit,
        )
    if high is None:
        if low.included:
            return tr(
                "{said}{unit} {part}",
                said=said(low),
                unit=unit,
                part="and more" if ordinary else "and later",
            )
        return tr(
            "{part} {said}{unit}", part="over" if ordinary else "after", said=said(low), unit=unit
        )
    over, after = ("over ", "after ") if ordinary else ("after ", "after ")
    begin = "" if low.included else (over if ordinary else after)
    until = "to" if high.included else (tr("to under") if ordinary else tr("to before"))
    return f"{begin}{said(low)} {until} {said(high)}{unit}"


def shown(value: Any, type_: ValueType) -> str:
    """A value of a field, a length, or a choice as it is entered, in words."""
    match value:
        case list():
            value = tuple(value)
        case int() if not isinstance(value, bool):
            value = Decimal(value)
    return show_value(value, type_)
