"""Records at the desk: filled in, saved, submitted, and removed."""

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Status

from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.forms.views import sheet_view
from thistlequartz.server.judging.services import judge_all, request_of, waivers
from thistlequartz.server.judging.shapes import JudgeBody, VerdictsView
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, person_with, role_of
from thistlequartz.server.records import removal as removing
from thistlequartz.server.records import services
from thistlequartz.server.records.comparison import differences
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.list_pages import page_of
from thistlequartz.server.records.search import can_be_asked, find
from thistlequartz.server.releases.services import compiled_release

from ..columns import columns_of
from ..lookup import DatabaseLookup
from ..shapes import (
    ComparisonBody,
    ComparisonView,
    DeskFormView,
    DifferenceView,
    FormRemoval,
    Listing,
    RecordPage,
    RecordView,
    SaveBody,
    VersionOf,
    name_of,
    summary_of,
    view_of,
)

router = Router()


@router.get("/forms/{form_key}/desk", response={200: DeskFormView})
def show_desk(request: HttpRequest, form_key: str) -> DeskFormView:
    """The form as clerks fill it in now."""
    person = person_with(request, Right.READ)
    desk = desk_of(form_key)
    form = desk.compiled.form
    return DeskFormView(
        key=form.key,
        name=form.name,
        release=desk.release.number,
        fields=list(form.fields),
        sheet=sheet_view(desk.compiled, timezone.now(), role_of(person, form_key)),
        asked_by=can_be_asked(desk.compiled),
        rules={one.rule.key: one.rule.name for one in desk.compiled.rules if one.check_kind},
    )


@router.post("/forms/{form_key}/desk/judge", response={200: VerdictsView})
def judge_entry(request: HttpRequest, form_key: str, body: JudgeBody) -> VerdictsView:
    """What the release in force says of a record being filled in. Stores nothing."""
    person = person_with(request, Right.READ)
    compiled = desk_of(form_key).compiled
    if body.number is None:
        asked = request_of(compiled, body, role_of(person, form_key), DatabaseLookup(form_key))
        return judge_all(compiled, asked, person.style)
    record = services.get_record(form_key, body.number)
    entry = services.SaveRequest(body.values, waivers(body.reasons), tuple(body.proposals_applied))
    asked = services.request_to_save(
        compiled, record, entry, role_of(person, form_key), body.touched
    )
    return judge_all(compiled, asked, person.style)


@router.get("/forms/{form_key}/records", response={200: RecordPage})
def list_records(request: HttpRequest, form_key: str, listing: Query[Listing]) -> RecordPage:
    """The records of a form, newest first unless asked otherwise, fifty at a time."""
    style = person_with(request, Right.READ).style
    draft = get_draft(form_key)
    release = release_in_force(draft)
    compiled = compiled_release(release) if release else None
    wanted = listing.wanted()
    found = find(draft.pk, compiled, wanted)
    part = page_of(draft.pk, found, listing.offset, values=bool(listing.columns))
    page = part.records
    shown = columns_of(page, compiled, listing.columns, style) if compiled else [{} for _ in page]
    records = [summary_of(record, row) for record, row in zip(page, shown, strict=True)]
    return RecordPage(total=part.total, more=part.more, records=records)


@router.get("/forms/{form_key}/records/{number}", response={200: RecordView})
def show_record(request: HttpRequest, form_key: str, number: int) -> RecordView:
    """A record, whole."""
    person = person_with(request, Right.READ)
    return view_of(services.get_record(form_key, number), person)


@router.post("/forms/{form_key}/records", response={201: RecordView})
def create_record(request: HttpRequest, form_key: str, body: SaveBody) -> Status[RecordView]:
    """Save a new record, or save and submit it."""
    person = _writer(request, body)
    record = services.store_record(
        person, form_key, body.entry(), submit=body.submit, approve=body.approve
    )
    return Status(201, view_of(record, person))


@router.put("/forms/{form_key}/records/{number}", response={200: RecordView})
def change_record(request: HttpRequest, form_key: str, number: int, body: SaveBody) -> RecordView:
    """Save a changed record, or save and submit it, unless it was changed meanwhile."""
    person = _writer(request, body)
    record = services.store_record(
        person,
        form_key,
        body.entry(),
        submit=body.submit,
        approve=body.approve,
        number=number,
        revision=body.revision,
    )
    return view_of(record, person)


@router.post(
    "/forms/{form_key}/records/{number}/differences",
    response={200: ComparisonView},
)
def compare_record(
    request: HttpRequest, form_key: str, number: int, body: ComparisonBody
) -> ComparisonView:
    """The record as it is stored by now, beside what somebody has on the screen."""
    style = person_with(request, Right.READ).style
    compiled = desk_of(form_key).compiled
    record = services.get_record(form_key, number)
    found = differences(record, compiled, body.values, style)
    return ComparisonView(
        revision=record.revision,
        changed_by=name_of(record.changed_by),
        changed_at=record.changed_at,
        differences=[DifferenceView.model_validate(one) for one in found],
    )


@router.post("/forms/{form_key}/records/{number}/lift-hold", response={200: RecordView})
def lift_hold(request: HttpRequest, form_key: str, number: int, body: VersionOf) -> RecordView:
    """Take the hold off a record; refused, with what is missing, while a rule holds it up."""
    person = person_with(request, Right.LIFT_HOLD)
    return view_of(services.lift_hold(person, form_key, number, body.revision), person)


def _writer(request: HttpRequest, body: SaveBody) -> Person:
    if body.approve:
        person_with(request, Right.APPROVE)
    return person_with(request, Right.WRITE_RECORDS)


@router.post("/forms/{form_key}/removal", response={204: None})
def remove_form(request: HttpRequest, form_key: str, body: FormRemoval) -> Status[None]:
    """Remove a form with everything in it. Where records are stored, its name is typed first."""
    person = person_with(request, Right.RELEASE)
    removing.remove_form(person, form_key, body.name)
    return Status(204, None)
