"""Two fields against each other: regions to scale with exact borders and their results."""

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from itertools import pairwise
from typing import Final

from thistlequartz.core.types.domain import GridPoint, place_of
from thistlequartz.core.values import show_length

from .context import RecordContext, RecordOutcomes
from .line import Line
from .scale import number_words, round_between, scale_in, window_of
from .side import AxisSlot, Side
from .strips import Strip, StripDecomposition, StripPiece, row_of, single_value

SAMPLES: Final = 5
"""Values of the field across at which the field upward is cut to begin with."""
_CLOSE: Final = 1e-9
_MORE_THAN: Final = 2
"""Values across along which something else has to happen for it to be a bound all across."""

Point = tuple[float, float]
_Pair = tuple[tuple[object, str], tuple[object, str]]
"""An entry across and one upward, each in words."""


@dataclass(frozen=True, slots=True)
class Region:
    """Neighbouring pairs of values with one answer."""

    answer: RecordOutcomes
    shapes: tuple[tuple[Point, ...], ...]
    """It is made of these; one of a line has no area, as its values are a single one."""
    label: Point
    """Where something can be written in it."""
    sample: tuple[object, object]
    """A pair of entries in it: across, and upward."""
    words: tuple[str, str]
    """The same in words."""


@dataclass(frozen=True, slots=True)
class Border:
    """Where something else begins; with what is so along it, where that can be said."""

    points: tuple[Point, Point]
    words: str = ""


@dataclass(frozen=True, slots=True)
class SweepMap:
    """The domains of two fields against each other, drawn from 0 to 1, the second one upward."""

    across: Side
    up: Side
    regions: tuple[Region, ...]
    borders: tuple[Border, ...]
    exact: bool
    bent: bool = False
    """Whether a border is bent: it is drawn through exact points."""
    here: Point | None = None
    """Where the record stands."""


@dataclass(frozen=True, slots=True)
class _Cell:
    """A part of a region: its corners, and a pair of values in it."""

    answer: RecordOutcomes
    corners: tuple[Point, ...]
    inside: _Pair

    @property
    def area(self) -> float:
        """By the trapezoid formula."""
        turned = zip(self.corners, (*self.corners[1:], self.corners[0]), strict=True)
        return abs(sum(x * other_y - other_x * y for (x, y), (other_x, other_y) in turned)) / 2

    @property
    def middle(self) -> Point:
        count = len(self.corners)
        return sum(x for x, _ in self.corners) / count, sum(y for _, y in self.corners) / count


def sweep_map(around: RecordContext, across: str, up: str) -> SweepMap:
    """The map of two different fields. Raises KeyError where there is no such field."""
    return _Drawing(around, across, up).map()


