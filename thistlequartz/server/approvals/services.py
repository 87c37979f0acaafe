"""What becomes of a record that was submitted: approved, returned, or taken back.

A submitted record is never changed where it lies: it goes back to somebody first, and why is kept.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from django.http import Http404
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, may, role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.events import Occasion, RecordEvent, tell
from thistlequartz.server.records.form_in_force import DeskForm
from thistlequartz.server.records.models import AT_REST, STATE_WORDS, Record, State
from thistlequartz.server.records.services import (
    SaveRequest,
    as_entered,
    get_record,
    locked_desk,
    refuse_older,
    request_to_save,
)
from thistlequartz.server.records.unique_keys import MOMENTS_OF


@in_one_go
def approve(person: Person, form_key: str, number: int, revision: int) -> Record:
    """Approve a submitted record, as far as the release in force still lets it through.

    Its values stay as they were submitted.
    """
    desk = locked_desk(form_key)
    record = get_record(form_key, number)
    if record.state != State.SUBMITTED:
        raise _not_submitted(record, "approved")
    refuse_older(record, revision)
    _refuse_blocked(desk, record, person)
    record.state = State.APPROVED
    return _decided(person, desk, record, "approve record", "approved")


@in_one_go
def return_record(
    person: Person, form_key: str, number: int, revision: int, remark: str, to: str | None = None
) -> Record:
    """Send a submitted or approved record back with a remark: to who submitted it, or to `to`."""
    if not remark.strip():
        raise Refusal(
            422,
            "no-remark",
            tr("A record is returned with a remark only."),
            tr("Say what is to be corrected, then return it."),
            [ProblemItem(place="remark", message=tr("The remark is blank."))],
        )
    desk = locked_desk(form_key)
    record = get_record(form_key, number)
    if record.state not in AT_REST:
        raise _not_submitted(record, tr("returned"))
    refuse_older(record, revision)
    receiver = _receiver(to, form_key) if to else record.submitted_by or record.keeper
    if receiver is None or not receiver.is_active:
        raise _nobody_left(record)
    record.keeper = receiver
    record.state = State.RETURNED
    record.remark = remark.strip()
    note = tr("{remark} To {name}.", remark=record.remark, name=receiver.shown_name)
    return _decided(person, desk, record, "send record back", "returned", note)


@in_one_go
def take_back(person: Person, form_key: str, number: int, revision: int) -> Record:
    """Take back what one has submitted oneself, to go on writing it."""
    locked_desk(form_key)
    record = get_record(form_key, number)
    if record.state != State.SUBMITTED:
        raise _not_submitted(record, tr("taken back"))
    refuse_older(record, revision)
    if record.submitted_by_id != person.pk:
        who = record.submitted_by.shown_name if record.submitted_by else tr("somebody else")
        raise Refusal(
            403,
            "not-yours",
            tr(
                "Record {number} was submitted by {who}, who alone can take it back.",
                number=number,
                who=who,
            ),
            tr("An approver can return it with a remark instead."),
        )
    record.state = State.IN_PROGRESS
    record.keeper = person
    return _stored(person, record, "take record back")


@dataclass(frozen=True, slots=True)
class ApprovalResult:
    """What came of one of several records."""

    number: int
    record: Record | None = None
    refusal: Refusal | None = None


def each(
    records: Iterable[tuple[int, int]], decide: Callable[[int, int], Record]
) -> list[ApprovalResult]:
    """Decide on each record (number and version) by itself: one that is refused stops no other."""
    done = []
    for number, revision in records:
        try:
            done.append(ApprovalResult(number, record=decide(number, revision)))
        except Refusal as refusal:
            done.append(ApprovalResult(number, refusal=refusal))
        except Http404:
            gone = Refusal(
                404,
                "not-found",
                tr("There is no record {number}.", number=number),
                tr("It may be gone."),
            )
            done.append(ApprovalResult(number, refusal=gone))
    return done


def _refuse_blocked(desk: DeskForm, record: Record, person: Person) -> None:
    role = role_of(person, desk.draft.key)
    request = request_to_save(desk.compiled, record, SaveRequest(as_entered(record)), role)
    verdicts = desk.compiled.verdicts(request, MOMENTS_OF[State.SUBMITTED])
    if all(verdict.may_pass for verdict in verdicts.values()):
        return
    errors = {
        (message.fields[0], message.text): ProblemItem(
            place=f"values.{message.fields[0]}", message=message.text
        )
        for verdict in verdicts.values()
        for result in verdict.results
        if result.blocks
        for message in result.messages
    }
    raise Refusal(
        422,
        "not-approved",
        tr(
            "Record {number} was not approved: release {release} refuses it.",
            number=record.number,
            release=desk.release.number,
        ),
        tr("Return it with a remark, so that it is corrected and submitted again."),
        errors.values(),
    )


def _nobody_left(record: Record) -> Refusal:
    who = record.submitted_by.shown_name if record.submitted_by else tr("nobody who is still here")
    return Refusal(
        422,
        "no-receiver",
        tr(
            "Record {number} was submitted by {who}, who cannot go on with it.",
            number=record.number,
            who=who,
        ),
        tr("Choose to whom it is returned."),
        [ProblemItem(place="to", message=tr("Nobody is chosen."))],
    )


def _receiver(name: str, form_key: str) -> Person:
    person = Person.objects.filter(username=name, is_active=True).first()
    if person is None or not may(person, Right.WRITE_RECORDS, form_key):
        raise Refusal(
            422,
            "no-receiver",
            tr("A record cannot be returned to {name}.", name=name),
            tr("Choose somebody with an account who may write records."),
            [ProblemItem(place="to", message=tr("Nobody of that name may write records."))],
        )
    return person


def _not_submitted(record: Record, wanted: str) -> Refusal:
    return Refusal(
        409,
        "not-submitted",
        tr(
            "Record {number} cannot be {wanted}: it is {state}.",
            number=record.number,
            wanted=wanted,
            state=STATE_WORDS[State(record.state)],
        ),
        tr("Somebody may have decided on it already; open it to see how it stands."),
    )


def _decided(
    person: Person, desk: DeskForm, record: Record, act: str, occasion: Occasion, note: str = ""
) -> Record:
    record.decided_by, record.decided_at = person, timezone.now()
    stored = _stored(person, record, act, note)
    tell([RecordEvent(desk, record, (occasion,), person, before=record.values)])
    return stored


def _stored(person: Person, record: Record, act: str, note: str = "") -> Record:
    record.revision += 1
    record.changed_by = person
    record.save()
    log(person, act, record.form.key, tr("Record {number}", number=record.number), note=note)
    return record
