"""Words that several kinds of rule share."""

from collections.abc import Callable, Iterable
from typing import Any

from thistlequartz.core.language import Segment, Vocabulary, obligation_words, value_words
from thistlequartz.core.language.segments import enumerate_words, phrase
from thistlequartz.core.translation import Joining

from .kind import EffectSeen
from .lowered import Check, Lowered


def labels(keys: Iterable[str], vocabulary: Vocabulary, joining: Joining = "and") -> list[Segment]:
    """The labels of fields, joined."""
    listed = [[Segment("field", vocabulary[key].label, key)] for key in keys]
    return enumerate_words(listed, joining)


def told_of_must(check: Check, vocabulary: Vocabulary) -> list[Segment]:
    """What must hold, in words."""
    return obligation_words(check.must, vocabulary)


def told_of_targets(says: str) -> Callable[[Check, Vocabulary], list[Segment]]:
    """What is said of the {targets} of a check."""
    return lambda check, vocabulary: phrase(says, targets=labels(check.targets, vocabulary))


def each_check(
    told: Callable[[Check, Vocabulary], list[Segment]],
) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """What is said of every check, joined."""
    return lambda lowered, vocabulary: enumerate_words(
        [told(check, vocabulary) for check in lowered.checks], "and"
    )


def of_all_targets(one: str, several: str) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """What is said of one target or of several, in the place {targets}."""

    def said(lowered: Lowered[Any], vocabulary: Vocabulary) -> list[Segment]:
        targets = lowered.rule.targets
        text = one if len(targets) == 1 else several
        return phrase(text, targets=labels(targets, vocabulary))

    return said


def each_value(says: str) -> Callable[[Lowered[Any], Vocabulary], list[Segment]]:
    """What is said of every {field} that is given a {value}, joined."""
    return lambda lowered, vocabulary: enumerate_words(
        [
            phrase(
                says,
                field=labels((key,), vocabulary),
                value=value_words(node, key, vocabulary),
            )
            for key, node in lowered.values
        ],
        "and",
    )


def targets_are(one: str, several: str) -> Callable[[EffectSeen], str]:
    """What is said of one target or of several, in the place {targets}."""
    return lambda seen: (one if seen.is_one else several).format(targets=seen.targets)


def values_in_effect(seen: EffectSeen) -> str:
    """The targets with their values."""
    said = seen.values()
    return f"{said[:1].upper()}{said[1:]}."
