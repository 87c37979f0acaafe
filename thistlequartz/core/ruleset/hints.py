"""A hint drafted from what the rules always ask of a field: “a whole number from 1 to 10”."""

from collections.abc import Iterable

from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.language import Vocabulary, plain, tree
from thistlequartz.core.language.formula_words import bare_words
from thistlequartz.core.translation import BETWEEN

from .lowering import LoweredRule


def drafted_hint(key: str, rules: Iterable[LoweredRule], vocabulary: Vocabulary) -> str:
    """What can be entered in the field `key`, by the rules that count for every record."""
    said = [
        # A list of values already says what it is: “one of 1, 2 or 5”.
        (words, isinstance(check.must, tree.Membership) and not _is_interval(check.must))
        for lowered in rules
        if _always(lowered) and key in lowered.rule.targets
        for check in lowered.checks
        if check.targets == (key,) and (words := plain(bare_words(check.must, key, vocabulary)))
    ]
    if not said:
        return ""
    (first, alone), *rest = said
    kind = None if alone else vocabulary[key].type.bounds_hint()
    begins = kind.format(bounds=first) if kind else first
    return BETWEEN.join([begins, *(words for words, _ in rest)])


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


def _is_interval(node: tree.Membership) -> bool:
    return len(node.tests) == 1 and isinstance(node.tests[0], tree.Interval)
