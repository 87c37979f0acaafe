"""What one rule says of a record, whatever the moment."""

from collections.abc import Sequence
from typing import NamedTuple

from thistlequartz.core.documents import Status

from . import reasons
from .rules import CompiledCheck, CompiledRule
from .verdict import Message
from .words import Reason


class Finding(NamedTuple):
    """What one rule says."""

    status: Status
    reason: Reason
    messages: tuple[Message, ...] = ()
    applies: bool = False
    reads: tuple[str, ...] = ()
    """The fields its violated checks were judged by."""


class Prepared(NamedTuple):
    """What a rule that checks can say of any record, apart from being violated."""

    not_in_play: Finding
    does_not_apply: Finding
    nothing_to_judge: Finding
    satisfied: Finding
    """Where all its checks are."""


def prepared(compiled: CompiledRule) -> Prepared:
    """What it says the same of every record."""
    out = Reason(reasons.not_in_play, compiled.rule.targets)
    nothing = Reason(reasons.nothing_to_judge, compiled)
    return Prepared(
        Finding("target_not_in_play", out),
        Finding("does_not_apply", Reason(reasons.does_not_apply, compiled)),
        Finding("nothing_to_judge", nothing, (), True),
        satisfied(compiled.checks),
    )


def satisfied(checks: Sequence[CompiledCheck]) -> Finding:
    """Of a rule of which these checks are satisfied, and none is violated."""
    reads = merged(checks)
    return Finding("kept", Reason(reasons.judged, reads), (), True, reads)


def merged(checks: Sequence[CompiledCheck]) -> tuple[str, ...]:
    """The fields that any of the checks reads, each once."""
    if len(checks) == 1:
        return checks[0].reads
    return tuple(dict.fromkeys(key for check in checks for key in check.reads))
