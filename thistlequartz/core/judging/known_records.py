"""Records that are known all at once, such as a file of them, as each sees the others."""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence

from thistlequartz.core.engines.rows import RowComparison, Where, parts_of
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.values import order_key, read_value

from .circumstances import Circumstances
from .compiled_form import CompiledForm
from .lookup import Lookup, ReferredRecord
from .settled_others import RecordSettling, key_held

_Key = tuple[str, ...]


class KnownRecords:
    """Records of one form, as it settles them. References to other forms are taken on trust: their
    fields are blank.
    """

    def __init__(
        self,
        form: CompiledForm,
        records: Sequence[Mapping[str, object]],
        circumstances: Circumstances,
        stored: Sequence[Mapping[str, object]] | None = None,
    ) -> None:
        """Under `circumstances` they come in; of those that are changed, `stored` is what each held
        before.
        """
        self._form = form
        self._stored = stored
        self._settling = RecordSettling(form, circumstances)
        self._records = records
        self._keys: dict[_Key, list[_Key | None]] = {}
        self._counts: dict[_Key, Counter[_Key]] = {}
        self._read: dict[int, Mapping[str, object]] = {}
        self._places: dict[str, defaultdict[str | None, list[int]]] = {}

    def seen_by(self, position: int) -> Lookup:
        """What the record at `position` (from 0) sees of the others."""
        return _Others(self, position)

    def others(
        self, position: int, where: Where, fields: Vocabulary
    ) -> Iterator[Mapping[str, object]]:
        """All records but the one at `position`, or those that hold what `where` asks for alike."""
        for part in parts_of(where):
            if isinstance(part, RowComparison) and part.relation == "=" and part.key in fields:
                places = self._holding(part.key, fields)[order_key(part.value)]
                break
        else:
            places = range(len(self._records))
        return (self._canonical(place) for place in places if place != position)

    def _canonical(self, place: int) -> Mapping[str, object]:
        """A record in canonical form; what cannot be read stands as it was given."""
        if place not in self._read:
            before = self._stored[place] if self._stored else None
            self._read[place] = self._settling.values(self._records[place], before)
        return self._read[place]

    def _holding(self, key: str, fields: Vocabulary) -> Mapping[str | None, Sequence[int]]:
        """The places of the records, by what they hold in a field."""
        if key not in self._places:
            found: defaultdict[str | None, list[int]] = defaultdict(list)
            declared = self._form.fields[key]
            for place in range(len(self._records)):
                held = self._canonical(place).get(key)
                reading = read_value(held, declared.type, declared.settings.as_stored())
                found[order_key(reading)].append(place)
            self._places[key] = found
        return self._places[key]

    def count(self, keys: _Key, folded: _Key) -> int:
        """How many records hold the same values in these fields."""
        if keys not in self._counts:
            self._keys[keys] = [
                key_held(self._form, self._canonical(place), keys)
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
