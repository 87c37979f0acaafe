"""Words that several kinds of rule share."""

from collections.abc import Callable, Iterable
from typing import Any

from thistlequartz.core.language import Segment, Vocabulary, obligation_words, value_words
from thistlequartz.core.language.segments import enumerate_words, word

from .kind import EffectSeen
from .lowered import Check, Lowered


def labels(keys: Iterable[str], vocabulary: Vocabulary, joining: str = "and") -> list[Segment]:
    """The labels of fields, joined."""
    listed = [[Segment("field", vocabulary[key].label, key)] for key in keys]
    return enumerate_words(listed, joining)


def told_of_must(check: Check, vocabulary: Vocabulary) -> list[Segment]:
    """What must hold, in words."""
    return obligation_words(check.must, vocabulary)


def told_of_targets(says: str) -> Callable[[Check, Vocabulary], list[Segment]]:
    """The targets of a check, and what is said of them."""
    return lambda check, vocabulary: [*labels(check.targets, vocabulary), word(says)]


def each_check(
    told: Callable[[Check, Vocabulary], list[Segment]],
) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """What is said of every check, joined."""
    return lambda lowered, vocabulary: enumerate_words(
        [told(check, vocabulary) for check in lowered.checks], "and"
    )


def of_all_targets(one: str, several: str) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """The targets, and what is said of one or of several."""

    def said(lowered: Lowered[Any], vocabulary: Vocabulary) -> list[Segment]:
        targets = lowered.rule.targets
        return [*labels(targets, vocabulary), word(one if len(targets) == 1 else several)]

    return said


def each_value(verb: str) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """Every field that is given a value, the verb, and the value."""
    return lambda lowered, vocabulary: enumerate_words(
        [
            [*labels((key,), vocabulary), word(verb), *value_words(node, key, vocabulary)]
            for key, node in lowered.values
        ],
        "and",
    )


def targets_are(state: str) -> Callable[[EffectSeen], str]:
    """“A and B are …”"""
    return lambda seen: f"{seen.targets} {seen.are} {state}."


def values_in_effect(seen: EffectSeen) -> str:
    """The targets with their values."""
    said = seen.values()
    return f"{said[:1].upper()}{said[1:]}."
