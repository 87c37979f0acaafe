"""Where values begin and end, and how that is said."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from thistlequartz.core.translation import tr
from thistlequartz.core.types import NumberType, ValueType, show_value


@dataclass(frozen=True, slots=True)
class Endpoint:
    """An end of a band."""

    value: Any
    included: bool


Ends = tuple[Endpoint | None, Endpoint | None]

_BETWEEN = {
    (True, True, True): tr("{low} to {high}"),
    (True, True, False): tr("{low} to {high}"),
    (True, False, True): tr("{low} to under {high}"),
    (True, False, False): tr("{low} to before {high}"),
    (False, True, True): tr("over {low} to {high}"),
    (False, True, False): tr("after {low} to {high}"),
    (False, False, True): tr("over {low} to under {high}"),
    (False, False, False): tr("after {low} to before {high}"),
}
"""By whether the ends belong to the band, and whether it is of numbers."""


def band_words(
    low: Endpoint | None, high: Endpoint | None, type_: ValueType, is_length: bool
) -> str:
    """“over 1,000 to 5,000”, “12 June 2026 and later”."""
    shown_by = NumberType(0) if is_length else type_
    ordinary = is_length or type_.compared_as == "numbers"

    def said(edge: Endpoint) -> str:
        return shown(edge.value, shown_by)

    def with_unit(edge: Endpoint) -> str:
        return tr("{count} characters", count=said(edge)) if is_length else said(edge)

    if low is None and high is None:
        return tr("any value") if not is_length else tr("any length")
    if low is not None and high is not None and low == high:
        return with_unit(low)
    if low is None:
        assert high is not None
        if high.included:
            return tr("up to {value}", value=with_unit(high))
        below = tr("under {value}") if ordinary else tr("before {value}")
        return below.format(value=with_unit(high))
    if high is None:
        if low.included:
            upwards = tr("{value} and more") if ordinary else tr("{value} and later")
        else:
            upwards = tr("over {value}") if ordinary else tr("after {value}")
        return upwards.format(value=with_unit(low))
    between = _BETWEEN[low.included, high.included, ordinary]
    return between.format(low=said(low), high=with_unit(high))


def shown(value: Any, type_: ValueType) -> str:
    """A value of a field, a length, or a choice as it is entered, in words."""
    match value:
        case list():
            value = tuple(value)
        case int() if not isinstance(value, bool):
            value = Decimal(value)
    return show_value(value, type_)
