"""What the desk and its lists send and take."""

from collections.abc import Mapping
from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.ruleset import Field as FormField
from thistlequartz.core.tables import FileKindName
from thistlequartz.server.forms.shapes import SheetView
from thistlequartz.server.judging.services import waivers
from thistlequartz.server.judging.shapes import Applied, ReasonGiven, Reasons
from thistlequartz.server.judging.values import Entered, Values
from thistlequartz.server.people.models import Person

from . import services
from .models import LONGEST_IDEMPOTENCY_KEY, Record
from .search import MOST_CONDITIONS, Order, RecordQuery

StateName = Literal["in_progress", "submitted", "approved", "returned"]
OutcomeName = Literal["clear", "noted", "warned"]
MOST_AT_ONCE = 200
"""Records decided on in one call."""


class DeskFormView(BaseModel):
    """What clerks fill in: the fields of the newest release."""

    key: str
    name: str
    release: int
    fields: list[FormField]
    sheet: SheetView
    asked_by: list[str]
    """The fields by which lists can be filtered."""
    rules: dict[str, str]
    """The rules a record can violate, by key: how each is called."""


class RecordSummary(BaseModel):
    """A record in the list."""

    number: int
    title: str
    state: StateName
    outcome: OutcomeName
    on_hold: bool
    violations: list[str]
    """The names of the rules it violates."""
    release: int
    keeper: str | None
    """Who is to go on with it."""
    changed_by: str | None
    changed_at: datetime
    revision: int
    values_revision: int
    """The version since which its values are as they are: entries that were begun from that one, or
    from a later one, can be stored."""
    columns: dict[str, str] = {}
    """The fields asked for, as they read; blank ones are left out."""


class KnownRecord(BaseModel):
    """A record as another one refers to it."""

    number: int
    title: str
    on_hold: bool


class KnownRecordQuery(BaseModel):
    """Which records are offered: those that fit a search, or the one of a number."""

    model_config = ConfigDict(extra="forbid")
    search: Annotated[str, Field(max_length=200)] = ""
    number: Annotated[str, Field(max_length=20)] = ""


class RecordPage(BaseModel):
    """A part of the list."""

    total: int
    more: bool = False
    """Whether there are more than so many, which were not counted."""
    records: list[RecordSummary]


class ReasonView(ReasonGiven):
    """Why a warning was passed, by whom and when."""

    by: str
    at: datetime


class RecordView(RecordSummary):
    """A record, whole."""

    values: Values
    reasons: dict[str, ReasonView]
    proposals_applied: list[str]
    submitted_by: str | None
    submitted_at: datetime | None
    decided_by: str | None
    """Who approved it or sent it back last."""
    decided_at: datetime | None
    remark: str
    may_take_back: bool
    """Whether who asks has submitted it."""


class VersionOf(BaseModel):
    """The version of the record that somebody looks at."""

    model_config = ConfigDict(extra="forbid")
    revision: int


Remark = Annotated[str, Field(max_length=2_000)]


class ChosenRecord(BaseModel):
    """A record that was chosen, and its version as it was shown."""

    model_config = ConfigDict(extra="forbid")
    number: int
    revision: int


class FormRemoval(BaseModel):
    """The name of the form that is removed, as somebody typed it."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=200)] = ""


class SaveBody(BaseModel):
    """The values of a record, and the version they were made from (none for a new one)."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    revision: int | None = None
    submit: bool = False
    approve: bool = False
    """Approve it at once on submitting; for those with the right."""
    reasons: Reasons = {}
    proposals_applied: Applied = []
    idempotency_key: Annotated[str, Field(max_length=LONGEST_IDEMPOTENCY_KEY)] = ""
    """A mark of this one sending: sent again with the same mark, it is stored once."""

    def entry(self) -> services.SaveRequest:
        """What is stored, as the services take it."""
        return services.SaveRequest(
            self.values,
            waivers(self.reasons),
            tuple(self.proposals_applied),
            idempotency_key=self.idempotency_key,
        )


