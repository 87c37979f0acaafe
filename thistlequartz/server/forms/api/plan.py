"""The plan of a form: what must be true of its data, in plain words."""

from django.http import HttpRequest
from ninja import Router, Status

from thistlequartz.server.forms import services
from thistlequartz.server.forms.shapes import PlanLineEntry
from thistlequartz.server.people.rights import Right, person_with

router = Router()


@router.post("/forms/{form_key}/plan", response={201: str})
def add_line(request: HttpRequest, form_key: str, body: PlanLineEntry) -> Status[str]:
    """Add a line; its key."""
    person = person_with(request, Right.EDIT_DRAFT)
    key = services.add_plan_line(person, form_key, body.text, body.rules, body.cases, body.position)
    return Status(201, key)


@router.put("/forms/{form_key}/plan/{line_key}", response={204: None})
def change_line(
    request: HttpRequest, form_key: str, line_key: str, body: PlanLineEntry
) -> Status[None]:
    """Reword a line, or tie it to other rules and cases."""
    person = person_with(request, Right.EDIT_DRAFT)
    revision = body.revision or 0
    services.change_plan_line(
        person, form_key, line_key, revision, body.text, body.rules, body.cases
    )
    return Status(204, None)


@router.delete("/forms/{form_key}/plan/{line_key}", response={204: None})
def remove_line(request: HttpRequest, form_key: str, line_key: str, revision: int) -> Status[None]:
    """Take a line out of the plan."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.remove_plan_line(person, form_key, line_key, revision)
    return Status(204, None)
