"""The rules of a draft."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field as Setting

from thistlequartz.core.language import FormulaError
from thistlequartz.server.forms import rule_changes
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.models import DraftRule
from thistlequartz.server.forms.shapes import (
    ChangedRule,
    NewRule,
    OrderBody,
    RuleAdjustments,
    RuleEntry,
    RuleTextBody,
    RuleVersion,
    RuleVersions,
    RuleView,
)
from thistlequartz.server.forms.views import read_rule, rule_views
from thistlequartz.server.people.rights import Right, person_with

router = Router()


def _view(row: DraftRule) -> RuleView:
    return rule_views([row], compiled_draft(get_draft(row.form.key)))[0]


@router.post("/forms/{form_key}/rules/read", response={200: RuleTextBody})
def read_a_rule(
    request: HttpRequest, form_key: str, body: RuleEntry, replaces: str | None = None
) -> RuleTextBody:
    """How a rule would read, and what is to be corrected in it. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    form = compiled_draft(get_draft(form_key))
    try:
        rule = rule_changes.with_clauses(body.rule, body.by_place(), form)
    except FormulaError as error:
        return read_rule(body.rule, form, error.problems, replaces)
    return read_rule(rule, form, replaces=replaces)


@router.post("/forms/{form_key}/rules", response={201: RuleView})
def add_rule(request: HttpRequest, form_key: str, body: NewRule) -> Status[RuleView]:
    """Add a rule to the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = rule_changes.create_rule(
        person,
        form_key,
        body.rule,
        clauses=body.by_place(),
        unfinished=body.unfinished,
        draw_key=body.draw_key,
        position=body.position,
    )
    return Status(201, _view(row))


@router.put("/forms/{form_key}/rules/{rule_key}", response={200: RuleView})
def replace_rule(request: HttpRequest, form_key: str, rule_key: str, body: ChangedRule) -> RuleView:
    """Replace a rule of the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = rule_changes.change_rule(
        person,
        form_key,
        rule_key,
        body.rule,
        body.revision,
        clauses=body.by_place(),
        unfinished=body.unfinished,
    )
    return _view(row)


@router.patch("/forms/{form_key}/rules", response={200: list[RuleVersion]})
def adjust_rules(request: HttpRequest, form_key: str, body: RuleAdjustments) -> list[RuleVersion]:
    """Step severities, holds or switches of rules, all at once; their new versions."""
    person = person_with(request, Right.EDIT_DRAFT)
    wanted = [(one.key, one.revision, one.changes()) for one in body.rules]
    rows = rule_changes.adjust_rules(person, form_key, wanted)
    return [RuleVersion(key=row.key, revision=row.revision) for row in rows]


@router.post("/forms/{form_key}/rule-removal", response={204: None})
def remove_rules(request: HttpRequest, form_key: str, body: RuleVersions) -> Status[None]:
    """Take rules out of the draft, all at once."""
    person = person_with(request, Right.EDIT_DRAFT)
    revisions = {one.key: one.revision for one in body.rules}
    rule_changes.remove_rules(person, form_key, revisions)
    return Status(204, None)


@router.put("/forms/{form_key}/rule-order", response={204: None})
def order_rules(request: HttpRequest, form_key: str, body: OrderBody) -> Status[None]:
    """Put the rules of the draft in another order."""
    person = person_with(request, Right.EDIT_DRAFT)
    rule_changes.order_rules(person, form_key, body.keys)
    return Status(204, None)


class CopyBody(RuleEntry):
    """A rule to be copied to another form, and what its fields are called there."""

    names: Annotated[dict[str, str], Setting(default_factory=dict)]


class CopyReading(RuleTextBody):
    """The rule as it would be there."""

    missing: list[str]
    """The names that no field of that form stands for yet."""


@router.post("/forms/{form_key}/rule-copies/read", response={200: CopyReading})
def read_copy(request: HttpRequest, form_key: str, body: CopyBody) -> CopyReading:
    """How a rule of another form would read among this form's fields. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    form = compiled_draft(get_draft(form_key))
    rule, missing = rule_changes.rule_for(body.rule, body.names, form)
    return CopyReading(**dict(read_rule(rule, form)), missing=missing)
