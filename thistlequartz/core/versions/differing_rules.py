"""By which rules alone two versions of a form can judge a record differently."""

from typing import Any, Final

from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import Form, Rule, RuleSet, whole_form

_WORDS: Final = frozenset(
    ("name", "why", "message", "confirmation", "placement", "reason_required")
)
"""What a rule says beside what it demands; no outcome hangs on it."""
_FIELD_WORDS: Final = frozenset(("label", "hint", "placeholder", "emphasis", "label_shown"))


def differing_checks(before: RuleSet, after: RuleSet, key: str) -> frozenset[str] | None:
    """Return the keys of the checks in which the two versions of the form `key` differ.

    None where they differ in anything else that judging depends on.
    """
    if _surroundings(before, key) != _surroundings(after, key):
        return None
    old, new = (
        {rule.key: rule for rule in whole_form(one, key)[0].rules} for one in (before, after)
    )
    differing = {
        rule
        for rule in old.keys() | new.keys()
        if demand_of(old.get(rule)) != demand_of(new.get(rule))
    }
    versions = (rules[rule] for rule in differing for rules in (old, new) if rule in rules)
    if all(rule.kind in CHECK_KINDS for rule in versions):
        return frozenset(differing)
    return None


def only_rules(ruleset: RuleSet, key: str, kept: frozenset[str]) -> RuleSet:
    """The RuleSet with only those of its checks that are `kept`; what has an effect stays."""
    forms = tuple(
        one.model_copy(
            update={
                "rules": tuple(
                    rule for rule in one.rules if rule.kind not in CHECK_KINDS or rule.key in kept
                )
            }
        )
        if one.key == key
        else one
        for one in ruleset.forms
    )
    return ruleset.model_copy(update={"forms": forms})


def demand_of(rule: Rule | None) -> Any:
    """All that outcomes hang on in a rule: it without its words."""
    return None if rule is None else rule.model_dump(exclude=set(_WORDS))


def _surroundings(ruleset: RuleSet, key: str) -> Any:
    """All that judging by a form hangs on beside its rules."""
    whole = whole_form(ruleset, key)[0]
    return (
        _without_rules(whole),
        [_without_rules(one) for one in ruleset.forms if one.key != key],
        [one.model_dump() for one in ruleset.choice_lists],
    )


def _without_rules(form: Form) -> Any:
    document = form.model_dump(exclude={"rules", "name", "purpose", "starters"})
    document["fields"] = [
        {name: value for name, value in field.items() if name not in _FIELD_WORDS}
        for field in document["fields"]
    ]
    return document
