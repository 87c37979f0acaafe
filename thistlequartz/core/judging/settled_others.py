"""Other records as one form settles them: derived, closed and locked fields as its rules say, where
they were given, or stored by another version.
"""

from collections.abc import Iterator, Mapping
from typing import Any, Protocol, runtime_checkable

from thistlequartz.core.engines.rows import EVERY, Where, about
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import ProposeRule
from thistlequartz.core.values import Fault, Value, read_value, to_json

from .circumstances import Circumstances
from .compiled_form import CompiledForm
from .lookup import NUMBER, Lookup, ReferredRecord, folded_key

_Key = tuple[str, ...]


class RecordSettling:
    """How `form` settles records of its own under some circumstances, each by itself."""

    def __init__(self, form: CompiledForm, circumstances: Circumstances) -> None:
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
        """What a record holds, in canonical form; what cannot be read stands as it was given.
        `entered` is as people type it, and `stored` what the record held before; `lookup` knows the
        records that it refers to.
        """
        record = self.form.read(entered, stored=stored, lookup=lookup)
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


def key_held(form: CompiledForm, stored: Mapping[str, object], keys: _Key) -> _Key | None:
    """What a record holds in some fields, by its canonical values, as uniqueness compares it; None
    where one of them is blank or cannot be read, as such a record never collides.
    """
    held: list[Value] = []
    for key in keys:
        declared = form.fields[key]
        reading = read_value(stored.get(key), declared.type, declared.settings.as_stored())
        if reading is None or isinstance(reading, Fault):
            return None
        held.append(reading)
    return folded_key(form.fields, keys, held)


def settles_like(form: CompiledForm, other: CompiledForm) -> bool:
    """Whether two versions of a form settle every record alike, as far as their rules tell."""
    return _settling_parts(form) == _settling_parts(other)


def _settling_parts(form: CompiledForm) -> tuple[Any, ...]:
    effects = tuple(
        one.rule for one in form.rules if one.is_effect and not isinstance(one.rule, ProposeRule)
    )
    return effects, form.fields, form.form.conditions, form.form.zone


@runtime_checkable
class SettlingLookup(Protocol):
    """A lookup that can itself show the others as a form settles them."""

    def settled_by(self, settling: RecordSettling) -> Lookup:
        """The same others, settled."""


def settled_by(lookup: Lookup, settling: RecordSettling) -> Lookup:
    """The others that `lookup` knows, as they are once they are settled."""
    if isinstance(lookup, SettlingLookup):
        return lookup.settled_by(settling)
    return SettledOthers(lookup, settling)


class SettledOthers:
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
        return next((one for one in every if key_held(form, one, keys) == folded), None)
