"""The rules of a form: kinds that check, and kinds that have an effect."""

from collections.abc import Iterable
from typing import Annotated, Literal, Self, cast

from pydantic import Field as Setting
from pydantic import StringConstraints, model_validator

from .basics import (
    MAX_CHOICES,
    MAX_LABEL,
    MAX_TARGETS,
    Clean,
    Day,
    Document,
    EntryPoint,
    EntrySeverity,
    Event,
    Formula,
    Key,
    Label,
    Line,
    Moment,
    Placement,
    Prose,
    Severity,
    refuse_twice,
)

MAX_ROWS = 1_000
"""Governing answers in one list of allowed values."""


class Severities(Document):
    """How hard a rule speaks at each moment. While typing nothing is ever blocked."""

    entry: EntrySeverity = "off"
    save: Severity = "off"
    submit: Severity = "off"

    def at(self, moment: Moment) -> Severity:
        """The severity at `moment`."""
        severity: Severity = getattr(self, moment)
        return severity


class Scope(Document):
    """Whom and what a rule counts for. An empty list leaves nobody and nothing out."""

    events: Annotated[tuple[Event, ...], Setting(max_length=2)] = ()
    entry_points: Annotated[tuple[EntryPoint, ...], Setting(max_length=5)] = ()
    layouts: Annotated[tuple[Key, ...], Setting(max_length=50)] = ()
    roles: Annotated[tuple[Label, ...], Setting(max_length=50)] = ()
    derived_forms: bool = False
    """Whether it also counts on forms that are derived from this one."""


class _RuleBase(Document):
    key: Key
    name: Annotated[Line, Setting(max_length=MAX_LABEL)] = ""
    """Blank: it is called by its own sentence, as it is now."""
    why: Prose = ""
    targets: Annotated[tuple[Key, ...], Setting(max_length=MAX_TARGETS)] = ()
    """The fields it is about; while it names none it is unfinished."""
    when: Formula | None = None
    scope: Scope = Scope()
    in_force_from: Day | None = None
    in_force_to: Day | None = None
    """The days from and to which it counts, both included; None: without a bound."""
    changed_fields: Annotated[tuple[Key, ...], Setting(max_length=MAX_TARGETS)] = ()
    """It applies only where one of these was changed; none named: always."""
    on: bool = True

    @model_validator(mode="after")
    def _targets_differ(self) -> Self:
        refuse_twice("target", self.targets)
        return self

    @model_validator(mode="after")
    def _in_force_for_some_time(self) -> Self:
        begin, end = self.in_force_from, self.in_force_to
        if begin and end and end < begin:
            raise ValueError("It would end before it begins: swap or change the two days.")
        return self


class _CheckBase(_RuleBase):
    severity: Severities = Severities()
    hold: bool = False
    """In the place of its severity on saving: the record is saved, and set on hold."""
    reason_demanded: bool = False
    """Whether a warning lets the record pass only with a reason."""
    message: Prose | None = None
    """What people are told; drafted from the rule while nobody has worded it."""
    placement: Placement = "field"
    acknowledged: Line = ""
    """What is said while typing where a value keeps the rule; blank: nothing."""


class MandatoryRule(_CheckBase):
    """Each target is needed: it must be filled in."""

    kind: Literal["mandatory"] = "mandatory"


class Bound(Document):
    """An end of a range: a value as people type it (`90`, `11 June 2026`), or FEEL (`today`)."""

    value: Formula
    inclusive: bool = True


class RangeRule(_CheckBase):
    """Each target, its length in characters, or its number of choices lies between the bounds,
    or on the one side of the one that there is.
    """

    kind: Literal["range"] = "range"
    of: Literal["value", "length", "count"] = "value"
    lower: Bound | None = None
    upper: Bound | None = None


class AllowedRow(Document):
    """The values that go with one answer of the governing field, as people type them."""

    answer: Label
    values: Annotated[tuple[Label, ...], Setting(min_length=1, max_length=MAX_CHOICES)]


class AllowedValuesRule(_CheckBase):
    """Each target must be one of the values, or one of those that go with a governing answer."""

    kind: Literal["allowed_values"] = "allowed_values"
    values: Annotated[tuple[Label, ...], Setting(max_length=MAX_CHOICES)] = ()
    ignore_case: bool = False
    governor: Key | None = None
    rows: Annotated[tuple[AllowedRow, ...], Setting(max_length=MAX_ROWS)] = ()

    @model_validator(mode="after")
    def _says_which(self) -> Self:
        if self.governor is None and self.rows:
            raise ValueError("Say which field the rows of values depend on.")
        if self.governor is not None and self.values:
            raise ValueError("Say which values go with each answer, in the place of one list.")
        refuse_twice("answer", (row.answer for row in self.rows))
        return self


class FormatRule(_CheckBase):
    """Each target must be written in a named format, or fit a pattern from end to end."""

    kind: Literal["format"] = "format"
    format: Line | None = None
    country: Annotated[str, StringConstraints(pattern="^[A-Z]{2}$")] | None = None
    pattern: Annotated[str, StringConstraints(max_length=1_000), Clean] | None = None
    described: Line = ""
    """The pattern in plain words, as they follow “must be”: “exactly ten digits”."""


