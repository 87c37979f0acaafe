"""What each rule says of a record's values, whatever the moment."""

from collections.abc import Sequence

from thistlequartz.core.engines.answers import SATISFIED, VIOLATED, Answer
from thistlequartz.core.kinds import EFFECT_KINDS
from thistlequartz.core.translation import tr

from .compiling.compiled_rule import CompiledCheck, CompiledRule, told, why_unfit
from .evaluation import Evaluation, merged, satisfied
from .program import Program
from .settled import Settled
from .wording import reasons
from .wording.reason_wording import ReasonWording, StatusReason, as_it_is

_SATISFIED = (SATISFIED,)
"""The answers of a rule that asks one thing, mostly."""
_NEW_RECORDS_ONLY = tr("Starting values are for new records only.")


def find_all(
    program: Program, settled: Settled, event: str, *, readable: bool
) -> dict[str, Evaluation]:
    """The finding of every rule, by key; `readable`, where every value can be read."""
    found = {
        key: Evaluation(status, StatusReason(as_it_is, why))
        for key, (status, why) in program.outside.items()
    }
    closed = settled.closed
    answers = program.answering(settled.environment, closed, readable=readable)
    for (key, compiled), about, said in zip(
        program.by_key.items(), program.prepared, answers, strict=True
    ):
        if closed and all(one in closed for one in compiled.rule.targets):
            found[key] = about.not_relevant
        elif said == _SATISFIED:
            found[key] = about.satisfied
        elif not said:
            found[key] = about.not_applicable
        elif VIOLATED in said:
            found[key] = _violated(_those(compiled, said, VIOLATED), compiled, settled)
        elif SATISFIED in said:
            found[key] = satisfied(_those(compiled, said, SATISFIED))
        else:
            found[key] = about.not_evaluable
    for compiled in program.effects:
        found[compiled.rule.key] = _effect(compiled, settled, event)
    return found


def _violated(
    checks: Sequence[CompiledCheck], compiled: CompiledRule, settled: Settled
) -> Evaluation:
    reads = merged(checks)
    messages = tuple([told(compiled, check, settled.environment) for check in checks])
    return Evaluation(
        "violated", StatusReason(_why_violated, (checks, reads)), messages, True, reads
    )


def _why_violated(
    about: tuple[Sequence[CompiledCheck], tuple[str, ...]], words: ReasonWording
) -> str:
    checks, reads = about
    whys = [why for check in checks if (why := why_unfit(check, words.settled.environment))]
    return " ".join([reasons.judged(reads, words), *whys])


def _those(
    compiled: CompiledRule, said: tuple[Answer, ...], wanted: Answer
) -> Sequence[CompiledCheck]:
    """The checks of a rule that are answered so."""
    if len(said) == 1:
        return compiled.checks
    return [check for check, one in zip(compiled.checks, said, strict=True) if one == wanted]


def _effect(compiled: CompiledRule, settled: Settled, event: str) -> Evaluation:
    rule = compiled.rule
    outside = all(key in settled.closed for key in rule.targets)
    kind = EFFECT_KINDS[rule.kind]
    if outside and compiled.asks_for_play:
        return Evaluation("not_relevant", StatusReason(reasons.not_relevant, rule.targets))
    if kind.on_creation_only and event != "create":
        return Evaluation("not_applicable", StatusReason(as_it_is, _NEW_RECORDS_ONLY))
    if not compiled.applies(settled.environment):
        return Evaluation("not_applicable", StatusReason(reasons.not_applicable, compiled))
    return Evaluation("satisfied", StatusReason(reasons.in_effect, compiled), (), True)
