"""Other records as conditions read them, each looked up once."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from itertools import islice
from typing import Any

from thistlequartz.core.engines.environment import other
from thistlequartz.core.engines.rows import EVERY, NONE, Where, all_of, parts_of
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.translation import tr
from thistlequartz.core.types import NOT_CANONICAL, FieldType, read_value
from thistlequartz.core.values import Fault, Reading, Value

from .port import NUMBER, Lookup, ReferredRecord
from .unique_key import folded_key

QUESTIONS = 3
"""Different questions about other records, of one record and what is tried around it, after which
only what is common to all of them is asked for."""


def for_conditions(reading: Reading, type_: FieldType) -> Any:
    """A reading as conditions see it: a set of choices as a list, an instant in its zone."""
    if isinstance(reading, Fault):
        return UNREADABLE
    evaluated = type_.evaluated()
    return reading if evaluated is None or reading is None else evaluated(reading)


class Records:
    """Other records as conditions read them, each looked up once.

    For one record and for variations of it that are tried.
    """

    def __init__(self, lookup: Lookup, vocabulary: Vocabulary) -> None:
        self._lookup = lookup
        self._vocabulary = vocabulary
        self.discreet = bool(getattr(lookup, "discreet", False))
        """Whether nothing may be told of a single record."""
        self._found: dict[tuple[str, str], ReferredRecord | None] = {}
        self._asked: list[frozenset[Where]] = []
        self._seen: dict[frozenset[Where], _Seen] = {}
        self._readers: dict[str, Callable[[object], Any]] = {}
        self._taken: dict[tuple[tuple[str, ...], tuple[str, ...]], bool] = {}

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record that a reference points to."""
        if (form, number) not in self._found:
            self._found[form, number] = self._lookup.record(form, number)
        return self._found[form, number]

    def field_of(self, key: str, form: str, number: Any, name: str) -> Any:
        """A field of the record that the reference in `key` points to; None where there is none."""
        if not isinstance(number, str):
            return number
        found, fields = self.record(form, number), self._vocabulary[key].fields or {}
        if found is None or name not in fields:
            return None
        declared = fields[name]
        settings = declared.settings.as_stored()
        read = read_value(found.values.get(name), declared.type, settings)
        return for_conditions(read, declared.type)

    def taken(self, keys: tuple[str, ...], values: tuple[Value, ...]) -> bool:
        """Whether another record of the form holds the same values."""
        asked = (keys, folded_key(self._vocabulary, keys, values))
        if asked not in self._taken:
            self._taken[asked] = self._lookup.taken(*asked)
        return self._taken[asked]

    def holder(self, keys: tuple[str, ...], values: tuple[Value, ...]) -> str | None:
        """The number of a record that holds the same values."""
        return self._lookup.holder(keys, folded_key(self._vocabulary, keys, values))

    def others(self, keys: frozenset[str], where: Where = EVERY) -> Iterator[dict[str, Any]]:
        """The other records of which `where` may be so, as environments of these fields alone."""
        if where == NONE:
            return iter(())
        return self._seen_where(parts_of(where)).environments(keys, self._reader)

    def _seen_where(self, parts: frozenset[Where]) -> "_Seen":
        """What was looked at already serves again where it was asked for by less.

        What keeps changing from one question to the next is no longer asked for after some.
        """
        for asked, seen in self._seen.items():
            if asked <= parts:
                return seen
        self._asked.append(parts)
        if len(self._asked) > QUESTIONS:
            parts = parts.intersection(*self._asked)
        found = _Seen(self._lookup.others(all_of(parts), self._vocabulary))
        self._seen[parts] = found
        return found

    def _reader(self, key: str) -> Callable[[object], Any]:
        if key not in self._readers:
            self._readers[key] = self._new_reader(key)
        return self._readers[key]

    def _new_reader(self, key: str) -> Callable[[object], Any]:
        declared = self._vocabulary[key]
        type_, settings = declared.type, declared.settings.as_stored()
        quick = type_.quick_reader(settings)

        def read(given: object) -> Any:
            if given is None:
                return None
            value = quick(given)
            if value is NOT_CANONICAL:
                value = read_value(given, type_, settings)
            return for_conditions(value, type_)  # type: ignore[arg-type]

        return read


class _Seen:
    """Records that were looked at, each read once for the fields that are asked together."""

    def __init__(self, rows: Iterable[Mapping[str, object]]) -> None:
        self._rest = iter(rows)
        self._rows: list[Mapping[str, object]] = []
        self._environments: dict[frozenset[str], list[dict[str, Any]]] = {}

    def environments(
        self, keys: frozenset[str], reader: Callable[[str], Callable[[object], Any]]
    ) -> Iterator[dict[str, Any]]:
        """What each of them holds in these fields, as far as they are asked for."""
        made = self._environments.setdefault(keys, [])
        readers = [(key, other(key), reader(key)) for key in sorted(keys)]
        place = 0
        while place < len(made) or self._has(place):
            if place == len(made):
                row = self._rows[place]
                read = {name: reading(row.get(key)) for key, name, reading in readers}
                made.append({NUMBER: row.get(NUMBER), **read})
            yield made[place]
            place += 1

    def _has(self, place: int) -> bool:
        if place == len(self._rows):
            self._rows.extend(islice(self._rest, 1))
        return place < len(self._rows)


def reference_fault(
    reading: Reading, form: str, label: str, held_allowed: bool, records: Records
) -> Fault | None:
    """Why a reference cannot stand: nothing is there, or it is on hold and barred."""
    if not isinstance(reading, str):
        return None
    found = records.record(form, reading)
    barred = found is not None and found.on_hold and not held_allowed
    if records.discreet and (found is None or barred):
        return Fault(
            tr(
                "{label}: record {reading} cannot be chosen here. Choose another.",
                label=label,
                reading=reading,
            )
        )
    if found is None:
        return Fault(
            tr(
                "{label}: there is no record {reading}. Choose one that is there.",
                label=label,
                reading=reading,
            )
        )
    if barred:
        return Fault(
            tr(
                "{label}: record {reading} is on hold. Choose another, or have it released.",
                label=label,
                reading=reading,
            )
        )
    return None
