"""Records that are known all at once, such as a file of them, as each sees the others."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging.circumstances import Circumstances
from thistlequartz.core.language import Vocabulary

from .port import Lookup, ReferredRecord
from .settled_records import RecordSettling, SettlingForm
from .unique_key import stored_key
from .value_index import ValueIndex, equality_in

_Key = tuple[str, ...]


class KnownRecords:
    """Records of one form, known all at once, as that form settles them.

    References to other forms are taken on trust: their fields are blank.
    """

    def __init__(
        self,
        form: SettlingForm,
        records: Sequence[Mapping[str, object]],
        circumstances: Circumstances,
        stored: Sequence[Mapping[str, object]] | None = None,
    ) -> None:
        """Take the records as they come in under `circumstances`.

        `stored` is what each held before, where they are changed.
        """
        self._form = form
        self._stored = stored
        self._settling = RecordSettling(form, circumstances)
        self._records = records
        self._keys: dict[_Key, list[_Key | None]] = {}
        self._counts: dict[_Key, Counter[_Key]] = {}
        self._read: dict[int, Mapping[str, object]] = {}
        self._indexes: dict[str, ValueIndex[int]] = {}

    def seen_by(self, position: int) -> Lookup:
        """What the record at `position` (from 0) sees of the others."""
        return _Others(self, position)

    def others(
        self, position: int, where: Where, fields: Vocabulary
    ) -> Iterator[Mapping[str, object]]:
        """All records but the one at `position`, or those that hold what `where` asks for alike."""
        equality = equality_in(where, fields)
        places: Sequence[int] = range(len(self._records))
        if equality is not None:
            places = self._index(equality.key).holding(equality.value)
        return (self._canonical(place) for place in places if place != position)

    def _canonical(self, place: int) -> Mapping[str, object]:
        """A record in canonical form; what cannot be read stands as it was given."""
        if place not in self._read:
            before = self._stored[place] if self._stored else None
            self._read[place] = self._settling.values(self._records[place], before)
        return self._read[place]

    def _index(self, key: str) -> ValueIndex[int]:
        """The places of the records, by what they hold in a field."""
        if key not in self._indexes:
            records = ((place, self._canonical(place)) for place in range(len(self._records)))
            self._indexes[key] = ValueIndex(key, self._form.fields[key], records)
        return self._indexes[key]

    def count(self, keys: _Key, folded: _Key) -> int:
        """How many records hold the same values in these fields."""
        if keys not in self._counts:
            self._keys[keys] = [
                stored_key(self._form.fields, keys, self._canonical(place))
                for place in range(len(self._records))
            ]
            self._counts[keys] = Counter(key for key in self._keys[keys] if key is not None)
        return self._counts[keys][folded]

    def has_values(self, position: int, keys: _Key, folded: _Key) -> bool:
        """Whether the record at `position` holds these values itself."""
        return self._keys[keys][position] == folded


class _Others:
    def __init__(self, known: KnownRecords, position: int) -> None:
        self._known = known
        self._position = position

    def record(self, form: str, number: str) -> ReferredRecord | None:
        return ReferredRecord({})

    def taken(self, keys: _Key, folded: _Key) -> bool:
        alike = self._known.count(keys, folded)
        return alike > self._known.has_values(self._position, keys, folded)

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        return None  # the records of a file have no numbers

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        return self._known.others(self._position, where, fields)
