"""Values that vanish: a sum with a blank item, a division by zero, a domain left."""

from collections.abc import Iterator
from typing import Any

import z3

from thistlequartz.core.engines.solver import ValueTerm
from thistlequartz.core.engines.solver.terms import all_of, any_of, none_of
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.kernel import nodes
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable, Unsatisfiable
from thistlequartz.core.translation import tr

from .context import SearchContext
from .finding import Finding, SuggestedFix
from .suggested_fixes import with_sums


def blank_items(look: SearchContext) -> Iterator[Finding]:
    """F20: a sum, a total or a joined text turns blank because one item may be blank."""
    for one, node in _formulas(look):
        for part in nodes.walk(node):
            if isinstance(part, nodes.Arithmetic) and part.operator == "+" and _joins(part):
                found = _vanishes(look, one, part)
                if found is not None:
                    yield found
                    break


def _joins(part: nodes.Arithmetic) -> bool:
    return part.left.kind == part.right.kind and part.kind in ("number", "text", "days", "months")


def _formulas(look: SearchContext) -> Iterator[tuple[CompiledRule, nodes.Node]]:
    """What rules compute, and what must hold, in the kernel."""
    record = look.prover.record
    for one in look.rules:
        if one.part in ("deriving", "proposing", "starting"):
            yield from ((one, record.lowered(node)) for _, node in one.lowered.values)
    for one in look.checks:
        yield from ((one, check.satisfied) for check in one.lowered.checks)


def _operands(part: nodes.Node) -> list[nodes.Node]:
    if isinstance(part, nodes.Arithmetic) and part.operator == "+" and _joins(part):
        return [*_operands(part.left), *_operands(part.right)]
    return [part]


def _vanishes(look: SearchContext, one: CompiledRule, part: nodes.Arithmetic) -> Finding | None:
    record, rule = look.prover.record, one.rule.key
    operands = [node for node in _operands(part) if _fields(node)]
    if len(operands) < 2:
        return None
    blank = [record.term(node).blank for node in operands]
    some = all_of((any_of(blank), any_of(map(none_of, blank))))
    goal = all_of((look.terms(one).applies, look.there(one.rule.targets), some))
    answer = look.ask("F20", (rule,), goal, RuleAssumptions("submit", frozenset({rule})))
    if isinstance(answer, Unsatisfiable):
        look.nothing("F20")
    if not isinstance(answer, Satisfiable):
        return None
    environment = answer.judged.settled.environment
    empty = tuple(
        key
        for key in dict.fromkeys(key for node in operands for key in _fields(node))
        if environment.get(key) is None
    )
    says = (
        tr(
            "{name} comes to nothing as soon as one part of its sum is blank, here {fields}, "
            "though the others are filled."
        )
        if one.is_effect
        else tr(
            "{name} says nothing as soon as one part of its sum is blank, here {fields}, though "
            "the others are filled."
        )
    )
    finding = Finding(
        "F20",
        "doubtful",
        says.format(name=look.name(rule), fields=look.labels(empty)),
        tr("Write sum([...]), which leaves blanks out, or let every part be required."),
        (rule,),
        empty,
        answer.witness,
        fix=_with_sums(look, one),
    )
    parts = tuple(dict.fromkeys(key for node in operands for key in _fields(node)))
    return look.meant(
        finding, lambda judged: any(judged.settled.environment.get(key) is None for key in parts)
    )


def _with_sums(look: SearchContext, one: CompiledRule) -> SuggestedFix | None:
    changed = with_sums(one.rule, look.form)
    if changed is None:
        return None
    return SuggestedFix(
        tr("{name} with sum([...]) for “+”.", name=look.name(one.rule.key)), rules=(changed,)
    )


def _fields(node: nodes.Node) -> list[str]:
    return [
        one.key for one in nodes.walk(node) if isinstance(one, nodes.Read) and one.source == "field"
    ]


def out_of_domain(look: SearchContext) -> Iterator[Finding]:
    """F21: a derived value or a condition leaves the domain of a function, and is null.

    A division by what may be zero counts as well.
    """
    record = look.prover.record
    for one in look.rules:
        rule, terms = one.rule.key, look.terms(one)
        asked: list[tuple[nodes.Node, Any]] = []
        if one.lowered.applies is not None:
            counts = record.counts(one)
            asked.append(
                (one.lowered.applies, all_of((counts, record.truth(one.lowered.applies).blank)))
            )
        for _, value in one.lowered.values:
            node = record.lowered(value)
            asked.append((node, all_of((terms.applies, record.term(node).blank))))
        for check in one.lowered.checks:
            filled = all_of(none_of(record.values[key].blank) for key in check.needed)
            nothing = record.truth(check.satisfied).blank
            asked.append((check.satisfied, all_of((terms.applies, filled, nothing))))
        for node, comes_to_null in asked:
            for part in nodes.walk(node):
                outside = _outside(look, part)
                if outside is None:
                    continue
                filled = all_of(none_of(record.values[key].blank) for key in _fields(part))
                goal = all_of((comes_to_null, filled, outside))
                answer = look.ask("F21", (rule,), goal, RuleAssumptions("save", frozenset({rule})))
                if isinstance(answer, Unsatisfiable):
                    look.nothing("F21")
                if isinstance(answer, Satisfiable):
                    yield Finding(
                        "F21",
                        "doubtful",
                        tr(
                            "{name} {why}: then it comes to nothing{because}.",
                            name=look.name(rule),
                            why=_why(part),
                            because=_because(look, part),
                        ),
                        tr(
                            "Say what it is then: “if ... != 0 then ... else ...”, or a rule "
                            "that refuses it."
                        ),
                        (rule,),
                        tuple(dict.fromkeys(_fields(part))),
                        answer.witness,
                    )
                    break


def _because(look: SearchContext, part: nodes.Node) -> str:
    keys = tuple(dict.fromkeys(_fields(part)))
    return tr(", by {labels}", labels=look.labels(keys)) if keys else ""


def _outside(look: SearchContext, part: nodes.Node) -> Any | None:
    """That an operation or a function cannot answer; None of what always can."""
    match part:
        case nodes.Arithmetic("/", _, divisor) if not isinstance(divisor, nodes.Constant):
            return _at(look, divisor, lambda at: at == 0)
        case nodes.Call("modulo", (_, divisor)) if not isinstance(divisor, nodes.Constant):
            return _at(look, divisor, lambda at: at == 0)
        case nodes.Call("sqrt", (number,)):
            return _at(look, number, lambda at: at < 0)
        case nodes.Call("log", (number,)):
            return _at(look, number, lambda at: at <= 0)
        case _:
            return None


def _at(look: SearchContext, node: nodes.Node, outside: Any) -> Any | None:
    term = look.prover.record.term(node)
    if not isinstance(term, ValueTerm) or term.kind == "text":
        return None
    there = outside(term.at)
    return all_of((none_of(term.blank), there)) if z3.is_expr(there) else None


def _why(part: nodes.Node) -> str:
    match part:
        case nodes.Arithmetic("/"):
            return tr("divides by what may be zero")
        case nodes.Call("modulo"):
            return tr("takes the remainder by what may be zero")
        case nodes.Call("sqrt"):
            return tr("takes the root of what may be below zero")
        case _:
            return tr("takes the logarithm of what may be zero or less")
