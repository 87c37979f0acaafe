"""A rule as an English sentence, and the message drafted from it."""

from collections.abc import Mapping

from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.kinds import CHECK_KINDS, KINDS, Check, Rule
from thistlequartz.core.kinds.base.phrases import labels
from thistlequartz.core.language import Segment, Vocabulary, condition_words, plain
from thistlequartz.core.language.segments import enumerate_words, phrase, word
from thistlequartz.core.translation import listed, tr

from .counting import counting_words
from .lowering import LoweredRule


def rule_sentence(
    lowered: LoweredRule, vocabulary: Vocabulary, layouts: Mapping[str, str] | None = None
) -> list[Segment]:
    """For whom and when it counts, under which condition, and what must be true then.

    “When Type status is Holotype, Determined by is required.” `layouts` are the labels of the
    form's layouts.
    """
    conditions = []
    if lowered.rule.changed_fields:
        changed = labels(lowered.rule.changed_fields, vocabulary, "or")
        conditions.append(phrase(tr("{fields} has changed"), fields=changed))
    if lowered.when is not None:
        conditions.append(condition_words(lowered.when, vocabulary))
    obligation = KINDS[lowered.rule.kind].obligation(lowered, vocabulary)
    if conditions:
        said = phrase(
            tr("when {conditions}, {obligation}."),
            conditions=enumerate_words(conditions, "and"),
            obligation=obligation,
        )
    else:
        said = phrase(tr("{obligation}."), obligation=obligation)
    begin = counting_words(lowered.rule, layouts or {})
    return _capital(
        phrase(tr("{scope}: {sentence}"), scope=begin, sentence=said) if begin else said
    )


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
        tr("Unfinished rule about {about}", about=listed(about))[:MAX_LABEL]
        if about
        else tr("Unfinished rule")
    )


def drafted_message(lowered: LoweredRule, check: Check, vocabulary: Vocabulary) -> str:
    """What people are told when `check` fails and nobody has worded the message."""
    said = plain(_capital(CHECK_KINDS[lowered.rule.kind].told(check, vocabulary))) + "."
    if lowered.when is None:
        return said
    return tr(
        "{sentence} This applies when {condition}.",
        sentence=said,
        condition=plain(condition_words(lowered.when, vocabulary)),
    )


def waiting_reason(lowered: LoweredRule, vocabulary: Vocabulary) -> str:
    """Why the targets of a rule cannot be entered yet."""
    assert lowered.until is not None
    worded = getattr(lowered.rule, "message", None)
    if worded:
        return str(worded)
    return tr(
        "This can be filled in once {condition}.",
        condition=plain(condition_words(lowered.until, vocabulary)),
    )


def _capital(segments: list[Segment]) -> list[Segment]:
    first = segments[0]
    if first.kind != "word":
        return segments
    return [word(first.text[:1].upper() + first.text[1:]), *segments[1:]]
