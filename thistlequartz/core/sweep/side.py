"""One side of a map: blank and choices as slots, then ordered values to scale."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Final, Self

from thistlequartz.core.types import ValueType
from thistlequartz.core.types.domain import GridPoint, place_of
from thistlequartz.core.values import Stored, to_entry

from .bands import choices_of
from .context import RecordContext
from .edges import shown
from .line import Line
from .scale import BLANK_ENDS, Scale, Tick, after_blank, values_along

POINTED_AT: Final = 100
"""Values along a side that can be pointed at."""


_ANY_DAY: Final = date(2000, 1, 1)


@dataclass(frozen=True, slots=True)
class AxisSlot:
    """Blank, or a choice, which has no place on a scale."""

    words: str
    entry: object
    begins: float
    ends: float


@dataclass(frozen=True, slots=True)
class Side:
    """What one field can hold, and where it is drawn, from 0 to 1."""

    key: str
    label: str
    type: ValueType
    slots: tuple[AxisSlot, ...]
    scale: Scale | None = None
    """Of the values of an ordered field."""
    marks: tuple[Tick, ...] = ()
    """The exact bounds at which something changes all across."""

    @classmethod
    def of(cls, around: RecordContext, key: str) -> Self:
        """The side of a field, without a scale as yet."""
        declared = around.form.fields[key]
        ordered = declared.type.domain(around.circumstances.today) is not None
        if ordered:
            return cls(
                key, declared.label, declared.type, (AxisSlot("blank", None, 0.0, BLANK_ENDS),)
            )
        entries = [None, *choices_of(declared.type)]
        share = 1 / len(entries)
        slots = (
            AxisSlot(
                "blank" if entry is None else shown(entry, declared.type),
                entry,
                number * share,
                (number + 1) * share,
            )
            for number, entry in enumerate(entries)
        )
        return cls(key, declared.label, declared.type, tuple(slots))

    def with_scale(self, scale: Scale, borders: Sequence[GridPoint]) -> Self:
        """The side with this scale, and the bounds that stand at some borders."""
        marks = tuple(
            Tick(after_blank(scale.at(one)), words)
            for one in borders
            if (words := _bound_words(one, self.type))
        )
        return replace(self, scale=scale, marks=marks)

    def at(self, place: GridPoint) -> float:
        """Where a place is drawn."""
        return 0.0 if self.scale is None else after_blank(self.scale.at(place))

    def standing(self, value: Any) -> float | None:
        """Where a value of a record is drawn."""
        place = place_of(value)
        if self.scale is not None and place is not None:
            return self.at(place)
        held = list(value) if isinstance(value, tuple) else value
        for slot in self.slots:
            if slot.entry == held:
                return (slot.begins + slot.ends) / 2
        return None

    def words(self, place: GridPoint, line: Line) -> str:
        """A value in words."""
        return shown(line.domain.value(place), self.type)

    @property
    def ticks(self) -> tuple[Tick, ...]:
        """Round values."""
        ticks = self.scale.ticks if self.scale else ()
        return tuple(Tick(after_blank(one.at), one.words) for one in ticks)

    def pointed_at(self, around: RecordContext) -> Iterator[tuple[float, Stored, str]]:
        """Values that can be pointed at: where each is drawn, as it is entered, and in words."""
        for slot in self.slots:
            yield (slot.begins + slot.ends) / 2, slot.entry, slot.words  # type: ignore[misc]
        domain = self.type.domain(around.circumstances.today)
        if self.scale is None or domain is None:
            return
        settings = around.form.fields[self.key].settings
        for place in values_along(domain, self.scale, POINTED_AT):
            value = domain.value(place)
            yield self.at(place), to_entry(value, settings), shown(value, self.type)


def _bound_words(border: GridPoint, type_: ValueType) -> str:
    """The bound at a border; of values that are told one by one, the first one beyond it."""
    domain = type_.domain(_ANY_DAY)
    assert domain is not None
    place = border + domain.step / 2 if domain.counted else border
    if not domain.on_grid(place):
        return ""
    return shown(domain.value(place), type_)
