"""Sweeping one field: its whole domain as bands, with what happens in each.

The other entries of the record stay as they are. Between two places where an answer can change,
one value stands for all, so the bands are exact at their bounds. Where a rule could not be
followed, samples are taken as well, and the sweep says that it is not exact.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from itertools import pairwise
from typing import Any

from thistlequartz.core.judging import Circumstances, CompiledForm, Lookup, ReadRecord, Screener
from thistlequartz.core.ruleset import Outcome
from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    NumberType,
    Reading,
    ValueType,
    YesNoType,
    show_value,
    to_entry,
)

from .breakpoints import Conditions, GridPoints
from .domain import Domain, GridPoint, domain_of, place_of

MOST_PLACES = 2_000
"""GridPoints that are looked at; beyond that the sweep is not exact."""
SAMPLES = 64
"""Values taken where a rule could not be followed."""
MOST_SAMPLES = 800
"""Values that are all looked at there: two years of days, say."""
_ROUNDS = 6
"""How often places are looked for again, as each may bring fields in or out of play."""
_HALVINGS = 80


@dataclass(frozen=True, slots=True)
class Endpoint:
    """An end of a band."""

    value: Any
    included: bool


Ends = tuple[Endpoint | None, Endpoint | None]


@dataclass(frozen=True, slots=True)
class Answer:
    """What happens to a record."""

    save: Outcome
    submit: Outcome
    broken: tuple[str, ...]
    """The rules that are broken and speak on saving or submitting, in the order of the form."""
    offered: tuple[str, ...]
    """The rules whose proposals are offered."""


@dataclass(frozen=True, slots=True)
class Band:
    """Values of the field with one answer.

    `low` and `high` are None where the band has no such end. A band of a single value has it at
    both ends. Blank, choices and yes or no are bands of their own; then `low` and `high` are equal.
    """

    low: Endpoint | None
    high: Endpoint | None
    words: str
    sample: Any
    """One of its values."""
    answer: Answer


@dataclass(frozen=True, slots=True)
class Sweep:
    """The domain of one field, in order, blank first."""

    field: str
    of: str
    """`value`, or `length` where the field is a text, or `count` of several choices."""
    bands: tuple[Band, ...]
    exact: bool
    sampled: tuple[str, ...] = ()
    """The rules that were looked at by samples only."""


@dataclass(frozen=True)
class RecordContext:
    """The record that stays as it is while a field moves, and under what it is judged."""

    form: CompiledForm
    values: Mapping[str, object]
    circumstances: Circumstances
    stored: Mapping[str, object] | None = None
    lookup: Lookup | None = None

    @cached_property
    def screener(self) -> Screener:
        """What judges the record."""
        return Screener(self.form, self.circumstances)

    def record(self, changes: Mapping[str, object]) -> ReadRecord:
        """The record with some entries changed."""
        return self.form.changed(self.unchanged, changes) if changes else self.unchanged

    @cached_property
    def unchanged(self) -> ReadRecord:
        """The record as it stands."""
        return self.form.read(self.values, stored=self.stored, lookup=self.lookup)

    def answer(self, changes: Mapping[str, object]) -> Answer:
        """What happens to the record with some entries changed."""
        form, record = self.form, self.record(changes)
        settled = form.settled(record, self.circumstances)
        screened = self.screener.screen(record, settled)
        offered = tuple(one.rule for one in form.offered(settled, self.circumstances))
        broken = dict.fromkeys(one.rule for one in screened.violations)
        return Answer(screened.save, screened.submit, tuple(broken), offered)


def sweep(surroundings: RecordContext, key: str) -> Sweep:
    """The bands of the field `key`. Raises KeyError where there is no such field."""
    type_ = surroundings.form.fields[key].type
    domain = domain_of(type_, surroundings.circumstances.today)
    blank = _single(None, "blank", surroundings.answer({key: None}))
    if domain is None:
        return _enumerated(surroundings, key, type_, blank)
    line = Line(surroundings, key, domain)
    bands = (blank, *line.bands())
    sampled = tuple(sorted(line.conditions.sampled))
    of = "length" if line.is_length else "value"
    return Sweep(key, of, bands, exact=not sampled and not line.cut_short, sampled=sampled)


def entries_of(surroundings: RecordContext, key: str) -> Iterator[object]:
    """An entry for every place and every stretch of an ordered field that rules can tell apart:
    each bound, one step beside it, and something in between. Nothing for a field without order.
    """
    domain = domain_of(surroundings.form.fields[key].type, surroundings.circumstances.today)
    if domain is not None:
        line = Line(surroundings, key, domain)
        yield from (line.entry(inside) for _, _, inside in line.cells(line.cuts()))


def _single(value: Any, words: str, answer: Answer) -> Band:
    edge = Endpoint(value, included=True)
    return Band(edge, edge, words, value, answer)


def choices_of(type_: ValueType) -> list[object]:
    """The entries of a field that is chosen; of several choices each alone, then the first so many.

    Empty for a reference, as its records are not known here.
    """
    match type_:
        case YesNoType():
            return [True, False]
        case ChoiceType(choices):
            return [choice.code for choice in choices]
        case ChoicesType(choices):
            codes = [choice.code for choice in choices]
            return [*([code] for code in codes), *(codes[:n] for n in range(2, len(codes) + 1))]
        case _:
            return []


def _enumerated(surroundings: RecordContext, key: str, type_: ValueType, blank: Band) -> Sweep:
    bands = [
        _single(entry, shown_choice(entry, type_), surroundings.answer({key: entry}))
        for entry in choices_of(type_)
    ]
    several = isinstance(type_, ChoicesType)
    exact = bool(bands) and not several
    return Sweep(key, "count" if several else "value", (blank, *bands), exact=exact)


def shown_choice(entry: object, type_: ValueType) -> str:
    """A chosen entry in words."""
    return show_value(tuple(entry) if isinstance(entry, list) else entry, type_)  # type: ignore[arg-type]


class Line:
    """The domain of one ordered field, cut where answers can change."""

    def __init__(self, surroundings: RecordContext, key: str, domain: Domain) -> None:
        self.surroundings = surroundings
        self.key = key
        self.domain = domain
        fields = surroundings.form.fields
        self.is_length = isinstance(domain.value(domain.step), int)
        program = surroundings.form.program(surroundings.circumstances)
        self.conditions = Conditions(program, key, fields, length=self.is_length)
        self.cut_short = False
        self._answers: dict[GridPoint, Answer] = {}
        self._found: frozenset[GridPoint] = frozenset()
        """The places that the rules name, without their neighbours."""

    def entry(self, place: GridPoint) -> object:
        """What is entered to stand at `place`: a value, or a text of that length."""
        if not self.is_length:
            settings = self.surroundings.form.fields[self.key].settings
            return to_entry(self.domain.value(place), settings)
        given = self.surroundings.values.get(self.key)
        text = "".join(given.split()) if isinstance(given, str) else ""
        return ((text or "x") * (int(place) // len(text or "x") + 1))[: int(place)]

    def answer(self, place: GridPoint) -> Answer:
        """What happens where the field stands at `place`."""
        if place not in self._answers:
            self._answers[place] = self.surroundings.answer({self.key: self.entry(place)})
        return self._answers[place]

    def cuts(
        self, others: Iterable[Mapping[str, object]] = ({},), *, neighbours: bool = True
    ) -> list[GridPoint]:
        """The places where an answer can change, in order; for bands with their neighbours on the
        grid, as a computed value may be rounded over a bound one step beside it.

        `others` are entries of other fields, for each of which the places are looked for.
        """
        found: frozenset[GridPoint] = frozenset()
        for changes in others:
            found |= self._cuts_with(changes)
        if neighbours:
            found |= self._beside(found)
        if len(found) > MOST_PLACES:
            self.cut_short = True
            found = frozenset(sorted(found)[:MOST_PLACES])
        return sorted(found)

    def _beside(self, found: GridPoints) -> GridPoints:
        domain, step = self.domain, self.domain.step
        below = {domain.at_most(place) - step for place in found}
        above = {domain.at_least(place) + step for place in found}
        return frozenset(place for place in below | above if self._inside(place))

    def _cuts_with(self, changes: Mapping[str, object]) -> frozenset[GridPoint]:
        found: GridPoints = frozenset()
        looked: set[GridPoint] = set()
        for _ in range(_ROUNDS):
            cells = [place for place in self._representatives(sorted(found)) if place not in looked]
            for place in cells:
                looked.add(place)
                found |= self._places_at(place, changes)
            if not cells or len(found) > MOST_PLACES:
                break
        else:
            self.cut_short = True
        self._found |= found
        if self.conditions.sampled and not changes:
            found |= self._sampled(sorted(found))
        return frozenset(found)

    def _inside(self, place: GridPoint) -> bool:
        first, last = self.domain.first, self.domain.last
        return (first is None or place >= first) and (last is None or place <= last)

    def _places_at(self, place: GridPoint, changes: Mapping[str, object]) -> GridPoints:
        surroundings = self.surroundings
        record = surroundings.record({**changes, self.key: self.entry(place)})
        settled = surroundings.form.settled(record, surroundings.circumstances)
        return frozenset(
            one for one in self.conditions.places(settled.environment) if self._inside(one)
        )

    def _sampled(self, places: list[GridPoint]) -> GridPoints:
        """The grid places next to which the answer changes, among samples in sight of home and of
        the places found: every value where they are few enough, otherwise evenly spread.
        """
        domain = self.domain
        centre = [*places, domain.home]
        low = domain.at_least(min(centre) - domain.reach(min(centre)))
        high = domain.at_most(max(centre) + domain.reach(max(centre)))
        steps = (high - low) / domain.step
        count = int(steps) if steps <= MOST_SAMPLES else SAMPLES
        spread = (low + (high - low) * number / count for number in range(count + 1))
        samples = sorted({domain.at_least(one) for one in spread if self._inside(one)})
        found: set[GridPoint] = set()
        for left, right in pairwise(samples):
            found |= self._changes(left, right)
        return frozenset(found)

    def _changes(self, left: GridPoint, right: GridPoint) -> set[GridPoint]:
        """Both sides of a change between two samples, found by halving."""
        if self.answer(left) == self.answer(right):
            return set()
        for _ in range(_HALVINGS):
            middle = self.domain.between(left, right)
            if middle is None:
                break
            if self.answer(middle) == self.answer(left):
                left = middle
            else:
                right = middle
        return {left, right}

    def cells(
        self, cuts: list[GridPoint]
    ) -> Iterator[tuple[GridPoint | None, GridPoint | None, GridPoint]]:
        """Every cut on the grid, and what lies between two cuts; each with a place in it."""
        ends: list[GridPoint | None] = [None, *cuts, None]
        for low, high in pairwise(ends):
            if low is not None and self.domain.on_grid(low):
                yield low, low, low
            inside = self.domain.between(low, high)
            if inside is not None:
                yield low, high, inside

    def _representatives(self, cuts: list[GridPoint]) -> list[GridPoint]:
        return [inside for _, _, inside in self.cells(cuts)]

    def bands(self) -> list[Band]:
        """The domain in bands, neighbours with the same answer joined."""
        cells = [
            (*self.edges(low, high, inside), inside, self.answer(inside))
            for low, high, inside in self.cells(self.cuts())
        ]
        joined: list[tuple[Endpoint | None, Endpoint | None, GridPoint, Answer]] = []
        for low, high, inside, answer in cells:
            if joined and joined[-1][3] == answer:
                before = joined[-1]
                joined[-1] = (before[0], high, before[2], answer)
            else:
                joined.append((low, high, inside, answer))
        ends = [(low, high) for low, high, _, _ in joined]
        return [
            Band(low, high, self._words(low, high), self.domain.value(inside), answer)
            for (low, high), (_, _, inside, answer) in zip(self.told(ends), joined, strict=True)
        ]

    def told(self, ends: list[Ends]) -> list[Ends]:
        """Between two bands, the place that a rule names is told: “over 1,000”, not “1,000.01”."""
        told = list(ends)
        if self.domain.counted:
            return told
        for number, ((_, high), (low, _)) in enumerate(pairwise(ends)):
            if high is None or low is None or not (high.included and low.included):
                continue
            named = [place_of(edge.value) in self._found for edge in (high, low)]
            if named == [True, False]:
                told[number + 1] = (Endpoint(high.value, included=False), told[number + 1][1])
            elif named == [False, True]:
                told[number] = (told[number][0], Endpoint(low.value, included=False))
        return told

    def corners(self, low: GridPoint | None, high: GridPoint | None) -> list[GridPoint]:
        """The first and the last place on the grid between two cuts, where there are any."""
        if low is None or high is None or low == high:
            return []
        first, last = self._after(low), self._before(high)
        return sorted({first, last}) if first <= last else []

    def _after(self, place: GridPoint) -> GridPoint:
        on_grid = self.domain.at_least(place)
        return on_grid if on_grid > place else on_grid + self.domain.step

    def _before(self, place: GridPoint) -> GridPoint:
        on_grid = self.domain.at_most(place)
        return on_grid if on_grid < place else on_grid - self.domain.step

    def edges(self, low: GridPoint | None, high: GridPoint | None, inside: GridPoint) -> Ends:
        """Where the values of a cell begin and end."""
        if low == high == inside:
            edge = Endpoint(self.domain.value(inside), included=True)
            return edge, edge
        return self._edge(low, self.domain.at_least), self._edge(high, self.domain.at_most)

    def _edge(
        self, place: GridPoint | None, on_to_grid: Callable[[GridPoint], GridPoint]
    ) -> Endpoint | None:
        """A cut where no value stands is told by the first value inside."""
        if place is None:
            return None
        if self.domain.on_grid(place):
            return Endpoint(self.domain.value(place), included=False)
        return Endpoint(self.domain.value(on_to_grid(place)), included=True)

    def _words(self, low: Endpoint | None, high: Endpoint | None) -> str:
        return band_words(low, high, self.surroundings.form.fields[self.key].type, self.is_length)


def band_words(
    low: Endpoint | None, high: Endpoint | None, type_: ValueType, is_length: bool
) -> str:
    """“over 1,000 to 5,000”, “12 June 2026 and later”."""
    unit = " characters" if is_length else ""
    shown_by = NumberType(0) if is_length else type_
    ordinary = is_length or isinstance(type_, NumberType)

    def said(edge: Endpoint) -> str:
        return show_value(_shown(edge.value), shown_by)

    if low is None and high is None:
        return "any value" if not is_length else "any length"
    if low is not None and high is not None and low == high:
        return f"{said(low)}{unit}"
    if low is None:
        assert high is not None
        if high.included:
            return f"up to {said(high)}{unit}"
        return f"{'under' if ordinary else 'before'} {said(high)}{unit}"
    if high is None:
        if low.included:
            return f"{said(low)}{unit} {'and more' if ordinary else 'and later'}"
        return f"{'over' if ordinary else 'after'} {said(low)}{unit}"
    over, after = ("over ", "after ") if ordinary else ("after ", "after ")
    begin = "" if low.included else (over if ordinary else after)
    until = "to" if high.included else ("to under" if ordinary else "to before")
    return f"{begin}{said(low)} {until} {said(high)}{unit}"


def _shown(value: Reading | int) -> Any:
    return Decimal(value) if isinstance(value, int) and not isinstance(value, bool) else value
