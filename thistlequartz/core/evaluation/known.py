"""Records that are known all at once, such as a file of them, as each sees the others."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING

from thistlequartz.core.values import Fault, Value

from .lookup import Found, Lookup, folded_key

if TYPE_CHECKING:
    from .compilation import CompiledForm

_Key = tuple[str, ...]


class KnownRecords:
    """Records of one form. References to other forms are taken on trust: their fields are blank."""

    def __init__(self, form: "CompiledForm", records: Sequence[Mapping[str, object]]) -> None:
        self._form = form
        self._records = records
        self._keys: dict[_Key, list[_Key | None]] = {}
        self._counts: dict[_Key, Counter[_Key]] = {}

    def seen_by(self, position: int) -> Lookup:
        """What the record at `position` (from 0) sees of the others."""
        return _Others(self, position)

    def others(self, position: int) -> Iterator[Mapping[str, object]]:
        """All records but the one at `position`."""
        return (values for place, values in enumerate(self._records) if place != position)

    def count(self, keys: _Key, folded: _Key) -> int:
        """How many records hold the same values in these fields."""
        if keys not in self._counts:
            self._keys[keys] = [key_held(self._form, values, keys) for values in self._records]
            self._counts[keys] = Counter(key for key in self._keys[keys] if key is not None)
        return self._counts[keys][folded]

    def holds(self, position: int, keys: _Key, folded: _Key) -> bool:
        """Whether the record at `position` holds these values itself."""
        return self._keys[keys][position] == folded


def key_held(
    form: "CompiledForm", values: Mapping[str, object], keys: tuple[str, ...]
) -> _Key | None:
    """What a record holds in some fields, as uniqueness compares it; None where one of them is
    blank or cannot be read, as such a record never collides.
    """
    readings = form.read({key: values.get(key) for key in keys}).readings
    held: list[Value] = []
    for key in keys:
        reading = readings[key]
        if reading is None or isinstance(reading, Fault):
            return None
        held.append(reading)
    return folded_key(held)


class _Others:
    def __init__(self, known: KnownRecords, position: int) -> None:
        self._known = known
        self._position = position

    def record(self, form: str, number: str) -> Found | None:
        return Found({})

    def taken(self, keys: _Key, folded: _Key) -> bool:
        alike = self._known.count(keys, folded)
        return alike > self._known.holds(self._position, keys, folded)

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        return None  # the records of a file have no numbers

    def others(self) -> Iterator[Mapping[str, object]]:
        return self._known.others(self._position)
