"""An index of records by what they hold in one field."""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Generic, TypeVar

from thistlequartz.core.engines.rows import RowComparison, Where, parts_of
from thistlequartz.core.language import Declaration, Vocabulary
from thistlequartz.core.types import read_value
from thistlequartz.core.values import order_key

T = TypeVar("T")


class ValueIndex(Generic[T]):
    """Records by the value of one field, canonical; what stands for a record is the caller's."""

    def __init__(
        self,
        key: str,
        declared: Declaration,
        records: Iterable[tuple[T, Mapping[str, object]]] = (),
    ) -> None:
        self._key = key
        self._declared = declared
        self._settings = declared.settings.as_stored()
        self._found: defaultdict[str | None, list[T]] = defaultdict(list)
        for one, values in records:
            self.add(one, values)

    def add(self, one: T, values: Mapping[str, object]) -> None:
        """Add a record by its canonical values."""
        reading = read_value(values.get(self._key), self._declared.type, self._settings)
        self._found[order_key(reading)].append(one)

    def holding(self, value: object) -> Sequence[T]:
        """Return the records that hold this value."""
        return self._found.get(order_key(value), ())


def equality_in(where: Where, fields: Vocabulary) -> RowComparison | None:
    """Return the first part of `where` that asks one field to equal a value, if there is one."""
    for part in parts_of(where):
        if isinstance(part, RowComparison) and part.relation == "=" and part.key in fields:
            return part
    return None
