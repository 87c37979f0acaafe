"""Weighing the stored records against the draft."""

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import BaseModel, ValidationError

from thistlequartz.server.jobs.models import JobState
from thistlequartz.server.jobs.shapes import JobView, job_view
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import REFUSALS

from ..weighing import begin_weighing, last_weighing

router = Router()
Moments = dict[Literal["save", "submit"], "CountedView"]


class CountedView(BaseModel):
    """How many records, and the first of them by number."""

    count: int
    numbers: list[int]


class RuleWeightView(BaseModel):
    """What becomes of one rule over all records."""

    rule: str
    name: str
    newly: CountedView
    no_longer: CountedView
    harder: CountedView
    """Broken before, too, and now told of harder."""
    stops: dict[Literal["save", "submit"], int]


class WeightView(BaseModel):
    """What the draft means for all stored records, against the release of that number."""

    release: int
    records: int
    newly_refused: Moments
    newly_warned: Moments
    no_longer_refused: Moments
    rules: dict[str, RuleWeightView]
    left_out: list[str]
    """Rules that look at other records; a release looks at those itself."""


class WeighingView(BaseModel):
    """The newest weighing: how far it is, what it gave, and whether that still holds."""

    job: JobView | None
    weight: WeightView | None
    stale: bool


@router.get("/forms/{form_key}/weighing", response={200: WeighingView, **REFUSALS})
def show_weighing(request: HttpRequest, form_key: str) -> WeighingView:
    """What is known of the stored records and the draft."""
    person_with(request, Right.READ)
    job, stale = last_weighing(form_key)
    done = job is not None and job.state == JobState.DONE
    return WeighingView(
        job=job_view(job) if job else None,
        weight=_read(job.result) if job and done else None,
        stale=stale,
    )


def _read(result: object) -> WeightView | None:
    """A kept result; none where an older version of the product has kept it in another shape."""
    try:
        return WeightView.model_validate(result)
    except ValidationError:
        return None


@router.post("/forms/{form_key}/weighing", response={202: JobView, **REFUSALS})
def weigh(request: HttpRequest, form_key: str) -> Status[JobView]:
    """Judge every stored record by the draft, in the background."""
    return Status(202, job_view(begin_weighing(person_with(request, Right.EDIT_DRAFT), form_key)))
