"""The documents: immutable, complete in themselves, and readable as JSON.

Formulas and conditions stand in them as FEEL text. A document that breaks the shape given here
is refused with the place of each fault; whether its formulas make sense is asked of `lowering`.
"""

from datetime import date
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, StringConstraints, model_validator
from pydantic import Field as Setting

from thistlequartz.core.expression.feel import key_problem

Severity = Literal["off", "note", "warn", "block"]
EntrySeverity = Literal["off", "note", "warn"]
Moment = Literal["entry", "save", "submit"]
Placement = Literal["field", "top", "both"]
Event = Literal["create", "update"]
EntryPoint = Literal["desk", "handheld", "link", "import", "service"]

MAX_FIELDS = 500
MAX_RULES = 5_000
MAX_CHOICES = 5_000
MAX_TARGETS = 100


def _checked_key(key: str) -> str:
    problem = key_problem(key)
    if problem:
        raise ValueError(problem)
    return key


def _whole_characters(text: str) -> str:
    if any("\ud800" <= character <= "\udfff" for character in text):
        raise ValueError("This text holds half a character: type it again.")
    return text


Key = Annotated[str, AfterValidator(_checked_key)]
_Clean = AfterValidator(_whole_characters)
Label = Annotated[
    str, _Clean, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)
]
Line = Annotated[str, _Clean, StringConstraints(strip_whitespace=True, max_length=500)]
Prose = Annotated[str, _Clean, StringConstraints(strip_whitespace=True, max_length=5_000)]
Formula = Annotated[str, _Clean, StringConstraints(strip_whitespace=True, max_length=10_000)]


