"""Records judged one after the other, and not all written yet, as the next one sees them."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging import (
    NUMBER,
    CompiledForm,
    ReferredRecord,
    ValueIndex,
    equality_in,
)
from thistlequartz.core.language import Vocabulary

from .form_in_force import DeskForm
from .lookup import DatabaseLookup
from .models import Record, UniqueKey
from .unique_keys import digest_of, keys_of

_Key = tuple[str, ...]


class PendingValues:
    """Canonical values of records, found again by what they hold in a field; it grows."""

    def __init__(self, records: Iterable[Mapping[str, object]] = ()) -> None:
        self._all = list(records)
        self._indexes: dict[str, ValueIndex[Mapping[str, object]]] = {}

    def add(self, values: Mapping[str, object]) -> None:
        """Add a record."""
        self._all.append(values)
        for index in self._indexes.values():
            index.add(values, values)

    def where(self, where: Where, fields: Vocabulary) -> Sequence[Mapping[str, object]]:
        """Those of which `where` may be so: by the first field that must hold one value."""
        equality = equality_in(where, fields)
        if equality is None:
            return self._all
        key = equality.key
        if key not in self._indexes:
            records = ((one, one) for one in self._all)
            self._indexes[key] = ValueIndex(key, fields[key], records)
        return self._indexes[key].holding(equality.value)


class PendingRecords:
    """The other records of a form: those that are stored, and those that are in hand.

    A stored record that is changed in hand counts as it is changed.
    """

    def __init__(self, desk: DeskForm) -> None:
        self._desk = desk
        self.form_key = desk.draft.key
        self._compiled: CompiledForm = desk.compiled
        self._stored = DatabaseLookup(self.form_key)
        self._found: dict[tuple[str, str], ReferredRecord | None] = {}
        self._owners: dict[str, dict[int, int]] = {}
        """Stored records, their numbers by primary key, by what they hold alike, as far as that was
        asked for."""
        self._reads_others = bool(desk.compiled.read_of_others)
        self._held: dict[str, set[int]] = {}
        self._changed: dict[int, int] = {}
        self._values = PendingValues()

    def expect(self, digests: Iterable[str]) -> None:
        """Ask the database at once for what will be asked for one by one."""
        self._owners.update(self._asked([one for one in digests if one not in self._owners]))

    def _asked(self, digests: list[str]) -> dict[str, dict[int, int]]:
        found: dict[str, dict[int, int]] = {one: {} for one in digests}
        rows = UniqueKey.objects.filter(digest__in=digests)
        for digest, owner, number in rows.values_list("digest", "record_id", "record__number"):
            found[digest][owner] = number
        return found

    def stands(self) -> bool:
        """Whether the database would still answer the same of what records hold alike."""
        return self._owners == self._asked(list(self._owners))

    def owners(self, digest: str) -> dict[int, int]:
        """Return the stored holders of a digest that are not changed here, by primary key."""
        if digest not in self._owners:
            self.expect([digest])
        return {pk: no for pk, no in self._owners[digest].items() if pk not in self._changed}

    def add(self, record: Record, values: Mapping[str, Any]) -> None:
        """Another one in hand, new or changed."""
        if record.pk is not None:
            self._changed[record.pk] = record.number
        for one in keys_of(record, self._compiled, values, frozenset(), ""):
            self._held.setdefault(one.digest, set()).add(record.number)
        if self._reads_others:
            self._values.add({**record.values, NUMBER: record.number})

    def seen_by(self, record: Record) -> "PendingLookup":
        """What a record sees of the others."""
        return PendingLookup(self, record.pk, record.number)

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number, asked for once."""
        if (form, number) not in self._found:
            self._found[form, number] = self._stored.record(form, number)
        return self._found[form, number]

    def holders(self, number: int, keys: _Key, folded: _Key) -> set[int]:
        """The numbers of the others than the record of that number that hold these values."""
        digest = digest_of(self.form_key, keys, folded)
        return {*self._held.get(digest, ()), *self.owners(digest).values()} - {number}

    def others(
        self, own: int | None, number: int, where: Where, fields: Vocabulary
    ) -> Iterator[Mapping[str, object]]:
        """The others of which `where` may be so."""
        changed = {number, *self._changed.values()}
        stored = DatabaseLookup(self.form_key, own).others(where, fields)
        yield from (one for one in stored if one[NUMBER] not in changed)
        yield from (one for one in self._values.where(where, fields) if one[NUMBER] != number)


class PendingLookup:
    """The other records as one of them sees them."""

    def __init__(self, all_: PendingRecords, own: int | None, number: int) -> None:
        self._all = all_
        self._own = own
        self._number = number

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number."""
        return self._all.record(form, number)

    def taken(self, keys: _Key, folded: _Key) -> bool:
        """Whether another record holds the same values in these fields."""
        return bool(self._all.holders(self._number, keys, folded))

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        """The number of the first of them that has one."""
        holders = self._all.holders(self._number, keys, folded)
        return str(min((one for one in holders if one > 0), default="")) or None

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """The others of which `where` may be so."""
        return self._all.others(self._own, self._number, where, fields)
