"""The shape of what is judged, and of a judgement: shared by the bench and the desk."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Setting

from thistlequartz.core.judging import (
    FieldState,
    Message,
    SectionState,
    Status,
    Verdict,
)
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Event, Moment, Outcome, Placement, Severity
from thistlequartz.core.types import show_value
from thistlequartz.core.values import WritingStyle, to_entry

from .values import Values

Applied = Annotated[list[str], Setting(max_length=1_000)]


class ReasonGiven(BaseModel):
    """Why a warning is passed, and the basis of the result it was given for."""

    model_config = ConfigDict(extra="forbid")
    text: Annotated[str, Setting(max_length=2_000)]
    basis: Annotated[str, Setting(max_length=64)] | None = None


Reasons = Annotated[dict[str, ReasonGiven], Setting(max_length=1_000)]


class JudgeBody(BaseModel):
    """The values of one record as they are being typed."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    number: Annotated[int, Setting(ge=1, le=999_999_999)] | None = None
    """At the desk: the record that is changed; None for a new one."""
    reasons: Reasons = {}
    proposals_applied: Applied = []
    """The rules whose proposals were applied."""
    touched: Annotated[list[str], Setting(max_length=1_000)] = []
    """The fields that have been left or chosen since the record was opened."""
    event: Event = "create"
    """Whether the record is new or one that is changed."""


class ProposalView(BaseModel):
    """Values that a rule proposes, with how they read."""

    rule: str
    title: str
    explanation: str
    at: list[str]
    values: Values
    shown: dict[str, str]
    """The proposed values as they read, by field."""
    state: Literal["offered", "applied", "overtaken"]


class RuleResultView(BaseModel):
    """What one rule says at one moment, and why in words and values."""

    model_config = ConfigDict(from_attributes=True)
    rule: str
    status: Status
    severity: Severity
    reason: str
    messages: tuple[Message, ...] = ()
    placement: Placement = "field"
    enters_hold: bool = False
    """Whether breaking it on saving sets the record on hold."""
    waiver: Literal["required", "given", "lapsed"] | None = None
    """Of a warning that passes only with a reason: how that stands."""
    basis: str | None = None
    """What a reason for it belongs to: keep it with the reason, and send both."""
    confirmation: str = ""
    """What is said of a value that keeps the rule."""


class VerdictView(BaseModel):
    """What happens at one moment, with an answer for every rule."""

    moment: Moment
    outcome: Outcome
    may_pass: bool
    blocks: int
    to_fill: int
    """Fields that a block, or a value that cannot be read, leaves to fill in."""
    to_correct: int
    """Fields with a value that stands in the way."""
    warns: int
    """Places at which somebody is warned."""
    notes: int
    results: list[RuleResultView]
    fields: dict[str, FieldState]
    ignored: dict[str, str]
    """What was sent but does not count, by field, with the reason."""
    on_hold: bool
    held_by: list[str]
    """The rules that hold the record up."""
    refusals: list[str]
    """What stops the record beside its rules and values."""
    proposals: list[ProposalView]
    drops: list[str]
    """Fields whose stored value a save would drop."""
    sections: dict[str, SectionState]
    words: dict[str, str]
    """Values as they read: those that nobody enters, locked or computed, and days."""


class VerdictsView(BaseModel):
    """The verdicts of all three moments."""

    entry: VerdictView
    save: VerdictView
    submit: VerdictView


def _places(verdict: Verdict, severity: Severity) -> set[str]:
    """The fields at which messages of a severity are told, each message counted once."""
    return {
        message.fields[0]
        for result in verdict.violated
        if result.severity == severity
        for message in result.messages
    }


def verdict_view(
    verdict: Verdict, fields: Vocabulary, style: WritingStyle, *, why: bool = True
) -> VerdictView:
    """Return the view of `verdict`, its values in somebody's style; with `why`, also reasons.

    Values that cannot be read count among the blocks.
    """
    faults = {key for key, state in verdict.fields.items() if state.fault is not None}
    stopping = _places(verdict, "block") | (faults if verdict.moment != "entry" else set())
    blank = {key for key in stopping if key not in faults and verdict.fields[key].value is None}
    hard = sum(result.severity == "block" for result in verdict.violated)
    return VerdictView(
        moment=verdict.moment,
        outcome=verdict.outcome,
        may_pass=verdict.may_pass,
        blocks=hard + len(verdict.refusals) + (0 if verdict.moment == "entry" else len(faults)),
        to_fill=len(blank),
        to_correct=len(stopping) - len(blank),
        warns=len(_places(verdict, "warn")),
        notes=len(_places(verdict, "note")),
        results=[
            told if why else told.model_copy(update={"reason": ""})
            for told in map(RuleResultView.model_validate, verdict.results)
        ],
        fields=dict(verdict.fields),
        ignored=dict(verdict.ignored),
        on_hold=verdict.on_hold,
        held_by=list(verdict.held_by),
        refusals=list(verdict.refusals),
        proposals=[
            ProposalView(
                rule=one.rule,
                title=one.title,
                explanation=one.explanation,
                at=list(one.at),
                values={
                    key: to_entry(value, fields[key].settings) for key, value in one.values.items()
                },
                shown={
                    key: show_value(value, fields[key].type, style)
                    for key, value in one.values.items()
                },
                state=one.state,
            )
            for one in verdict.proposals
        ],
        drops=list(verdict.drops),
        sections=dict(verdict.sections or {}),
        words={
            key: show_value(state.value, fields[key].type, style)
            for key, state in verdict.fields.items()
            if state.value is not None
        }
        if verdict.moment == "save"
        else {},
    )
