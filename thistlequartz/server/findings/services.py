"""Findings of a draft: looked for after each change, dismissed with a reason, fixed."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Final

from django.db import transaction
from django.http import Http404
from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.entries_in_words import entries_in_words
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.findings import (
    SEARCHES,
    TITLES,
    Finding,
    Findings,
    Rights,
    grouped,
    told_together,
)
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.ruleset import Case, RuleSet
from thistlequartz.core.solving.witness import Witness
from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.draft_edits import changing
from thistlequartz.server.forms.draft_parts import DraftPart
from thistlequartz.server.forms.drafts import (
    compiled_draft,
    form_document,
    get_draft,
    of_each,
    snapshot,
)
from thistlequartz.server.forms.freshness import basis_fingerprint, findings_fingerprint
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.rule_changes import names_of
from thistlequartz.server.jobs.models import UNDER_WAY, Job, JobState
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin, newest
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import RIGHTS, Right
from thistlequartz.server.problems import Refusal
from thistlequartz.server.solving import apart
from thistlequartz.workers.findings import FindingsProcess, FindingsTask

from .models import Dismissal

FINDINGS: Final = "findings"
BASES: Final = "basis_fingerprints"
"""Under which name a result tells the basis of each of its findings, by fingerprint."""
SAMPLES: Final = 200
"""Stored records whose numbers are looked at beside the bounds of rules."""
_FINDINGS: TypeAdapter[Findings] = TypeAdapter(Findings)


@dataclass(frozen=True, slots=True)
class FindingsState:
    """What is known of the findings of a draft."""

    findings: Findings | None
    """None: nobody has looked yet."""
    stale: bool
    """Whether the draft has changed since."""
    job: Job | None
    """What is looking now, or looked last."""


def look_after_change(sender: Any, draft: DraftForm, **_: Any) -> None:
    """Have findings looked for once a draft has changed."""
    bring_up_to_date(draft, None)


def bring_up_to_date(draft: DraftForm, person: Person | None) -> Job | None:
    """Have findings looked for unless they are known of the draft as it is, or were stopped."""
    fingerprint = fingerprint_now(draft)
    last = newest(FINDINGS, draft, JobState.DONE, fingerprint=fingerprint) or newest(
        FINDINGS, draft
    )
    if (
        last is not None
        and last.fingerprint == fingerprint
        and (person is None or last.state == JobState.DONE)
    ):
        return last
    return begin(FINDINGS, draft, person, fingerprint)


def known_of(draft: DraftForm) -> FindingsState:
    """What is known of a draft now."""
    fingerprint = fingerprint_now(draft)
    done = newest(FINDINGS, draft, JobState.DONE, fingerprint=fingerprint)
    if done is not None:
        return FindingsState(_found_by(done), False, done)
    done = newest(FINDINGS, draft, JobState.DONE)
    found = _found_by(done)
    return FindingsState(found, found is not None, newest(FINDINGS, draft))


def _found_by(done: Job | None) -> Findings | None:
    if done is None or done.result is None:
        return None
    return _FINDINGS.validate_python(done.result)


def find_in_background(job: Job, progress: Progress) -> Any:
    """What is found, as JSON."""
    draft = DraftForm.objects.get(pk=job.form_id)
    now = snapshot(draft)
    found = found_in(draft, now.ruleset, progress)
    rests = {one.fingerprint: basis_fingerprint(now.form, one) for one in found.found}
    return {**_FINDINGS.dump_python(found, mode="json"), BASES: rests}


def found_in(draft: DraftForm, ruleset: RuleSet, progress: Progress) -> Findings:
    """What is found of a draft, or of another writing of it; raises Stopped."""
    form = compiled_draft(draft)
    today = form.today_at(timezone.now())
    task = FindingsTask(ruleset, draft.key, today, _rights(), _samples(draft, form))

    def goes_on(done: int) -> None:
        progress.tell(done, len(SEARCHES))

    return told_together(FindingsProcess(apart()).find(task, goes_on))


def _rights() -> Rights:
    """Whether anybody may lift holds, and approve."""
    roles = set(Person.objects.filter(is_active=True).values_list("role", flat=True))
    held = {right for role in roles for right in RIGHTS.get(role, ())}
    return Rights(Right.LIFT_HOLD in held, Right.APPROVE in held)


def _samples(draft: DraftForm, form: CompiledForm) -> dict[str, tuple[Decimal, ...]]:
    """The numbers that the newest records hold, by field."""
    numbers = [key for key, one in form.fields.items() if one.type.kind == "number"]
    found: dict[str, list[Decimal]] = {key: [] for key in numbers}
    newest_first = draft.records.order_by("-number").values_list("values", flat=True)
    for values in newest_first[:SAMPLES]:
        read = form.read({key: values[key] for key in numbers if key in values}).readings
        for key in numbers:
            if isinstance(read[key], Decimal):
                found[key].append(read[key])  # type: ignore[arg-type]
    return {key: tuple(one) for key, one in found.items()}


def fingerprint_now(draft: DraftForm) -> str:
    """The fingerprint of the findings of a draft as it is now."""
    searches = [one.looks.__name__ for one in SEARCHES]
    return findings_fingerprint(draft, _rights(), searches)


def dismiss(person: Person, form_key: str, fingerprint: str, reason: str) -> Dismissal:
    """Say that a finding is as it should be; refused where what it rests on has changed since."""
    draft = get_draft(form_key)
    finding = _finding_as_it_rests(draft, fingerprint)
    with transaction.atomic():
        aside, _ = Dismissal.objects.update_or_create(
            form=draft,
            fingerprint=fingerprint,
            defaults={
                "basis_fingerprint": basis_fingerprint(form_document(draft), finding),
                "reason": reason,
                "person": person,
                "who": person.shown_name,
            },
        )
        log(person, "set finding aside", form_key, TITLES[finding.code], note=reason)
    return aside


def take_up(person: Person, form_key: str, fingerprint: str) -> None:
    """Look at a finding again that was dismissed."""
    draft = get_draft(form_key)
    with transaction.atomic():
        gone, _ = Dismissal.objects.filter(form=draft, fingerprint=fingerprint).delete()
        if not gone:
            raise Http404(fingerprint)
        found = known_of(draft).findings or Findings()
        titles = [TITLES[one.code] for one in found.found if one.fingerprint == fingerprint]
        log(person, "take finding up again", form_key, (titles or [fingerprint])[0])


def asides_of(draft: DraftForm, findings: Findings) -> dict[str, Dismissal]:
    """By mark: what is dismissed, and rests on the same still."""
    asides = {one.fingerprint: one for one in Dismissal.objects.filter(form=draft)}
    form = form_document(draft)
    return {
        one.fingerprint: asides[one.fingerprint]
        for one in findings.found
        if one.fingerprint in asides
        and asides[one.fingerprint].basis_fingerprint == basis_fingerprint(form, one)
    }


def open_findings(draft: DraftForm) -> tuple[list[Finding], FindingsState]:
    """Those that are not dismissed."""
    known = known_of(draft)
    return [] if known.findings is None else _open(draft, known.findings), known


def _open(draft: DraftForm, findings: Findings) -> list[Finding]:
    asides = asides_of(draft, findings)
    return [one.finding for one in grouped(findings.found) if one.finding.fingerprint not in asides]


def counts_of_all(keys: Iterable[str]) -> Iterator[tuple[str, int, int, bool]]:
    """Return for each form how many findings are wrong and doubtful, and if that is current.

    Where it is not current, a search begins.
    """

    def counted(draft: DraftForm) -> tuple[str, int, int, bool] | None:
        known = known_of(draft)
        if known.findings is None or known.stale:
            bring_up_to_date(draft, None)
        if known.findings is None:
            return None
        findings = _open(draft, known.findings)
        wrong = sum(one.gravity == "wrong" for one in findings)
        return draft.key, wrong, len(findings) - wrong, not known.stale

    drafts = DraftForm.objects.filter(key__in=list(keys))
    yield from (one for one in of_each(drafts, counted) if one is not None)


def fix(person: Person, form_key: str, fingerprint: str) -> None:
    """Make the change that a finding proposes, all at once; it can be undone."""
    finding = _finding(get_draft(form_key), fingerprint)
    if finding.fix is None:
        raise Refusal(
            409,
            "no-fix",
            tr("There is no change that surely corrects this."),
            tr("{how} Change the rule by hand.", how=finding.how),
        )
    with changing(person, form_key) as change:
        names = names_of(compiled_draft(change.draft))
        for rule in finding.fix.rules:
            document = rule.model_dump(mode="json")
            change.put("change rule", DraftPart("rule", rule.key), document, names[rule.key])
        for key in finding.fix.removed:
            change.put("remove rule", DraftPart("rule", key), None, names[key])


def _finding(draft: DraftForm, fingerprint: str) -> Finding:
    """The finding with a mark, of the draft as it is."""
    known = known_of(draft)
    if known.findings is None or known.stale:
        raise Refusal(
            409,
            "changed-since",
            tr("The draft has changed since this was found."),
            tr("Wait until the search has run again, then see whether it still stands."),
        )
    for one in known.findings.found:
        if one.fingerprint == fingerprint:
            return one
    raise Http404(fingerprint)


def _finding_as_it_rests(draft: DraftForm, fingerprint: str) -> Finding:
    """The finding with a mark, as long as the rules and fields it rests on are as they were."""
    done = newest(FINDINGS, draft, JobState.DONE)
    found = _found_by(done)
    for one in found.found if found is not None else ():
        rested = (
            done.result.get(BASES, {}).get(fingerprint)
            if done is not None and done.result
            else None
        )
        if one.fingerprint == fingerprint and rested == basis_fingerprint(
            form_document(draft), one
        ):
            return one
    return _finding(draft, fingerprint)


def case_of(form: CompiledForm, witness: Witness, name: str, why: str) -> Case:
    """A witness as a case that expects what happens now."""
    return Case(
        key="drafted",
        name=name,
        suite="Findings",
        why=why,
        circumstances=witness.circumstances,
        values=witness.values,
        others=witness.others,
        expected=Observer(form).of_judged(witness.judged(form)).as_expected(),
    )


def words_of(form: CompiledForm, witness: Witness) -> dict[str, str]:
    """What a witness enters, in words, by field."""
    return entries_in_words(form, witness.values, CaseRecords(form, witness.others))


def under_way(draft: DraftForm) -> bool:
    """Whether it is being looked for now."""
    return newest(FINDINGS, draft, *UNDER_WAY) is not None
