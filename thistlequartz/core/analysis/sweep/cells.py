"""Sweeping two fields at once: a map of cells, with what happens in each."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from thistlequartz.core.values import ValueType

from .bands import Answer, Ends, Line, RecordContext, band_words, choices_of, shown_choice
from .domain import domain_of

MOST_CELLS = 16
"""Cells along one field; beyond that the outermost are left out and the map is not exact."""
_MOST_OTHERS = 6
"""Values of one field for which the other is cut."""


@dataclass(frozen=True, slots=True)
class AxisCell:
    """Values of one field that stand together along a side of the map."""

    words: str
    sample: object
    """One of them, as it is entered."""
    ends: Ends | None = None
    """Where they begin and end; None for blank and for a choice."""
    corners: tuple[object, ...] = ()
    """The first and the last of them that are looked at, where there are several."""


@dataclass(frozen=True, slots=True)
class Cell:
    """What happens for the values of a row with those of a column."""

    answer: Answer
    uniform: bool
    """Whether the cell's corners say the same as its middle."""


@dataclass(frozen=True, slots=True)
class SweepMap:
    """The domains of two fields against each other."""

    across: str
    down: str
    columns: tuple[AxisCell, ...]
    rows: tuple[AxisCell, ...]
    cells: tuple[tuple[Cell, ...], ...]
    """By row, then by column."""
    exact: bool


def sweep_map(surroundings: RecordContext, across: str, down: str) -> SweepMap:
    """The map of two different fields. Raises KeyError where there is no such field."""
    first, second = _Axis(surroundings, across), _Axis(surroundings, down)
    first.cut({down: cell.sample} for cell in second.some)
    second.cut({across: cell.sample} for cell in first.some)
    first.cut({down: cell.sample} for cell in second.some)
    grid = [
        [_cell(surroundings, {across: column, down: row}) for column in first.cells]
        for row in second.cells
    ]
    rows, grid = _joined(second, grid)
    turned = [list(column) for column in zip(*grid, strict=True)]
    columns, turned = _joined(first, turned)
    cells = tuple(zip(*turned, strict=True))
    exact = first.exact and second.exact and not first.shares_a_rule_with(second)
    return SweepMap(across, down, tuple(columns), tuple(rows), cells, exact)


class _Axis:
    """One side of the map."""

    def __init__(self, surroundings: RecordContext, key: str) -> None:
        self.type: ValueType = surroundings.form.fields[key].type
        domain = domain_of(self.type, surroundings.circumstances.today)
        self.line = Line(surroundings, key, domain) if domain else None
        self.exact = True
        self.cells: list[AxisCell] = []
        self.cut([{}])

    @property
    def some(self) -> list[AxisCell]:
        """Enough of the cells to cut the other field by, spread over all of them."""
        if len(self.cells) <= _MOST_OTHERS:
            return self.cells
        self.exact = False
        last = len(self.cells) - 1
        places = {round(number * last / (_MOST_OTHERS - 1)) for number in range(_MOST_OTHERS)}
        return [self.cells[place] for place in sorted(places)]

    def cut(self, others: Iterable[Mapping[str, object]]) -> None:
        """Cut the axis wherever an answer can change for one of these entries of the other."""
        blank = AxisCell("blank", None)
        if self.line is None:
            entries = choices_of(self.type)
            self.cells = [blank, *(AxisCell(shown_choice(e, self.type), e) for e in entries)]
            return
        line = self.line
        spans = list(line.cells(line.cuts(others, neighbours=False)))
        outermost = max(0, (len(spans) - MOST_CELLS) // 2)
        kept = spans[outermost : outermost + MOST_CELLS]
        if len(kept) < len(spans) or line.cut_short or line.conditions.sampled:
            self.exact = False
        shown = []
        for low, high, inside in kept:
            ends = line.edges(low, high, inside)
            corners = [line.entry(place) for place in line.corners(low, high)]
            shown.append(AxisCell(self.words(ends), line.entry(inside), ends, tuple(corners)))
        self.cells = [blank, *shown]

    def words(self, ends: Ends) -> str:
        """Where a cell begins and ends, in words."""
        return band_words(*ends, self.type, self.line is not None and self.line.is_length)

    def told(self, cells: list[AxisCell]) -> list[AxisCell]:
        """The cells with the places that a rule names at their ends."""
        spans = [cell.ends for cell in cells if cell.ends is not None]
        if self.line is None:
            return cells
        told = iter(self.line.told(spans))
        return [
            replace(cell, ends=(ends := next(told)), words=self.words(ends)) if cell.ends else cell
            for cell in cells
        ]

    def shares_a_rule_with(self, other: "_Axis") -> bool:
        """Whether a rule reads both fields, so that answers may change along a slant."""
        if self.line is None or other.line is None:
            return False
        return self.line.conditions.shared_with(other.line.conditions)


def _cell(surroundings: RecordContext, at: Mapping[str, AxisCell]) -> Cell:
    (across, column), (down, row) = at.items()
    answer = surroundings.answer({across: column.sample, down: row.sample})
    corners = [
        (x, y)
        for x in (column.corners or (column.sample,))
        for y in (row.corners or (row.sample,))
        if (x, y) != (column.sample, row.sample)
    ]
    uniform = all(surroundings.answer({across: x, down: y}) == answer for x, y in corners)
    return Cell(answer, uniform)


def _joined(axis: _Axis, lines: list[list[Cell]]) -> tuple[list[AxisCell], list[list[Cell]]]:
    """Neighbours along an axis whose cells all say the same, put together."""
    cells: list[AxisCell] = []
    kept: list[list[Cell]] = []
    for cell, line in zip(axis.cells, lines, strict=True):
        before = cells[-1] if cells else None
        alike = bool(kept) and kept[-1] == line and all(one.uniform for one in line)
        if alike and before and before.ends and cell.ends:
            ends: Ends = (before.ends[0], cell.ends[1])
            cells[-1] = replace(before, ends=ends, words=axis.words(ends))
        else:
            cells.append(cell)
            kept.append(line)
    return axis.told(cells), kept
