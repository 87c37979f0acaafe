"""Trying a draft: the verdicts, and nothing stored."""

from django.http import HttpRequest
from ninja import Router

from thistlequartz.core.expression import FormulaError
from thistlequartz.server.forms.drafts import compiled_draft, compiled_with, get_draft
from thistlequartz.server.forms.rule_changes import rule_refused, with_clauses
from thistlequartz.server.people.models import Role
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails
from thistlequartz.server.records.lookup import DatabaseLookup

from .services import Attempt, judge_all, note_seen
from .shapes import Judgement, RuleAnswer, RuleTried, Trying

router = Router()
BEING_WRITTEN = "rule_being_written"


@router.post(
    "/forms/{form_key}/bench",
    response={200: Judgement, 403: ProblemDetails, 404: ProblemDetails, 422: ProblemDetails},
)
def try_draft(request: HttpRequest, form_key: str, body: Trying) -> Judgement:
    """What the draft says of these values to a clerk: while typing, saving and submitting."""
    person_with(request, Right.USE_BENCH)
    attempt = Attempt.of(body, Role.CLERK, DatabaseLookup(form_key))
    draft = get_draft(form_key)
    judgement = judge_all(compiled_draft(draft), attempt)
    note_seen(draft, judgement)
    return judgement


@router.post(
    "/forms/{form_key}/bench/rule",
    response={200: RuleAnswer, 403: ProblemDetails, 404: ProblemDetails, 422: ProblemDetails},
)
def try_rule(request: HttpRequest, form_key: str, body: RuleTried) -> RuleAnswer:
    """What the draft would say with a rule as it is being written. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    key = body.replaces or BEING_WRITTEN
    rule = body.rule.model_copy(update={"key": key})
    try:
        written = with_clauses(rule, body.clauses, compiled_draft(draft))
    except FormulaError as error:
        raise rule_refused(error.problems) from None
    compiled = compiled_with(draft, written)
    attempt = Attempt.of(body, Role.CLERK, DatabaseLookup(form_key))
    own = next((one for one in compiled.rules if one.rule.key == key), None)
    return RuleAnswer(
        rule=key, fields=list(own.reads) if own else [], judgement=judge_all(compiled, attempt)
    )
