"""Saving and submitting records. Whatever a screen says, the server judges again."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from django.db import IntegrityError
from django.dispatch import Signal
from django.http import Http404

from thistlequartz.core.enumerations import Event
from thistlequartz.core.judging import CompiledForm, JudgeRequest, Verdict, Waiver
from thistlequartz.core.ruleset import EntryPoint, Moment
from thistlequartz.core.translation import LAST, tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.draft_edits import locked_draft
from thistlequartz.server.judging.services import (
    circumstances_now,
    judge_all,
    refuse_unknown,
)
from thistlequartz.server.judging.shapes import VerdictsView
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.coming import bring_locked
from thistlequartz.server.releases.services import (
    PreparationOutdated,
)

from .events import RecordEvent, occasions_of, tell
from .form_in_force import DeskForm, desk_of
from .lookup import DatabaseLookup
from .models import AT_REST, STATE_WORDS, Record, State
from .numbering import next_number
from .storing import PendingWrite, put_into, write_one
from .unique_keys import MOMENTS_OF

PEOPLE = ("changed_by", "keeper", "submitted_by", "decided_by")
ACTS = {
    State.IN_PROGRESS: "save record",
    State.RETURNED: "save record",
    State.SUBMITTED: "submit record",
    State.APPROVED: "approve record",
}


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
class SaveRequest:
    """A record as somebody sends it: its values, and what was decided while filling it in."""

    values: Mapping[str, object]
    reasons: Mapping[str, Waiver] = field(default_factory=dict)
    applied: tuple[str, ...] = ()
    idempotency_key: str = ""
    """A mark of this one sending; what is sent again after a lost connection is stored once."""
    entry_point: EntryPoint = "desk"
    layout: str | None = None


@dataclass(frozen=True, slots=True)
class SaveAttempt:
    """Somebody tried to save or submit a record, and what was said to it."""

    desk: DeskForm
    person: Person
    moment: Literal["save", "submit"]
    verdicts: Mapping[Moment, Verdict]
    record: Record | None = None
    """As it was stored; None: it was stopped."""
    newly_waived: Mapping[str, str] = field(default_factory=dict)
    """By rule, the reason for passing its warning, where that was not given before."""
    entry_point: EntryPoint = "desk"


attempted = Signal()
"""Somebody tried to store records: `attempts`. Sent in the transaction that stores them, or after
the one that was given up."""


class _Stopped(Exception):
    """A rule stopped it; whatever was begun in the transaction is given up."""

    def __init__(self, attempt: SaveAttempt, refusal: Refusal) -> None:
        super().__init__(str(refusal))
        self.attempt = attempt
        self.refusal = refusal


def _moment(submit: bool) -> Literal["save", "submit"]:
    return "submit" if submit else "save"


def reasons_for(record: Record, entry: SaveRequest) -> dict[str, Waiver]:
    """Return the reasons that count, by rule: those of `entry`, and those given before."""
    before = {key: Waiver(one["text"], one["basis"]) for key, one in record.reasons.items()}
    return {**before, **entry.reasons}


def request_to_save(
    compiled: CompiledForm,
    record: Record,
    entry: SaveRequest,
    role: str,
    touched: Iterable[str] = (),
) -> JudgeRequest:
    """Return `entry` as it is judged against what is stored. Reasons given before still count."""
    stored = record.values if record.pk else None
    event: Event = "create" if stored is None else "update"
    return JudgeRequest(
        entry.values,
        circumstances_now(compiled, role, event, entry.entry_point, entry.layout),
        stored=stored,
        lookup=DatabaseLookup(record.form.key, record.pk, discreet=entry.entry_point == "link"),
        touched=frozenset(touched),
        waivers=reasons_for(record, entry),
        applied=entry.applied,
        held=record.on_hold,
    )


def store_record(
    person: Person,
    form_key: str,
    entry: SaveRequest,
    *,
    submit: bool,
    approve: bool = False,
    number: int | None = None,
    revision: int | None = None,
) -> Record:
    """Save a record, or save and submit it, in one transaction; who may approves it at once.

    Both moments are judged when submitting; a block at either refuses, and stores nothing.
    """
    try:
        return _store(person, form_key, entry, submit, approve, number, revision)
    except _Stopped as stopped:
        # Nothing of it is stored; that it was tried and what stopped it is counted.
        attempted.send(Record, attempts=(stopped.attempt,))
        raise stopped.refusal from None


@in_one_go
def _store(
    person: Person,
    form_key: str,
    entry: SaveRequest,
    submit: bool,
    approve: bool,
    number: int | None,
    revision: int | None,
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
    record = _record_to_write(desk, person, number, revision)
    state = state_after(record, submit=submit, approve=approve)
    request = request_to_save(desk.compiled, record, entry, role_of(person, form_key))
    verdicts = desk.compiled.verdicts(request, MOMENTS_OF[state])
    if not all(verdict.may_pass for verdict in verdicts.values()):
        told = replace(request, touched=frozenset(desk.compiled.entries))
        judgement = judge_all(desk.compiled, told, person.style)
        refusal = RecordRefused(submit, desk.compiled, verdicts, judgement)
        stopped = SaveAttempt(
            desk, person, _moment(submit), verdicts, entry_point=entry.entry_point
        )
        raise _Stopped(stopped, refusal)
    before = record.values if record.pk else None
    held_before = record.on_hold
    record.idempotency_key = entry.idempotency_key
    put = put_into(record, desk, verdicts, state, person, reasons_for(record, entry))
    _write(put, desk)
    attempt = SaveAttempt(
        desk, person, _moment(submit), verdicts, record, put.waived, entry.entry_point
    )
    attempted.send(Record, attempts=(attempt,))
    occasions = occasions_of(record, held_before=held_before)
    tell([RecordEvent(desk, record, occasions, person, entry.entry_point, before)])
    log(
        person,
        ACTS[state],
        form_key,
        tr("Record {number}", number=record.number),
        before=before,
        after=record.values,
    )
    return record


@in_one_go
def lift_hold(person: Person, form_key: str, number: int, revision: int) -> Record:
    """Take the hold off a record; refused, with what is missing, while a rule holds it up."""
    desk = locked_desk(form_key)
    record = _record_to_write(desk, person, number, revision)
    if not record.on_hold:
        raise Refusal(
            409,
            "not-held",
            tr("Record {number} is not on hold.", number=number),
            tr("There is nothing to release; somebody may have done so already."),
        )
    entry = SaveRequest(as_entered(record))
    request = request_to_save(desk.compiled, record, entry, role_of(person, form_key))
    verdict = desk.compiled.verdicts(replace(request, held=False), ("save",))["save"]
    if verdict.held_by:
        raise Refusal(
            409,
            "still-held",
            tr("Record {number} stays on hold: something is still missing.", number=number),
            tr("Fill in what is named below and save, then release it from hold."),
            [
                ProblemItem(place=f"values.{message.fields[0]}", message=message.text)
                for result in verdict.results
                if result.rule in verdict.held_by
                for message in result.messages
            ],
        )
    record.on_hold, record.held_since = False, None
    record.revision += 1
    record.changed_by = person
    record.save()
    log(person, "lift hold", form_key, tr("Record {number}", number=number))
    return record


def state_after(record: Record, *, submit: bool, approve: bool = False) -> State:
    """How far a record has come once it is stored."""
    if approve:
        return State.APPROVED
    if submit:
        return State.SUBMITTED
    # Saving alone answers no remark: it stays returned until it is submitted.
    return State.RETURNED if record.state == State.RETURNED else State.IN_PROGRESS


def locked_desk(form_key: str) -> DeskForm:
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
    except PreparationOutdated:
        raise Refusal(
            503,
            "coming-into-force",
            tr(
                "A new release has just come into force, and stored records are being prepared "
                "for it."
            ),
            tr("Try again in a moment; nothing has been stored yet."),
        ) from None


def _stored_already(person: Person, desk: DeskForm, entry: SaveRequest) -> Record | None:
    """The record that this very sending has stored, where its answer did not arrive."""
    if not entry.idempotency_key:
        return None
    return desk.draft.records.filter(
        idempotency_key=entry.idempotency_key, changed_by=person
    ).first()


def _record_to_write(
    desk: DeskForm, person: Person, number: int | None, revision: int | None
) -> Record:
    if number is None:
        number = next_number(desk.draft)
        return Record(form=desk.draft, number=number, values={}, revision=0, keeper=person)
    record = get_record(desk.draft.key, number)
    if record.state in AT_REST:
        raise Refusal(
            409,
            f"{record.state}-already",
            at_rest_words(record),
            tr("{way_back} Nothing has been stored.", way_back=_WAY_BACK[State(record.state)]),
        )
    # A hold that was lifted meanwhile has touched nothing that was entered.
    if revision is None or not record.values_revision <= revision <= record.revision:
        refuse_older(record, revision)
    return record


def at_rest_words(record: Record) -> str:
    """Why a record that was submitted or approved is not changed."""
    done = STATE_WORDS[State(record.state)]
    return tr(
        "Record {number} has been {done} and can no longer be changed.",
        number=record.number,
        done=done,
    )


_WAY_BACK = {
    State.SUBMITTED: tr("Whoever submitted it can take it back first."),
    State.APPROVED: tr("An approver can return it with a remark first."),
}


def refuse_older(record: Record, revision: int | None) -> None:
    """Raise a Refusal (409), with the record as it is, where it is another version by now."""
    if record.revision != revision:
        who = record.changed_by.shown_name if record.changed_by else "Somebody"
        raise Refusal(
            409,
            "changed-meanwhile",
            tr("{who} has changed this record since you opened it.", who=who),
            tr(
                "Your entries are still on your screen. Compare them with the newer version, "
                "then save again."
            ),
            revision=record.revision,
            current=as_entered(record),
        )


class RecordRefused(Refusal):
    """A record that was not stored, with the verdicts that say why."""

    def __init__(
        self,
        submit: bool,
        compiled: CompiledForm,
        verdicts: Mapping[Moment, Verdict],
        judgement: VerdictsView,
    ) -> None:
        self.verdicts = verdicts
        obstacles = [one for verdict in verdicts.values() for one in verdict.obstacles()]
        beside = [one.text for one in obstacles if not one.field]
        lacking = dict.fromkeys(
            compiled.fields[one.field].label for one in obstacles if one.lacks_reason
        )
        if any(one.field and not one.lacks_reason for one in obstacles):
            remedy = tr("Correct what is named at the fields, then try again.")
        elif lacking:
            remedy = tr(
                "Give a reason at {lacking}, then try again.", lacking=LAST["and"].join(lacking)
            )
        else:
            remedy = tr("Nothing is to be corrected at the fields.")
        super().__init__(
            422,
            "blocked",
            tr("The record was not submitted.") if submit else tr("The record was not saved."),
            " ".join([*beside, remedy, tr("Your entries are still on your screen.")]),
            judgement=judgement.model_dump(mode="json"),
        )


def _write(put: PendingWrite, desk: DeskForm) -> None:
    try:
        write_one(put, desk)
    except IntegrityError:
        raise Refusal(
            409,
            "taken-meanwhile",
            tr("Another record with the same values was stored a moment ago."),
            tr("Look at that record; yours was not stored, and stands on your screen as it was."),
        ) from None
