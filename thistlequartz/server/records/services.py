"""Saving and submitting records. Whatever a screen says, the server judges again."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import cast

from django.db import transaction
from django.db.models import Max, QuerySet
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.evaluation import CompiledForm, Verdict
from thistlequartz.core.ruleset import Event, Moment, TextField
from thistlequartz.core.values import Value, to_json
from thistlequartz.server.activity.services import log
from thistlequartz.server.bench.services import judge_all, refuse_unknown
from thistlequartz.server.bench.shapes import Judgement
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal
from thistlequartz.server.releases.models import Release
from thistlequartz.server.releases.services import compiled_release, newest_release

from .models import Breach, Record, State

STORED_AT: dict[str, Moment] = {"saved": "save", "submitted": "submit"}


@dataclass(frozen=True, slots=True)
class Desk:
    """What clerks fill in now: the newest release of a form."""

    draft: DraftForm
    release: Release
    compiled: CompiledForm


def desk_of(form_key: str) -> Desk:
    """The newest release of a form; raises a Refusal (409) before there is one."""
    draft = get_draft(form_key)
    release = newest_release(draft)
    if release is None:
        raise Refusal(
            409,
            "not-released",
            f"{draft.name} has not been released yet.",
            "A steward releases it on the rules' page; then records can be filled in.",
        )
    return Desk(draft, release, compiled_release(release))


def list_records(
    form_key: str, *, state: str | None = None, outcome: str | None = None, search: str = ""
) -> QuerySet[Record]:
    """The records of a form, newest first."""
    records = get_draft(form_key).records.select_related("changed_by", "release")
    if state:
        records = records.filter(state=state)
    if outcome:
        records = records.filter(outcome=outcome)
    if search:
        records = records.filter(title__icontains=search)
    return cast("QuerySet[Record]", records)


def get_record(form_key: str, number: int) -> Record:
    """One record; raises Http404."""
    record = (
        Record.objects.filter(form__key=form_key, number=number)
        .select_related("form", "release", "changed_by")
        .first()
    )
    if record is None:
        raise Http404(number)
    return record


def store_record(
    person: Person,
    form_key: str,
    values: Mapping[str, object],
    *,
    submit: bool,
    number: int | None = None,
    version: int | None = None,
) -> Record:
    """Save a record, or save and submit it, in one transaction.

    Both moments are judged when submitting; a block at either refuses, and stores nothing.
    """
    with transaction.atomic():
        desk = desk_of(form_key)
        refuse_unknown(desk.compiled, values)
        record = _record_to_write(desk, number, version)
        state = State.SUBMITTED if submit else State.SAVED
        moments: tuple[Moment, ...] = ("save", "submit") if submit else ("save",)
        event: Event = "update" if record.pk else "create"
        verdicts = desk.compiled.judge_moments(
            values, moments=moments, today=timezone.localdate(), event=event, role=person.role
        )
        if not all(verdict.may_pass for verdict in verdicts.values()):
            everything = list(desk.compiled.vocabulary)
            judgement = judge_all(
                desk.compiled, values, event=event, role=person.role, touched=everything
            )
            raise _blocked(submit, judgement)
        before = record.values if record.pk else None
        _write(record, desk, verdicts[STORED_AT[state]], state, person)
        log(
            person,
            "submit record" if submit else "save record",
            form_key,
            f"Record {record.number}",
            before=before,
            after=record.values,
        )
        return record


def _record_to_write(desk: Desk, number: int | None, version: int | None) -> Record:
    # The form's row is the lock under which numbers are given.
    DraftForm.objects.select_for_update().get(pk=desk.draft.pk)
    if number is None:
        last = desk.draft.records.aggregate(last=Max("number"))["last"] or 0
        return Record(form=desk.draft, number=last + 1, values={}, version=0)
    record = get_record(desk.draft.key, number)
    if record.state == State.SUBMITTED:
        raise Refusal(
            409,
            "submitted-already",
            f"Record {number} has been submitted and can no longer be changed.",
            "Open it to look at it; nothing has been stored.",
        )
    if record.version != version:
        who = record.changed_by.shown_name if record.changed_by else "Somebody"
        raise Refusal(
            409,
            "changed-meanwhile",
            f"{who} has changed this record since you opened it.",
            "Your entries are still on your screen. Compare them with the newer version, then"
            " save again.",
            version=record.version,
            current=record.values,
        )
    return record


def _blocked(submit: bool, judgement: Judgement) -> Refusal:
    act = "submitted" if submit else "saved"
    return Refusal(
        422,
        "blocked",
        f"The record was not {act}.",
        "Mend what is named at the fields, then try again. Your entries are still on your screen.",
        judgement=judgement.model_dump(mode="json"),
    )


def _write(record: Record, desk: Desk, verdict: Verdict, state: str, person: Person) -> None:
    stored = {key: to_json(state.value) for key, state in verdict.fields.items()}
    record.values = {key: value for key, value in stored.items() if value is not None}
    record.title = _title(desk.compiled, {key: s.value for key, s in verdict.fields.items()})
    record.state = state
    record.outcome = verdict.outcome
    record.release = desk.release
    record.version += 1
    record.changed_by = person
    record.save()
    names = {rule.key: rule.name for rule in desk.compiled.form.rules}
    record.breaches.all().delete()
    Breach.objects.bulk_create(
        Breach(
            record=record,
            rule_key=result.rule,
            rule_name=names[result.rule],
            severity=result.severity,
        )
        for result in verdict.broken
    )


def _title(compiled: CompiledForm, values: Mapping[str, Value | None]) -> str:
    """The form's first two short texts, where they are filled in: what people know a record by."""
    short = [f.key for f in compiled.form.fields if isinstance(f, TextField) and not f.long][:2]
    return " · ".join(str(values[key]) for key in short if values.get(key))[:200]