class _Drawing:
    def __init__(self, around: RecordContext, across: str, up: str) -> None:
        self.around = around
        self.sides = Side.of(around, across), Side.of(around, up)
        self.lines = _line(around, across), _line(around, up)
        self.cutting: StripDecomposition | None = None
        self.level: tuple[list[GridPoint], list[GridPoint]] = [], []
        """Where something changes for several values of the other field, across and upward."""

    def map(self) -> SweepMap:
        """All of it."""
        strips = self._strips()
        self._scale(strips)
        cells = [*self._of_strips(strips), *self._of_slots()]
        regions = tuple(_joined(cells))
        sampled = any(line is not None and line.conditions.sampled for line in self.lines)
        short = any(line is not None and line.cut_short for line in self.lines)
        cutting = self.cutting
        return SweepMap(
            *self.sides,
            regions,
            (*self._between_neighbours(strips), *self._beside_blank(), *_horizontal(cells)),
            exact=not (sampled or short or (cutting is not None and cutting.cut_short)),
            bent=cutting is not None and cutting.bent,
            here=self._here(),
        )

    # Two ordered fields.

    def _strips(self) -> list[Strip]:
        across, up = self.lines
        if across is None or up is None:
            return []
        widths, heights = Counter[GridPoint](), Counter(up.cuts([{}], neighbours=False))
        for _ in range(2):
            widths = _counted(across, up, heights)
            heights = _counted(up, across, widths)
        self.level = _level(widths), _level(heights)
        standing = [self._standing(side) for side in self.sides]
        windows = [
            window_of(line.domain, level, [] if at is None else [at])
            for line, level, at in zip((across, up), self.level, standing, strict=True)
        ]
        if across.conditions.shared_with(up.conditions) and _alike(across, up):
            both = min(low for low, _ in windows), max(high for _, high in windows)
            windows = [both, both]
        self.cutting = StripDecomposition(across, up, windows[0], windows[1])
        low, high = windows[1]
        return list(self.cutting.strips(sorted(one for one in heights if low < one < high)))

    def _scale(self, strips: Sequence[Strip]) -> None:
        """Scales on which the borders that run straight across can be told apart."""
        if self.cutting is None:
            self.sides = tuple(  # type: ignore[assignment]
                side if line is None else self._scaled_alone(side, line)
                for side, line in zip(self.sides, self.lines, strict=True)
            )
            return
        across, up = self.cutting.across, self.cutting.up
        widths = sorted(
            {
                low
                for strip in strips
                for low, high in zip(strip.lower, strip.upper, strict=True)
                if low == high
                and self.cutting.window[0] < low < self.cutting.window[1]
                and _stands_at(self.level[0], low, across)
            }
        )
        step = across.domain.step
        heights = sorted(
            {
                below.high
                for below, above in pairwise(strips)
                if _stands_at(self.level[1], below.high, up) and _differ(below, above, step)
            }
        )
        self.sides = (
            self.sides[0].with_scale(scale_in(across.domain, widths, self.cutting.window), widths),
            self.sides[1].with_scale(scale_in(up.domain, heights, self.cutting.height), heights),
        )

    def _scaled_alone(self, side: Side, line: Line) -> Side:
        """A side on which what changes for any choice of the other can be told apart."""
        other = self.sides[1] if line is self.lines[0] else self.sides[0]
        choices = [{other.key: slot.entry} for slot in other.slots]
        at = self._standing(side)
        cuts = line.cuts(choices, neighbours=False)
        window = window_of(line.domain, cuts, [] if at is None else [at])
        borders = {
            one
            for chosen in choices
            for one in row_of(line, chosen, window).borders
            if window[0] < one < window[1]
        }
        return side.with_scale(scale_in(line.domain, sorted(borders), window), sorted(borders))

    def _of_strips(self, strips: Sequence[Strip]) -> Iterator[_Cell]:
        if self.cutting is None:
            return
        across, up = self.sides
        for strip in strips:
            low, high = up.at(strip.low), up.at(strip.high)
            for place, piece in enumerate(strip.pieces):
                left = strip.lower[2 * place], strip.upper[2 * place]
                right = strip.lower[2 * place + 1], strip.upper[2 * place + 1]
                corners = (
                    *_bends(across, left, (low, high)),
                    *reversed(list(_bends(across, right, (low, high)))),
                )
                yield _Cell(piece.answer, corners, self._sample(strip, place))

    def _sample(self, strip: Strip, place: int) -> _Pair:
        """A pair of round values in a piece of a strip, if there is one."""
        assert self.cutting is not None
        across, up = self.cutting.across, self.cutting.up
        piece = strip.pieces[place]
        pair = piece.inside, strip.inside
        height = round_between(up.domain, strip.low, strip.high)
        if height is not None and not single_value(piece):
            share = (height - strip.low) / (strip.high - strip.low)
            left, right = (
                strip.lower[at] + (strip.upper[at] - strip.lower[at]) * share
                for at in (2 * place, 2 * place + 1)
            )
            width = round_between(across.domain, left, right)
            if width is not None:
                entered = {across.key: across.entry(width), up.key: up.entry(height)}
                if self.around.answer(entered) == piece.answer:
                    pair = width, height
        return self._told(0, across, pair[0]), self._told(1, up, pair[1])

    def _told(self, number: int, line: Line, place: GridPoint) -> tuple[object, str]:
        return line.entry(place), self.sides[number].words(place, line)

    def _between_neighbours(self, strips: Sequence[Strip]) -> Iterator[Border]:
        """The borders between neighbours in a strip."""
        if self.cutting is None:
            return
        across, up = self.sides
        low, high = self.cutting.window
        said: set[str] = set()
        for strip in sorted(strips, key=lambda one: one.low - one.high):
            for place, piece in enumerate(strip.pieces):
                begin, end = strip.lower[2 * place], strip.upper[2 * place]
                if max(begin, end) <= low or min(begin, end) >= high or single_value(piece):
                    continue
                words = self._relation(strip, begin, end)
                points = list(_bends(across, (begin, end), (up.at(strip.low), up.at(strip.high))))
                for number, (one, other) in enumerate(pairwise(points)):
                    told = words if number == 0 and words not in said else ""
                    said.add(words)
                    yield Border((one, other), told)

    def _relation(self, strip: Strip, begin: GridPoint, end: GridPoint) -> str:
        """What is so along a slanted border, where it is simple: “Lent from = Lent to”."""
        assert self.cutting is not None
        rise, run = strip.high - strip.low, end - begin
        step = self.cutting.across.domain.step
        if rise <= _MORE_THAN * step:
            return ""
        first, second = (side.label for side in self.sides)
        if abs(run - rise) <= step:
            apart = begin - strip.low
            if abs(apart) <= step:
                return f"{first} = {second}"
            sign = "+" if apart > 0 else "−"
            return f"{first} = {second} {sign} {self._size(abs(apart))}"
        if abs(run + rise) <= step and self.sides[0].type.kind == "number":
            return f"{first} + {second} = {self._size(begin + strip.low)}"
        return ""

    def _size(self, size: GridPoint) -> str:
        assert self.cutting is not None
        domain = self.cutting.across.domain
        on_grid = domain.at_least(size - domain.step / 2)
        if domain.marked == "numbers":
            return number_words(on_grid)
        if domain.marked == "durations":
            return show_length(domain.value(on_grid))
        return show_length(timedelta(microseconds=int(on_grid)))

    # Choices and blank.

    def _of_slots(self) -> Iterator[_Cell]:
        across, up = self.sides
        for slot in across.slots:
            for other in up.slots:
                changes = {across.key: slot.entry, up.key: other.entry}
                corners = _box((slot.begins, slot.ends), (other.begins, other.ends))
                inside = (slot.entry, slot.words), (other.entry, other.words)
                yield _Cell(self.around.answer(changes), corners, inside)
        for slot, turned in (
            *((slot, False) for slot in across.slots),
            *((slot, True) for slot in up.slots),
        ):
            yield from self._beside(slot, turned=turned)

    def _beside(self, slot: AxisSlot, *, turned: bool) -> Iterator[_Cell]:
        """What happens along the ordered field while the other has a choice, or is blank."""
        line, side = (self.lines[0], self.sides[0]) if turned else (self.lines[1], self.sides[1])
        other = self.sides[1] if turned else self.sides[0]
        if line is None or side.scale is None:
            return
        for piece in row_of(line, {other.key: slot.entry}, side.scale.window).pieces:
            along, beside = (side.at(piece.begin), side.at(piece.end)), (slot.begins, slot.ends)
            middle = round_between(line.domain, piece.begin, piece.end)
            value = self._told(int(line is not self.lines[0]), line, middle or piece.inside)
            chosen = slot.entry, slot.words
            corners = _box(along, beside) if turned else _box(beside, along)
            yield _Cell(piece.answer, corners, (value, chosen) if turned else (chosen, value))

    def _beside_blank(self) -> Iterator[Border]:
        """The borders along the field across while the other has a choice, or is blank."""
        line, (side, other) = self.lines[0], self.sides
        if line is None or side.scale is None:
            return
        for slot in other.slots:
            for piece in row_of(line, {other.key: slot.entry}, side.scale.window).pieces[1:]:
                at = side.at(piece.begin)
                yield Border(((at, slot.begins), (at, slot.ends)))

    def _standing(self, side: Side) -> GridPoint | None:
        settled = self.around.form.settled(self.around.unchanged, self.around.circumstances)
        return place_of(settled.value_of(side.key))

    def _here(self) -> Point | None:
        settled = self.around.form.settled(self.around.unchanged, self.around.circumstances)
        at = [side.standing(settled.value_of(side.key)) for side in self.sides]
        return (at[0], at[1]) if at[0] is not None and at[1] is not None else None