class CrossFieldRule(_CheckBase):
    """What the FEEL condition says of several fields must be true; told at the targets."""

    kind: Literal["cross_field"] = "cross_field"
    must: Formula


class GroupRule(_CheckBase):
    """At least one, exactly one, or all or none of the targets in play are filled."""

    kind: Literal["group"] = "group"
    quantity: Literal["at_least_one", "exactly_one", "all_or_none"]


class UniqueRule(_CheckBase):
    """No other record of the form holds the same values in the targets, taken together."""

    kind: Literal["unique"] = "unique"


class ElsewhereRule(_CheckBase):
    """There is no other record of the form for which the FEEL condition on `other.key` is true."""

    kind: Literal["elsewhere"] = "elsewhere"
    no_other: Formula


class EnteredTwiceRule(_CheckBase):
    """Each target is entered a second time, alike, wherever it is filled and changed.

    The second entry of the field `email` travels as `email.again`.
    """

    kind: Literal["entered_twice"] = "entered_twice"


class ConsentRule(_CheckBase):
    """Each target must be yes; blank is not consent."""

    kind: Literal["consent"] = "consent"


class OpenRule(_RuleBase):
    """The targets are in play while the condition is true."""

    kind: Literal["open"] = "open"
    when: Formula
    otherwise: Literal["hidden", "closed"] = "hidden"
    """How a target is shown while it is out of play."""


class CloseRule(_RuleBase):
    """The targets are out of play while the condition is true."""

    kind: Literal["close"] = "close"
    when: Formula
    shown: Literal["hidden", "closed"] = "hidden"


class LockRule(_RuleBase):
    """The targets are shown and count, but cannot be entered, while the condition is true."""

    kind: Literal["lock"] = "lock"


class WaitRule(_RuleBase):
    """At the desk the targets cannot be entered until the condition is true."""

    kind: Literal["wait"] = "wait"
    until: Formula
    message: Line = ""
    """Why they wait; drafted from the condition where it is blank."""


class DeriveRule(_RuleBase):
    """The targets are computed. The first in order that applies gives the value."""

    kind: Literal["derive"] = "derive"
    value: Formula


class StartRule(_RuleBase):
    """On creation, what was not supplied starts with a value as people type it, or a formula's."""

    kind: Literal["start"] = "start"
    value: Line | None = None
    formula: Formula | None = None

    @model_validator(mode="after")
    def _says_which(self) -> Self:
        if (self.value is None) == (self.formula is None):
            raise ValueError("Give a value to start with, or a formula: one of the two.")
        return self


class ProposedValue(Document):
    """A field, and the FEEL formula of the value proposed for it."""

    field: Key
    value: Formula


class ProposeRule(_RuleBase):
    """At the targets, values are proposed, which the person applies or leaves."""

    kind: Literal["propose"] = "propose"
    title: Annotated[Line, Setting(max_length=MAX_LABEL)]
    explanation: Prose = ""
    sets: Annotated[tuple[ProposedValue, ...], Setting(min_length=1, max_length=MAX_TARGETS)]

    @model_validator(mode="after")
    def _fields_differ(self) -> Self:
        refuse_twice("proposed field", (one.field for one in self.sets))
        return self


CheckRule = (
    MandatoryRule
    | RangeRule
    | AllowedValuesRule
    | FormatRule
    | CrossFieldRule
    | GroupRule
    | UniqueRule
    | ElsewhereRule
    | EnteredTwiceRule
    | ConsentRule
)
EffectRule = OpenRule | CloseRule | LockRule | WaitRule | DeriveRule | StartRule | ProposeRule
EFFECT_KINDS = frozenset({"open", "close", "lock", "wait", "derive", "start", "propose"})
Rule = Annotated[CheckRule | EffectRule, Setting(discriminator="kind")]


MARKING_KINDS = frozenset({"mandatory", "consent"})
"""The kinds that ask for a field to be filled, and so mark it."""


def marks_of(rules: Iterable[Rule]) -> dict[str, Literal["demanded", "expected"]]:
    """What the rules that are switched on promise of each field, always or under a condition."""
    marks: dict[str, Literal["demanded", "expected"]] = {}
    for rule in rules:
        if not rule.on or rule.kind not in MARKING_KINDS:
            continue
        severities = {severity_of(rule, "save"), severity_of(rule, "submit")}
        for key in rule.targets:
            if "block" in severities:
                marks[key] = "demanded"
            elif severities != {"off"}:
                marks.setdefault(key, "expected")
    return marks


def severity_of(rule: Rule, moment: Moment) -> Severity:
    """How hard `rule` speaks at `moment`; effects never do.

    A rule that holds lets a record be saved, with a warning, and blocks it on submitting.
    """
    if rule.kind in EFFECT_KINDS:
        return "off"
    rule = cast("CheckRule", rule)
    if rule.hold and moment != "entry":
        return "warn" if moment == "save" else "block"
    return rule.severity.at(moment)
