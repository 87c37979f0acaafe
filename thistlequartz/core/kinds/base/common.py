"""The common part of every rule: severities and messages of checks, the shape of effects."""

from typing import Annotated, Self

from pydantic import Field as Setting
from pydantic import model_validator

from thistlequartz.core.documents import (
    MAX_LABEL,
    MAX_TARGETS,
    Day,
    Document,
    Formula,
    Key,
    Label,
    Line,
    Prose,
    refuse_twice,
)
from thistlequartz.core.enumerations import (
    EntryPoint,
    EntrySeverity,
    Event,
    Moment,
    Placement,
    Severity,
)
from thistlequartz.core.translation import tr


class Severities(Document):
    """How hard a rule speaks at each moment. While typing nothing is ever blocked."""

    entry: EntrySeverity = "none"
    save: Severity = "none"
    submit: Severity = "none"

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


class RuleBase(Document):
    """A rule of any kind."""

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
    enabled: bool = True

    @model_validator(mode="after")
    def _targets_differ(self) -> Self:
        refuse_twice("target", self.targets)
        return self

    @model_validator(mode="after")
    def _in_force_for_some_time(self) -> Self:
        begin, end = self.in_force_from, self.in_force_to
        if begin and end and end < begin:
            raise ValueError(tr("It would end before it begins: swap or change the two days."))
        return self


class CheckBase(RuleBase):
    """A rule that checks."""

    severity: Severities = Severities()
    hold: bool = False
    """In the place of its severity on saving: the record is saved, and set on hold."""
    reason_required: bool = False
    """Whether a warning lets the record pass only with a reason."""
    message: Prose | None = None
    """What people are told; drafted from the rule while nobody has worded it."""
    placement: Placement = "field"
    confirmation: Line = ""
    """What is said while typing where a value keeps the rule; blank: nothing."""


class EffectBase(RuleBase):
    """A rule with an effect."""
