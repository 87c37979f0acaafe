"""Records from which to look around: one that goes through, or that of a kept case."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.observing import circumstances_of
from thistlequartz.core.cases.running import gone
from thistlequartz.core.enumerations import OUTCOMES
from thistlequartz.core.judging import Circumstances, CompiledForm
from thistlequartz.core.ruleset import Case, OtherRecord
from thistlequartz.core.sweep import RecordContext

from .corrections import cleared
from .entries import Candidates, Seen, with_second_entries
from .neighbours import another_of_the_form, records_referred_to


@dataclass(frozen=True, slots=True)
class Baseline:
    """A record, what it is judged under, and the other records it knows of."""

    around: RecordContext
    others: tuple[OtherRecord, ...] = ()
    seen: Seen | None = None
    """Entries that are worth trying beside those of the rules."""

    def changed(self, changes: Mapping[str, object]) -> "Baseline":
        """The same record with some entries changed."""
        entered = with_second_entries(self.around.form, changes)
        values = {**self.around.values, **entered}
        return replace(self, around=replace(self.around, values=values))

    def candidates(self) -> Candidates:
        """The entries worth trying around it."""
        return Candidates(self.around, self.seen)

    def offence(self) -> tuple[int, int, int]:
        """How far it is from going through without a word."""
        answer = self.around.answer({})
        return OUTCOMES.index(answer.submit), OUTCOMES.index(answer.save), len(answer.violated)


def good_baseline(
    form: CompiledForm,
    cases: Sequence[Case],
    circumstances: Circumstances,
    seen: Seen | None = None,
) -> Baseline:
    """The kept case of a new record that gives the least offence, or starting values corrected."""
    known = {key: list(entries) for key, entries in (seen or {}).items()}
    for key, entries in entries_in(cases).items():
        known.setdefault(key, []).extend(entries)
    usable = [
        case for case in cases if case.circumstances.event == "create" and not any(gone(form, case))
    ]
    drafted = _drafted(form, circumstances, known)
    kept = [replace(baseline_of(form, case), seen=drafted.seen) for case in usable]
    return min((drafted, *kept), key=Baseline.offence)


def baseline_of(form: CompiledForm, case: Case) -> Baseline:
    """The record of a case, from which to look around."""
    stored = case.circumstances.stored if case.circumstances.event == "update" else None
    circumstances = circumstances_of(form, case.circumstances)
    records = CaseRecords(form, case.others)
    return Baseline(RecordContext(form, case.values, circumstances, stored, records), case.others)


def entries_in(cases: Sequence[Case]) -> dict[str, list[object]]:
    """What cases enter, by field, each entry once."""
    found: dict[str, list[object]] = {}
    for case in cases:
        for key, value in case.values.items():
            if value not in found.setdefault(key, []):
                found[key].append(value)
    return found


def _drafted(
    form: CompiledForm, circumstances: Circumstances, known: dict[str, list[object]]
) -> Baseline:
    others, numbers = records_referred_to(form)
    for key, entries in numbers.items():
        known.setdefault(key, []).extend(entries)
    starting = form.starting_values(
        today=circumstances.today, entry_point=circumstances.entry_point, role=circumstances.role
    )
    begun = RecordContext(form, starting, circumstances, lookup=CaseRecords(form, others))
    corrected = {**starting, **with_second_entries(form, cleared(begun, Candidates(begun, known)))}
    good = replace(begun, values=corrected)
    other, entries_there = another_of_the_form(good, Candidates(good, known))
    if other is None:
        return Baseline(good, others, known)
    for key, entry in entries_there:
        known.setdefault(key, []).append(entry)
    others = (*others, other)
    return Baseline(replace(good, lookup=CaseRecords(form, others)), others, known)
