"""Other records as each stored record sees them, for impact analysis.

What is asked of every record again is kept: the records referred to, and what the records of the
form hold where no two may hold the same.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import cached_property
from typing import Any, Final, NamedTuple

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.enumerations import STORING_ROLES
from thistlequartz.core.impact import ImpactRecord
from thistlequartz.core.judging import (
    NUMBER,
    CompiledForm,
    Lookup,
    RecordSettling,
    ReferredRecord,
    SettledRecords,
    ValueIndex,
    equality_in,
    stored_key,
)
from thistlequartz.core.language import Vocabulary
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.rights import storing_roles
from thistlequartz.server.pieces import values_in_pieces
from thistlequartz.server.records.lookup import DatabaseLookup, keys_in_force
from thistlequartz.server.records.models import Record, RecordBook

READ_AT_ONCE: Final = 500
AT_HAND: Final = 200_000
"""Records up to which all are held in memory where a rule asks for others alike."""
_Key = tuple[str, ...]
_Numbered = tuple[int, Mapping[str, object]]
"""A record's number, and what it holds."""


_SCATTER: Final = (5**0.5 - 1) / 2
"""Multiples of the golden section lie evenly between whole numbers, however many they are."""


class RecordRange(NamedTuple):
    """Records by their primary keys."""

    after: int = 0
    up_to: int | None = None


EVERY_RECORD: Final = RecordRange()


_READ: Final = ("pk", "number", "values", "keeper", "changed_by")


def roles_of_keepers(form_key: str) -> Callable[[int | None, int | None], str]:
    """Return what gives the role of whoever would store a record next, by primary keys.

    That is its keeper, else whoever changed it last; else a role that stores records.
    """
    roles = storing_roles(form_key)

    def role_of(keeper: int | None, changed_by: int | None) -> str:
        for pk in (keeper, changed_by):
            if pk in roles:
                return roles[pk]
        return STORING_ROLES[0]

    return role_of


def stored_records(
    draft: DraftForm, around: "StoredNeighbours", share: RecordRange = EVERY_RECORD
) -> Iterator[ImpactRecord]:
    """Every stored record of a share, in order, with what it sees of the others."""
    role_of = roles_of_keepers(draft.key)
    last = share.after
    while True:
        rows = Record.objects.filter(form=draft, pk__gt=last).order_by("pk")
        rows = rows if share.up_to is None else rows.filter(pk__lte=share.up_to)
        some = list(rows.values_list(*_READ)[:READ_AT_ONCE])
        if not some:
            return
        for pk, number, values, *people in some:
            yield ImpactRecord(number, values, around.seen_by(pk, number), role_of(*people))
        last = some[-1][0]


