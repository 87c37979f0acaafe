"""The shapes that the forms' addresses take and give. Fields and rules are the core's documents."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Setting

from thistlequartz.core.evaluation import CompiledForm
from thistlequartz.core.expression import (
    ClauseGroup,
    FormulaError,
    OperatorOffer,
    Problem,
    Segment,
    Vocabulary,
    clauses_from_tree,
    offers,
    read_formula,
)
from thistlequartz.core.ruleset import (
    Compound,
    CrossFieldRule,
    Field,
    LoweredRule,
    Rule,
    Section,
    Severity,
    drafted_message,
    lower_rule,
    marks_of,
    rule_sentence,
)
from thistlequartz.core.ruleset.basics import EntrySeverity, Label, Prose
from thistlequartz.server.bench.values import Values
from thistlequartz.server.problems import ProblemItem, item

from .models import DraftField, DraftRule


class _Given(BaseModel):
    model_config = ConfigDict(extra="forbid")


class RuleEntry(_Given):
    """A rule to be stored or looked at. Clauses, where given, take the place of its formulas."""

    rule: Rule
    when_clauses: ClauseGroup | None = None
    must_clauses: ClauseGroup | None = None


class NewRule(RuleEntry):
    """A rule to be added; with `draw_key` its key is drawn from its name."""

    draw_key: bool = False
    position: Annotated[int, Setting(ge=0, le=1_000_000)] | None = None


class ChangedRule(RuleEntry):
    """A rule to be replaced, and the version it was made from."""

    version: int


class SeverityChange(_Given):
    """New severities for some moments."""

    entry: EntrySeverity | None = None
    save: Severity | None = None
    submit: Severity | None = None


class RuleAdjustment(_Given):
    """A change to severities or the switch only."""

    version: int
    severity: SeverityChange | None = None
    on: bool | None = None

    def changes(self) -> dict[str, object]:
        """What is to be changed, by name."""
        changes: dict[str, object] = {}
        if self.severity is not None:
            changes["severity"] = self.severity.model_dump(exclude_none=True)
        if self.on is not None:
            changes["on"] = self.on
        return changes


class NewForm(_Given):
    """A form to be begun; its key is drawn from its name."""

    name: Label
    purpose: Prose = ""


class NewField(_Given):
    """A field to be added."""

    field: Field
    draw_key: bool = False
    """Whether its key is drawn from its label."""
    position: Annotated[int, Setting(ge=0, le=1_000_000)] | None = None


class FieldOrder(_Given):
    """Every field of the form, in the order wanted."""

    keys: Annotated[list[str], Setting(max_length=1_000)]


class ChangedField(_Given):
    """A field to be replaced, and the version it was made from."""

    field: Field
    version: int


class FormatView(BaseModel):
    """A named format that a rule can ask for."""

    key: str
    label: str
    standard: str
    example: str
    needs_country: bool


class FieldView(BaseModel):
    """A field, with the comparisons that fit it in a condition."""

    field: Field
    version: int
    position: int
    operators: list[OperatorOffer]
    touched_by: list[str]
    """The rules that target or read it."""
    mark: Literal["demanded", "expected"] | None
    """What the rules promise of it, always or under a condition."""


class RuleReading(BaseModel):
    """A rule as it reads: its sentence, its clauses, the drafted message, and what to mend."""

    rule: Rule
    sentence: list[Segment]
    drafted_message: str
    when_clauses: ClauseGroup | None
    """None where there is no condition, or where only a formula can say it."""
    must_clauses: ClauseGroup | None
    problems: list[ProblemItem]


class RuleView(RuleReading):
    """A rule of the draft."""

    version: int
    position: int
    changed_by: str | None
    changed_at: datetime


class ReleaseView(BaseModel):
    """A release of a form."""

    number: int
    note: str
    released_by: str | None
    released_at: datetime


class FormSummary(BaseModel):
    """A form in the catalogue. The counts are of rules that are switched on in the draft."""

    key: str
    name: str
    purpose: str
    fields: int
    mandatory_fields: int
    rules: int
    can_block_save: int
    can_block_submit: int
    can_warn: int
    records: int
    release: ReleaseView | None
    draft_changed: bool
    """Whether the draft differs from the newest release."""


class StarterView(BaseModel):
    """A named set of values that a new record can begin with."""

    key: str
    label: str
    values: Values


class SheetView(BaseModel):
    """How an entry is laid out, and what a new one begins with."""

    sections: list[Section]
    compounds: list[Compound]
    twice: list[str]
    """The fields that are entered twice; the second entry of `email` travels as `email.again`."""
    starting: Values
    starters: list[StarterView]


class FormView(BaseModel):
    """A draft, whole."""

    key: str
    name: str
    purpose: str
    revision: int
    fields: list[FieldView]
    rules: list[RuleView]
    sheet: SheetView
    problems: list[ProblemItem]
    """What is wrong with the form outside its rules."""
    release: ReleaseView | None
    draft_changed: bool


def field_view(row: DraftField, form: CompiledForm) -> FieldView:
    """A field of the draft as the screens need it: with its choices, wherever they come from."""
    field = next(field for field in form.form.fields if field.key == row.key)
    declared = form.fields[field.key]
    return FieldView(
        field=field,
        version=row.version,
        position=row.position,
        operators=list(offers(declared.type)),
        mark=marks_of(form.form.rules).get(field.key),
        touched_by=[one.rule.key for one in form.rules if field.key in one.reads],
    )


def sheet_view(form: CompiledForm, now: datetime, role: str) -> SheetView:
    """What a screen needs to lay out an entry, beside the fields."""
    document, today = form.form, form.today_at(now)

    def starting(starter: str | None) -> Values:
        return form.starting_values(today=today, now=now, role=role, starter=starter)

    return SheetView(
        sections=list(document.sections),
        compounds=list(document.compounds),
        twice=sorted(form.twice),
        starting=starting(None),
        starters=[
            StarterView(key=one.key, label=one.label, values=starting(one.key))
            for one in document.starters
        ],
    )


def read_rule(rule: Rule, form: CompiledForm, found: tuple[Problem, ...] = ()) -> RuleReading:
    """How `rule` reads among the fields of `form`; `found` are problems known already."""
    language = form.language
    vocabulary = language.vocabulary
    lowered: LoweredRule | None = None
    problems = found
    if not found:
        try:
            lowered = lower_rule(rule, language)
        except FormulaError as error:
            problems = error.problems
    messages = [drafted_message(lowered, c, vocabulary) for c in lowered.checks] if lowered else []
    return RuleReading(
        rule=rule,
        sentence=rule_sentence(lowered, vocabulary) if lowered else [],
        drafted_message=messages[0] if messages else "",
        when_clauses=_clauses(rule.when, vocabulary),
        must_clauses=_clauses(rule.must, vocabulary) if isinstance(rule, CrossFieldRule) else None,
        problems=[item(problem) for problem in problems],
    )


def rule_view(row: DraftRule, form: CompiledForm) -> RuleView:
    """A rule of the draft as the screens need it."""
    rule = next(rule for rule in form.form.rules if rule.key == row.key)
    return RuleView(
        **dict(read_rule(rule, form, form.problems.get(rule.key, ()))),
        version=row.version,
        position=row.position,
        changed_by=row.changed_by.shown_name if row.changed_by else None,
        changed_at=row.changed_at,
    )


def _clauses(formula: str | None, vocabulary: Vocabulary) -> ClauseGroup | None:
    if not formula:
        return None
    try:
        return clauses_from_tree(read_formula(formula), vocabulary)
    except FormulaError:
        return None
