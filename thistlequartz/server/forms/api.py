"""The catalogue, and the fields and rules of a draft."""

from django.http import HttpRequest
from ninja import Router, Status

from thistlequartz.core.expression import FormulaError
from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails

from . import services
from .drafts import compiled_draft, get_draft
from .models import DraftField, DraftRule
from .presenting import catalogue, form_view
from .shapes import (
    ChangedField,
    ChangedRule,
    FieldOrder,
    FieldView,
    FormatView,
    FormSummary,
    FormView,
    NewField,
    NewForm,
    NewRule,
    RuleAdjustment,
    RuleEntry,
    RuleReading,
    RuleView,
    field_view,
    read_rule,
    rule_view,
)

router = Router()
REFUSALS = {403: ProblemDetails, 404: ProblemDetails, 409: ProblemDetails, 422: ProblemDetails}


def _view(row: DraftRule) -> RuleView:
    return rule_view(row, compiled_draft(get_draft(row.form.key)))


def _field(row: DraftField) -> FieldView:
    return field_view(row, compiled_draft(get_draft(row.form.key)))


@router.get("/formats", response=list[FormatView])
def list_formats(request: HttpRequest) -> list[FormatView]:
    """The named formats, with their standards and examples."""
    person_with(request, Right.READ)
    return [
        FormatView(
            key=named.key,
            label=named.label,
            standard=named.standard,
            example=named.example,
            needs_country=named.needs_country,
        )
        for named in NAMED_FORMATS.values()
    ]


@router.get("/forms", response=list[FormSummary])
def list_forms(request: HttpRequest) -> list[FormSummary]:
    """Every form with its counts."""
    person_with(request, Right.READ)
    return catalogue()


@router.post("/forms", response={201: FormView, **REFUSALS})
def begin_form(request: HttpRequest, body: NewForm) -> Status[FormView]:
    """Begin a form with nothing in it."""
    person = person_with(request, Right.EDIT_DRAFT)
    return Status(201, form_view(services.create_form(person, body.name, body.purpose)))


@router.get("/forms/{form_key}", response={200: FormView, **REFUSALS})
def show_form(request: HttpRequest, form_key: str) -> FormView:
    """A draft, whole."""
    person_with(request, Right.READ)
    return form_view(get_draft(form_key))


@router.post("/forms/{form_key}/rules/read", response={200: RuleReading, **REFUSALS})
def read_a_rule(request: HttpRequest, form_key: str, body: RuleEntry) -> RuleReading:
    """How a rule would read, and what is to be mended in it. Stores nothing."""
    person_with(request, Right.EDIT_DRAFT)
    form = compiled_draft(get_draft(form_key))
    try:
        rule = services.with_clauses(body.rule, body.when_clauses, body.must_clauses, form)
    except FormulaError as error:
        return read_rule(body.rule, form, error.problems)
    return read_rule(rule, form)


@router.post("/forms/{form_key}/rules", response={201: RuleView, **REFUSALS})
def add_rule(request: HttpRequest, form_key: str, body: NewRule) -> Status[RuleView]:
    """Add a rule to the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = services.create_rule(
        person,
        form_key,
        body.rule,
        when=body.when_clauses,
        must=body.must_clauses,
        draw_key=body.draw_key,
        position=body.position,
    )
    return Status(201, _view(row))


@router.put("/forms/{form_key}/rules/{rule_key}", response={200: RuleView, **REFUSALS})
def replace_rule(request: HttpRequest, form_key: str, rule_key: str, body: ChangedRule) -> RuleView:
    """Replace a rule of the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = services.change_rule(
        person,
        form_key,
        rule_key,
        body.rule,
        body.version,
        when=body.when_clauses,
        must=body.must_clauses,
    )
    return _view(row)


@router.patch("/forms/{form_key}/rules/{rule_key}", response={200: RuleView, **REFUSALS})
def adjust_rule(
    request: HttpRequest, form_key: str, rule_key: str, body: RuleAdjustment
) -> RuleView:
    """Step severities or the switch of a rule."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = services.adjust_rule(person, form_key, rule_key, body.version, body.changes())
    return _view(row)


@router.delete("/forms/{form_key}/rules/{rule_key}", response={204: None, **REFUSALS})
def remove_rule(request: HttpRequest, form_key: str, rule_key: str, version: int) -> Status[None]:
    """Take a rule out of the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.remove_rule(person, form_key, rule_key, version)
    return Status(204, None)


@router.post("/forms/{form_key}/fields", response={201: FieldView, **REFUSALS})
def add_field(request: HttpRequest, form_key: str, body: NewField) -> Status[FieldView]:
    """Add a field to the draft."""
    person = person_with(request, Right.EDIT_DRAFT)
    row = services.create_field(
        person, form_key, body.field, draw_key=body.draw_key, position=body.position
    )
    return Status(201, _field(row))


@router.put("/forms/{form_key}/field-order", response={200: FormView, **REFUSALS})
def order_fields(request: HttpRequest, form_key: str, body: FieldOrder) -> FormView:
    """Put the fields of the draft in another order."""
    person = person_with(request, Right.EDIT_DRAFT)
    return form_view(services.order_fields(person, form_key, body.keys))


@router.put("/forms/{form_key}/fields/{field_key}", response={200: FieldView, **REFUSALS})
def replace_field(
    request: HttpRequest, form_key: str, field_key: str, body: ChangedField
) -> FieldView:
    """Replace a field of the draft; refused where a rule could not work then."""
    person = person_with(request, Right.EDIT_DRAFT)
    return _field(services.change_field(person, form_key, field_key, body.field, body.version))


@router.delete("/forms/{form_key}/fields/{field_key}", response={204: None, **REFUSALS})
def remove_field(request: HttpRequest, form_key: str, field_key: str, version: int) -> Status[None]:
    """Take a field out of the draft; refused while a rule names it."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.remove_field(person, form_key, field_key, version)
    return Status(204, None)
