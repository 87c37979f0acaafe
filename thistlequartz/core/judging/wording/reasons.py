"""Why a rule has its status, in words and values."""

from collections.abc import Callable, Sequence
from typing import Any, Final

from thistlequartz.core.engines.environment import RECORDS
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.functions.work import overspends
from thistlequartz.core.judging.compiling.compiled_rule import CompiledRule
from thistlequartz.core.kinds import CHECK_KINDS, EFFECT_KINDS, EffectSeen
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import ValueType
from thistlequartz.core.values import USUAL

from .reason_wording import Phrases, ReasonWording

MOMENT_WORDS: dict[Moment, str] = {
    "entry": tr("while typing"),
    "save": tr("on saving"),
    "submit": tr("on submitting"),
}


TOO_MUCH_WORK = tr(
    "Its formula takes more steps than one rule may for these values: it goes through too much, "
    "or builds too much."
)


def not_relevant(targets: Sequence[str], words: ReasonWording) -> str:
    """No target of the rule is asked."""
    labels = [words.vocabulary[key].label for key in targets]
    return (
        tr("{fields} is not asked here.")
        if len(labels) == 1
        else tr("{fields} are not asked here.")
    ).format(fields=listed(labels))


def silent_by_setting(moment: Moment) -> str:
    """The rule has no severity at the moment."""
    return tr("It is set to say nothing {moment}.", moment=MOMENT_WORDS[moment])


def silent_until_touched(reads: Sequence[str], vocabulary: Vocabulary) -> str:
    """While typing, no field of the rule has been left yet."""
    return tr(
        "It speaks once {fields} has been left.",
        fields=listed((vocabulary[key].label for key in reads), "or"),
    )


def not_applicable(compiled: CompiledRule, words: ReasonWording) -> str:
    """The condition is not met, in words; with the values that decide it."""
    if compiled.when is not None and overspends(compiled.when, words.settled.environment):
        return TOO_MUCH_WORK
    if not compiled.governors:
        return tr("Only when {condition}.", condition=compiled.condition)
    return tr(
        "Only when {condition}. Here {values}.",
        condition=compiled.condition,
        values=_values(compiled.governors, words),
    )


def not_evaluable(compiled: CompiledRule, words: ReasonWording) -> str:
    """Blank or unreadable values, or the want of other records, leave nothing to check."""
    environment, fields = words.settled.environment, compiled.judged_by
    wanting = [key for key in fields if environment.get(key) is None] or [
        key for key in fields if environment.get(key) is UNREADABLE
    ]
    if wanting:
        return judged(tuple(wanting), words)
    if CHECK_KINDS[compiled.rule.kind].other_records and RECORDS not in environment:
        return tr("The other records cannot be seen from here.")
    asked = (compiled.when, *(check.asked for check in compiled.checks))
    if any(one is not None and overspends(one, environment) for one in asked):
        return TOO_MUCH_WORK
    return tr("Its condition has no answer for these values.")


def judged(fields: tuple[str, ...], words: ReasonWording) -> str:
    """The values that a rule, satisfied or violated, was judged by."""
    settled = words.settled
    if len(fields) == 1 and not settled.closed:
        # Said anew each time: to look whether it was said before takes as long.
        (key,) = fields
        return f"{words.sentences[key](settled.environment.get(key))}."
    said = words.said.get(fields)
    if said is None:
        said = f"{_begun(_values(fields, words))}." if fields else tr("No values decide it.")
        words.said[fields] = said
    return said


def in_effect(compiled: CompiledRule, words: ReasonWording) -> str:
    """What a rule with an effect does to its targets here."""
    targets = compiled.rule.targets
    waits = not words.settled.waiting.keys().isdisjoint(targets)
    seen = EffectSeen(
        targets=listed([words.vocabulary[key].label for key in targets]),
        is_one=len(targets) == 1,
        waiting_for=compiled.waiting_for if waits else "",
        values=lambda: _values(targets, words),
    )
    return EFFECT_KINDS[compiled.rule.kind].in_effect(seen)


def phrases(vocabulary: Vocabulary) -> Phrases:
    """By field, what says its value: “depth is 3 m”."""
    return {key: _saying(one.label, one.type) for key, one in vocabulary.items()}


def sentences(vocabulary: Vocabulary) -> Phrases:
    """The same as a sentence begins: “Depth is 3 m”."""
    return {key: _saying(_begun(one.label), one.type) for key, one in vocabulary.items()}


_PLACE: Final = "\0"


def _saying(label: str, type_: ValueType) -> Callable[[Any], str]:
    shown, blank = type_.shower(USUAL), tr("{label} is blank", label=label)
    unreadable = tr("{label} is unreadable", label=label)
    # Taken apart once: it is said of every value of every record.
    before, _, after = tr("{label} is {value}", label=label, value=_PLACE).partition(_PLACE)

    def said(value: Any) -> str:
        if value is None:
            return blank
        if value is UNREADABLE:
            return unreadable
        return f"{before}{shown(value)}{after}"

    return said


def _begun(said: str) -> str:
    return said[:1].upper() + said[1:]


def _values(keys: Sequence[str], words: ReasonWording) -> str:
    if len(keys) == 1:
        return _value(keys[0], words)
    return listed([_value(key, words) for key in keys])


def _value(key: str, words: ReasonWording) -> str:
    said = words.said.get(key)
    if said is None:
        settled = words.settled
        if key in settled.closed:
            said = tr("{label} is not asked", label=words.vocabulary[key].label)
        else:
            said = words.phrases[key](settled.environment.get(key))
        words.said[key] = said
    return said
