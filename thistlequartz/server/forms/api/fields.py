"""The fields of a draft."""

from django.http import HttpRequest
from ninja import Router, Status

from thistlequartz.server.forms import field_changes
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.models import DraftField
from thistlequartz.server.forms.shapes import (
    FieldEntry,
    FieldReading,
    FieldReplacement,
    FieldView,
    FormView,
    NewField,
    OrderBody,
)
from thistlequartz.server.forms.summaries import form_view
from thistlequartz.server.forms.views import field_views, read_field
from thistlequartz.server.people.rights import Right, person_with

router = Router()


def _view(row: DraftField) -> FieldView:
    return field_views([row], compiled_draft(get_draft(row.form.key)))[0]


@router.post("/forms/{form_key}/fields/read", response={200: FieldReading})
def read_a_field(request: HttpRequest, form_key: str, body: FieldEntry) -> FieldReading:
    """What is to be thought of in a field. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    return read_field(body.field, body.replaces, compiled_draft(get_draft(form_key)))


@router.post("/forms/{form_key}/fields", response={201: FieldView})
def add_field(request: HttpRequest, form_key: str, body: NewField) -> Status[FieldView]:
    """Add a field to the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = field_changes.create_field(
        person,
        form_key,
        body.field,
        draw_key=body.draw_key,
        position=body.position,
        needed=body.needed,
    )
    return Status(201, _view(row))


@router.put("/forms/{form_key}/field-order", response={200: FormView})
def order_fields(request: HttpRequest, form_key: str, body: OrderBody) -> FormView:
    """Put the fields of the draft in another order."""
    person = person_with(request, Right.EDIT_DRAFT)
    return form_view(field_changes.order_fields(person, form_key, body.keys))


@router.put("/forms/{form_key}/fields/{field_key}", response={200: FieldView})
def replace_field(
    request: HttpRequest, form_key: str, field_key: str, body: FieldReplacement
) -> FieldView:
    """Replace a field of the draft; what would break is told first."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = field_changes.change_field(
        person, form_key, field_key, body.field, body.revision, anyway=body.anyway
    )
    return _view(row)


@router.delete("/forms/{form_key}/fields/{field_key}", response={204: None})
def remove_field(
    request: HttpRequest, form_key: str, field_key: str, revision: int, anyway: bool = False
) -> Status[None]:
    """Take a field out of the draft; what would break is told first."""
    person = person_with(request, Right.EDIT_DRAFT)
    field_changes.remove_field(person, form_key, field_key, revision, anyway=anyway)
    return Status(204, None)
