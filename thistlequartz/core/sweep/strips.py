"""Two ordered fields cut into strips in which every border is a straight line.

A row is what happens along the field across while the field upward stands still; its borders are
exact. Rows are looked at wherever something may change upward, and between. Where neighbouring rows
come to the same, and their borders lie on straight lines, they do so all over the strip. Where they
do not, the place is found by halving, down to two neighbouring values; a border that is bent is
drawn through as many exact points as it takes.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import pairwise, takewhile
from typing import Final

from thistlequartz.core.types.domain import GridPoint

from .context import RecordContext, RecordOutcomes
from .line import Line

MOST_ROWS: Final = 400
"""Beyond so many the rest is drawn as if nothing changed, and the map is not exact."""
MOST_BENDS: Final = 6
"""How often what lies between two rows is halved where a border is bent."""

_LOOKED_ON: Final = 3
"""Rows that are looked at to see which way a border runs on."""

Window = tuple[GridPoint, GridPoint]


@dataclass(frozen=True, slots=True)
class StripPiece:
    """Neighbouring values with one result, and where they begin and end on the line.

    Both places are the same for a single value without a width of its own.
    """

    begin: GridPoint
    end: GridPoint
    inside: GridPoint
    """A place on the grid that stands for all."""
    answer: RecordOutcomes


@dataclass(frozen=True, slots=True)
class StripRow:
    """What happens along a line, as far as it is drawn."""

    pieces: tuple[StripPiece, ...]

    @property
    def answers(self) -> tuple[RecordOutcomes, ...]:
        """What happens, one after the other."""
        return tuple(one.answer for one in self.pieces)

    @property
    def borders(self) -> tuple[GridPoint, ...]:
        """Where it begins and ends to happen."""
        return tuple(place for one in self.pieces for place in (one.begin, one.end))


@dataclass(frozen=True, slots=True)
class Strip:
    """From one place upward to another: rows between which every border runs straight."""

    low: GridPoint
    """Where it is drawn to begin and to end."""
    high: GridPoint
    inside: GridPoint
    """The place of its row in the middle."""
    pieces: tuple[StripPiece, ...]
    """Those of that row."""
    lower: tuple[GridPoint, ...]
    """Where its borders stand at its low and at its high end, a beginning and an end for each piece
    in turn.
    """
    upper: tuple[GridPoint, ...]


def row_of(line: Line, others: dict[str, object], window: Window) -> StripRow:
    """What happens along `line` while `others` are entered."""
    around: RecordContext = line.surroundings
    low, high = window
    pieces: list[StripPiece] = []
    for first, last, inside in line.cells(line.cuts([others], neighbours=False)):
        answer = around.answer({**others, line.key: line.entry(inside)})
        begin, end = (max(low, min(high, one)) for one in _drawn(line, first, last, window))
        single = first is not None and first == last
        if begin == end and not (single and low < begin < high):
            continue
        if pieces and pieces[-1].answer == answer:
            pieces[-1] = StripPiece(pieces[-1].begin, end, pieces[-1].inside, answer)
        else:
            pieces.append(StripPiece(begin, end, inside, answer))
    return StripRow(tuple(pieces))


def single_value(piece: StripPiece) -> bool:
    """Whether it is a single value without a width of its own."""
    return piece.begin == piece.end


def _drawn(
    line: Line, first: GridPoint | None, last: GridPoint | None, window: Window
) -> tuple[GridPoint, GridPoint]:
    """Where a cell between two cuts is drawn; values told one by one take up their own step."""
    domain = line.domain
    half = domain.step / 2 if domain.counted else GridPoint(0)
    if first is not None and first == last:
        return first - half, last + half
    begin, end = window
    if first is not None:
        begin = first + half if domain.on_grid(first) else first
        if domain.counted and not domain.on_grid(first):
            begin = domain.at_least(first) - half
    if last is not None:
        end = last - half if domain.on_grid(last) else last
        if domain.counted and not domain.on_grid(last):
            end = domain.at_most(last) + half
    return begin, end


@dataclass
class StripDecomposition:
    """Cuts the space of two ordered fields into strips, from the lowest to the highest."""

    across: Line
    up: Line
    window: Window
    """What is drawn of the field across."""
    height: Window
    """What is drawn of the field upward."""
    cut_short: bool = False
    """Whether it was given up before all was looked at."""
    bent: bool = False
    """Whether a border is bent, and drawn through exact points."""
    _rows: dict[GridPoint, StripRow] = field(default_factory=dict)

    def strips(self, cuts: Sequence[GridPoint]) -> Iterator[Strip]:
        """Return the strips, in which no border bends; `cuts` are where something may change."""
        low, high = self.height
        run: list[GridPoint] = []
        begin = low
        points = self._points(cuts)
        for place, one in enumerate(points):
            if not run:
                run.append(one)
            elif self.row(run[0]).answers != self.row(one).answers or self._jumps(
                run, points[place:]
            ):
                end = self._cut(run[-1], one, cuts)
                yield self._straight(begin, end, run)
                begin, run = end, [one]
            elif len(run) > 1 and not self._straight_through([*run, one]):
                # A border bends there: both strips share the row.
                yield self._straight(begin, run[-1], run)
                begin, run = run[-1], [run[-1], one]
            else:
                run.append(one)
        if run:
            yield self._straight(begin, high, run)

    def _points(self, cuts: Sequence[GridPoint]) -> list[GridPoint]:
        """Where rows are looked at: between two of them nothing changes but at a neighbour, and no
        border bends by more than can be helped.
        """
        low, high = self.height
        domain = self.up.domain
        cells = [inside for _, _, inside in self.up.cells(list(cuts)) if low <= inside <= high]
        beside = [
            place
            for cut in cuts
            for place in (
                domain.at_most(cut),
                domain.at_least(cut),
                domain.at_most(cut - domain.step),
                domain.at_least(cut + domain.step),
            )
            if low <= place <= high
        ]
        ends = [domain.at_least(low), domain.at_most(high)]
        known = sorted({*cells, *beside, *ends})
        points = known[:1]
        for first, last in pairwise(known):
            points += self._refined(first, last, MOST_BENDS)
        return sorted(set(points))

    def _refined(self, first: GridPoint, last: GridPoint, bends: int) -> list[GridPoint]:
        """The places between two, and the last of them, that are to be looked at."""
        if self.cut_short:
            return [last]
        if self.row(first).answers != self.row(last).answers:
            before, after = self._where_it_changes(first, last)
            rest = [] if after == last else self._refined(after, last, bends)
            return [*([] if before == first else self._refined(first, before, bends)), after, *rest]
        middle = self.up.domain.at_most((first + last) / 2)
        if middle in (first, last):
            return [last]
        if self.row(middle).answers != self.row(first).answers:
            return [
                *self._refined(first, middle, bends),
                *self._refined(middle, last, bends),
            ]
        if bends and not self._straight_through([first, middle, last]):
            self.bent = True
            return [
                *self._refined(first, middle, bends - 1),
                *self._refined(middle, last, bends - 1),
            ]
        return [last]

    def row(self, place: GridPoint) -> StripRow:
        """What happens along the field across at a place upward."""
        if place not in self._rows:
            if len(self._rows) >= MOST_ROWS:
                self.cut_short = True
                return self._rows[min(self._rows, key=lambda one: abs(one - place))]
            others = {self.up.key: self.up.entry(place)}
            self._rows[place] = row_of(self.across, others, self.window)
        return self._rows[place]

    def _where_it_changes(self, first: GridPoint, last: GridPoint) -> tuple[GridPoint, GridPoint]:
        """The last value that says what the first says, and the next one, which does not."""
        said = self.row(first).answers
        while last - first > self.up.domain.step and not self.cut_short:
            between = self.up.domain.at_most((first + last) / 2)
            if between in (first, last):
                break
            if self.row(between).answers == said:
                first = between
            else:
                last = between
        return first, last

    def _cut(self, below: GridPoint, above: GridPoint, cuts: Sequence[GridPoint]) -> GridPoint:
        """Where one strip ends and the next begins: at the bound that a rule names, if there."""
        if not self.up.domain.counted:
            for one in (below, above):
                if one in cuts:
                    return one
        return (below + above) / 2

    def _jumps(self, below: Sequence[GridPoint], above: Sequence[GridPoint]) -> bool:
        """Whether a border stands elsewhere from one value upward to the next, so that it is no
        bend: neither the rows `below` nor those `above` lead from one to the other.
        """
        first, last = below[-1], above[0]
        if last - first > self.up.domain.step or self.row(first).borders == self.row(last).borders:
            return False
        return not self._leads(below[::-1], last) and not self._leads(self._alike(above), first)

    def _alike(self, places: Sequence[GridPoint]) -> list[GridPoint]:
        """Those from the first on in which the same happens, as far as borders do not jump."""
        answers = self.row(places[0]).answers
        return list(takewhile(lambda one: self.row(one).answers == answers, places[:_LOOKED_ON]))

    def _leads(self, places: Sequence[GridPoint], to: GridPoint) -> bool:
        """Whether the borders of some rows, the nearest first, run on as they stand in a next row;
        those that slant but for a step, by which they may be rounded.
        """
        nearest, (low, high) = places[0], self.window
        here, there = self.row(nearest).borders, self.row(to).borders
        for further in {*places[1:2], *places[-1:]} - {nearest}:
            share = (to - nearest) / (nearest - further)
            before = self.row(further).borders
            if all(
                abs(max(low, min(high, one + (one - begin) * share)) - end)
                <= (0 if one == begin else self.across.domain.step)
                for begin, one, end in zip(before, here, there, strict=True)
            ):
                return True
        return False

    def _straight_through(self, places: Sequence[GridPoint]) -> bool:
        """Whether the borders of some rows lie on straight lines, but for a step by which a
        computed value may be rounded.
        """
        first, last = places[0], places[-1]
        lowest, highest = self.row(first).borders, self.row(last).borders
        step = self.across.domain.step
        for place in places[1:-1]:
            share = (place - first) / (last - first)
            for low, between, high in zip(lowest, self.row(place).borders, highest, strict=True):
                outside = {low, high} & set(self.window)
                if not outside and abs(low + (high - low) * share - between) > step:
                    return False
                if outside and between not in (low, high) and low == high:
                    return False
                if outside and low != high and between != low + (high - low) * share:
                    return False
        return True

    def _straight(self, begin: GridPoint, end: GridPoint, run: Sequence[GridPoint]) -> Strip:
        bottom, top = run[0], run[-1]
        middle = run[len(run) // 2]
        row = self.row(middle)
        lowest, highest = self.row(bottom).borders, self.row(top).borders
        if not len(lowest) == len(highest) == len(row.borders):  # given up before
            lowest = highest = row.borders
        rise = top - bottom
        at = [
            [
                low + ((high - low) / rise if rise else 0) * (place - bottom)
                for low, high in zip(lowest, highest, strict=True)
            ]
            for place in (begin, end)
        ]
        return Strip(begin, end, middle, row.pieces, *(self._in_order(one) for one in at))

    def _in_order(self, borders: Sequence[GridPoint]) -> tuple[GridPoint, ...]:
        """None before the one before it, none outside what is drawn."""
        low, high = self.window
        kept: list[GridPoint] = []
        for one in borders:
            kept.append(max(min(max(one, low), high), kept[-1] if kept else low))
        return tuple(kept)
