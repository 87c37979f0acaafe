"""Stops along a swept field: the values at which something begins, goes on and ends."""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from thistlequartz.core.language import Declared
from thistlequartz.core.values import Stored, ValueType, show_value, to_entry

from .bands import Band, Endpoint, Sweep
from .domain import Domain, domain_of, place_of


@dataclass(frozen=True, slots=True)
class Stop:
    """One value to stop at, as it is entered."""

    band: int
    """The place of its band among those of the sweep."""
    value: Stored
    words: str


def stops_of(found: Sweep, declared: Declared, today: date) -> tuple[Stop, ...]:
    """The first value of each band, one in it, and the last, as far as it has ends."""
    type_ = declared.type
    domain = domain_of(type_, today)
    return tuple(
        Stop(
            place,
            to_entry(value, declared.settings),
            "blank" if value is None else _shown(value, type_),
        )
        for place, band in enumerate(found.bands)
        for value in _values(band, domain)
    )


def _values(band: Band, domain: Domain | None) -> list[Any]:
    if domain is None or band.low == band.high:
        return [band.sample]
    ends = (_first(band.low, domain, 1), band.sample, _first(band.high, domain, -1))
    return list(dict.fromkeys(one for one in ends if one is not None))


def _first(edge: Endpoint | None, domain: Domain, inward: int) -> Any:
    """The value at an end, or the one beside it where the end itself is not in the band."""
    if edge is None:
        return None
    place = place_of(edge.value)
    if edge.included or place is None:
        return edge.value
    if not domain.on_grid(place):
        return domain.value(domain.at_least(place) if inward > 0 else domain.at_most(place))
    return domain.value(place + inward * domain.step)


def _shown(value: Any, type_: ValueType) -> str:
    if isinstance(value, list):
        value = tuple(value)
    if isinstance(value, int) and not isinstance(value, bool):
        value = Decimal(value)
    return show_value(value, type_)