def _line(around: RecordContext, key: str) -> Line | None:
    domain = around.form.fields[key].type.domain(around.circumstances.today)
    return Line(around, key, domain) if domain else None


def _counted(line: Line, other: Line, cuts: Iterable[GridPoint]) -> Counter[GridPoint]:
    """Where something may change along a line, with for how many values of the other it does."""
    some = _some([other.entry(inside) for _, _, inside in other.cells(sorted(cuts))])
    found = Counter(line.cuts([{}], neighbours=False))
    for entry in some:
        found.update(line.cuts([{other.key: entry}], neighbours=False))
    return found


def _level(cuts: Counter[GridPoint]) -> list[GridPoint]:
    """Those that stay where they are for several values of the other field."""
    return [place for place, count in cuts.items() if count > 1]


def _stands_at(level: Sequence[GridPoint], border: GridPoint, line: Line) -> bool:
    """Whether a border stands at one of the bounds that are the same all across."""
    return any(abs(border - one) < line.domain.step for one in level)


def _some(entries: Sequence[object]) -> Sequence[object]:
    """A few of them, spread over all."""
    if len(entries) <= SAMPLES:
        return entries
    last = len(entries) - 1
    return [entries[round(number * last / (SAMPLES - 1))] for number in range(SAMPLES)]


