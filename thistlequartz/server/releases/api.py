"""Releasing a draft."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from thistlequartz.core.versions.part_differences import Act, Part
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.releases_in_force import standing
from thistlequartz.server.forms.shapes import ReleaseView
from thistlequartz.server.forms.summaries import release_view
from thistlequartz.server.jobs.shapes import JobView, job_view
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, Refusal

from .coming import moment_in, withdraw, zone_of
from .comparison import changes_between, told
from .concerns import Concern, known_fingerprint
from .models import Release
from .ports import all_concerns
from .services import ReleaseRequest, release_or_begin, what_would_be, work_on_release

router = Router()
Number = Annotated[int, Field(ge=1, le=999_999)]
Why = Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=2_000)]


class NewRelease(BaseModel):
    """Why the draft is released: what changed, for those who read it later."""

    model_config = ConfigDict(extra="forbid")
    note: Why
    again: Number | None = None
    """The number of an earlier release that is taken into use once more, in place of the draft."""
    since: Annotated[str, StringConstraints(max_length=100)] | None = None
    """The moment from which it is in force, as people write it, by the clock of the form's zone
    unless it says another; without one, at once."""
    knowing: str
    """The mark of what is known of it (`GET .../releasing`), as it was looked at."""


class Withdrawal(BaseModel):
    """Why a release is withdrawn before it comes into force."""

    model_config = ConfigDict(extra="forbid")
    why: Why


class ReleaseOutlookBody(BaseModel):
    """What is thought of releasing: the draft, or an earlier release again."""

    model_config = ConfigDict(extra="forbid")
    again: Number | None = None


class ReleaseOutlookView(BaseModel):
    """What is known of a release before it is made."""

    known: list[Concern]
    fingerprint: str
    """What is sent back with the release: what was looked at. Blank where it cannot be."""
    refused: str
    """Why it cannot be released as it is; blank: it can."""
    errors: list[ProblemItem]
    zone: str
    """By whose clock its moment is meant."""


class ReleaseDetails(ReleaseView):
    """A release, and what was known when it was made."""

    known: list[Concern]
    hash: str
    """The SHA-256 of its document in canonical JSON."""


class ReleasePairBody(BaseModel):
    """Two releases by their numbers; without one the draft is meant."""

    model_config = ConfigDict(extra="forbid")
    before: Number | None = None
    after: Number | None = None


class PropertyChangeView(BaseModel):
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
    details: tuple[PropertyChangeView, ...]


@router.post(
    "/forms/{form_key}/releases",
    response={201: ReleaseView, 202: JobView},
)
def release(
    request: HttpRequest, form_key: str, body: NewRelease
) -> Status[ReleaseView] | Status[JobView]:
    """Release the draft, or an earlier release once more, with a note.

    At once (201), or, with many stored records, in the background (202).
    """
    person = person_with(request, Right.RELEASE)
    draft = get_draft(form_key)
    since = moment_in(draft, body.since) if body.since is not None else None
    made = release_or_begin(
        person, form_key, ReleaseRequest(body.note, body.again, since), body.knowing
    )
    if isinstance(made, Release):
        return Status(201, release_view(made, standing(draft)))
    return Status(202, job_view(made))


@router.get("/forms/{form_key}/releasing", response={200: ReleaseOutlookView})
def show_outlook(
    request: HttpRequest, form_key: str, thought: Query[ReleaseOutlookBody]
) -> ReleaseOutlookView:
    """What is known of releasing the draft, or an earlier release once more."""
    person_with(request, Right.RELEASE)
    draft = get_draft(form_key)
    known = all_concerns(draft, thought.again)
    would_be = what_would_be(draft, thought.again)
    refusal = would_be if isinstance(would_be, Refusal) else None
    return ReleaseOutlookView(
        known=known,
        fingerprint="" if isinstance(would_be, Refusal) else known_fingerprint(known, would_be),
        refused=f"{refusal.title} {refusal.detail}" if refusal else "",
        errors=refusal.errors if refusal else [],
        zone=zone_of(draft),
    )


@router.get("/forms/{form_key}/releases", response={200: list[ReleaseDetails]})
def list_releases(request: HttpRequest, form_key: str) -> list[ReleaseDetails]:
    """The releases of a form, newest first."""
    person_with(request, Right.READ)
    draft = get_draft(form_key)
    now = standing(draft)
    releases = draft.releases.defer("document").select_related("released_by", "withdrawn_by")
    return [
        ReleaseDetails(
            **release_view(one, now).model_dump(),
            known=[Concern.model_validate(c) for c in one.known],
            hash=one.hash,
        )
        for one in releases.order_by("-number")
    ]


@router.post("/forms/{form_key}/releases/{number}/withdraw", response={200: ReleaseView})
def withdraw_release(
    request: HttpRequest, form_key: str, number: int, body: Withdrawal
) -> ReleaseView:
    """Take a release back that still waits for its moment."""
    person = person_with(request, Right.RELEASE)
    withdrawn = withdraw(person, form_key, number, body.why)
    return release_view(withdrawn, standing(withdrawn.form))


@router.get("/forms/{form_key}/changes", response={200: list[PartChange]})
def show_changes(
    request: HttpRequest, form_key: str, two: Query[ReleasePairBody]
) -> list[PartChange]:
    """What the second of two releases changed, or what the draft changes, in words."""
    person_with(request, Right.READ)
    changes = told(changes_between(get_draft(form_key), two.before, two.after))
    return [PartChange.model_validate(one) for one in changes]


@router.get("/forms/{form_key}/release-work", response={200: JobView | None})
def show_release_work(request: HttpRequest, form_key: str) -> JobView | None:
    """How far a release in the background is, or why the last one did not come about."""
    person_with(request, Right.RELEASE)
    job = work_on_release(form_key)
    return job_view(job) if job else None
