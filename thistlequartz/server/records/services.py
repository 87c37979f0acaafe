"""Saving and submitting records. Whatever a screen says, the server judges again."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any, Literal

from django.db import IntegrityError, transaction
from django.dispatch import Signal
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.judging import CompiledForm, Verdict, Waiver
from thistlequartz.core.ruleset import EntryPoint, Moment, record_title
from thistlequartz.core.values import to_json
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.changing import locked_draft
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.in_force import release_in_force
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.judging.services import Trial, judge_all, refuse_unknown, verdicts_of
from thistlequartz.server.judging.shapes import Verdicts
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.coming import bring_locked
from thistlequartz.server.releases.models import Release
from thistlequartz.server.releases.services import (
    COMPILED_RELEASES_KEPT,
    NotPrepared,
    compiled_release,
)

from .indexing import index_record
from .lookup import DatabaseLookup
from .models import AT_REST, LONGEST_TITLE, Breach, Record, State, UniqueKey
from .numbering import next_number
from .uniqueness import MOMENTS_OF, claiming, generation_of, keys_of

PEOPLE = ("changed_by", "keeper", "submitted_by", "decided_by")
ACTS = {
    State.SAVED: "save record",
    State.SENT_BACK: "save record",
    State.SUBMITTED: "submit record",
    State.APPROVED: "approve record",
}


@dataclass(frozen=True, slots=True)
class Desk:
    """What clerks fill in now: the release of a form that is in force."""

    draft: DraftForm
    release: Release
    compiled: CompiledForm
    generation: str
    """What the unique keys of records are made for."""


def desk_of(form_key: str) -> Desk:
    """The release of a form that is in force; raises a Refusal (409) before there is one."""
    draft = get_draft(form_key)
    release = release_in_force(draft)
    if release is None:
        raise Refusal(
            409,
            "not-released",
            f"No release of {draft.name} is in force yet.",
            "A steward releases it; then records can be filled in.",
        )
    return Desk(draft, release, compiled_release(release), _generation(release.pk))


@lru_cache(maxsize=COMPILED_RELEASES_KEPT)
def _generation(release: int) -> str:
    return generation_of(compiled_release(Release.objects.get(pk=release)))


def get_record(form_key: str, number: int) -> Record:
    """One record; raises Http404."""
    record = (
        Record.objects.filter(form__key=form_key, number=number)
        .select_related("form", "release", *PEOPLE)
        .first()
    )
    if record is None:
        raise Http404(number)
    return record


def as_entered(record: Record) -> dict[str, Any]:
    """What a record holds, as it is entered in the form as it is filled in now."""
    return desk_of(record.form.key).compiled.as_entered(record.values)


@dataclass(frozen=True, slots=True)
class Submission:
    """A record as somebody sends it: its values, and what was decided while filling it in."""

    values: Mapping[str, object]
    reasons: Mapping[str, Waiver] = field(default_factory=dict)
    applied: tuple[str, ...] = ()
    sent_as: str = ""
    """A mark of this one sending; what is sent again after a lost connection is stored once."""


@dataclass(frozen=True, slots=True)
class Attempt:
    """Somebody tried to save or submit a record, and what was said to it."""

    desk: Desk
    person: Person
    moment: Literal["save", "submit"]
    verdicts: Mapping[Moment, Verdict]
    record: Record | None = None
    """As it was stored; None: it was stopped."""
    newly_waived: Mapping[str, str] = field(default_factory=dict)
    """By rule, the reason for passing its warning, where that was not given before."""
    door: EntryPoint = "desk"


attempted = Signal()
"""Somebody tried to store a record: `attempt`. Sent in the transaction that stores it, or after the
one that was given up."""


class _Stopped(Exception):
    """A rule stopped it; whatever was begun in the transaction is given up."""

    def __init__(self, attempt: Attempt, refusal: Refusal) -> None:
        super().__init__(str(refusal))
        self.attempt = attempt
        self.refusal = refusal


def _moment(submit: bool) -> Literal["save", "submit"]:
    return "submit" if submit else "save"


def trial_of(record: Record, entry: Submission, role: str, touched: tuple[str, ...] = ()) -> Trial:
    """`entry` as it is judged against what is stored. Reasons given before still count."""
    stored = record.values if record.pk else None
    before = {key: Waiver(one["text"], one["basis"]) for key, one in record.reasons.items()}
    return Trial(
        values=entry.values,
        role=role,
        lookup=DatabaseLookup(record.form.key, record.pk),
        event="create" if stored is None else "update",
        stored=stored,
        held=record.on_hold,
        touched=touched,
        reasons={**before, **entry.reasons},
        applied=entry.applied,
    )


def store_record(
    person: Person,
    form_key: str,
    entry: Submission,
    *,
    submit: bool,
    approve: bool = False,
    number: int | None = None,
    version: int | None = None,
) -> Record:
    """Save a record, or save and submit it, in one transaction; who may approves it at once.

    Both moments are judged when submitting; a block at either refuses, and stores nothing.
    """
    try:
        return _store(person, form_key, entry, submit, approve, number, version)
    except _Stopped as stopped:
        # Nothing of it is stored; that it was tried and what stopped it is counted.
        attempted.send(Record, attempt=stopped.attempt)
        raise stopped.refusal from None


@in_one_go
def _store(
    person: Person,
    form_key: str,
    entry: Submission,
    submit: bool,
    approve: bool,
    number: int | None,
    version: int | None,
) -> Record:
    desk = locked_desk(form_key)
    known = _stored_already(person, desk, entry)
    if known is not None:
        return known
    refuse_unknown(
        desk.compiled,
        entry.values,
        rules={"reasons": entry.reasons, "proposals_applied": entry.applied},
    )
    record = _record_to_write(desk, person, number, version)
    state = _state_after(record, submit=submit, approve=approve)
    trial = trial_of(record, entry, role_of(person, form_key))
    verdicts = verdicts_of(desk.compiled, trial, MOMENTS_OF[state])
    if not all(verdict.may_pass for verdict in verdicts.values()):
        told = replace(trial, touched=tuple(desk.compiled.entries))
        judgement = judge_all(desk.compiled, told, person.style)
        refusal = _blocked(submit, desk.compiled, verdicts, judgement)
        raise _Stopped(Attempt(desk, person, _moment(submit), verdicts), refusal)
    before = record.values if record.pk else None
    record.sent_as = entry.sent_as
    if submit:
        record.submitted_by, record.submitted_at = person, timezone.now()
    if state == State.APPROVED:
        record.decided_by, record.decided_at = person, timezone.now()
    _write(record, desk, verdicts, state, person)
    waived = _keep_decisions(record, verdicts, trial, person)
    attempted.send(Record, attempt=Attempt(desk, person, _moment(submit), verdicts, record, waived))
    log(
        person,
        ACTS[state],
        form_key,
        f"Record {record.number}",
        before=before,
        after=record.values,
    )
    return record


@in_one_go
def lift_hold(person: Person, form_key: str, number: int, version: int) -> Record:
    """Take the hold off a record; refused, with what is missing, while a rule holds it up."""
    desk = locked_desk(form_key)
    record = _record_to_write(desk, person, number, version)
    if not record.on_hold:
        raise Refusal(
            409,
            "not-held",
            f"Record {number} is not on hold.",
            "There is nothing to lift; somebody may have done so already.",
        )
    trial = replace(
        trial_of(record, Submission(as_entered(record)), role_of(person, form_key)), held=False
    )
    verdict = verdicts_of(desk.compiled, trial, ("save",))["save"]
    if verdict.held_by:
        raise Refusal(
            409,
            "still-held",
            f"Record {number} stays on hold: something is still missing.",
            "Fill in what is named below and save, then lift the hold.",
            [
                ProblemItem(place=f"values.{message.fields[0]}", message=message.text)
                for result in verdict.results
                if result.rule in verdict.held_by
                for message in result.messages
            ],
        )
    record.on_hold, record.held_since = False, None
    record.version += 1
    record.changed_by = person
    record.save()
    log(person, "lift hold", form_key, f"Record {number}")
    return record


def _state_after(record: Record, *, submit: bool, approve: bool) -> State:
    if approve:
        return State.APPROVED
    if submit:
        return State.SUBMITTED
    # Saving alone answers no remark: it stays sent back until it is submitted.
    return State.SENT_BACK if record.state == State.SENT_BACK else State.SAVED


def locked_desk(form_key: str) -> Desk:
    """The form is locked first and its release read then, so that no release comes between."""
    locked_draft(form_key)
    desk = desk_of(form_key)
    if desk.release.brought_at is None:
        _bring(form_key)
        desk = desk_of(form_key)
    return desk


def _bring(form_key: str) -> None:
    """A release came into force a moment ago, and the worker has not been here yet."""
    try:
        bring_locked(form_key)
    except NotPrepared:
        raise Refusal(
            503,
            "coming-into-force",
            "A new release has just come into force, and stored records are being prepared for it.",
            "Try again in a moment; nothing has been stored yet.",
        ) from None


def _stored_already(person: Person, desk: Desk, entry: Submission) -> Record | None:
    """The record that this very sending has stored, where its answer did not arrive."""
    if not entry.sent_as:
        return None
    return desk.draft.records.filter(sent_as=entry.sent_as, changed_by=person).first()


def _record_to_write(desk: Desk, person: Person, number: int | None, version: int | None) -> Record:
    if number is None:
        number = next_number(desk.draft)
        return Record(form=desk.draft, number=number, values={}, version=0, keeper=person)
    record = get_record(desk.draft.key, number)
    if record.state in AT_REST:
        done, way = _AT_REST_WORDS[State(record.state)]
        raise Refusal(
            409,
            f"{record.state}-already",
            f"Record {number} has been {done} and can no longer be changed.",
            f"{way} Nothing has been stored.",
        )
    refuse_older(record, version)
    return record


_AT_REST_WORDS = {
    State.SUBMITTED: ("submitted", "Whoever submitted it can take it back first."),
    State.APPROVED: ("approved", "An approver can send it back with a remark first."),
}


def refuse_older(record: Record, version: int | None) -> None:
    """Raise a Refusal (409), with the record as it is, where it is another version by now."""
    if record.version != version:
        who = record.changed_by.shown_name if record.changed_by else "Somebody"
        raise Refusal(
            409,
            "changed-meanwhile",
            f"{who} has changed this record since you opened it.",
            "Your entries are still on your screen. Compare them with the newer version, then"
            " save again.",
            version=record.version,
            current=as_entered(record),
        )


def _blocked(
    submit: bool,
    compiled: CompiledForm,
    verdicts: Mapping[Moment, Verdict],
    judgement: Verdicts,
) -> Refusal:
    act = "submitted" if submit else "saved"
    beside = [said for verdict in verdicts.values() for said in verdict.refusals]
    at_fields = any(_stops_at_a_field(verdict) for verdict in verdicts.values())
    lacking = dict.fromkeys(
        compiled.fields[result.messages[0].fields[0]].label
        for verdict in verdicts.values()
        for result in verdict.results
        if result.waiver in ("demanded", "lapsed")
    )
    if at_fields:
        mend = "Mend what is named at the fields, then try again."
    elif lacking:
        mend = f"Give a reason at {' and '.join(lacking)}, then try again."
    else:
        mend = "Nothing is to be mended at the fields."
    return Refusal(
        422,
        "blocked",
        f"The record was not {act}.",
        " ".join([*beside, mend, "Your entries are still on your screen."]),
        judgement=judgement.model_dump(mode="json"),
    )


def _stops_at_a_field(verdict: Verdict) -> bool:
    hardest = verdict.violated[0].severity if verdict.violated else "off"
    return hardest == "block" or any(state.fault for state in verdict.fields.values())


def _write(
    record: Record, desk: Desk, verdicts: Mapping[Moment, Verdict], state: str, person: Person
) -> None:
    verdict = verdicts[MOMENTS_OF[state][-1]]
    values = verdict.stores or {}
    record.values = {key: to_json(value) for key, value in values.items()}
    record.title = record_title(desk.compiled.fields, values)[:LONGEST_TITLE]
    record.state = state
    record.outcome = verdict.outcome
    record.on_hold = verdict.on_hold
    record.held_since = (record.held_since or timezone.now()) if verdict.on_hold else None
    record.release = desk.release
    record.prepared_for = desk.generation
    record.version += 1
    record.changed_by = person
    record.save()
    index_record(record, desk.compiled, values)
    names = {rule.key: rule.name for rule in desk.compiled.form.rules}
    record.breaches.all().delete()
    Breach.objects.bulk_create(
        Breach(
            record=record,
            rule_key=result.rule,
            rule_name=names[result.rule],
            severity=result.severity,
        )
        for result in verdict.violated
    )
    record.unique_keys.all().delete()
    try:
        with transaction.atomic():
            claimed = claiming(verdicts.values())
            keys = keys_of(record, desk.compiled, values, claimed, record.prepared_for)
            UniqueKey.objects.bulk_create(keys)
    except IntegrityError:
        raise Refusal(
            409,
            "taken-meanwhile",
            "Another record with the same values was stored a moment ago.",
            "Look at that record; yours was not stored, and stands on your screen as it was.",
        ) from None


def _keep_decisions(
    record: Record, verdicts: Mapping[Moment, Verdict], trial: Trial, person: Person
) -> dict[str, str]:
    """Keep who passed which warning when and why, and which proposals were applied; gives the
    reasons that are new.
    """
    given = {
        result.rule: result.basis
        for verdict in verdicts.values()
        for result in verdict.results
        if result.waiver == "given"
    }
    kept, new = {}, {}
    for rule, basis in given.items():
        before = record.reasons.get(rule)
        text = trial.reasons[rule].text
        if before and (before["text"], before["basis"]) == (text, basis):
            kept[rule] = before
        else:
            now = timezone.now().isoformat()
            new[rule] = text
            kept[rule] = {"text": text, "basis": basis, "by": person.shown_name, "at": now}
    record.reasons = kept
    last = list(verdicts.values())[-1]
    before = set(record.applied)
    # One that governing values have overtaken since stays; one that was never offered is no choice.
    record.applied = [
        one.rule
        for one in last.proposals
        if one.state == "applied" or (one.state == "overtaken" and one.rule in before)
    ]
    record.save(update_fields=["reasons", "applied"])
    return new
