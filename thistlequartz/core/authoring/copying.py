"""A rule made to speak of other fields, so that it can be copied to another form."""

import re
from collections.abc import Mapping
from dataclasses import replace
from itertools import islice
from typing import Any

from thistlequartz.core.kinds import KINDS
from thistlequartz.core.language import FormulaError, read_formula, tree, write_formula
from thistlequartz.core.language.rebuilding import rebuilt
from thistlequartz.core.ruleset import Rule
from thistlequartz.core.ruleset.placeholders import Placeholder, parts_of

_Keyed = tree.Field | tree.StoredValue | tree.ChangedField | tree.OtherField


def names_in(rule: Rule) -> tuple[str, ...]:
    """The keys of the fields and named conditions that `rule` names, each once, targets first."""
    kind = KINDS[rule.kind]
    found = dict.fromkeys((*rule.targets, *rule.changed_fields, *kind.names(rule)))
    texts = [rule.when, *(slot.text for slot in kind.formulas(rule))]
    for text in texts:
        node = _tree(text) if text else None
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
    if rule.when:
        changes["when"] = _rewritten(rule.when, names)
    message = getattr(rule, "message", None)
    if message:
        changes["message"] = _reworded(message, names)
    kind = KINDS[rule.kind]
    changed: Rule = kind.renamed(rule.model_copy(update=changes), names)
    for place, slot in enumerate(kind.formulas(rule)):
        now = next(islice(kind.formulas(changed), place, None))
        changed = now.put(_rewritten(slot.text, names))
    return changed


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
