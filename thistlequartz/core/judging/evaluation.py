"""What one rule says of a record, whatever the moment."""

from collections.abc import Sequence
from typing import NamedTuple

from thistlequartz.core.enumerations import Status

from .compiling.compiled_rule import CompiledCheck, CompiledRule
from .compiling.messages import Message
from .wording import reasons
from .wording.reason_wording import StatusReason


class Evaluation(NamedTuple):
    """What one rule says."""

    status: Status
    reason: StatusReason
    messages: tuple[Message, ...] = ()
    applies: bool = False
    reads: tuple[str, ...] = ()
    """The fields its violated checks were judged by."""

    @property
    def is_violated(self) -> bool:
        """Whether the rule is violated; a rule of a field that is not asked never is."""
        return self.status == "violated"


class FixedEvaluations(NamedTuple):
    """What a rule that checks can say of any record, apart from being violated."""

    not_relevant: Evaluation
    not_applicable: Evaluation
    not_evaluable: Evaluation
    satisfied: Evaluation
    """Where all its checks are."""


def prepared(compiled: CompiledRule) -> FixedEvaluations:
    """What it says the same of every record."""
    out = StatusReason(reasons.not_relevant, compiled.rule.targets)
    nothing = StatusReason(reasons.not_evaluable, compiled)
    return FixedEvaluations(
        Evaluation("not_relevant", out),
        Evaluation("not_applicable", StatusReason(reasons.not_applicable, compiled)),
        Evaluation("not_evaluable", nothing, (), True),
        satisfied(compiled.checks),
    )


def satisfied(checks: Sequence[CompiledCheck]) -> Evaluation:
    """Of a rule of which these checks are satisfied, and none is violated."""
    reads = merged(checks)
    return Evaluation("satisfied", StatusReason(reasons.judged, reads), (), True, reads)


def merged(checks: Sequence[CompiledCheck]) -> tuple[str, ...]:
    """The fields that any of the checks reads, each once."""
    if len(checks) == 1:
        return checks[0].reads
    return tuple(dict.fromkeys(key for check in checks for key in check.reads))
