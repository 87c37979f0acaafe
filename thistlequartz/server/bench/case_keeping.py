"""Keeping cases: from the bench, from drafts by the machine, and from files."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from django.http import Http404

from thistlequartz.core.authoring.keys import drawn_key
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.documents import MAX_LABEL, MAX_PROSE
from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging import Judgement, JudgeRequest, Lookup, ReferredRecord
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import MAX_CASES, Case, CaseCircumstances, Expected, OtherRecord
from thistlequartz.core.translation import tr
from thistlequartz.server.forms.draft_edits import DraftEdit, changing
from thistlequartz.server.forms.draft_parts import DraftPart
from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.models import DraftCase, DraftForm
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal

from .requests import BenchBody, BenchRequest, bench_request


class RecordingLookup:
    """Answers from another lookup, and keeps what it answered, so that a case can know the same."""

    def __init__(self, inner: Lookup) -> None:
        self._inner = inner
        self.found: dict[tuple[str, str], ReferredRecord] = {}
        self.asked: set[tuple[str, ...]] = set()

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record that a reference points to."""
        found = self._inner.record(form, number)
        if found is not None:
            self.found[form, number] = found
        return found

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether another record holds the same values in these fields."""
        taken = self._inner.taken(keys, folded)
        if taken:
            self.asked.add(keys)
        return taken

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """The number of a record that holds the same values."""
        return self._inner.holder(keys, folded)

    def others(self, where: Where, fields: Vocabulary) -> Iterable[Mapping[str, object]]:
        """The other records of the form."""
        return self._inner.others(where, fields)


def case_of(one: BenchRequest, key: str, name: str, suite: str, why: str) -> Case:
    """The try as a case that expects what happens now, with the other records that matter."""
    request = one.request
    recording = RecordingLookup(one.lookup)
    judged = one.form.judged(
        JudgeRequest(
            request.values,
            request.circumstances,
            stored=request.stored,
            lookup=recording,
            applied=request.applied,
        )
    )
    here = one.request.circumstances
    case = Case(
        key=key,
        name=name,
        suite=suite,
        why=why,
        circumstances=CaseCircumstances(
            as_of=here.today,
            event=here.event,
            stored=_entries(request.stored or {}),
            entry_point=here.entry_point,
            layout=here.layout,
            role=here.role,
        ),
        values=_left_to_start(one),
        others=tuple(_others(one, recording, judged)),
        proposals_applied=request.applied,
        expected=Expected(save="clear", submit="clear"),
    )
    # What happens by the case itself: at noon of its day, with the other records it carries.
    observed = Runner(one.form).run(case).observed
    return case.model_copy(update={"expected": observed.as_expected()})


def cases_of_records(
    person: Person, draft: DraftForm, numbers: Sequence[int], suite: str
) -> list[Case]:
    """Stored records as cases of the draft: each is changed, and stays as it is."""
    taken = set(draft.case_rows.values_list("key", flat=True))
    records = {one.number: one for one in draft.records.filter(number__in=numbers)}
    cases = []
    for number in dict.fromkeys(numbers):
        record = records.get(number)
        if record is None:
            raise Http404(number)
        body = BenchBody(
            values=compiled_draft(draft).as_entered(record.values), event="update", number=number
        )
        name = " ".join(filter(None, (tr("Record {number}", number=number), record.title)))[
            :MAX_LABEL
        ]
        key = drawn_key(name, taken, "case")
        taken.add(key)
        why = tr("Record {number} as it was stored.", number=number)
        on_bench = bench_request(person, draft.key, body, strict=False)
        cases.append(case_of(on_bench, key, name, suite, why))
    return cases


def _left_to_start(one: BenchRequest) -> dict[str, Any]:
    """What was entered. What stands as a new record begins is left to the starting values, so that
    the case follows them when they change.
    """
    here = one.request.circumstances
    if here.event != "create":
        return _entries(one.values)
    starting = one.form.starting_values(
        today=here.today, now=here.now, entry_point=here.entry_point, role=here.role
    )
    entered = _entries(one.values)
    return {key: value for key, value in entered.items() if starting.get(key) != value}


def _entries(values: Mapping[str, object]) -> dict[str, Any]:
    return {key: value for key, value in values.items() if value not in ("", [])}


def _others(
    one: BenchRequest, recording: RecordingLookup, judged: Judgement
) -> Iterator[OtherRecord]:
    """The records referred to; one that holds what a rule of uniqueness found taken; and one by
    which each rule about other records is violated.
    """
    for (form, number), found in recording.found.items():
        yield OtherRecord(
            form=form, number=number, values=_entries(found.values), on_hold=found.on_hold
        )
    yield from (OtherRecord(values=same) for same in _holding_the_same(one, recording.asked))
    yield from (OtherRecord(values=_entries(values)) for values in judged.doubles)


def _holding_the_same(
    one: BenchRequest, asked: Iterable[tuple[str, ...]]
) -> Iterator[dict[str, Any]]:
    for keys in asked:
        yield {key: one.values[key] for key in keys if key in one.values}


def keep_case(person: Person, form_key: str, case: Case) -> DraftCase:
    """Keep a case under a key drawn from its name."""
    (row,) = keep_cases(person, form_key, [case])
    return row


def keep_cases(person: Person, form_key: str, cases: Sequence[Case]) -> list[DraftCase]:
    """Keep several cases at once; their keys are drawn where they are taken."""
    with changing(person, form_key) as change:
        taken = set(change.draft.case_rows.values_list("key", flat=True))
        if len(taken) + len(cases) > MAX_CASES:
            raise Refusal(
                409,
                "too-many-cases",
                tr(
                    "A form has at most {max_cases:,} cases; there are {count:,} already.",
                    max_cases=MAX_CASES,
                    count=len(taken),
                ),
                tr("Remove some first; nothing was kept."),
            )
        rows = []
        for case in cases:
            key = case.key if case.key not in taken else drawn_key(case.name, taken, "case")
            taken.add(key)
            rows.append(_put(change, "keep case", case.model_copy(update={"key": key})))
        return rows


def change_case(person: Person, form_key: str, case: Case, revision: int) -> DraftCase:
    """Put a case in the place of the one with its key."""
    with changing(person, form_key) as change:
        change.row("case", case.key, revision)
        return _put(change, "change case", case)


def accept(
    person: Person, form_key: str, key: str, revision: int, expected: Expected, why: str
) -> DraftCase:
    """Expect from now on what happens, with the reason."""
    with changing(person, form_key) as change:
        row = change.row("case", key, revision)
        before = Case.model_validate(row.document)
        told = f"{before.why}\n{why}".strip()[-MAX_PROSE:]
        case = before.model_copy(update={"expected": expected, "why": told})
        return _put(change, "accept case", case, f"{case.name}: {why}")


def remove_cases(person: Person, form_key: str, revisions: Mapping[str, int]) -> None:
    """Take cases out, all at once."""
    with changing(person, form_key) as change:
        for key, revision in revisions.items():
            row = change.row("case", key, revision)
            change.put("remove case", DraftPart("case", key), None, row.document["name"])


def _put(change: DraftEdit, act: str, case: Case, subject: str = "") -> DraftCase:
    document = case.model_dump(mode="json")
    row = change.put(act, DraftPart("case", case.key), document, (subject or case.name)[:200])
    if row is None:
        row = change.draft.case_rows.get(key=case.key)
    assert isinstance(row, DraftCase)
    return row
