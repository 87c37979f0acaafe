"""What other systems send and are told."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.judging import Verdict
from thistlequartz.core.ruleset import Outcome, Severity
from thistlequartz.server.judging.services import stored_values
from thistlequartz.server.judging.shapes import Reasons
from thistlequartz.server.judging.values import Values
from thistlequartz.server.problems import ProblemDetails
from thistlequartz.server.records.form_in_force import DeskForm
from thistlequartz.server.records.models import Record

from .services import violated_rules

MOST_AT_ONCE = 200
"""Records in one call."""
Number = Annotated[int, Field(ge=1, le=999_999_999)]
State = Literal["in_progress", "submitted", "approved", "returned"]


class RecordBody(BaseModel):
    """A record from another system: values by field in canonical form.

    Decimals as texts with a point, days and times by ISO 8601, choices by their codes.
    """

    model_config = ConfigDict(extra="forbid")
    values: Values
    reasons: Reasons = {}
    """Why warnings are passed that ask for a reason, by rule."""
    submit: bool = False
    """Whether it is submitted; otherwise it is saved."""


class RecordReplacement(RecordBody):
    """The same for a record that is stored."""

    revision: Number
    """Of the record as it was got; another one by now is told, and nothing is stored."""


class RecordPatch(RecordBody):
    """Changes to a record: fields that are not named stay as they are; null makes one blank."""

    revision: Number | None = None
    """Of the record that is meant; without one they go onto the newest."""


class BulkItem(RecordBody):
    """One of several: a new record, or with a number changes to that one."""

    number: Number | None = None
    revision: Number | None = None


class BulkBody(BaseModel):
    """Several records in one call, each stored or refused by itself."""

    model_config = ConfigDict(extra="forbid")
    records: Annotated[list[BulkItem], Field(min_length=1, max_length=MOST_AT_ONCE)]


class ServiceJudgeBody(BaseModel):
    """A record that is to be judged: a new one, or a change to the one with that number."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    reasons: Reasons = {}
    number: Number | None = None


class ViolatedRule(BaseModel):
    """A rule that speaks, at some fields."""

    rule: str
    name: str
    severity: Severity
    reason_needed: bool
    fields: list[str]
    message: str


class MomentVerdict(BaseModel):
    """What happens on saving or on submitting."""

    may_pass: bool
    outcome: Outcome
    on_hold: bool
    violated: list[ViolatedRule]
    unreadable: dict[str, str]
    """By field: why its value cannot be read."""
    refusals: list[str]
    """What stops it beside its rules and values."""


class ServiceVerdicts(BaseModel):
    """Both moments, and what would be stored."""

    release: int
    save: MomentVerdict
    submit: MomentVerdict
    stores: Values
    ignored: dict[str, str]
    """Of what was sent, by field, what does not count, and why: locked, computed, or not asked."""


class StoredRecord(BaseModel):
    """A record as it is stored; its values can be sent back as they are."""

    number: int
    title: str
    state: State
    outcome: Literal["clear", "noted", "warned"]
    on_hold: bool
    revision: int
    release: int
    changed_at: datetime
    values: Values
    ignored: dict[str, str] = {}
    """Of what was sent, by field, what does not count, and why."""


class RecordList(BaseModel):
    """Some records by their numbers, and the last of these: ask for what is after it."""

    records: list[StoredRecord]
    after: int | None


class RecordListQuery(BaseModel):
    """Which records are wanted."""

    model_config = ConfigDict(extra="forbid")
    after: Annotated[int, Field(ge=0, le=999_999_999)] = 0
    """Records of higher numbers."""
    state: State | None = None
    limit: Annotated[int, Field(ge=1, le=MOST_AT_ONCE)] = 100


class BulkItemResult(BaseModel):
    """What came of one of several: the record, or why it was refused."""

    record: StoredRecord | None = None
    problem: ProblemDetails | None = None


class BulkResult(BaseModel):
    """What came of each, in their order."""

    done: list[BulkItemResult]


class ChoiceInfo(BaseModel):
    """A choice: its code, which is sent, and its label."""

    code: str
    label: str


class FieldInfo(BaseModel):
    """A field of a form."""

    key: str
    label: str
    type: str
    choices: list[ChoiceInfo] = []


class FormInfo(BaseModel):
    """A form as it is filled in now."""

    key: str
    name: str
    release: int
    fields: list[FieldInfo]


def form_told(desk: DeskForm) -> FormInfo:
    """A form, for an answer."""
    return FormInfo(
        key=desk.draft.key,
        name=desk.compiled.form.name,
        release=desk.release.number,
        fields=[
            FieldInfo(
                key=one.key,
                label=one.label,
                type=one.type,
                choices=[
                    ChoiceInfo(code=choice.code, label=choice.label)
                    for choice in getattr(desk.compiled.fields[one.key].type, "choices", ())
                ],
            )
            for one in desk.compiled.form.fields
        ],
    )


def record_told(
    record: Record,
    only: Collection[str] | None = None,
    ignored: Mapping[str, str] | None = None,
) -> StoredRecord:
    """A record, for an answer; of its values `only` some, where its receiver may not read."""
    return StoredRecord(
        number=record.number,
        title=record.title if only is None else "",
        state=record.state,
        outcome=record.outcome,
        on_hold=record.on_hold,
        revision=record.revision,
        release=record.release.number,
        changed_at=record.changed_at,
        values=record.values
        if only is None
        else {key: value for key, value in record.values.items() if key in only},
        ignored=dict(ignored or {}),
    )


def verdicts_told(
    desk: DeskForm, verdicts: dict[Any, Verdict], ignored: Mapping[str, str]
) -> ServiceVerdicts:
    """Verdicts, for an answer."""
    names = {rule.key: rule.name for rule in desk.compiled.form.rules}
    told = {moment: _moment(one, names) for moment, one in verdicts.items()}
    return ServiceVerdicts(
        release=desk.release.number,
        save=told["save"],
        submit=told["submit"],
        stores=stored_values(verdicts["submit"]),
        ignored=dict(ignored),
    )


def _moment(verdict: Verdict, names: dict[str, str]) -> MomentVerdict:
    return MomentVerdict(
        may_pass=verdict.may_pass,
        outcome=verdict.outcome,
        on_hold=verdict.on_hold,
        violated=[ViolatedRule(**one) for one in violated_rules(verdict, names)],
        unreadable={key: one.fault for key, one in verdict.fields.items() if one.fault},
        refusals=list(verdict.refusals),
    )
