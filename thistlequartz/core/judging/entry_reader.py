"""A record as it was given: read, normalised, and laid out for conditions."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from thistlequartz.core.engines.environment import RECORDS, again, stored
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.language import Declaration, Vocabulary
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    NOT_CANONICAL,
    read_value,
    read_written,
)
from thistlequartz.core.values import Fault, Reading

from .compiling.generated_reading import ReadFields, generated_reading
from .other_records.port import Lookup
from .other_records.records import Records, for_conditions, reference_fault

GENERATED_FROM = 50
"""Records of one form, from which on they are read by a function that is generated."""
_NOTHING: Mapping[str, Any] = {}
UNKNOWN_FIELD = tr("There is no such field in this form.")


@dataclass(slots=True)
class ReadRecord:
    """One record, read once; it can be judged at several moments.

    Not frozen, as freezing would cost more than reading a field; nobody changes it.
    """

    readings: Mapping[str, Reading]
    """Every field of the form; None is blank."""
    supplied: frozenset[str]
    """The fields for which something was sent, blank or not."""
    before: Mapping[str, Reading]
    """What was stored before an update; empty on creation."""
    ignored: Mapping[str, str]
    base: Mapping[str, Any]
    """The environment of its values, before any rule has had its effect."""
    faulty: bool
    """Whether anything in it could not be read."""


class EntryReader:
    """Reads the records of one form. `twice` are the fields that may be entered twice."""

    def __init__(
        self,
        fields: Vocabulary,
        twice: frozenset[str],
        held_barred: frozenset[str],
        retired: Mapping[str, frozenset[str]],
    ) -> None:
        self.fields = fields
        self._quick = {key: one.type.quick_reader(one.settings) for key, one in fields.items()}
        self._read_fields: ReadFields = self._read_few
        self._records_read = 0
        self._converted = frozenset(key for key, one in fields.items() if one.type.evaluated())
        """The fields whose values conditions see in another form than they are stored in."""
        self._retired = retired
        """By field: the choices that only records which hold them already may keep."""
        self._twice = tuple(sorted(twice))
        references = any(one.type.referred_form for one in fields.values())
        self.as_read = not (self._converted or twice or retired or references)
        """Whether conditions see every value as it was read."""
        self._held_barred = held_barred
        self._names = {again(key): key for key in twice}
        self._references = tuple(key for key, one in fields.items() if one.type.referred_form)

    def read(
        self,
        values: Mapping[str, object],
        before: Mapping[str, object] | None = None,
        lookup: Lookup | None = None,
    ) -> ReadRecord:
        """`values` as people typed them or as JSON carries them. Never raises for any values."""
        readings, faulty, unknown = self._read_fields(values)
        otherwise = faulty or unknown or before or lookup is not None
        if not otherwise and self.as_read:
            return ReadRecord(readings, frozenset(values), _NOTHING, _NOTHING, readings, False)
        supplied, ignored = frozenset(values), {}
        if unknown:
            names = self.fields.keys() | self._names.keys()
            ignored = {str(key): UNKNOWN_FIELD for key in values if key not in names}
            supplied &= self.fields.keys()
        old = self._before(before)
        for key, codes in self._retired.items():
            readings[key] = self._offered(key, codes, readings[key], old.get(key))
        base: dict[str, Any] = readings.copy()
        if lookup is not None:
            base[RECORDS] = records = Records(lookup, self.fields)
            self._check_references(readings, records, self._references)
        if faulty or self._retired or self._references:
            for key, reading in readings.items():
                if type(reading) is Fault:
                    faulty, base[key] = True, UNREADABLE
        for key in self._converted:
            base[key] = for_conditions(readings[key], self.fields[key].type)
        for key in self._twice:
            second = _again_read(values.get(again(key)), self.fields[key])
            base[again(key)] = for_conditions(second, self.fields[key].type)
        for key in self.fields if before else ():
            base[stored(key)] = for_conditions(old.get(key), self.fields[key].type)
        return ReadRecord(readings, supplied, old, ignored, base, faulty)

    def _read_few(self, values: Mapping[str, object]) -> tuple[dict[str, Reading], bool, bool]:
        """As the generated function, which takes longer to make than some records take to read."""
        self._records_read += 1
        if self._records_read > GENERATED_FROM:
            self._read_fields = generated_reading(self.fields, self.read_one)
        readings: dict[str, Reading] = dict.fromkeys(self.fields)
        known = self.fields.keys() & values.keys()
        for key in known:
            readings[key] = self.read_one(key, values[key])
        faulty = any(type(one) is Fault for one in readings.values())
        return readings, faulty, len(known) < len(values)

    def read_one(self, key: str, given: object) -> Reading:
        """One field."""
        if given is None:
            return None
        value = self._quick[key](given)
        return self._kindly(key, given) if value is NOT_CANONICAL else value  # type: ignore[return-value]

    def _kindly(self, key: str, given: object) -> Reading:
        declared = self.fields[key]
        return read_value(given, declared.type, declared.settings)

    def read_as_written(self, values: Mapping[str, object]) -> ReadRecord:
        """`values` as stewards write them into a form."""
        read = {
            key: read_written(given, self.fields[key].type, self.fields[key].settings)
            for key, given in values.items()
            if key in self.fields
        }
        return self.read({**values, **{k: v for k, v in read.items() if not isinstance(v, Fault)}})

    def changed(self, record: ReadRecord, changes: Mapping[str, object]) -> ReadRecord:
        """`record` with some entries changed, at the cost of reading those alone."""
        readings, base = dict(record.readings), dict(record.base)
        records = base.get(RECORDS)
        for name, given in changes.items():
            key = self._names.get(name, name)
            declared = self.fields.get(key)
            if declared is None:
                continue
            if name != key:
                base[name] = for_conditions(_again_read(given, declared), declared.type)
                continue
            reading = self._kindly(key, given)
            if key in self._retired:
                reading = self._offered(key, self._retired[key], reading, record.before.get(key))
            readings[key] = reading
            if records is not None:
                self._check_references(readings, records, (key,))
            base[key] = for_conditions(readings[key], declared.type)
        return ReadRecord(
            readings,
            record.supplied | (self.fields.keys() & changes.keys()),
            record.before,
            record.ignored,
            base,
            any(isinstance(reading, Fault) for reading in readings.values()),
        )

    def _offered(
        self, key: str, retired: frozenset[str], reading: Reading, before: Reading
    ) -> Reading:
        """The reading, or a fault where it takes up a choice that is not offered any more."""
        chosen = _codes(reading) & retired - _codes(before)
        if not chosen:
            return reading
        label = dict(self.fields[key].type.answers() or ()).get(min(chosen), min(chosen))
        return Fault(tr("“{label}” is not offered any more: choose another.", label=label))

    def _before(self, before: Mapping[str, object] | None) -> Mapping[str, Reading]:
        if not before:
            return {}
        old: dict[str, Reading] = {}
        for key, declared in self.fields.items():
            read = read_value(before.get(key), declared.type, declared.settings.as_stored())
            old[key] = None if isinstance(read, Fault) else read
        return old

    def _check_references(
        self, readings: dict[str, Reading], records: Records, keys: Iterable[str]
    ) -> None:
        for key in keys:
            declared = self.fields[key]
            if form := declared.type.referred_form:
                allowed = key not in self._held_barred
                fault = reference_fault(readings[key], form, declared.label, allowed, records)
                readings[key] = fault or readings[key]


def _codes(reading: Reading) -> frozenset[str]:
    if isinstance(reading, str):
        return frozenset({reading})
    return frozenset(reading) if isinstance(reading, tuple) else frozenset()


def _again_read(given: object, declared: Declaration) -> Reading:
    return read_value(given, declared.type, declared.settings)