class Document(BaseModel):
    """Common manners: frozen, and nothing unknown is let by."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class _FieldBase(Document):
    key: Key
    label: Label
    hint: Line = ""


class TextField(_FieldBase):
    """Single-line or long text."""

    type: Literal["text"] = "text"
    long: bool = False


class WholeNumberField(_FieldBase):
    """A whole number, with a unit where it has one."""

    type: Literal["whole_number"] = "whole_number"
    unit: Line | None = None


class DecimalField(_FieldBase):
    """An exact decimal with at most `scale` digits after the point."""

    type: Literal["decimal"] = "decimal"
    scale: Annotated[int, Setting(ge=0, le=20)] = 2
    unit: Line | None = None


class DateField(_FieldBase):
    """A day of the calendar."""

    type: Literal["date"] = "date"


class YesNoField(_FieldBase):
    """Yes or no, and blank until answered."""

    type: Literal["yes_no"] = "yes_no"


class ChoiceOption(Document):
    """One answer that can be chosen."""

    code: Label
    label: Label


class ChoiceField(_FieldBase):
    """One of several choices, stored by code."""

    type: Literal["choice"] = "choice"
    choices: Annotated[tuple[ChoiceOption, ...], Setting(min_length=1, max_length=MAX_CHOICES)]

    @model_validator(mode="after")
    def _codes_differ(self) -> Self:
        _refuse_twice("choice", [choice.code for choice in self.choices])
        return self


Field = Annotated[
    TextField | WholeNumberField | DecimalField | DateField | YesNoField | ChoiceField,
    Setting(discriminator="type"),
]


class Severities(Document):
    """How hard a rule speaks at each moment. While typing nothing is ever blocked."""

    entry: EntrySeverity = "off"
    save: Severity = "off"
    submit: Severity = "off"

    def at(self, moment: Moment) -> Severity:
        """The severity at `moment`."""
        return {"entry": self.entry, "save": self.save, "submit": self.submit}[moment]


class Scope(Document):
    """Whom and what a rule counts for. An empty list leaves nobody and nothing out."""

    events: Annotated[tuple[Event, ...], Setting(max_length=2)] = ()
    entry_points: Annotated[tuple[EntryPoint, ...], Setting(max_length=5)] = ()
    roles: Annotated[tuple[Label, ...], Setting(max_length=50)] = ()


class _RuleBase(Document):
    key: Key
    name: Label
    why: Prose = ""
    targets: Annotated[tuple[Key, ...], Setting(min_length=1, max_length=MAX_TARGETS)]
    when: Formula | None = None
    severity: Severities = Severities()
    message: Prose | None = None
    """What people are told; drafted from the rule while nobody has worded it."""
    placement: Placement = "field"
    scope: Scope = Scope()
    in_force_from: date | None = None
    in_force_to: date | None = None
    """The days from and to which it counts, both included; None: without a bound."""
    on: bool = True

    @model_validator(mode="after")
    def _targets_differ(self) -> Self:
        _refuse_twice("target", self.targets)
        return self

    @model_validator(mode="after")
    def _in_force_for_some_time(self) -> Self:
        begin, end = self.in_force_from, self.in_force_to
        if begin and end and end < begin:
            raise ValueError("It would end before it begins: swap or change the two days.")
        return self


class MandatoryRule(_RuleBase):
    """Each target must be filled in."""

    kind: Literal["mandatory"] = "mandatory"


class Bound(Document):
    """An end of a range: a value as people type it (`90`, `11 June 2026`), or FEEL (`today`)."""

    value: Formula
    inclusive: bool = True


class RangeRule(_RuleBase):
    """Each target must lie between the bounds."""

    kind: Literal["range"] = "range"
    lower: Bound | None = None
    upper: Bound | None = None

    @model_validator(mode="after")
    def _bounded(self) -> Self:
        if self.lower is None and self.upper is None:
            raise ValueError("A range needs a lower bound, an upper bound, or both: give one.")
        return self


class AllowedValuesRule(_RuleBase):
    """Each target must be one of the values, written as people type them."""

    kind: Literal["allowed_values"] = "allowed_values"
    values: Annotated[tuple[Label, ...], Setting(min_length=1, max_length=MAX_CHOICES)]
    ignore_case: bool = False


class FormatRule(_RuleBase):
    """Each target must be written in a named format, or fit a pattern from end to end."""

    kind: Literal["format"] = "format"
    format: str | None = None
    country: Annotated[str, StringConstraints(pattern="^[A-Z]{2}$")] | None = None
    pattern: Annotated[str, _Clean, StringConstraints(max_length=1_000)] | None = None
    described: Line = ""
    """The pattern in plain words, as they follow “must be”: “exactly ten digits”."""


class CrossFieldRule(_RuleBase):
    """What the FEEL condition says of several fields must be true; told at the targets."""

    kind: Literal["cross_field"] = "cross_field"
    must: Formula


Rule = Annotated[
    MandatoryRule | RangeRule | AllowedValuesRule | FormatRule | CrossFieldRule,
    Setting(discriminator="kind"),
]


class Form(Document):
    """What is asked, and what must hold."""

    key: Key
    name: Label
    purpose: Prose = ""
    fields: Annotated[tuple[Field, ...], Setting(max_length=MAX_FIELDS)] = ()
    rules: Annotated[tuple[Rule, ...], Setting(max_length=MAX_RULES)] = ()

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        _refuse_twice("field", [field.key for field in self.fields])
        _refuse_twice("rule", [rule.key for rule in self.rules])
        return self


class RuleSet(Document):
    """One or more forms, as they are released or exchanged."""

    version: Literal[1] = 1
    forms: Annotated[tuple[Form, ...], Setting(min_length=1)]

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        _refuse_twice("form", [form.key for form in self.forms])
        return self

    def form(self, key: str) -> Form:
        """The form with `key`; raises KeyError where there is none."""
        for form in self.forms:
            if form.key == key:
                return form
        raise KeyError(key)


def _refuse_twice(what: str, keys: "list[str] | tuple[str, ...]") -> None:
    seen: set[str] = set()
    for key in keys:
        if key in seen:
            raise ValueError(f"The {what} “{key}” is there twice: take one out or rename it.")
        seen.add(key)