class Listing(BaseModel):
    """Which records to list."""

    model_config = ConfigDict(extra="forbid")
    state: StateName | None = None
    outcome: OutcomeName | None = None
    on_hold: bool | None = None
    search: Annotated[str, Field(max_length=200)] = ""
    rule: Annotated[str, Field(max_length=60)] = ""
    keeper: Annotated[str, Field(max_length=150)] = ""
    by: Annotated[str, Field(max_length=150)] = ""
    since: date | None = None
    until: date | None = None
    where: Annotated[list[Annotated[str, Field(max_length=400)]], Field(max_length=8)] = []
    """What fields hold: `key~is~value`, and `not`, `from`, `to`, `contains`, `blank`, `filled`."""
    columns: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=8)] = []
    """The fields shown beside each record."""
    order: Order = "-number"
    offset: Annotated[int, Field(ge=0, le=10_000_000)] = 0

    def wanted(self) -> RecordQuery:
        """What is looked for, as the services take it."""
        asked = self.model_dump(exclude={"columns", "offset", "where", "numbers", "kind", "naming"})
        return RecordQuery(**asked, where=tuple(self.where))


assert Listing.model_fields["where"].metadata[0].max_length == MOST_CONDITIONS


class ComparisonBody(BaseModel):
    """The values of a record as they stand on somebody's screen."""

    model_config = ConfigDict(extra="forbid")
    values: Values


class DifferenceView(BaseModel):
    """A field that holds one thing on the screen and another in the store, in words."""

    model_config = ConfigDict(from_attributes=True)
    field: str
    label: str
    mine: str
    theirs: str
    value: Entered
    """What is stored, as it is entered."""


class ComparisonView(BaseModel):
    """The stored record beside what is on the screen."""

    revision: int
    changed_by: str | None
    changed_at: datetime
    differences: list[DifferenceView]


class Exported(Listing):
    """Which records stand in a file: those of a list, or of these only those chosen."""

    numbers: Annotated[list[int], Field(max_length=MOST_AT_ONCE)] = []
    kind: FileKindName = "csv"
    naming: Literal["labels", "codes"] = "labels"
    """With labels for people, or with the keys of fields and the codes of choices."""


class FilterView(BaseModel):
    """A list that somebody has named, to come back to."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(min_length=1, max_length=60)]
    asked: Annotated[str, Field(max_length=2_000)]
    """What is asked, as it stands in the address of the screen."""


def summary_of(record: Record, columns: Mapping[str, str] | None = None) -> RecordSummary:
    """A record as a list shows it."""
    return RecordSummary(**_summary(record), columns=dict(columns or {}))


def view_of(record: Record, person: Person) -> RecordView:
    """A record, whole, as `person` sees it."""
    return RecordView(
        **_summary(record),
        values=services.as_entered(record),
        reasons={rule: ReasonView(**one) for rule, one in record.reasons.items()},
        proposals_applied=record.applied,
        submitted_by=name_of(record.submitted_by),
        submitted_at=record.submitted_at,
        decided_by=name_of(record.decided_by),
        decided_at=record.decided_at,
        remark=record.remark,
        may_take_back=record.state == "submitted" and record.submitted_by_id == person.pk,
    )


def _summary(record: Record) -> dict[str, object]:
    return {
        "number": record.number,
        "title": record.title,
        "state": record.state,
        "outcome": record.outcome,
        "on_hold": record.on_hold,
        "violations": [one.rule_name for one in record.violations.all()],
        "release": record.release.number,
        "keeper": name_of(record.keeper),
        "changed_by": name_of(record.changed_by),
        "changed_at": record.changed_at,
        "revision": record.revision,
        "values_revision": record.values_revision,
    }


def name_of(person: Person | None) -> str | None:
    """What somebody is called."""
    return person.shown_name or person.username if person else None
