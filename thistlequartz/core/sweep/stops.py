"""Stops along a swept field: where results begin, go on and end, each with its place."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from thistlequartz.core.language import Declaration
from thistlequartz.core.types.domain import Domain, place_of
from thistlequartz.core.values import Stored, to_entry

from .bands import Band, Sweep
from .edges import Endpoint, shown
from .scale import Drawing, drawing_of, values_along

BETWEEN: Final = 80
"""Stops between the others, for whoever points."""


@dataclass(frozen=True, slots=True)
class Stop:
    """One value to stop at, as it is entered."""

    band: int
    """The place of its band among those of the sweep."""
    value: Stored
    words: str
    at: float = 0.0
    """Where it is drawn, from 0 to 1."""
    between: bool = False
    """Whether nothing begins or ends there: it is only to be pointed at."""


def stops_of(
    found: Sweep, declared: Declaration, today: date, drawing: Drawing | None = None
) -> tuple[Stop, ...]:
    """Return the first value of each band, one in it, and its last, in drawing order.

    Between them stand some round ones.
    """
    domain = declared.type.domain(today)
    drawing = drawing or drawing_of(found, domain)
    main = [
        _stop(place, value, declared, drawing)
        for place, band in enumerate(found.bands)
        for value in _values(band, domain)
    ]
    there = {repr(one.value) for one in main}
    more = [
        one for one in _between(found, declared, drawing, domain) if repr(one.value) not in there
    ]
    return tuple(sorted((*main, *more), key=lambda one: (one.band, one.at)))


def band_of(found: Sweep, value: Any) -> int | None:
    """The place of the band in which a value stands, by how it is read."""
    for place, band in enumerate(found.bands):
        if _holds(band.low, band.high, value):
            return place
    return None


def _holds(low: Endpoint | None, high: Endpoint | None, value: Any) -> bool:
    single = low is not None and high is not None and low.value == high.value
    if value is None or isinstance(value, bool | str | tuple) or single:
        held = low.value if low else None
        if isinstance(value, tuple):
            value = list(value)
        return single and held == value
    if low is None and high is None:
        return True
    try:
        above = low is None or value > low.value or (low.included and value == low.value)
        below = high is None or value < high.value or (high.included and value == high.value)
    except TypeError:
        return False
    return above and below


def _stop(
    band: int, value: Any, declared: Declaration, drawing: Drawing, *, between: bool = False
) -> Stop:
    first, last = drawing.spans[band]
    at = drawing.at(value)
    at = (first + last) / 2 if at is None else at
    words = "blank" if value is None else shown(value, declared.type)
    return Stop(band, to_entry(value, declared.settings), words, at, between)


def _between(
    found: Sweep, declared: Declaration, drawing: Drawing, domain: Domain | None
) -> Iterator[Stop]:
    if domain is None or drawing.scale is None:
        return
    for place in values_along(domain, drawing.scale, BETWEEN):
        value = domain.value(place)
        band = band_of(found, value)
        if band is not None:
            yield _stop(band, value, declared, drawing, between=True)


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
