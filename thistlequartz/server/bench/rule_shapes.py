"""The shape of a rule tried while it is being written."""

from typing import Annotated

from pydantic import BaseModel
from pydantic import Field as Setting

from thistlequartz.core.language import ClauseGroup
from thistlequartz.core.ruleset import Rule
from thistlequartz.server.judging.shapes import TrialBody, Verdicts


class RuleTrialBody(TrialBody):
    """Values for a rule that is being written, in the place of the one it `replaces`."""

    rule: Rule
    clauses: Annotated[dict[str, ClauseGroup], Setting(default_factory=dict)]
    replaces: str | None = None


class RuleAnswer(BaseModel):
    """What the draft says with the rule as it is being written."""

    rule: str
    """The key by which its results are found."""
    fields: list[str]
    """The fields it targets or reads, and those that they are computed from, in order."""
    judgement: Verdicts
