"""What each rule says of a record's values, whatever the moment."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from thistlequartz.core.expression import Vocabulary
from thistlequartz.core.ruleset.rules import MARKING_KINDS

from . import reasons
from .program import Program
from .rules import CompiledCheck, CompiledRule, told, why_unfit
from .settling import Settled
from .verdict import Message, Status


class Finding(NamedTuple):
    """What one rule says."""

    status: Status
    reason: str
    messages: tuple[Message, ...] = ()
    applies: bool = False
    reads: tuple[str, ...] = ()
    """The fields its broken checks were judged by."""


def find_all(
    program: Program, settled: Settled, vocabulary: Vocabulary, event: str
) -> dict[str, Finding]:
    """The finding of every rule, by key."""
    found = {key: Finding(status, why) for key, (status, why) in program.outside.items()}
    for compiled in program.checks:
        found[compiled.rule.key] = _find(compiled, settled, vocabulary)
    for compiled in program.effects:
        found[compiled.rule.key] = _effect(compiled, settled, vocabulary, event)
    return found


def _find(compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary) -> Finding:
    closed, targets = settled.closed, compiled.rule.targets
    if closed and all(key in closed for key in targets):
        return Finding("target_not_in_play", reasons.not_in_play(targets, vocabulary))
    environment = settled.environment
    if not compiled.applies(environment):
        return Finding("does_not_apply", reasons.does_not_apply(compiled, settled, vocabulary))
    broken: list[CompiledCheck] = []
    kept: list[CompiledCheck] = []
    for check in compiled.checks:
        if closed and all(key in closed for key in check.check.targets):
            continue
        holds = check.holds(environment)
        if holds is not None:
            (kept if holds else broken).append(check)
    judged = broken or kept
    if not judged:
        said = reasons.nothing_to_judge(compiled, settled, vocabulary)
        return Finding("nothing_to_judge", said, applies=True)
    reads = _merged(judged)
    said = reasons.judged(reads, settled, vocabulary)
    if not broken:
        return Finding("kept", said, applies=True, reads=reads)
    whys = [why for check in broken if (why := why_unfit(check, environment))]
    messages = tuple(told(compiled, check, environment) for check in broken)
    return Finding("broken", " ".join([said, *whys]), messages, applies=True, reads=reads)


def _effect(
    compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary, event: str
) -> Finding:
    rule = compiled.rule
    outside = all(key in settled.closed for key in rule.targets)
    if outside and rule.kind not in ("open", "close"):
        return Finding("target_not_in_play", reasons.not_in_play(rule.targets, vocabulary))
    if rule.kind == "start" and event != "create":
        return Finding("does_not_apply", "Starting values are for new records only.")
    if not compiled.applies(settled.environment):
        return Finding("does_not_apply", reasons.does_not_apply(compiled, settled, vocabulary))
    return Finding("kept", reasons.in_effect(compiled, settled, vocabulary), applies=True)


def _merged(checks: Iterable[CompiledCheck]) -> tuple[str, ...]:
    """The fields that any of the checks reads, each once."""
    return tuple(dict.fromkeys(key for check in checks for key in check.reads))


def marking(findings: Mapping[str, Finding], program: Program) -> Iterable[CompiledRule]:
    """The rules that ask for a field to be filled, and apply."""
    return (
        one
        for one in program.checks
        if one.rule.kind in MARKING_KINDS and findings[one.rule.key].applies
    )
