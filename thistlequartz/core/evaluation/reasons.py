"""Why a rule has its status, in words and values."""

from collections.abc import Sequence

from thistlequartz.core.engines.environment import RECORDS
from thistlequartz.core.expression import Vocabulary
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.ruleset import Moment, either
from thistlequartz.core.values import show_value

from .rules import CompiledRule
from .settling import Settled

MOMENT_WORDS: dict[Moment, str] = {
    "entry": "while typing",
    "save": "on saving",
    "submit": "on submitting",
}


def not_in_play(targets: Sequence[str], vocabulary: Vocabulary) -> str:
    """No target of the rule is asked."""
    labels = [vocabulary[key].label for key in targets]
    return f"{_both(labels)} {'is' if len(labels) == 1 else 'are'} not asked here."


def silent_by_setting(moment: Moment) -> str:
    """The rule has no severity at the moment."""
    return f"It is set to say nothing {MOMENT_WORDS[moment]}."


def silent_until_touched(reads: Sequence[str], vocabulary: Vocabulary) -> str:
    """While typing, no field of the rule has been left yet."""
    return f"It speaks once {either(vocabulary[key].label for key in reads)} has been left."


def does_not_apply(compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary) -> str:
    """The condition is not met, in words; with the values that decide it."""
    values = _values(compiled.governors, settled, vocabulary)
    return f"Only when {compiled.condition}." + (f" Here {values}." if values else "")


def nothing_to_judge(compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary) -> str:
    """Blank or unreadable values, or the want of other records, leave nothing to judge."""
    environment = settled.environment
    fields = dict.fromkeys(key for check in compiled.checks for key in check.reads)
    wanting = [key for key in fields if environment.get(key) is None] or [
        key for key in fields if environment.get(key) is UNREADABLE
    ]
    if not wanting and compiled.rule.kind in ("unique", "elsewhere") and RECORDS not in environment:
        return "The other records cannot be seen from here."
    if not wanting:
        return "Its condition has no answer for these values."
    return _sentence(_values(wanting, settled, vocabulary))


def judged(fields: Sequence[str], settled: Settled, vocabulary: Vocabulary) -> str:
    """The values that a rule, met or broken, was judged by."""
    return _sentence(_values(fields, settled, vocabulary) or "no values decide it")


def in_effect(compiled: CompiledRule, settled: Settled, vocabulary: Vocabulary) -> str:
    """What a rule with an effect does to its targets here."""
    labels = [vocabulary[key].label for key in compiled.rule.targets]
    are = "is" if len(labels) == 1 else "are"
    match compiled.rule.kind:
        case "open":
            return f"{_both(labels)} {are} asked."
        case "close":
            return f"{_both(labels)} {are} not asked."
        case "lock":
            return f"{_both(labels)} {are} locked."
        case "wait" if settled.waiting.keys() & set(compiled.rule.targets):
            return compiled.waiting_for
        case "wait":
            return f"{_both(labels)} can be filled in."
        case "propose":
            return f"It has a proposal at {_both(labels)}."
        case _:
            return _sentence(_values(compiled.rule.targets, settled, vocabulary))


def _sentence(said: str) -> str:
    return f"{said[:1].upper()}{said[1:]}."


def _values(keys: Sequence[str], settled: Settled, vocabulary: Vocabulary) -> str:
    said = settled.said
    for key in keys:
        if key not in said:
            said[key] = _value(key, settled, vocabulary)
    return said[keys[0]] if len(keys) == 1 else _both([said[key] for key in keys])


def _value(key: str, settled: Settled, vocabulary: Vocabulary) -> str:
    declared, value = vocabulary[key], settled.environment.get(key)
    if key in settled.closed:
        return f"{declared.label} is not asked"
    shown = "unreadable" if value is UNREADABLE else show_value(value, declared.type)
    return f"{declared.label} is {shown}"


def _both(parts: list[str]) -> str:
    if len(parts) < 2:
        return "".join(parts)
    *others, last = parts
    return f"{', '.join(others)} and {last}"
