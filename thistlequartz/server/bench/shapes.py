"""The shape of a judgement, shared by the bench and the desk."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict
from pydantic import Field as Setting

from thistlequartz.core.evaluation import FieldState, Outcome, RuleResult, Verdict
from thistlequartz.core.ruleset import Event, Moment

Entered = str | int | float | bool | None
"""What a screen or a service sends for one field. Decimals best travel as strings."""
Values = dict[str, Entered]


class Trying(BaseModel):
    """The values of one record as they are being typed."""

    model_config = ConfigDict(extra="forbid")
    values: Values
    touched: Annotated[list[str], Setting(max_length=1_000)] = []
    """The fields that have been left or chosen since the record was opened."""
    event: Event = "create"
    """Whether the record is new or one that is changed."""


class VerdictView(BaseModel):
    """What happens at one moment, with an answer for every rule."""

    moment: Moment
    outcome: Outcome
    may_pass: bool
    blocks: int
    warns: int
    notes: int
    results: list[RuleResult]
    fields: dict[str, FieldState]


class Judgement(BaseModel):
    """The verdicts of all three moments."""

    entry: VerdictView
    save: VerdictView
    submit: VerdictView


def verdict_view(verdict: Verdict) -> VerdictView:
    """`verdict` for an answer. Values that cannot be read count among the blocks."""
    speaking = [result.severity for result in verdict.broken]
    faults = sum(state.fault is not None for state in verdict.fields.values())
    return VerdictView(
        moment=verdict.moment,
        outcome=verdict.outcome,
        may_pass=verdict.may_pass,
        blocks=speaking.count("block") + (0 if verdict.moment == "entry" else faults),
        warns=speaking.count("warn"),
        notes=speaking.count("note"),
        results=list(verdict.results),
        fields=dict(verdict.fields),
    )
