"""Releasing a draft."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from thistlequartz.core.analysis.revision import Act, Part
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.presenting import release_view
from thistlequartz.server.forms.shapes import ReleaseView
from thistlequartz.server.jobs.shapes import JobView, job_view
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import REFUSALS

from .comparing import changes_between
from .models import Release
from .services import release_or_begin, work_on_release

router = Router()


class NewRelease(BaseModel):
    """Why the draft is released: what changed, for those who read it later."""

    model_config = ConfigDict(extra="forbid")
    note: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=2_000)]
    again: Annotated[int, Field(ge=1, le=999_999)] | None = None
    """The number of an earlier release that is taken into use once more, in place of the draft."""


class Two(BaseModel):
    """Two releases by their numbers; without one the draft is meant."""

    model_config = ConfigDict(extra="forbid")
    before: Annotated[int, Field(ge=1, le=999_999)] | None = None
    after: Annotated[int, Field(ge=1, le=999_999)] | None = None


class DetailView(BaseModel):
    """One property of a part of the form, as it was and as it is."""

    model_config = ConfigDict(from_attributes=True)
    what: str
    before: str
    after: str


class PartChange(BaseModel):
    """What became of one part of the form, in words."""

    model_config = ConfigDict(from_attributes=True)
    part: Part
    act: Act
    key: str
    name: str
    says: str
    """Of a rule its sentence, as it is now or was."""
    details: tuple[DetailView, ...]


@router.post(
    "/forms/{form_key}/releases",
    response={201: ReleaseView, 202: JobView, **REFUSALS},
)
def release(
    request: HttpRequest, form_key: str, body: NewRelease
) -> Status[ReleaseView] | Status[JobView]:
    """Release the draft as it stands, or an earlier release once more, with a note: at once (201),
    or, where many records are stored, in the background (202).
    """
    person = person_with(request, Right.RELEASE)
    made = release_or_begin(person, form_key, body.note, body.again)
    if isinstance(made, Release):
        return Status(201, release_view(made))
    return Status(202, job_view(made))


@router.get("/forms/{form_key}/releases", response={200: list[ReleaseView], **REFUSALS})
def list_releases(request: HttpRequest, form_key: str) -> list[ReleaseView]:
    """The releases of a form, newest first: the first is in use."""
    person_with(request, Right.READ)
    releases = get_draft(form_key).releases.defer("document").select_related("released_by")
    return [release_view(one) for one in releases.order_by("-number")]


@router.get("/forms/{form_key}/changes", response={200: list[PartChange], **REFUSALS})
def show_changes(request: HttpRequest, form_key: str, two: Query[Two]) -> list[PartChange]:
    """What the second of two releases changed, or what the draft changes, in words."""
    person_with(request, Right.READ)
    changes = changes_between(get_draft(form_key), two.before, two.after)
    # Where something new came to stand is no change of its own.
    told = (one for one in changes if one.act != "in another order" or one.details)
    return [PartChange.model_validate(one) for one in told]


@router.get("/forms/{form_key}/release-work", response={200: JobView | None, **REFUSALS})
def show_release_work(request: HttpRequest, form_key: str) -> JobView | None:
    """How far a release in the background is, or why the last one did not come about."""
    person_with(request, Right.RELEASE)
    job = work_on_release(form_key)
    return job_view(job) if job else None
