"""What each rule says of a record's values, whatever the moment."""

from typing import NamedTuple

from thistlequartz.core.expression import Vocabulary

from . import reasons
from .program import Program
from .rules import CompiledCheck, CompiledRule, told, why_unfit
from .settling import Settled
from .verdict import Message, Said, Status


class Finding(NamedTuple):
    """What one rule says."""

    status: Status
    because: Said
    messages: tuple[Message, ...] = ()
    applies: bool = False
    reads: tuple[str, ...] = ()
    """The fields its broken checks were judged by."""

    @property
    def reason(self) -> str:
        """Why, in words and values."""
        return self.because.words


def find_all(
    program: Program, settled: Settled, vocabulary: Vocabulary, event: str
) -> dict[str, Finding]:
    """The finding of every rule, by key."""
    found = {key: Finding(status, Said(str, why)) for key, (status, why) in program.outside.items()}
    for compiled in program.checks:
        found[compiled.rule.key] = _find(compiled, settled, vocabulary)
    for compiled in program.effects:
        found[compiled.rule.key] = _effect(compiled, settled, vocabulary, event)
    return found


def _find(compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary) -> Finding:
    closed, targets = settled.closed, compiled.rule.targets
    if closed and all(key in closed for key in targets):
        return Finding("target_not_in_play", Said(reasons.not_in_play, targets, vocabulary))
    environment = settled.environment
    if not compiled.applies(environment):
        said = Said(reasons.does_not_apply, compiled, settled, vocabulary)
        return Finding("does_not_apply", said)
    broken: list[CompiledCheck] = []
    kept: list[CompiledCheck] = []
    for check in compiled.checks:
        holds = check.holds(environment)
        if holds is not None:
            (kept if holds else broken).append(check)
    if broken:
        reads = _merged(broken)
        messages = tuple(told(compiled, check, environment) for check in broken)
        said = Said(_broken, broken, reads, settled, vocabulary)
        return Finding("broken", said, messages, True, reads)
    if kept:
        reads = _merged(kept)
        return Finding("kept", Said(reasons.judged, reads, settled, vocabulary), (), True, reads)
    said = Said(reasons.nothing_to_judge, compiled, settled, vocabulary)
    return Finding("nothing_to_judge", said, (), True)


def _broken(
    checks: list[CompiledCheck], reads: tuple[str, ...], settled: Settled, vocabulary: Vocabulary
) -> str:
    whys = [why for check in checks if (why := why_unfit(check, settled.environment))]
    return " ".join([reasons.judged(reads, settled, vocabulary), *whys])


def _effect(
    compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary, event: str
) -> Finding:
    rule = compiled.rule
    outside = all(key in settled.closed for key in rule.targets)
    if outside and rule.kind not in ("open", "close"):
        return Finding("target_not_in_play", Said(reasons.not_in_play, rule.targets, vocabulary))
    if rule.kind == "start" and event != "create":
        return Finding("does_not_apply", Said(str, "Starting values are for new records only."))
    if not compiled.applies(settled.environment):
        said = Said(reasons.does_not_apply, compiled, settled, vocabulary)
        return Finding("does_not_apply", said)
    return Finding("kept", Said(reasons.in_effect, compiled, settled, vocabulary), (), True)


def _merged(checks: list[CompiledCheck]) -> tuple[str, ...]:
    """The fields that any of the checks reads, each once."""
    if len(checks) == 1:
        return checks[0].reads
    return tuple(dict.fromkeys(key for check in checks for key in check.reads))
