"""What a judgement says."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.ruleset import Moment, Placement, Severity
from thistlequartz.core.values import Value

Status = Literal[
    "unfinished",
    "off",
    "out_of_scope",
    "silent",
    "does_not_apply",
    "nothing_to_judge",
    "broken",
    "kept",
]
"""In this order the first that fits is a rule's status at a moment."""

Outcome = Literal["clear", "noted", "warned", "blocked"]
OUTCOME_OF: dict[Severity, Outcome] = {
    "off": "clear",
    "note": "noted",
    "warn": "warned",
    "block": "blocked",
}
SEVERITIES: tuple[Severity, ...] = ("off", "note", "warn", "block")
"""From the mildest to the hardest."""


@dataclass(frozen=True, slots=True)
class Mark:
    """What a field promises before it is filled: `demanded` blocks, `expected` does not."""

    kind: Literal["demanded", "expected"]
    moment: Moment


@dataclass(frozen=True, slots=True)
class FieldState:
    """One field in one judgement."""

    value: Value | None
    fault: str | None = None
    mark: Mark | None = None


@dataclass(frozen=True, slots=True)
class Message:
    """What people are told, and the fields it belongs to."""

    text: str
    fields: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class RuleResult:
    """What one rule says at one moment, and why in words and values."""

    rule: str
    status: Status
    severity: Severity
    reason: str
    messages: tuple[Message, ...] = ()
    """What a broken rule tells."""
    placement: Placement = "field"


@dataclass(frozen=True, slots=True)
class Verdict:
    """What happens at one moment."""

    moment: Moment
    outcome: Outcome
    may_pass: bool
    results: tuple[RuleResult, ...]
    fields: Mapping[str, FieldState]
    ignored: Mapping[str, str]
    """What was given but not used, by key, with the reason."""

    @property
    def broken(self) -> tuple[RuleResult, ...]:
        """The rules that speak, hardest first, otherwise in the order of the form."""
        speaking = [result for result in self.results if result.status == "broken"]
        return tuple(sorted(speaking, key=lambda result: -SEVERITIES.index(result.severity)))
