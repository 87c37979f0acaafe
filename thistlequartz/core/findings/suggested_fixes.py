"""Changes to a formula that surely do away with a finding."""

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.kinds import KINDS
from thistlequartz.core.language import FormulaError, read_formula, tree, write_formula
from thistlequartz.core.language.rebuilding import rebuilt
from thistlequartz.core.ruleset import Rule


def with_sums(rule: Rule, form: CompiledForm) -> Rule | None:
    """The rule with sum([...]) for each addition of fields that are numbers; None without any."""
    changed = rule
    for slot in KINDS[rule.kind].formulas(rule):
        try:
            node = read_formula(slot.text)
        except FormulaError:
            continue
        summed = _summed(node, form)
        if summed != node:
            changed = slot.put(write_formula(summed))
    return None if changed == rule else changed


def _summed(node: tree.Node, form: CompiledForm) -> tree.Node:
    items = _added(node)
    if len(items) > 1 and all(_is_number(one, form) for one in items):
        return tree.Call("sum", (tree.ListOf(tuple(items)),))
    return rebuilt(node, lambda part: _summed(part, form))


def _added(node: tree.Node) -> list[tree.Node]:
    if isinstance(node, tree.Arithmetic) and node.operator == "+":
        return [*_added(node.left), *_added(node.right)]
    return [node]


def _is_number(node: tree.Node, form: CompiledForm) -> bool:
    known = form.fields.get(node.key) if isinstance(node, tree.Field) else None
    return known is not None and known.type.kind == "number"


def without_part(rule: Rule, when: tree.Node, place: int) -> Rule | None:
    """The rule with one part of its condition left out; None where that cannot be written."""
    if not isinstance(when, tree.And | tree.Or):
        return None
    rest = (*when.parts[:place], *when.parts[place + 1 :])
    fewer = rest[0] if len(rest) == 1 else type(when)(rest)
    try:
        return rule.model_copy(update={"when": write_formula(fewer)})
    except FormulaError:
        return None
