"""A rule as an English sentence, and the message drafted from it."""

from collections.abc import Iterable, Mapping

from thistlequartz.core.expression import (
    Segment,
    Vocabulary,
    condition_words,
    obligation_words,
    plain,
)
from thistlequartz.core.expression.words import enumerate_words, value_words, word

from .basics import MAX_LABEL
from .counting import counting_words
from .lowering import Check, LoweredRule
from .rules import (
    CloseRule,
    ConsentRule,
    DeriveRule,
    LockRule,
    MandatoryRule,
    OpenRule,
    ProposeRule,
    Rule,
    StartRule,
    WaitRule,
)


def rule_sentence(
    lowered: LoweredRule, vocabulary: Vocabulary, layouts: Mapping[str, str] | None = None
) -> list[Segment]:
    """For whom and when it counts, under which condition, and what must be true then.

    “When Type status is Holotype, Determined by is needed.” `layouts` are the labels of the
    form's layouts.
    """
    conditions = []
    if lowered.rule.changed_fields:
        labels = _labels(lowered.rule.changed_fields, vocabulary, "or")
        conditions.append([*labels, word(" has changed")])
    if lowered.when is not None:
        conditions.append(condition_words(lowered.when, vocabulary))
    said = [*_obligation(lowered, vocabulary), word(".")]
    if conditions:
        said = [word("when "), *enumerate_words(conditions, "and"), word(", "), *said]
    begin = counting_words(lowered.rule, layouts or {})
    return _capital([word(f"{begin}: "), *said] if begin else said)


def called(
    rule: Rule, lowered: LoweredRule | None, vocabulary: Vocabulary, layouts: Mapping[str, str]
) -> str:
    """The name of a rule; where nobody has named it, its sentence as it is now."""
    if rule.name:
        return rule.name
    if lowered is not None:
        return plain(rule_sentence(lowered, vocabulary, layouts)).removesuffix(".")[:MAX_LABEL]
    about = [vocabulary[key].label for key in rule.targets if key in vocabulary]
    return (
        f"Unfinished rule about {' and '.join(about)}"[:MAX_LABEL] if about else "Unfinished rule"
    )


def drafted_message(lowered: LoweredRule, check: Check, vocabulary: Vocabulary) -> str:
    """What people are told when `check` fails and nobody has worded the message."""
    said = plain(_capital(_check_words(lowered, check, vocabulary))) + "."
    if lowered.when is None:
        return said
    return f"{said} This applies when {plain(condition_words(lowered.when, vocabulary))}."


def waiting_reason(lowered: LoweredRule, vocabulary: Vocabulary) -> str:
    """Why the targets of a rule cannot be entered yet."""
    assert isinstance(lowered.rule, WaitRule)
    assert lowered.until is not None
    if lowered.rule.message:
        return lowered.rule.message
    return f"This can be filled in once {plain(condition_words(lowered.until, vocabulary))}."


def _capital(segments: list[Segment]) -> list[Segment]:
    first = segments[0]
    if first.kind != "word":
        return segments
    return [word(first.text[:1].upper() + first.text[1:]), *segments[1:]]


def _labels(keys: Iterable[str], vocabulary: Vocabulary, joining: str) -> list[Segment]:
    listed = [[Segment("field", vocabulary[key].label, key)] for key in keys]
    return enumerate_words(listed, joining)


def _obligation(lowered: LoweredRule, vocabulary: Vocabulary) -> list[Segment]:
    if isinstance(lowered.rule, MandatoryRule):
        needed = " is needed" if len(lowered.rule.targets) == 1 else " are needed"
        return [*_labels(lowered.rule.targets, vocabulary, "and"), word(needed)]
    if lowered.checks:
        parts = [_check_words(lowered, check, vocabulary) for check in lowered.checks]
        return enumerate_words(parts, "and")
    return _effect(lowered, vocabulary)


def _effect(lowered: LoweredRule, vocabulary: Vocabulary) -> list[Segment]:
    targets = _labels(lowered.rule.targets, vocabulary, "and")
    one = len(lowered.rule.targets) == 1
    match lowered.rule:
        case OpenRule():
            return [*targets, word(" is asked" if one else " are asked")]
        case CloseRule():
            return [*targets, word(" is not asked" if one else " are not asked")]
        case LockRule():
            return [*targets, word(" is locked" if one else " are locked")]
        case WaitRule() if lowered.until is not None:
            until = condition_words(lowered.until, vocabulary)
            return [*targets, word(" waits until " if one else " wait until "), *until]
        case DeriveRule() | StartRule() | ProposeRule():
            verb = {"derive": " is ", "start": " starts as ", "propose": " is proposed as "}
            parts = [
                [
                    *_labels((key,), vocabulary, "and"),
                    word(verb[lowered.rule.kind]),
                    *value_words(node, key, vocabulary),
                ]
                for key, node in lowered.values
            ]
            return enumerate_words(parts, "and")
        case _:
            return targets


def _check_words(lowered: LoweredRule, check: Check, vocabulary: Vocabulary) -> list[Segment]:
    if isinstance(lowered.rule, MandatoryRule):
        return [*_labels(check.targets, vocabulary, "and"), word(" is needed")]
    if isinstance(lowered.rule, ConsentRule):
        return [*_labels(check.targets, vocabulary, "and"), word(" must be agreed to")]
    return obligation_words(check.must, vocabulary)
