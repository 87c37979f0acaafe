"""The desk: records listed, filled in, saved and submitted."""

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.ruleset import Field as FormField
from thistlequartz.server.forms.describing import sheet_view
from thistlequartz.server.forms.shapes import SheetView
from thistlequartz.server.judging.services import Trial, judge_all, waivers
from thistlequartz.server.judging.shapes import Applied, ReasonGiven, Reasons, TrialBody, Verdicts
from thistlequartz.server.judging.values import Values
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails

from . import removing, services
from .lookup import DatabaseLookup
from .models import Record
from .numbering import how_many

router = Router()
REFUSALS = {403: ProblemDetails, 404: ProblemDetails, 409: ProblemDetails, 422: ProblemDetails}
PAGE = 50
"""Records in one answer."""


class DeskForm(BaseModel):
    """What clerks fill in: the fields of the newest release."""

    key: str
    name: str
    release: int
    fields: list[FormField]
    sheet: SheetView


class RecordSummary(BaseModel):
    """A record in the list."""

    number: int
    title: str
    state: Literal["saved", "submitted"]
    outcome: Literal["clear", "noted", "warned"]
    on_hold: bool
    breaches: list[str]
    """The names of the rules it breaks."""
    release: int
    changed_by: str | None
    changed_at: datetime
    version: int


class RecordPage(BaseModel):
    """A part of the list, newest first."""

    total: int
    records: list[RecordSummary]


class KeptReason(ReasonGiven):
    """Why a warning was passed, by whom and when."""

    by: str
    at: datetime


class HoldLift(BaseModel):
    """The version of the record whose hold is lifted."""

    model_config = ConfigDict(extra="forbid")
    version: int


class FormRemoval(BaseModel):
    """The name of the form that is removed, as somebody typed it."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=200)] = ""


class RecordView(RecordSummary):
    """A record, whole."""

    values: Values
    reasons: dict[str, KeptReason]
    proposals_applied: list[str]


class Submission(BaseModel):
    """The values of a record, and the version they were made from (none for a new one)."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    version: int | None = None
    submit: bool = False
    reasons: Reasons = {}
    proposals_applied: Applied = []

    def entry(self) -> services.Submission:
        """What is stored, as the services take it."""
        return services.Submission(
            self.values, waivers(self.reasons), tuple(self.proposals_applied)
        )


class Listing(BaseModel):
    """Which records to list."""

    model_config = ConfigDict(extra="forbid")
    state: Literal["saved", "submitted"] | None = None
    outcome: Literal["clear", "noted", "warned"] | None = None
    on_hold: bool | None = None
    search: Annotated[str, Field(max_length=200)] = ""
    offset: Annotated[int, Field(ge=0, le=10_000_000)] = 0


def _summary(record: Record) -> RecordSummary:
    return RecordSummary.model_validate(
        {
            "number": record.number,
            "title": record.title,
            "state": record.state,
            "outcome": record.outcome,
            "on_hold": record.on_hold,
            "breaches": [breach.rule_name for breach in record.breaches.all()],
            "release": record.release.number,
            "changed_by": record.changed_by.shown_name if record.changed_by else None,
            "changed_at": record.changed_at,
            "version": record.version,
        }
    )


def _view(record: Record) -> RecordView:
    return RecordView(
        **dict(_summary(record)),
        values=services.as_entered(record),
        reasons=record.reasons,
        proposals_applied=record.applied,
    )


@router.get("/forms/{form_key}/desk", response={200: DeskForm, **REFUSALS})
def show_desk(request: HttpRequest, form_key: str) -> DeskForm:
    """The form as clerks fill it in now."""
    person = person_with(request, Right.READ)
    desk = services.desk_of(form_key)
    form = desk.compiled.form
    return DeskForm(
        key=form.key,
        name=form.name,
        release=desk.release.number,
        fields=list(form.fields),
        sheet=sheet_view(desk.compiled, timezone.now(), person.role),
    )


@router.post("/forms/{form_key}/desk/judge", response={200: Verdicts, **REFUSALS})
def judge_entry(request: HttpRequest, form_key: str, body: TrialBody) -> Verdicts:
    """What the newest release says of a record being filled in. Stores nothing."""
    person = person_with(request, Right.READ)
    compiled = services.desk_of(form_key).compiled
    if body.number is None:
        return judge_all(compiled, Trial.of(body, person.role, DatabaseLookup(form_key)))
    record = services.get_record(form_key, body.number)
    entry = services.Submission(body.values, waivers(body.reasons), tuple(body.proposals_applied))
    trial = services.trial_of(record, entry, person.role, tuple(body.touched))
    return judge_all(compiled, trial)


@router.get("/forms/{form_key}/records", response={200: RecordPage, **REFUSALS})
def list_records(request: HttpRequest, form_key: str, listing: Query[Listing]) -> RecordPage:
    """The records of a form, newest first, fifty at a time."""
    person_with(request, Right.READ)
    found = services.list_records(
        form_key,
        state=listing.state,
        outcome=listing.outcome,
        on_hold=listing.on_hold,
        search=listing.search,
    )
    page = found.prefetch_related("breaches")[listing.offset : listing.offset + PAGE]
    filters = (listing.state, listing.outcome, listing.on_hold, listing.search)
    everything = filters == (None, None, None, "")
    total = how_many(form_key, found, all_of_them=everything)
    return RecordPage(total=total, records=[_summary(record) for record in page])


@router.get("/forms/{form_key}/records/{number}", response={200: RecordView, **REFUSALS})
def show_record(request: HttpRequest, form_key: str, number: int) -> RecordView:
    """A record, whole."""
    person_with(request, Right.READ)
    return _view(services.get_record(form_key, number))


@router.post("/forms/{form_key}/records", response={201: RecordView, **REFUSALS})
def create_record(request: HttpRequest, form_key: str, body: Submission) -> Status[RecordView]:
    """Save a new record, or save and submit it."""
    person = person_with(request, Right.WRITE_RECORDS)
    record = services.store_record(person, form_key, body.entry(), submit=body.submit)
    return Status(201, _view(record))


@router.put("/forms/{form_key}/records/{number}", response={200: RecordView, **REFUSALS})
def change_record(request: HttpRequest, form_key: str, number: int, body: Submission) -> RecordView:
    """Save a changed record, or save and submit it, unless it was changed meanwhile."""
    person = person_with(request, Right.WRITE_RECORDS)
    record = services.store_record(
        person,
        form_key,
        body.entry(),
        submit=body.submit,
        number=number,
        version=body.version,
    )
    return _view(record)


@router.post("/forms/{form_key}/records/{number}/lift-hold", response={200: RecordView, **REFUSALS})
def lift_hold(request: HttpRequest, form_key: str, number: int, body: HoldLift) -> RecordView:
    """Take the hold off a record; refused, with what is missing, while a rule holds it up."""
    person = person_with(request, Right.LIFT_HOLD)
    return _view(services.lift_hold(person, form_key, number, body.version))


@router.post("/forms/{form_key}/removal", response={204: None, **REFUSALS})
def remove_form(request: HttpRequest, form_key: str, body: FormRemoval) -> Status[None]:
    """Remove a form with everything in it. Where records are stored, its name is typed first."""
    person = person_with(request, Right.RELEASE)
    removing.remove_form(person, form_key, body.name)
    return Status(204, None)
