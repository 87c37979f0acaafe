"""Upgrades of documents that were written in an earlier format.

A RuleSet and a file of cases carry the version of their format. The parts of a draft are stored one
by one, without a version: their upgrades leave a part of the current format as it is.
"""

from collections.abc import Callable, Mapping
from typing import Any, Final

FORMAT_VERSION: Final = 2
"""The version that is written. Version 1 was written until December 2026."""
_RULE_NAMES = {
    "on": "enabled",
    "acknowledged": "confirmation",
    "reason_demanded": "reason_required",
}
_EXPECTATION_NAMES = {"broken": "violated", "asked": "field_states"}
_STATUSES = {
    "off": "disabled",
    "target_not_in_play": "not_relevant",
    "does_not_apply": "not_applicable",
    "nothing_to_judge": "not_evaluable",
    "broken": "violated",
    "kept": "satisfied",
}
_FIELD_STATES = {"open": "relevant", "closed": "not_relevant", "locked": "read_only"}


def upgraded_ruleset(document: Any) -> Any:
    """A RuleSet of version 1 in the current format; anything else as it is."""
    if not isinstance(document, Mapping) or document.get("version") != 1:
        return document
    return {**_each(document, "forms", _upgraded_form), "version": FORMAT_VERSION}


def upgraded_case_file(document: Any) -> Any:
    """Case file of version 1 in the current format; anything else as it is."""
    if not isinstance(document, Mapping) or document.get("version") != 1:
        return document
    return {**_each(document, "cases", upgraded_case), "version": FORMAT_VERSION}


def upgraded_rule(rule: Any) -> Any:
    """A rule in the current format."""
    if not isinstance(rule, Mapping):
        return rule
    new = _renamed(rule, _RULE_NAMES)
    if isinstance(new.get("severity"), Mapping):
        new["severity"] = _translated(new["severity"], {"off": "none"})
    for name in ("otherwise", "shown"):
        if new.get(name) == "closed":
            new[name] = "disabled"
    return new


def upgraded_case(case: Any) -> Any:
    """A case in the current format."""
    if not isinstance(case, Mapping) or not isinstance(case.get("expected"), Mapping):
        return case
    expected = _renamed(case["expected"], _EXPECTATION_NAMES)
    for name, words in (("statuses", _STATUSES), ("field_states", _FIELD_STATES)):
        if isinstance(expected.get(name), Mapping):
            expected[name] = _translated(expected[name], words)
    return {**case, "expected": expected}


def _upgraded_form(form: Any) -> Any:
    return _each(form, "rules", upgraded_rule) if isinstance(form, Mapping) else form


def _each(
    document: Mapping[str, Any], name: str, upgraded: Callable[[Any], Any]
) -> Mapping[str, Any]:
    parts = document.get(name)
    if not isinstance(parts, list | tuple):
        return document
    return {**document, name: [upgraded(part) for part in parts]}


def _renamed(document: Mapping[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    return {names.get(name, name): value for name, value in document.items()}


def _translated(document: Mapping[str, Any], words: Mapping[str, str]) -> dict[str, Any]:
    return {
        name: words.get(value, value) if isinstance(value, str) else value
        for name, value in document.items()
    }
