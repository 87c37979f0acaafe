"""A form filled in by whoever has a link: no account, no session, no cookie."""

from typing import Annotated, Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.ruleset import Field as FormField
from thistlequartz.server.forms.shapes import SheetView
from thistlequartz.server.forms.views import sheet_view
from thistlequartz.server.judging.services import waivers
from thistlequartz.server.judging.shapes import Applied, JudgeBody, Reasons, VerdictsView
from thistlequartz.server.judging.values import Values
from thistlequartz.server.links import filling
from thistlequartz.server.links.limits import Use, count_use
from thistlequartz.server.links.models import FormLink
from thistlequartz.server.links.puzzles import puzzle_for
from thistlequartz.server.links.services import link_of, open_link
from thistlequartz.server.problems import ProblemDetails
from thistlequartz.server.records.models import LONGEST_IDEMPOTENCY_KEY
from thistlequartz.server.records.services import SaveRequest as Sent

router = Router()
CLOSED: dict[int, Any] = {410: ProblemDetails}


class LinkForm(BaseModel):
    """The form that a link opens."""

    key: str
    name: str
    intro: str
    release: int
    fields: list[FormField]
    sheet: SheetView
    puzzle: bool


class PuzzleView(BaseModel):
    """Work against robots, as altcha's solvers take it."""

    algorithm: str
    challenge: str
    maxNumber: int  # noqa: N815 - as solvers take it
    salt: str
    signature: str


class LinkSubmissionBody(BaseModel):
    """What somebody with a link submits."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    reasons: Reasons = {}
    proposals_applied: Applied = []
    solution: Annotated[str, Field(max_length=2_000)] = ""
    """Of the puzzle, where the link asks for one."""
    idempotency_key: Annotated[str, Field(max_length=LONGEST_IDEMPOTENCY_KEY)] = ""


class LinkReceiptView(BaseModel):
    """What is said once it has arrived."""

    text: str
    next_page: str


def _link(request: HttpRequest, key: str, use: Use) -> FormLink:
    # What was sent before the link was closed, and is sent again, has arrived.
    link = link_of(key) if use == "submit" else open_link(key)
    count_use(link, use, request.META.get("REMOTE_ADDR", ""))
    return link


@router.get("/links/{key}", auth=None, response={200: LinkForm, **CLOSED})
def show_form(request: HttpRequest, key: str) -> LinkForm:
    """The form, as somebody with a link fills it in."""
    link = _link(request, key, "open")
    desk = filling.desk_for(link)
    entry = filling.entry_of(link)
    form = desk.compiled.form
    return LinkForm(
        key=key,
        name=form.name,
        intro=entry.intro,
        release=desk.release.number,
        fields=list(form.fields),
        sheet=sheet_view(desk.compiled, timezone.now(), filling.NO_ROLE, "link"),
        puzzle=entry.puzzle,
    )


@router.post("/links/{key}/judge", auth=None, response={200: VerdictsView, **CLOSED})
def judge_by_link(request: HttpRequest, key: str, body: JudgeBody) -> VerdictsView:
    """What is said of what is being filled in. Stores nothing."""
    return filling.judge(_link(request, key, "judge"), body)


@router.get("/links/{key}/puzzle", auth=None, response={200: PuzzleView, **CLOSED})
def show_puzzle(request: HttpRequest, key: str) -> PuzzleView:
    """Work for the browser, whose solution is sent with the form."""
    made = puzzle_for(_link(request, key, "open"))
    return PuzzleView(
        algorithm=made["algorithm"],
        challenge=made["challenge"],
        maxNumber=made["maxNumber"],
        salt=made["salt"],
        signature=made["signature"],
    )


@router.post("/links/{key}/records", auth=None, response={201: LinkReceiptView, **CLOSED})
def submit_by_link(
    request: HttpRequest, key: str, body: LinkSubmissionBody
) -> Status[LinkReceiptView]:
    """Submit a form that was filled in by a link."""
    link = _link(request, key, "submit")
    entry = Sent(
        body.values,
        waivers(body.reasons),
        tuple(body.proposals_applied),
        idempotency_key=body.idempotency_key,
        entry_point="link",
        layout=filling.layout_of(link, filling.desk_for(link).compiled),
    )
    said = filling.submit(link, entry, body.solution)
    return Status(201, LinkReceiptView(text=said.text, next_page=said.next_page))
