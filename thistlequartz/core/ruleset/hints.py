"""A hint drafted from what the rules always ask of a field: “a whole number from 1 to 10”."""

from collections.abc import Iterable

from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.language import Vocabulary, condition_words, plain
from thistlequartz.core.translation import tr
from thistlequartz.core.values import (
    DateTimeType,
    DateType,
    NumberType,
    TimeType,
    ValueType,
)

from .lowering import LoweredRule


def drafted_hint(key: str, rules: Iterable[LoweredRule], vocabulary: Vocabulary) -> str:
    """What can be entered in the field `key`, by the rules that count for every record."""
    said = [
        words
        for lowered in rules
        if _always(lowered) and key in lowered.rule.targets
        for check in lowered.checks
        if check.targets == (key,)
        and (words := _predicate(plain(condition_words(check.must, vocabulary)), key, vocabulary))
    ]
    kind = _kind(vocabulary[key].type)
    if not said:
        return ""
    # A format or a list of values already says what it is: “an e-mail address”.
    begins_alone = said[0].startswith(("a ", "an ", tr("one of "), "exactly ")) or not kind
    whole = said if begins_alone else [f"{kind} {said[0]}", *said[1:]]
    return ", ".join(whole)


def _always(lowered: LoweredRule) -> bool:
    rule = lowered.rule
    everywhere = not (rule.scope.events or rule.scope.roles or rule.scope.entry_points)
    return (
        rule.enabled
        and rule.kind in CHECK_KINDS
        and CHECK_KINDS[rule.kind].hints
        and lowered.when is None
        and not rule.changed_fields
        and everywhere
    )


def _predicate(sentence: str, key: str, vocabulary: Vocabulary) -> str:
    """The sentence after its subject and verb: “from 1 to 10” of “Rating is from 1 to 10”."""
    label = vocabulary[key].label
    for verb in ("is", "has"):
        begin = f"{label} {verb} "
        if sentence.startswith(begin):
            return sentence.removeprefix(begin)
    return ""


def _kind(type_: ValueType) -> str:
    match type_:
        case NumberType(scale=0):
            return tr("a whole number")
        case NumberType():
            return "a number"
        case DateType() | DateTimeType():
            return "a date"
        case TimeType():
            return "a time"
        case _:
            return ""
