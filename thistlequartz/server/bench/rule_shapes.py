"""The shape of a rule tried while it is being written."""

from typing import Annotated, Literal

from pydantic import BaseModel
from pydantic import Field as Setting

from thistlequartz.core.language import ClauseGroup
from thistlequartz.core.ruleset import Rule
from thistlequartz.server.judging.shapes import JudgeBody, VerdictsView


class RuleDraftBody(BaseModel):
    """A rule that is being written, in the place of the one it `replaces`."""

    rule: Rule
    clauses: Annotated[dict[str, ClauseGroup], Setting(default_factory=dict)]
    replaces: str | None = None


class RuleBenchBody(RuleDraftBody, JudgeBody):
    """The same, with values to try it on."""


class RuleBenchResult(BaseModel):
    """What the draft says with the rule as it is being written."""

    rule: str
    """The key by which its results are found."""
    fields: list[str]
    """The fields it targets or reads, and those that they are computed from, in order."""
    judgement: VerdictsView


class RuleImpactPreviewView(BaseModel):
    """How many stored records a rule would newly stop or warn of, of those that were looked at."""

    records: int
    looked_at: int
    exact: bool
    """Whether all of them were looked at."""
    unfinished: bool = False
    """Whether something is still to be said or corrected in it, so that it has no impact yet."""
    newly: int
    """How many it would newly be violated by."""
    stops: dict[Literal["save", "submit"], int]
    warns: dict[Literal["save", "submit"], int]
    frees: dict[Literal["save", "submit"], int]
    """Which were stopped and would go through."""
    working: bool
    """Whether the exact answer is being worked out: ask again."""
