"""Weighing the stored records."""

from typing import Annotated, Literal

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.jobs.shapes import JobView, job_view
from thistlequartz.server.long_answers import sent_as_file
from thistlequartz.server.people.rights import Right, person_with

from .reasons_file import lines_with_reasons
from .services import begin_weighing, last_weighing, numbers_behind

router = Router()
NUMBERS_SENT = 200
Moments = dict[Literal["save", "submit"], "RecordCountView"]


class RecordCountView(BaseModel):
    """How many records, and the first of them by number."""

    count: int
    numbers: list[int]


class RuleImpactView(BaseModel):
    """What becomes of one rule over all records."""

    rule: str
    name: str
    other_records: bool
    """Whether it asks what other records hold."""
    newly: RecordCountView
    no_longer: RecordCountView
    harder: RecordCountView
    """Broken before, too, and now told of harder."""
    stops: dict[Literal["save", "submit"], int]
    warns: dict[Literal["save", "submit"], int]


class DroppedFieldView(BaseModel):
    """Of how many records the values in a field would be dropped when they are next saved."""

    key: str
    label: str
    records: RecordCountView


class ImpactView(BaseModel):
    """What the draft means for all stored records, against the release of that number."""

    release: int
    records: int
    newly_refused: Moments
    newly_warned: Moments
    no_longer_refused: Moments
    rules: dict[str, RuleImpactView]
    lost: dict[str, DroppedFieldView]
    narrowed: bool
    """Whether only the checks that differ had to be judged first."""


class ImpactStateView(BaseModel):
    """The newest weighing: how far it is, what it gave, and whether that still holds."""

    job: JobView | None
    weight: ImpactView | None
    stale: bool
    saved_since: int
    """How many records were stored or changed since it began."""


class ImpactBody(BaseModel):
    """What is weighed: the draft, or an earlier release that may come again."""

    model_config = ConfigDict(extra="forbid")
    again: Annotated[int, Field(ge=1, le=999_999)] | None = None


class RecordCountQuery(BaseModel):
    """Which count is meant, and the moment, the field or the rule that it is of."""

    model_config = ConfigDict(extra="forbid")
    what: Literal[
        "newly_refused", "newly_warned", "no_longer_refused", "lost", "newly", "no_longer", "harder"
    ]
    of: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=60)]


@router.get("/forms/{form_key}/impact", response={200: ImpactStateView})
def show_weighing(request: HttpRequest, form_key: str, asked: Query[ImpactBody]) -> ImpactStateView:
    """What is known of the stored records and the draft."""
    person_with(request, Right.READ)
    weighing = last_weighing(form_key, asked.again)
    return ImpactStateView(
        job=job_view(weighing.job) if weighing.job else None,
        weight=_read(weighing.result),
        stale=weighing.stale,
        saved_since=weighing.saved_since,
    )


def _read(result: object) -> ImpactView | None:
    """A kept result; none where an older version of the product has kept it in another shape."""
    try:
        weight = ImpactView.model_validate(result)
    except ValidationError:
        return None
    for found in _counts(weight):
        found.numbers = found.numbers[:NUMBERS_SENT]
    return weight


def _counts(weight: ImpactView) -> list[RecordCountView]:
    by_moment = (weight.newly_refused, weight.newly_warned, weight.no_longer_refused)
    return [
        *(one for moments in by_moment for one in moments.values()),
        *(one.records for one in weight.lost.values()),
        *(
            found
            for one in weight.rules.values()
            for found in (one.newly, one.no_longer, one.harder)
        ),
    ]


@router.get("/forms/{form_key}/impact-file", response={200: str})
def export_weighed(
    request: HttpRequest, form_key: str, asked: Query[RecordCountQuery]
) -> StreamingHttpResponse:
    """The records behind one count of the newest weighing, with what the draft says of each."""
    person_with(request, Right.READ)
    draft = get_draft(form_key)
    numbers = numbers_behind(form_key, None, asked.what, asked.of)
    lines = lines_with_reasons(draft, compiled_draft(draft), numbers)
    name = f"{form_key}-{asked.what}-{asked.of}.csv".replace("_", "-")
    return sent_as_file(lines, "text/csv; charset=utf-8", name)


@router.post("/forms/{form_key}/impact", response={202: JobView})
def weigh(request: HttpRequest, form_key: str, asked: Query[ImpactBody]) -> Status[JobView]:
    """Judge every stored record by the draft, in the background."""
    person = person_with(request, Right.EDIT_DRAFT)
    return Status(202, job_view(begin_weighing(person, form_key, asked.again)))
