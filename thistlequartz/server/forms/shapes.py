"""Requests and views of the forms API. Fields and rules are the core's documents."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, StringConstraints
from pydantic import Field as Setting

from thistlequartz.core.documents import Label, Prose
from thistlequartz.core.enumerations import EntrySeverity
from thistlequartz.core.language import ClauseGroup, Segment, SubjectOffer
from thistlequartz.core.ruleset import (
    ChoiceList,
    Compound,
    Field,
    Layout,
    NamedCondition,
    Rule,
    Section,
    Severities,
    Severity,
    Starter,
)
from thistlequartz.core.ruleset.document import MAX_FIELDS, MAX_RULES
from thistlequartz.core.ruleset.placeholders import PlaceholderOffer
from thistlequartz.server.judging.values import Values
from thistlequartz.server.problems import ProblemItem


class _Given(BaseModel):
    model_config = ConfigDict(extra="forbid")


FormulaPlace = Literal["when", "must", "no_other", "until"]
"""The formulas of a rule that clauses can stand for."""


class RuleEntry(_Given):
    """A rule to be stored or looked at. Clauses, where given, take the place of its formulas."""

    rule: Rule
    clauses: dict[FormulaPlace, ClauseGroup] = {}

    def by_place(self) -> dict[str, ClauseGroup]:
        """The clauses, as the services take them."""
        return {str(place): clauses for place, clauses in self.clauses.items()}


class StoredRule(RuleEntry):
    """A rule to be stored."""

    unfinished: bool = False
    """Whether it is kept although it cannot work yet; it has no effect until it is corrected."""


class NewRule(StoredRule):
    """A rule to be added; with `draw_key` its key is drawn from its name."""

    draw_key: bool = False
    position: Annotated[int, Setting(ge=0, le=1_000_000)] | None = None


class ChangedRule(StoredRule):
    """A rule to be replaced, and the version it was made from."""

    revision: int


class SeverityChange(_Given):
    """New severities for some moments."""

    entry: EntrySeverity | None = None
    save: Severity | None = None
    submit: Severity | None = None


class RuleAdjustment(_Given):
    """A change to the severities, the hold or the switch of a rule only."""

    key: str
    revision: int
    severity: SeverityChange | None = None
    hold: bool | None = None
    enabled: bool | None = None

    def changes(self) -> dict[str, object]:
        """What is to be changed, by name."""
        given = {"hold": self.hold, "enabled": self.enabled}
        changes: dict[str, object] = {name: to for name, to in given.items() if to is not None}
        if self.severity is not None:
            changes["severity"] = self.severity.model_dump(exclude_none=True)
        return changes


class RuleAdjustments(_Given):
    """Changes to one rule or many, all at once."""

    rules: Annotated[list[RuleAdjustment], Setting(min_length=1, max_length=5_000)]


class RuleVersion(_Given):
    """A rule, by its key, and the version that is meant."""

    key: str
    revision: int


class RuleVersions(_Given):
    """Rules that something is done to, all at once."""

    rules: Annotated[list[RuleVersion], Setting(min_length=1, max_length=5_000)]


class NewForm(_Given):
    """A form to be begun; its key is drawn from its name."""

    name: Label
    purpose: Prose = ""
    copy_of: str | None = None
    """A form that it begins as a copy of."""
    sample: str | None = None
    """A sample that it begins from."""
    fields: Annotated[list[Field], Setting(max_length=MAX_FIELDS)] = []
    rules: Annotated[list[Rule], Setting(max_length=MAX_RULES)] = []
    """Fields and rules that it begins with, from a file's columns, say."""


class SetUp(_Given):
    """What a form is beside its fields and rules, and the version it was made from."""

    revision: int
    name: Label
    purpose: Prose = ""
    zone: str = "UTC"
    derived_from: str | None = None
    sections: list[Section] = []
    layouts: list[Layout] = []
    compounds: list[Compound] = []
    conditions: list[NamedCondition] = []
    starters: list[Starter] = []
    clauses: dict[str, ClauseGroup] = {}
    """By the key of a condition, what takes the place of its formula."""


class StoredList(_Given):
    """A shared list of choices; no version: a new one."""

    choices: ChoiceList
    revision: int | None = None


class PlanLineEntry(_Given):
    """A line of the plan, the rules that hold it, and the cases that prove it."""

    text: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=1_000)]
    rules: Annotated[list[str], Setting(max_length=1_000)] = []
    cases: Annotated[list[str], Setting(max_length=1_000)] = []
    revision: int | None = None
    position: Annotated[int, Setting(ge=0, le=1_000_000)] | None = None


