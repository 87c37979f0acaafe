"""Sweeping one field: its whole domain as bands, with what happens in each.

The other entries of the record stay as they are. Between two places where an answer can change,
one value stands for all, so the bands are exact at their bounds. Where a rule could not be
followed, samples are taken as well, and the sweep says that it is not exact.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from thistlequartz.core.types import ValueType
from thistlequartz.core.types.domain import GridPoint

from .consequences import NOTHING, Consequences, ConsequenceSearch
from .context import RecordContext, RecordOutcomes
from .edges import Endpoint, Ends, band_words, shown
from .line import Line


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
    answer: RecordOutcomes
    consequences: Consequences = NOTHING
    """Where it was looked for: what becomes of other fields."""


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


def sweep_field(surroundings: RecordContext, key: str, *, closely: bool = False) -> Sweep:
    """Return the bands of the field `key`; `closely`, also by effects on other fields.

    Raises KeyError for an unknown field.
    """
    type_ = surroundings.form.fields[key].type
    domain = type_.domain(surroundings.circumstances.today)
    looking = ConsequenceSearch(surroundings, key) if closely else None
    blank = _single(surroundings, key, None, "blank", looking)
    if domain is None:
        return _enumerated(surroundings, key, type_, blank, looking)
    line = Line(surroundings, key, domain)
    bands = (blank, *_joined(line, looking))
    sampled = tuple(sorted(line.conditions.sampled))
    of = "length" if line.is_length else "value"
    return Sweep(key, of, bands, exact=not sampled and not line.cut_short, sampled=sampled)


def _joined(line: Line, looking: ConsequenceSearch | None) -> Iterator[Band]:
    """The domain in bands, neighbours of which the same is to be said joined."""
    joined: list[tuple[Ends, GridPoint, RecordOutcomes, Consequences]] = []
    for low, high, inside in line.cells(line.cuts()):
        ends, answer = line.edges(low, high, inside), line.answer(inside)
        comes = looking.at(line.entry(inside)) if looking else NOTHING
        if joined and joined[-1][2:] == (answer, comes):
            before = joined[-1]
            joined[-1] = ((before[0][0], ends[1]), before[1], answer, comes)
        else:
            joined.append((ends, inside, answer, comes))
    for ends, (_, inside, answer, comes) in zip(
        line.told([one[0] for one in joined]), joined, strict=True
    ):
        words = band_words(*ends, line.type, line.is_length)
        yield Band(*ends, words, line.domain.value(inside), answer, comes)


def entries_of(surroundings: RecordContext, key: str) -> Iterator[object]:
    """Return an entry for every place and stretch of an ordered field that rules tell apart.

    Each bound, one step beside it, and one in between. Nothing for a field without order.
    """
    domain = surroundings.form.fields[key].type.domain(surroundings.circumstances.today)
    if domain is not None:
        line = Line(surroundings, key, domain)
        yield from (line.entry(inside) for _, _, inside in line.cells(line.cuts()))


def _single(
    surroundings: RecordContext, key: str, entry: Any, words: str, looking: ConsequenceSearch | None
) -> Band:
    edge = Endpoint(entry, included=True)
    comes = looking.at(entry) if looking else NOTHING
    return Band(edge, edge, words, entry, surroundings.answer({key: entry}), comes)


def choices_of(type_: ValueType) -> list[object]:
    """Return the entries of a choice field; of several choices each alone, then a few together.

    Empty for a reference, as its records are not known here.
    """
    return list(type_.entries())


def _enumerated(
    surroundings: RecordContext,
    key: str,
    type_: ValueType,
    blank: Band,
    looking: ConsequenceSearch | None,
) -> Sweep:
    bands = [
        _single(surroundings, key, entry, shown(entry, type_), looking)
        for entry in choices_of(type_)
    ]
    several = type_.holds_several
    exact = bool(bands) and not several
    return Sweep(key, "count" if several else "value", (blank, *bands), exact=exact)
