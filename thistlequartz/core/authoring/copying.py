"""A rule made to speak of other fields, so that it can be copied to another form."""

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from thistlequartz.core.expression import FormulaError, read_formula, tree, write_formula
from thistlequartz.core.expression.rebuilding import rebuilt
from thistlequartz.core.ruleset import Rule
from thistlequartz.core.ruleset.placeholders import Placeholder, parts_of

_FORMULAS = ("when", "must", "no_other", "until", "formula")
_Keyed = tree.Field | tree.Stored | tree.Changed | tree.OtherField


def names_in(rule: Rule) -> tuple[str, ...]:
    """The keys of the fields and named conditions that `rule` names, each once, targets first."""
    found = dict.fromkeys((*rule.targets, *rule.changed_fields))
    if rule.kind == "allowed_values" and rule.governor:
        found[rule.governor] = None
    if rule.kind == "propose":
        found.update(dict.fromkeys(one.field for one in rule.sets))
    for text in _texts(rule):
        node = _tree(text)
        for part in tree.walk(node) if node else ():
            if isinstance(part, _Keyed):
                found[part.key] = None
    return tuple(found)


def renamed(rule: Rule, names: Mapping[str, str]) -> Rule:
    """`rule` with every key that `names` has put in the place of the one it stands for."""
    changes: dict[str, Any] = {
        name: tuple(names.get(key, key) for key in getattr(rule, name))
        for name in ("targets", "changed_fields")
    }
    for name in _FORMULAS:
        text = getattr(rule, name, None)
        if text:
            changes[name] = _rewritten(text, names)
    match rule.kind:
        case "range":
            for name in ("lower", "upper"):
                bound = getattr(rule, name)
                if bound:
                    value = _rewritten(bound.value, names)
                    changes[name] = bound.model_copy(update={"value": value})
        case "allowed_values":
            changes["governor"] = names.get(rule.governor or "", rule.governor)
        case "derive":
            changes["value"] = _rewritten(rule.value, names)
        case "propose":
            changes["sets"] = tuple(
                one.model_copy(
                    update={
                        "field": names.get(one.field, one.field),
                        "value": _rewritten(one.value, names),
                    }
                )
                for one in rule.sets
            )
        case _:
            pass
    message = getattr(rule, "message", None)
    if message:
        changes["message"] = _reworded(message, names)
    return rule.model_copy(update=changes)


def _texts(rule: Rule) -> list[str]:
    texts = [getattr(rule, name, None) for name in _FORMULAS]
    match rule.kind:
        case "range":
            texts += [bound.value for bound in (rule.lower, rule.upper) if bound]
        case "derive":
            texts.append(rule.value)
        case "propose":
            texts += [one.value for one in rule.sets]
        case _:
            pass
    return [text for text in texts if text]


def _tree(text: str) -> tree.Node | None:
    try:
        return read_formula(text)
    except FormulaError:
        return None


def _rewritten(text: str, names: Mapping[str, str]) -> str:
    """The formula with other keys; as it is where it names none of them, or cannot be read."""
    node = _tree(text)
    if node is None or not any(
        isinstance(part, _Keyed) and part.key in names for part in tree.walk(node)
    ):
        return text

    def change(part: tree.Node) -> tree.Node:
        if isinstance(part, _Keyed):
            return replace(part, key=names.get(part.key, part.key))
        return rebuilt(part, change)

    return write_formula(change(node))


def _reworded(message: str, names: Mapping[str, str]) -> str:
    for part in parts_of(message):
        if isinstance(part, Placeholder) and part.name in names:
            place = re.compile(r"\{\s*" + re.escape(part.name) + r"\s*\}")
            message = place.sub(f"{{{names[part.name]}}}", message)
    return message