class NewField(_Given):
    """A field to be added."""

    field: Field
    draw_key: bool = False
    """Whether its key is drawn from its label."""
    position: Annotated[int, Setting(ge=0, le=1_000_000)] | None = None
    needed: bool = False
    """Whether it gets its first rule at once: it is required to submit, and warned of on saving."""


class FieldEntry(_Given):
    """A field to be looked at; with a key, in the place of that one."""

    field: Field
    replaces: str | None = None


class OrderBody(_Given):
    """Every field, or every rule, of the form, in the order wanted."""

    keys: Annotated[list[str], Setting(max_length=MAX_RULES)]


class FieldReplacement(_Given):
    """A field to be replaced, and the version it was made from."""

    field: Field
    revision: int
    anyway: bool = False
    """Whether it is done although rules or records would break."""


class FormatCountry(BaseModel):
    """A country by whose rules a format can be judged, with an example of its own."""

    code: str
    name: str
    example: str


class FormatView(BaseModel):
    """A named format that a rule can ask for."""

    key: str
    label: str
    standard: str
    example: str
    needs_country: bool
    countries: list[FormatCountry]


class FieldView(BaseModel):
    """A field, with the comparisons that fit it in a condition."""

    field: Field
    revision: int
    position: int
    subjects: list[SubjectOffer]
    """What of it a clause can speak of, with the comparisons that fit."""
    touched_by: list[str]
    """The rules that target or read it."""
    mark: Literal["required", "recommended"] | None
    """What the rules promise of it, always or under a condition."""
    drafted_hint: str


class FieldReading(BaseModel):
    """What is to be thought of in a field while it is written."""

    advice: list[ProblemItem]


class RuleReading(BaseModel):
    """A rule as it reads: its sentence, its clauses, the drafted message, and what to correct."""

    rule: Rule
    called: str
    """Its name; where nobody named it, its sentence as it is now."""
    sentence: list[Segment]
    drafted_message: str
    clauses: dict[FormulaPlace, ClauseGroup]
    """The formulas that clauses can say, as clauses."""
    problems: list[ProblemItem]
    speaks: Severities
    """How hard it speaks at each moment: a hold, or that it has an effect only, is counted, and on
    submitting what it says on saving."""


class RuleTextBody(RuleReading):
    """A rule while it is written, with what helps in writing it."""

    advice: list[ProblemItem]
    """What does not keep it from working, and may still be meant otherwise."""
    placeholders: list[PlaceholderOffer]


class RuleView(RuleReading):
    """A rule of the draft."""

    revision: int
    position: int
    tried: Literal["both", "violated", "satisfied", "never"]
    """What it has been seen to do on the bench since it was last written."""
    overspent: bool
    """Whether it was seen there to take more work than one rule may."""
    changed_by: str | None
    changed_at: datetime


class ReleaseView(BaseModel):
    """A release of a form."""

    number: int
    note: str
    released_by: str | None
    released_at: datetime
    in_force_from: datetime
    standing: Literal["in_force", "scheduled", "superseded", "withdrawn"]
    withdrawn: str
    """Who withdrew it and why."""


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
    """The one in force."""
    draft_changed: bool
    """Whether the draft differs from the newest release."""
    cases: int
    failing: int
    """Cases that fail with the rules as they are."""
    cases_to_run: int
    """Cases that have not been run by the rules as they are."""


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


class ConditionView(BaseModel):
    """A named condition, as it reads."""

    key: str
    name: str
    condition: str
    sentence: list[Segment]
    clauses: ClauseGroup | None
    problems: list[ProblemItem]
    used_by: list[str]
    """The rules that call it."""


class SetUpView(BaseModel):
    """What a form is beside its fields and rules."""

    revision: int
    zone: str
    derived_from: str | None
    sections: list[Section]
    layouts: list[Layout]
    compounds: list[Compound]
    conditions: list[ConditionView]
    starters: list[Starter]


class PlanLineView(BaseModel):
    """A line of the plan, the rules that hold it, and the cases that prove it."""

    key: str
    revision: int
    text: str
    rules: list[str]
    cases: list[str]


class FormView(BaseModel):
    """A draft, whole."""

    key: str
    name: str
    purpose: str
    revision: int
    fields: list[FieldView]
    rules: list[RuleView]
    sheet: SheetView
    setup: SetUpView
    plan: list[PlanLineView]
    problems: list[ProblemItem]
    """What is wrong with the form outside its rules."""
    release: ReleaseView | None
    """The one in force."""
    waiting: ReleaseView | None
    """The one that waits for its moment."""
    draft_changed: bool
