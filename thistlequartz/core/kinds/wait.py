"""Fields that cannot be entered at the desk until something else is."""

from typing import Literal

from thistlequartz.core.documents import Formula, Line
from thistlequartz.core.language import Segment, Vocabulary, condition_words, tree
from thistlequartz.core.language.segments import phrase
from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.formulas import FormulaReader
from .base.kind import EffectKind, EffectSeen, as_it_is, formula_in, no_mutations, no_names
from .base.lowered import Effect, Lowered
from .base.phrases import labels


class WaitRule(EffectBase):
    """At the desk the targets cannot be entered until the condition is true."""

    kind: Literal["wait"] = "wait"
    until: Formula
    message: Line = ""
    """Why they wait; drafted from the condition where it is blank."""


def _effect(rule: WaitRule, when: tree.Node | None, reader: FormulaReader) -> Effect:
    return Effect(until=reader.condition(rule.until, "until"))


def _obligation(lowered: Lowered[WaitRule], vocabulary: Vocabulary) -> list[Segment]:
    assert lowered.until is not None
    targets = lowered.rule.targets
    return phrase(
        tr("{targets} waits until {condition}")
        if len(targets) == 1
        else tr("{targets} wait until {condition}"),
        targets=labels(targets, vocabulary),
        condition=condition_words(lowered.until, vocabulary),
    )


def _in_effect(seen: EffectSeen) -> str:
    return seen.waiting_for or tr("{targets} can be filled in.", targets=seen.targets)


KIND = EffectKind(
    document=WaitRule,
    formulas=formula_in("until"),
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=_effect,
    part="waiting",
    decides="state",
    told_out_of_play=False,
    on_creation_only=False,
    can_be_unconditional=True,
    obligation=_obligation,
    in_effect=_in_effect,
)
