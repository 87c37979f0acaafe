"""Cases: tries of a form that are kept, with what is expected to happen."""

from datetime import date
from typing import Annotated, Any, Literal, Self

from pydantic import Field as Setting
from pydantic import StringConstraints, model_validator

from thistlequartz.core.documents import (
    MAX_TARGETS,
    Clean,
    Document,
    Key,
    Label,
    Line,
    Prose,
    refuse_same_keys,
)
from thistlequartz.core.enumerations import STORING_ROLES, EntryPoint, Event, Outcome, Status
from thistlequartz.core.translation import tr

from .document import MAX_FIELDS, MAX_RULES
from .upgrading import upgraded_case_file

MAX_CASES = 5_000
MAX_OTHERS = 200
Entered = str | int | float | bool | list[str] | None
"""What is entered in one field, as JSON carries it; several choices as a list."""
Name = Annotated[str, StringConstraints(min_length=1, max_length=80), Clean]
"""The name of an entry: a field's key, or `email.again` for a second entry."""
Entries = Annotated[dict[Name, Entered], Setting(max_length=2 * MAX_FIELDS)]
FieldStateName = Literal["relevant", "not_relevant", "read_only", "waiting"]


class CaseCircumstances(Document):
    """When, where and by whom the record is sent in."""

    as_of: date
    """The day that counts as today; the clock stands at noon in the form's zone."""
    event: Event = "create"
    stored: Entries = Setting(default_factory=dict)
    """What the record held before, where it is changed."""
    entry_point: EntryPoint = "desk"
    layout: Key | None = None
    role: Label | None = STORING_ROLES[0]

    @model_validator(mode="after")
    def _stored_before(self) -> Self:
        if self.stored and self.event == "create":
            raise ValueError(tr("A new record held nothing before: make it a change, or empty it."))
        return self


class OtherRecord(Document):
    """Another record that the case knows of."""

    form: Key | None = None
    """Its form; None for the form of the case."""
    number: Line = ""
    """By which references point to it."""
    values: Entries = Setting(default_factory=dict)
    on_hold: bool = False


class Expected(Document):
    """What should happen. What is None was not said, and is not looked at."""

    save: Outcome | None = None
    submit: Outcome | None = None
    violated: Annotated[tuple[Key, ...], Setting(max_length=MAX_RULES)] | None = ()
    """The rules that are violated and speak on saving or submitting."""
    on_hold: bool | None = None
    """Whether saving sets the record on hold."""
    offered: Annotated[dict[Key, Entries], Setting(max_length=MAX_RULES)] | None = None
    """The rules whose proposals are offered, with the values they propose by field."""
    field_states: Annotated[dict[Key, FieldStateName], Setting(max_length=MAX_FIELDS)] | None = None
    """The state of fields that rules open, close, lock or let wait."""
    computed: Annotated[dict[Key, Entered], Setting(max_length=MAX_FIELDS)] | None = None
    """The values of derived fields."""
    faults: Annotated[tuple[Name, ...], Setting(max_length=2 * MAX_FIELDS)] | None = None
    """The entries that cannot be read."""
    statuses: Annotated[dict[Key, Status], Setting(max_length=MAX_RULES)] | None = None
    """How rules stand on submitting."""
    stored: Annotated[dict[Key, Entered], Setting(max_length=MAX_FIELDS)] | None = None
    """The values that are stored of fields, canonical; None for a field that is left blank."""

    @model_validator(mode="after")
    def _says_something(self) -> Self:
        if all(getattr(self, name) is None for name in type(self).model_fields):
            raise ValueError(tr("Say at least one thing that should happen."))
        return self

    @property
    def looks_closer(self) -> bool:
        """Whether it says something that is not looked at in every case."""
        return any(one is not None for one in (self.faults, self.statuses, self.stored))


class Case(Document):
    """One kept try."""

    key: Key
    name: Label
    suite: Line = ""
    """The heading under which it stands among the others."""
    why: Prose = ""
    """The reason for its being there, and for the expectation last accepted."""
    circumstances: CaseCircumstances
    values: Entries = Setting(default_factory=dict)
    """By entry, as people type them."""
    others: Annotated[tuple[OtherRecord, ...], Setting(max_length=MAX_OTHERS)] = ()
    """The other records that matter: those referred to, and those it may collide with."""
    proposals_applied: Annotated[tuple[Key, ...], Setting(max_length=MAX_TARGETS)] = ()
    expected: Expected


class CaseFile(Document):
    """The cases of one form, as they are exchanged."""

    version: Literal[2] = 2
    """The version of the format; files of version 1 are upgraded as they are read."""
    form: Key
    cases: Annotated[tuple[Case, ...], Setting(max_length=MAX_CASES)] = ()

    @model_validator(mode="before")
    @classmethod
    def _upgraded(cls, document: Any) -> Any:
        return upgraded_case_file(document)

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        refuse_same_keys("case", self.cases)
        return self
