"""Other records as one form settles them, given anew or stored by another version.

Derived, closed and locked fields hold what the rules of that form say.
"""

from collections.abc import Iterator, Mapping
from typing import Any, Protocol, runtime_checkable

from thistlequartz.core.engines.rows import EVERY, Where, about
from thistlequartz.core.judging.circumstances import Circumstances
from thistlequartz.core.judging.settled import Settled
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.values import Fault, Reading, to_json

from .port import NUMBER, Lookup, ReferredRecord
from .unique_key import stored_key

_Key = tuple[str, ...]


class _Readings(Protocol):
    @property
    def readings(self) -> Mapping[str, Reading]: ...


class SettlingForm(Protocol):
    """A compiled form, as far as settling a record asks for it."""

    @property
    def fields(self) -> Vocabulary:
        """Its fields, as expressions see them."""

    def program(self, circumstances: Circumstances) -> Any:
        """What counts under some circumstances."""

    def read(
        self,
        values: Mapping[str, object],
        *,
        stored: Mapping[str, object] | None = None,
        lookup: Lookup | None = None,
    ) -> Any:
        """A record with its values read; see `_Readings`."""

    def settled(self, record: Any, circumstances: Circumstances) -> Settled:
        """States and values of its fields."""

    def as_entered(self, stored: Mapping[str, object]) -> Mapping[str, object]:
        """Stored values as somebody would type them."""


class RecordSettling:
    """How `form` settles records of its own under some circumstances, each by itself."""

    def __init__(self, form: SettlingForm, circumstances: Circumstances) -> None:
        self.form = form
        self._circumstances = circumstances
        self.keys = frozenset(form.program(circumstances).plans)
        """The fields that rules decide about."""

    def decides(self, keys: _Key) -> bool:
        """Whether rules decide what one of these fields holds."""
        return not self.keys.isdisjoint(keys)

    def values(
        self,
        entered: Mapping[str, object],
        stored: Mapping[str, object] | None = None,
        lookup: Lookup | None = None,
    ) -> Mapping[str, object]:
        """Return what a record holds, in canonical form.

        `entered` is as typed, `stored` what the record held before; `lookup` knows the records it
        refers to. What cannot be read stands as given.
        """
        record: _Readings = self.form.read(entered, stored=stored, lookup=lookup)
        held = {
            key: to_json(reading)
            for key, reading in record.readings.items()
            if (key in entered or stored is not None) and not isinstance(reading, Fault)
        }
        if not self.keys:
            return {**entered, **held}
        settled = self.form.settled(record, self._circumstances)
        decided = {
            key: to_json(settled.value_of(key))
            for key in self.keys
            if key in settled.overruled
            or key in settled.closed
            or not isinstance(record.readings.get(key), Fault)
        }
        return {**entered, **held, **decided}

    def of_stored(
        self, stored: Mapping[str, object], lookup: Lookup | None = None
    ) -> Mapping[str, object]:
        """What a stored record holds once it is settled anew."""
        return self.values(self.form.as_entered(stored), stored, lookup) if self.keys else stored


@runtime_checkable
class SettlingLookup(Protocol):
    """A lookup that can itself show the others as a form settles them."""

    def settled_by(self, settling: RecordSettling) -> Lookup:
        """The same others, settled."""


def settled_by(lookup: Lookup, settling: RecordSettling) -> Lookup:
    """The others that `lookup` knows, as they are once they are settled."""
    if isinstance(lookup, SettlingLookup):
        return lookup.settled_by(settling)
    return SettledRecords(lookup, settling)


class SettledRecords:
    """Others that are settled one by one, as they are looked at."""

    def __init__(self, lookup: Lookup, settling: RecordSettling) -> None:
        self._lookup = lookup
        self._settling = settling

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record that a reference points to, as it is stored."""
        return self._lookup.record(form, number)

    def taken(self, keys: _Key, folded: _Key) -> bool:
        """Whether another record of this form holds the same values in these fields."""
        if not self._settling.decides(keys):
            return self._lookup.taken(keys, folded)
        return self._first(keys, folded) is not None

    def holder(self, keys: _Key, folded: _Key) -> str | None:
        """The number of one that does; None where none is known by one."""
        if not self._settling.decides(keys):
            return self._lookup.holder(keys, folded)
        found = self._first(keys, folded)
        return str(found[NUMBER]) if found and NUMBER in found else None

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """The others of which `where` may be so, but for what rules decide."""
        wanted = about(where, fields.keys() - self._settling.keys)
        others = self._lookup.others(wanted, fields)
        return (self._settling.of_stored(one, self._lookup) for one in others)

    def _first(self, keys: _Key, folded: _Key) -> Mapping[str, object] | None:
        form = self._settling.form
        every = self.others(EVERY, form.fields)
        return next((one for one in every if stored_key(form.fields, keys, one) == folded), None)