def _alike(across: Line, up: Line) -> bool:
    """Whether two fields can be drawn on one scale."""
    return across.domain.marked == up.domain.marked != "lengths"


def _differ(below: Strip, above: Strip, step: GridPoint) -> bool:
    """Whether something else happens on the other side of where two strips meet."""
    for one, (left, right) in _ends(below, below.upper):
        for other, (begin, end) in _ends(above, above.lower):
            apart = one.answer != other.answer
            if apart and min(right, end) - max(left, begin) > _MORE_THAN * step:
                return True
    return False


def _ends(
    strip: Strip, borders: tuple[GridPoint, ...]
) -> Iterator[tuple[StripPiece, tuple[GridPoint, GridPoint]]]:
    return zip(strip.pieces, zip(borders[::2], borders[1::2], strict=True), strict=True)


def _bends(
    side: Side, ends: tuple[GridPoint, GridPoint], heights: tuple[float, float]
) -> Iterator[Point]:
    """A straight border as it is drawn, from its low end to its high one: by rank it has a bend
    wherever the scale has one.
    """
    (begin, end), (low, high) = ends, heights
    yield side.at(begin), low
    if side.scale is not None and side.scale.by == "rank" and begin != end:
        inner = [one for one, _ in side.scale.knots if min(ends) < one < max(ends)]
        for one in sorted(set(inner), reverse=begin > end):
            share = float((one - begin) / (end - begin))
            yield side.at(one), low + (high - low) * share
    yield side.at(end), high


def _box(across: tuple[float, float], up: tuple[float, float]) -> tuple[Point, ...]:
    (left, right), (low, high) = across, up
    return (left, low), (left, high), (right, high), (right, low)


def _joined(cells: Sequence[_Cell]) -> Iterator[Region]:
    """Cells with one answer that touch along a level line, put together."""
    groups = list(range(len(cells)))

    def group(one: int) -> int:
        while groups[one] != one:
            one = groups[one]
        return one

    for one, other, _ in _touching(cells):
        if cells[one].answer == cells[other].answer:
            groups[group(other)] = group(one)
    members: dict[int, list[_Cell]] = {}
    for place, cell in enumerate(cells):
        members.setdefault(group(place), []).append(cell)
    for some in members.values():
        widest = max(some, key=lambda cell: cell.area)
        (x, x_words), (y, y_words) = widest.inside
        shapes = tuple(cell.corners for cell in some)
        yield Region(widest.answer, shapes, widest.middle, (x, y), (x_words, y_words))


def _touching(cells: Sequence[_Cell]) -> Iterator[tuple[int, int, tuple[float, float, float]]]:
    """Pairs of cells of which one ends where the other begins upward, with where they touch: from,
    to, and at what height.
    """
    tops: dict[float, list[tuple[int, float, float]]] = {}
    for place, cell in enumerate(cells):
        height = max(y for _, y in cell.corners)
        xs = [x for x, y in cell.corners if y == height]
        tops.setdefault(round(height, 9), []).append((place, min(xs), max(xs)))
    for place, cell in enumerate(cells):
        height = min(y for _, y in cell.corners)
        xs = [x for x, y in cell.corners if y == height]
        for other, low, high in tops.get(round(height, 9), ()):
            begin, end = max(low, min(xs)), min(high, max(xs))
            if other != place and end - begin > _CLOSE:
                yield other, place, (begin, end, height)


def _horizontal(cells: Sequence[_Cell]) -> Iterator[Border]:
    """Where something else begins upward."""
    for one, other, (begin, end, height) in _touching(cells):
        if cells[one].answer != cells[other].answer:
            yield Border(((begin, height), (end, height)))
