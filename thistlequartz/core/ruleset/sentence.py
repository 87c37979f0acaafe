"""A rule as an English sentence, and the message drafted from it."""

from thistlequartz.core.expression import (
    Segment,
    Vocabulary,
    condition_words,
    obligation_words,
    plain,
)
from thistlequartz.core.expression.words import enumerate_words, word

from .document import MandatoryRule
from .lowering import Check, LoweredRule


def rule_sentence(lowered: LoweredRule, vocabulary: Vocabulary) -> list[Segment]:
    """“When Type status is Holotype, Determined by must be filled in.”"""
    if lowered.when is None:
        return [*_obligation(lowered, vocabulary), word(".")]
    return [
        word("When "),
        *condition_words(lowered.when, vocabulary),
        word(", "),
        *_obligation(lowered, vocabulary),
        word("."),
    ]


def drafted_message(lowered: LoweredRule, check: Check, vocabulary: Vocabulary) -> str:
    """What people are told when `check` fails and nobody has worded the message."""
    said = plain(_check_words(lowered, check, vocabulary)) + "."
    if lowered.when is None:
        return said
    return f"{said} This is asked when {plain(condition_words(lowered.when, vocabulary))}."


def _obligation(lowered: LoweredRule, vocabulary: Vocabulary) -> list[Segment]:
    if isinstance(lowered.rule, MandatoryRule):
        labels = [[Segment("field", vocabulary[key].label, key)] for key in lowered.rule.targets]
        return [*enumerate_words(labels, "and"), word(" must be filled in")]
    parts = [_check_words(lowered, check, vocabulary) for check in lowered.checks]
    return enumerate_words(parts, "and")


def _check_words(lowered: LoweredRule, check: Check, vocabulary: Vocabulary) -> list[Segment]:
    if isinstance(lowered.rule, MandatoryRule):
        (key,) = check.targets
        return [Segment("field", vocabulary[key].label, key), word(" must be filled in")]
    return obligation_words(check.must, vocabulary)
