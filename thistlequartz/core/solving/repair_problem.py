"""One record as a repair problem: entries, stored values, circumstances, cost."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from itertools import islice
from typing import Final, cast

from thistlequartz.core.candidates.entries import Seen, with_second_entries
from thistlequartz.core.engines.environment import again
from thistlequartz.core.judging import Circumstances
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.sweep import RecordContext
from thistlequartz.core.types import read_value
from thistlequartz.core.values import Fault, Reading, Stored, Value, to_json

MOST_REFERENCES: Final = 8
"""Records that a field could refer to."""


@dataclass(frozen=True, slots=True)
class RepairCheck:
    """What the evaluator says of the record after some changes."""

    rules: tuple[str, ...]
    """Those that stop it."""
    faults: tuple[str, ...]
    """The fields that cannot be read."""
    settled: Mapping[str, Stored]
    """What every field comes to, as it is stored."""
    closed: frozenset[str] = frozenset()
    """The fields that are not asked."""

    @property
    def goes_through(self) -> bool:
        """Whether nothing stops it."""
        return not self.rules and not self.faults


Looks = Callable[[Mapping[str, Stored]], RepairCheck]
"""Has the evaluator look at the record with some entries changed."""


@dataclass(frozen=True, slots=True)
class RepairProblem:
    """The record as it stands; its values as they are stored."""

    moment: Moment
    circumstances: Circumstances
    entered: Mapping[str, Stored]
    """By field, and by second entry."""
    faulty: frozenset[str]
    stored: Mapping[str, Stored]
    referred: tuple[tuple[str, str, Mapping[str, Stored]], ...]
    """Of the records that it refers to, or could: form, number, and what they hold."""
    numbers: Mapping[str, tuple[str, ...]]
    """By field that refers: records that are known to be there."""


def standing_of(around: RecordContext, moment: Moment, seen: Seen | None = None) -> RepairProblem:
    """The record as it stands, before anything is changed; `seen` names records to refer to."""
    form, record = around.form, around.unchanged
    numbers = {
        key: tuple(str(one) for one in islice((seen or {}).get(key, ()), MOST_REFERENCES))
        for key, declared in form.fields.items()
        if declared.type.referred_form
    }
    entered = {key: _stored(one) for key, one in record.readings.items()}
    for key in sorted(form.twice):
        declared = form.fields[key]
        second = around.values.get(again(key))
        entered[again(key)] = _stored(read_value(second, declared.type, declared.settings))
    return RepairProblem(
        moment,
        around.circumstances,
        entered,
        frozenset(key for key, one in record.readings.items() if isinstance(one, Fault)),
        {key: _stored(one) for key, one in record.before.items()},
        tuple(_referred(around, numbers)),
        numbers,
    )


def looking(around: RecordContext, moment: Moment) -> Looks:
    """What the evaluator says of the record with some entries changed."""
    form = around.form

    def look(changes: Mapping[str, Stored]) -> RepairCheck:
        record = around.record(with_second_entries(form, changes))
        settled = form.settled(record, around.circumstances)
        screened = around.screener.screen(record, settled)
        hard = (
            one.rule
            for one in screened.violations
            if one.save == "block" or (moment == "submit" and one.submit == "block")
        )
        return RepairCheck(
            tuple(dict.fromkeys(hard)),
            tuple(key for key, _ in screened.faults),
            {key: _stored(settled.value_of(key)) for key in form.fields},
            frozenset(settled.closed),
        )

    return look


def _stored(reading: Reading | Value) -> Stored:
    return None if isinstance(reading, Fault) else to_json(reading)


def _referred(
    around: RecordContext, numbers: Mapping[str, tuple[str, ...]]
) -> Iterator[tuple[str, str, Mapping[str, Stored]]]:
    for key, now in around.unchanged.readings.items():
        form = around.form.fields[key].type.referred_form
        if around.lookup is None or form is None:
            continue
        for number in dict.fromkeys((now, *numbers.get(key, ()))):
            record = around.lookup.record(form, number) if isinstance(number, str) else None
            if record is not None and isinstance(number, str):
                yield form, number, cast("Mapping[str, Stored]", record.values)