def stored_sample(
    draft: DraftForm, around: "StoredNeighbours", size: int
) -> Iterator[ImpactRecord]:
    """Yield about `size` records, spread evenly over all that were ever stored.

    The first of them are spread evenly, too.
    """
    last = RecordBook.objects.get(form=draft).last_number
    spread = range(last, 0, -max(1, last // size))
    rows = Record.objects.filter(form=draft, number__in=list(spread)[:size])
    found = rows.values_list(*_READ)
    role_of = roles_of_keepers(draft.key)
    for pk, number, values, *people in sorted(found, key=lambda row: row[1] * _SCATTER % 1):
        yield ImpactRecord(number, values, around.seen_by(pk, number), role_of(*people))


class StoredNeighbours:
    """What the stored records of a form are to one another, as `forms` read them."""

    def __init__(
        self, form_key: str, forms: Iterable[CompiledForm], *, sampled: bool = False
    ) -> None:
        """Where only a sample is looked at, the database is asked wherever it knows."""
        self.form_key = form_key
        self._sampled = sampled
        self.anyone = DatabaseLookup(form_key)
        self._forms = tuple(forms)
        self._found: dict[tuple[str, str], ReferredRecord | None] = {}
        self._by_value: dict[Any, ValueIndex[_Numbered]] = {}
        self._holders: dict[Any, dict[_Key, tuple[int, ...]]] = {}
        self._settled: list[_Numbered] | None = None

    def seen_by(self, pk: int, number: int) -> "NeighbourLookup":
        """What one of the records sees of the others."""
        return NeighbourLookup(self, pk, number)

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record that some refer to, asked for once."""
        if (form, number) not in self._found:
            self._found[form, number] = self.anyone.record(form, number)
        return self._found[form, number]

    def holders(
        self, keys: _Key, folded: _Key, settling: RecordSettling | None = None
    ) -> tuple[int, ...]:
        """The numbers of the first two records that hold these values."""
        known = (keys, settling is None)
        if known not in self._holders:
            self._holders[known] = self._gathered(keys, settling)
        return self._holders[known].get(folded, ())

    def alike(
        self, where: Where, fields: Vocabulary, settling: RecordSettling | None = None
    ) -> "Iterable[_Numbered] | None":
        """Return the records that hold the value that `where` asks a field to equal.

        None where it asks for none, or where there are too many records to hold in memory.
        """
        if self._sampled or self._many:
            return None
        equality = equality_in(where, fields)
        if equality is None:
            return None
        return self._index(equality.key, fields, settling).holding(equality.value)

    @cached_property
    def asked_for(self) -> frozenset[_Key]:
        """The keys of which the database is asked who holds them."""
        return keys_in_force(self.form_key) if self._sampled else frozenset()

    @cached_property
    def _many(self) -> bool:
        return Record.objects.filter(form__key=self.form_key).count() > AT_HAND

    @cached_property
    def _at_hand(self) -> list[_Numbered]:
        return list(self._narrow_rows(None))

    def _narrow_rows(self, settling: RecordSettling | None) -> Iterator[_Numbered]:
        """Every record, with no more than is read of others."""
        read = [key for form in self._forms for key in form.read_of_others]
        for number, values in self._rows(settling):
            yield number, {key: values[key] for key in read if key in values}

    def _rows(self, settling: RecordSettling | None) -> Iterator[_Numbered]:
        rows = Record.objects.filter(form__key=self.form_key)
        known = self.seen_by(0, 0)
        for number, values in values_in_pieces(rows, "number", "values"):
            yield number, settling.of_stored(values, known) if settling else values

    def _index(
        self, key: str, fields: Vocabulary, settling: RecordSettling | None
    ) -> ValueIndex[_Numbered]:
        """The records by what they hold in a field."""
        known = (key, fields[key].type, settling is None)
        if known not in self._by_value:
            if settling is not None and self._settled is None:
                self._settled = list(self._narrow_rows(settling))
            every = self._at_hand if settling is None else self._settled or []
            records = ((one, one[1]) for one in every)
            self._by_value[known] = ValueIndex(key, fields[key], records)
        return self._by_value[known]

    def _gathered(self, keys: _Key, settling: RecordSettling | None) -> dict[_Key, tuple[int, ...]]:
        found: dict[_Key, tuple[int, ...]] = {}
        wanted = self._forms if settling is None else (settling.form,)
        forms = [form for form in wanted if all(key in form.fields for key in keys)]
        rows = self._rows(settling if settling and settling.decides(keys) else None)
        for number, values in rows:
            keys_held = (stored_key(form.fields, keys, values) for form in forms)
            for key in {key for key in keys_held if key is not None}:
                before = found.get(key, ())
                if len(before) < 2:
                    found[key] = (*before, number)
        return found


class NeighbourLookup:
    """The other records as one of them sees them."""

    def __init__(
        self, all_: StoredNeighbours, pk: int, number: int, settling: RecordSettling | None = None
    ) -> None:
        self._all = all_
        self._pk = pk
        self._number = number
        self._settling = settling
        stored = DatabaseLookup(all_.form_key, pk)
        self._own: Lookup = stored if settling is None else SettledRecords(stored, settling)

    def settled_by(self, settling: RecordSettling) -> "NeighbourLookup":
        """The same others, settled."""
        return NeighbourLookup(self._all, self._pk, self._number, settling)

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record of that number."""
        return self._all.record(form, number)

    def taken(self, keys: _Key, folded: _Key) -> bool:
        """Whether another record holds the same values in these fields."""
        return self.holder(keys, folded) is not None

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        """The number of another record that does."""
        settled = self._settling is not None and self._settling.decides(keys)
        if keys in self._all.asked_for and not settled:
            return self._own.holder(keys, folded)
        holders = self._all.holders(keys, folded, self._settling)
        return next((str(one) for one in holders if one != self._number), None)

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """The values of the other records of which `where` may be so."""
        alike = self._all.alike(where, fields, self._settling)
        if alike is None:
            yield from self._own.others(where, fields)
            return
        for number, values in alike:
            if number != self._number:
                yield {**values, NUMBER: number}
