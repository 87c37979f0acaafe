"""The impact on stored records."""

from typing import Annotated, Literal

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Status
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.jobs.shapes import JobView, job_view
from thistlequartz.server.long_answers import sent_as_file
from thistlequartz.server.people.rights import Right, person_with

from .reasons_file import lines_with_reasons
from .services import begin_analysis, newest_impact, numbers_behind

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
    """Violated before, too, and now with a harder outcome."""
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
    """The newest impact analysis: its progress, its result, and whether that is up to date."""

    job: JobView | None
    impact: ImpactView | None
    stale: bool
    saved_since: int
    """How many records were stored or changed since it began."""


class ImpactBody(BaseModel):
    """What is analysed: the draft, or an earlier release that may come again."""

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
def show_impact(request: HttpRequest, form_key: str, asked: Query[ImpactBody]) -> ImpactStateView:
    """What is known of the stored records and the draft."""
    person_with(request, Right.READ)
    newest = newest_impact(form_key, asked.again)
    return ImpactStateView(
        job=job_view(newest.job) if newest.job else None,
        impact=_read(newest.result),
        stale=newest.stale,
        saved_since=newest.saved_since,
    )


def _read(result: object) -> ImpactView | None:
    """A kept result; none where an older version of the product has kept it in another shape."""
    try:
        impact = ImpactView.model_validate(result)
    except ValidationError:
        return None
    for found in _counts(impact):
        found.numbers = found.numbers[:NUMBERS_SENT]
    return impact


def _counts(impact: ImpactView) -> list[RecordCountView]:
    by_moment = (impact.newly_refused, impact.newly_warned, impact.no_longer_refused)
    return [
        *(one for moments in by_moment for one in moments.values()),
        *(one.records for one in impact.lost.values()),
        *(
            found
            for one in impact.rules.values()
            for found in (one.newly, one.no_longer, one.harder)
        ),
    ]


@router.get("/forms/{form_key}/impact-file", response={200: str})
def export_records_behind(
    request: HttpRequest, form_key: str, asked: Query[RecordCountQuery]
) -> StreamingHttpResponse:
    """Export the records behind one count, with the verdict of the draft on each."""
    person_with(request, Right.READ)
    draft = get_draft(form_key)
    numbers = numbers_behind(form_key, None, asked.what, asked.of)
    lines = lines_with_reasons(draft, compiled_draft(draft), numbers)
    name = f"{form_key}-{asked.what}-{asked.of}.csv".replace("_", "-")
    return sent_as_file(lines, "text/csv; charset=utf-8", name)


@router.post("/forms/{form_key}/impact", response={202: JobView})
def run(request: HttpRequest, form_key: str, asked: Query[ImpactBody]) -> Status[JobView]:
    """Judge every stored record by the draft, in the background."""
    person = person_with(request, Right.EDIT_DRAFT)
    return Status(202, job_view(begin_analysis(person, form_key, asked.again)))
