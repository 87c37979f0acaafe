"""Where values are drawn: to scale, or by rank where they lie too far apart for that."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from itertools import pairwise
from math import floor
from typing import Any, Final, Literal
from zoneinfo import ZoneInfo

from thistlequartz.core.translation import tr
from thistlequartz.core.types.domain import (
    MICROSECONDS_A_DAY,
    MICROSECONDS_A_SECOND,
    Domain,
    GridPoint,
    place_of,
)
from thistlequartz.core.values import Months, show_length
from thistlequartz.core.values.month_names import MONTHS, SHORT_MONTHS

from .bands import Band, Sweep
from .edges import Endpoint

MARGIN: Final = GridPoint(1, 8)
"""Of what is between the outermost bounds: so much is drawn beyond them."""
NARROWEST: Final = GridPoint(1, 40)
"""Of the whole: where a stretch is narrower, it is drawn by rank."""
MOST_TICKS: Final = 8
_FINE: Final = 200
"""Round values that go into what is drawn, for whoever points."""
_PARTS: Final = 4
"""Round values that go between two places, when one of them is wanted."""
_MINUTE: Final = 60 * MICROSECONDS_A_SECOND
_STEPS_OF_SECONDS: Final = tuple(n * MICROSECONDS_A_SECOND for n in (1, 2, 5, 10, 15, 30))
_STEPS_OF_TIME: Final = (
    *(n * _MINUTE for n in (1, 2, 5, 10, 15, 30, 60, 120, 180, 360, 720)),
    *(n * MICROSECONDS_A_DAY for n in (1, 2, 7, 14)),
)
_STEPS_OF_MONTHS: Final = (1, 3, 6, 12, 24, 60, 120, 240, 600, 1_200, 2_400, 6_000)
_MONTH: Final = 30 * MICROSECONDS_A_DAY
_YEAR: Final = 12
_BEGINNING: Final = datetime(1, 1, 1, tzinfo=UTC)

Knot = tuple[GridPoint, float]


@dataclass(frozen=True, slots=True)
class Tick:
    """A round value, and where it stands."""

    at: float
    """From 0 to 1."""
    words: str


@dataclass(frozen=True, slots=True)
class Scale:
    """Where places are drawn, from 0 to 1."""

    by: Literal["value", "rank"]
    """To scale, or each stretch between two bounds as long as any other."""
    knots: tuple[Knot, ...]
    """In order; between two of them straight. One place twice has a width of its own."""
    ticks: tuple[Tick, ...] = ()
    """Only to scale: by rank the bounds themselves are the marks."""

    def at(self, place: GridPoint) -> float:
        """Where a place is drawn; what lies outside, at the end."""
        places = [one for one, _ in self.knots]
        first, beyond = bisect_left(places, place), bisect_right(places, place)
        if first < beyond:
            return (self.knots[first][1] + self.knots[beyond - 1][1]) / 2
        if first == 0:
            return self.knots[0][1]
        if first == len(places):
            return self.knots[-1][1]
        (low, begin), (high, end) = self.knots[first - 1], self.knots[first]
        return begin + float((place - low) / (high - low)) * (end - begin)

    def first(self, place: GridPoint) -> float:
        """Where a place begins, which has a width of its own where it stands twice."""
        return min((at for one, at in self.knots if one == place), default=self.at(place))

    def last(self, place: GridPoint) -> float:
        """Where it ends."""
        return max((at for one, at in self.knots if one == place), default=self.at(place))

    def place(self, at: float) -> GridPoint:
        """What is drawn there; the opposite of `at`."""
        for (low, begin), (high, end) in pairwise(self.knots):
            if at <= end:
                share = (at - begin) / (end - begin) if end > begin else 0.0
                return low + (high - low) * GridPoint(share)
        return self.knots[-1][0]

    @property
    def window(self) -> tuple[GridPoint, GridPoint]:
        """The outermost places that are drawn."""
        return self.knots[0][0], self.knots[-1][0]


def border(domain: Domain, edge: Endpoint | None, side: Literal[-1, 1]) -> GridPoint | None:
    """Return where a band is drawn to begin (-1) or to end (1).

    Values that are told one by one take up their own step, half of it on either side.
    """
    place = None if edge is None else place_of(edge.value)
    if place is None or edge is None:
        return None
    if not domain.counted:
        return place
    inward = 0 if edge.included else -side
    return place + inward * domain.step + side * domain.step / 2


def scale_of(domain: Domain, borders: Sequence[GridPoint], also: Iterable[GridPoint] = ()) -> Scale:
    """A scale on which all `borders` can be told apart, and the places `also` can be seen.

    A border that stands twice is that of a single value without a width of its own.
    """
    return scale_in(domain, borders, window_of(domain, borders, also))


def window_of(
    domain: Domain, borders: Iterable[GridPoint], also: Iterable[GridPoint] = ()
) -> tuple[GridPoint, GridPoint]:
    """What is drawn, so that these places are seen with something around them."""
    known = sorted({*borders, *also}) or [domain.home]
    low, high = known[0], known[-1]
    beyond = max((high - low) * MARGIN or domain.reach(low), domain.step)
    return _within(domain, low - beyond, high + beyond)


def scale_in(
    domain: Domain, borders: Sequence[GridPoint], window: tuple[GridPoint, GridPoint]
) -> Scale:
    """The scale of what is drawn: by rank where two borders would lie too close together."""
    low, high = window
    distinct = sorted(set(borders))
    gaps = [b - a for a, b in pairwise(distinct) if b - a > domain.step]
    if all(gap >= (high - low) * NARROWEST for gap in gaps):
        to_scale = Scale("value", ((low, 0.0), (high, 1.0)))
        ticks = tuple(Tick(to_scale.at(at), words) for at, words in _ticks(domain, low, high))
        return Scale("value", to_scale.knots, ticks)
    return Scale("rank", tuple(_ranked(low, high, sorted(borders))))


def _ranked(low: GridPoint, high: GridPoint, borders: Sequence[GridPoint]) -> Iterator[Knot]:
    """Stretches of one length; a single value has half of that."""
    inner = [one for one in borders if low < one < high]
    sizes = [1.0 if b > a else 0.5 for a, b in pairwise([low, *inner, high])]
    at, whole = 0.0, sum(sizes)
    yield low, 0.0
    for one, size in zip(inner, sizes[:-1], strict=True):
        at += size / whole
        yield one, at
    yield high, 1.0


def _within(domain: Domain, low: GridPoint, high: GridPoint) -> tuple[GridPoint, GridPoint]:
    half = domain.step / 2 if domain.counted else GridPoint(0)
    if domain.first is not None:
        low = max(low, domain.first - half)
    if domain.last is not None:
        high = min(high, domain.last + half)
    return low, high


BLANK_ENDS: Final = 0.07
"""Blank stands before all values, up to here."""
VALUES_BEGIN: Final = 0.09


@dataclass(frozen=True, slots=True)
class Drawing:
    """Where the bands of a sweep are drawn, from 0 to 1, blank first."""

    by: Literal["value", "rank", "each"]
    """`each`: choices, which have no order."""
    spans: tuple[tuple[float, float], ...]
    """Of each band: where it begins and ends; the same where it is a single value to scale."""
    ticks: tuple[Tick, ...] = ()
    scale: Scale | None = None

    def at(self, value: Any) -> float | None:
        """Return where a value of an ordered field is drawn.

        None for blank and for choices, which are bands of their own.
        """
        place = place_of(value)
        if self.scale is None or place is None:
            return None
        return after_blank(self.scale.at(place))


def drawing_of(found: Sweep, domain: Domain | None, standing: Any = None) -> Drawing:
    """How the bands of a sweep are drawn; the value `standing` in the field is to be seen, too."""
    if domain is None:
        share = 1 / len(found.bands)
        spans = tuple((n * share, (n + 1) * share) for n in range(len(found.bands)))
        return Drawing("each", spans)
    place = place_of(standing)
    also = () if place is None else (place,)
    scale, spans = _drawn_bands(domain, found.bands[1:], also)
    after = tuple((after_blank(begin), after_blank(end)) for begin, end in spans)
    ticks = tuple(Tick(after_blank(one.at), one.words) for one in scale.ticks)
    return Drawing(scale.by, ((0.0, BLANK_ENDS), *after), ticks, scale)


def after_blank(at: float) -> float:
    """Where something on a scale is drawn beside blank."""
    return VALUES_BEGIN + at * (1 - VALUES_BEGIN)


def _drawn_bands(
    domain: Domain, bands: Sequence[Band], also: Iterable[GridPoint]
) -> tuple[Scale, tuple[tuple[float, float], ...]]:
    """The scale of ordered bands, and where each of them begins and ends."""
    ends = [(border(domain, one.low, -1), border(domain, one.high, 1)) for one in bands]
    singles = [low for low, high in ends if low is not None and low == high]
    inner = {one for pair in ends for one in pair if one is not None}
    scale = scale_of(domain, sorted([*inner, *singles]), also)
    spans = []
    for low, high in ends:
        if low is not None and low == high:
            spans.append((scale.first(low), scale.last(low)))
        else:
            begin = 0.0 if low is None else scale.last(low)
            spans.append((begin, 1.0 if high is None else scale.first(high)))
    return scale, tuple(spans)


def _ticks(domain: Domain, low: GridPoint, high: GridPoint) -> Iterator[tuple[GridPoint, str]]:
    """Round values between two places, and how each is said."""
    if domain.marked == "durations":
        yield from _ticks_of_duration(domain, low, high)
        return
    if domain.marked not in ("numbers", "lengths"):
        yield from _ticks_of_time(domain, low, high)
        return
    step = max(round_step(high - low), domain.step)
    at = -floor(-low / step) * step
    while at <= high:
        yield at, number_words(at)
        at += step


def round_between(domain: Domain, low: GridPoint, high: GridPoint) -> GridPoint | None:
    """A value between two places, near the middle and as round as can be; None for none."""
    middle = (low + high) / 2
    number = domain.marked == "numbers" and high > low
    unit = max(round_step(high - low, _PARTS), domain.step) if number else domain.step
    for one in (round(middle / unit) * unit, domain.at_least(middle), domain.at_most(middle)):
        if low < one < high and domain.on_grid(one):
            return one
    return None


def values_along(domain: Domain, scale: Scale, count: int) -> Iterator[GridPoint]:
    """Values to point at, about so many and each once: round ones, where they are numbers."""
    low, high = scale.window
    unit = domain.step
    if domain.marked == "numbers":
        unit = max(unit, round_step(high - low, _FINE))
    places = (scale.place(number / count) for number in range(count + 1))
    for place in dict.fromkeys(domain.at_least(round(one / unit) * unit) for one in places):
        if low <= place <= high and domain.on_grid(place):
            yield place


def round_step(span: GridPoint, most: int = MOST_TICKS) -> GridPoint:
    """The least of 1, 2 and 5, in tens, of which no more than `most` go into `span`."""
    step = GridPoint(10) ** _power_of_ten(span / most)
    for digit in (1, 2, 5):
        if span / (digit * step) <= most:
            return digit * step
    return 10 * step


def _power_of_ten(size: GridPoint) -> int:
    """The greatest power of ten that is not above a size."""
    power = len(str(int(size))) - 1 if size >= 1 else -len(str(int(1 / size))) if size else 0
    return power if GridPoint(10) ** power <= size or not size else power - 1


def number_words(at: GridPoint) -> str:
    """A number without its unit."""
    number = Decimal(at.numerator) / Decimal(at.denominator)
    return f"{number.normalize():,f}".replace("-", "−")


def _ticks_of_duration(
    domain: Domain, low: GridPoint, high: GridPoint
) -> Iterator[tuple[GridPoint, str]]:
    calendar = isinstance(domain.value(GridPoint(0)), Months)
    span, unit = high - low, GridPoint(_YEAR if calendar else MICROSECONDS_A_DAY)
    steps = _STEPS_OF_MONTHS if calendar else (*_STEPS_OF_SECONDS, *_STEPS_OF_TIME)
    fitting = [
        GridPoint(one) for one in steps if span / one <= MOST_TICKS and one % domain.step == 0
    ]
    step = fitting[0] if fitting else max(round_step(span / unit) * unit, domain.step)
    at = -floor(-low / step) * step
    while at <= high:
        yield at, show_length(domain.value(at))
        at += step


def _ticks_of_time(
    domain: Domain, low: GridPoint, high: GridPoint
) -> Iterator[tuple[GridPoint, str]]:
    span = high - low
    clock = domain.marked != "days"
    for step in _STEPS_OF_TIME:
        if step < (_MINUTE if clock else MICROSECONDS_A_DAY) or span / step > MOST_TICKS:
            continue
        ahead = GridPoint(_ahead(domain, low) // timedelta(microseconds=1))
        at = -floor(-(low + ahead) / step) * step - ahead
        while at <= high:
            yield at, _moment_words(domain, at, step)
            at += step
        return
    if domain.marked == "clock":
        return
    months = [
        one for one in _STEPS_OF_MONTHS if span / (one * 30 * MICROSECONDS_A_DAY) <= MOST_TICKS
    ]
    by = months[0] if months else _STEPS_OF_MONTHS[-1]
    begin = _day_at(low)
    month = -(-(begin.year * _YEAR + begin.month - 1) // by) * by
    while month // _YEAR <= date.max.year:
        if month >= _YEAR:
            day = date(month // _YEAR, month % _YEAR + 1, 1)
            at = place_of(day) or GridPoint(0)
            if at > high:
                return
            if at >= low:
                yield (
                    at,
                    tr("{month} {year}", month=MONTHS[day.month - 1], year=day.year)
                    if by < _YEAR
                    else str(day.year),
                )
        month += by


def _day_at(place: GridPoint) -> date:
    return date.fromordinal(max(int(place // MICROSECONDS_A_DAY) + 1, 1))


def _ahead(domain: Domain, at: GridPoint) -> timedelta:
    """By how much the clock of the field is ahead of UTC there."""
    if domain.marked != "instants":
        return timedelta()
    there = _BEGINNING + timedelta(microseconds=int(at))
    return there.astimezone(ZoneInfo(domain.zone)).utcoffset() or timedelta()


def _moment_words(domain: Domain, at: GridPoint, step: int) -> str:
    moment = _BEGINNING + timedelta(microseconds=int(at)) + _ahead(domain, at)
    if step >= MICROSECONDS_A_DAY:
        return tr("{day} {month}", day=moment.day, month=MONTHS[moment.month - 1])
    if domain.marked == "clock" or moment.hour or moment.minute:
        return f"{moment:%H:%M}"
    return tr("{day} {month}", day=moment.day, month=SHORT_MONTHS[moment.month - 1])
