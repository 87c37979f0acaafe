"""Trying a draft: the verdicts, and nothing stored."""

from django.http import HttpRequest
from ninja import Router

from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.people.models import Role
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails
from thistlequartz.server.records.lookup import DatabaseLookup

from .services import Attempt, judge_all
from .shapes import Judgement, Trying

router = Router()


@router.post(
    "/forms/{form_key}/bench",
    response={200: Judgement, 403: ProblemDetails, 404: ProblemDetails, 422: ProblemDetails},
)
def try_draft(request: HttpRequest, form_key: str, body: Trying) -> Judgement:
    """What the draft says of these values to a clerk: while typing, saving and submitting."""
    person_with(request, Right.USE_BENCH)
    attempt = Attempt.of(body, Role.CLERK, DatabaseLookup(form_key))
    return judge_all(compiled_draft(get_draft(form_key)), attempt)
