"""Releasing a draft."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import BaseModel, ConfigDict, StringConstraints

from thistlequartz.server.forms.presenting import release_view
from thistlequartz.server.forms.shapes import ReleaseView
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails

from .services import release_form

router = Router()


class NewRelease(BaseModel):
    """Why the draft is released: what changed, for those who read it later."""

    model_config = ConfigDict(extra="forbid")
    note: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=2_000)]


@router.post("/forms/{form_key}/releases", response={201: ReleaseView, 409: ProblemDetails})
def release(request: HttpRequest, form_key: str, body: NewRelease) -> Status[ReleaseView]:
    """Release the draft as it stands, with a note."""
    person = person_with(request, Right.RELEASE)
    return Status(201, release_view(release_form(person, form_key, body.note)))
