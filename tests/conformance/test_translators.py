"""Every node, function and kind of rule, asked of every translator: said, or refused by name."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any, get_args

import pytest

from thistlequartz.core.engines.generated import Source
from thistlequartz.core.engines.traced import WAYS as TRACED
from thistlequartz.core.engines.traced import interpret, traced
from thistlequartz.core.functions import FUNCTIONS, INTERNAL
from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.kernel import NotTranslated, lower, nodes
from thistlequartz.core.kernel.lowering import WAYS as LOWERED
from thistlequartz.core.language import (
    FormulaError,
    check_types,
    condition_words,
    tree,
    write_formula,
)
from thistlequartz.core.language.inference import type_of_formula
from thistlequartz.core.ruleset import CheckRule, EffectRule

from .generators import CHECKS, EFFECTS, ELSEWHERE, LEAVES, document_of

DAY = date(2026, 6, 12)
BESIDE = [
    {"kind": "cross_field", "targets": ["mass"], "must": must}
    for must in (
        *LEAVES,
        "mass > 2 or fragile",
        "for i in 1..3 return i = [1, 2, 3]",
        "count(for i in 1..3 return sum(partial)) = 3",
        '(if null = null then date("2026-06-12") else today) = today',
        'date and time("2026-06-11T09:00:00Z") < now',
        'now - date and time("2026-06-11T09:00:00Z") > duration("PT1H")',
    )
]
OTHERS = [{"kind": "elsewhere", "targets": ["name"], "no_other": one} for one in ELSEWHERE]
FORM = compile_ruleset(
    document_of([*BESIDE, *OTHERS, *CHECKS, *({"when": "fragile", **one} for one in EFFECTS)]),
    form="form",
)
WRITTEN = [
    node
    for one in FORM.rules
    for node in (*one.conditions, *(given for _, given in one.lowered.values))
]
WITHIN = (tree.UnaryTest, tree.AllowedValuesRow, tree.Iteration, tree.Entry)
"""Parts of the tree that never stand alone: what holds them says them."""
HELD = (nodes.CaseBranch, nodes.Iteration, nodes.Entry)
"""The same in the kernel."""


def every(room: Any) -> set[type]:
    """The nodes that a module has."""
    found = {one for one in vars(room).values() if isinstance(one, type)}
    return {one for one in found if issubclass(one, room.Node)} - {room.Node}


def source() -> Source:
    return Source(FORM.vocabulary, DAY, frozenset({"mass", "code"}))


@dataclass(frozen=True, slots=True)
class InventedPart(tree.Node):
    """A node of the tree that nobody knows."""


@dataclass(frozen=True, slots=True)
class InventedNode(nodes.Node):
    """A node of the kernel that nobody knows."""


TRANSLATORS: dict[str, tuple[Callable[[Any], Any], Any]] = {
    "the kernel": (lower, InventedPart()),
    "the kernel, within another": (lower, tree.Not(tree.And((InventedPart(),)))),
    "formula text": (write_formula, InventedPart()),
    "words": (lambda node: condition_words(node, {}), InventedPart()),
    "types": (lambda node: type_of_formula(node, {}), InventedPart()),
    "the traced engine": (traced, InventedNode()),
    "the generated engine": (lambda node: source().is_true(node), InventedNode()),
    "the traced engine, a function": (traced, nodes.Call("invent", ())),
    "the generated engine, a function": (
        lambda node: source().is_true(node),
        nodes.Call("invent", ()),
    ),
}


@pytest.mark.parametrize("name", TRANSLATORS)
def test_what_is_not_known_is_refused_by_name(name: str) -> None:
    translate, invented = TRANSLATORS[name]
    with pytest.raises((NotTranslated, FormulaError)) as refused:
        translate(invented)
    assert "Invented" in str(refused.value) or "invent" in str(refused.value)


def test_the_samples_hold_every_node_of_the_tree_and_of_the_kernel() -> None:
    seen = {type(part) for node in WRITTEN for part in tree.walk(node)}
    assert every(tree) - seen == set()
    lowered = [lower(node, FORM.vocabulary) for node in WRITTEN]
    lowered += [check.satisfied for one in FORM.rules for check in one.lowered.checks]
    assert every(nodes) - {type(part) for one in lowered for part in nodes.walk(one)} == set()


def test_every_node_is_translated_or_held_by_another() -> None:
    assert every(tree) == set(LOWERED) | set(WITHIN)
    assert every(nodes) == set(TRACED) | set(HELD)


@pytest.mark.parametrize("node", WRITTEN, ids=lambda node: type(node).__name__)
def test_every_sample_is_said_by_every_translator(node: tree.Node) -> None:
    lowered = lower(node, FORM.vocabulary)
    environment = FORM.settled(FORM.read({}), Circumstances(DAY)).environment
    assert traced(lowered)(environment) == interpret(node)(environment)
    writer = source()
    for asked in (writer.is_true(lowered), writer.is_false(lowered)):
        compile(asked, "<condition>", "eval")
    assert condition_words(node, FORM.vocabulary)
    try:
        assert write_formula(node)
    except FormulaError as refused:
        assert any(type(part).__name__ in str(refused) for part in tree.walk(node))


def test_every_function_is_known_to_the_kernel_and_typed() -> None:
    for name, one in {**FUNCTIONS, **INTERNAL}.items():
        arguments = tuple(nodes.Constant(None) for _ in one.ways[0])
        traced(nodes.Call(name, arguments))({})
    for one in FUNCTIONS.values():
        call = tree.Call(one.name, tuple(tree.Null() for _ in one.ways[0]))
        assert check_types(call, {}, wanted=None) == ()


def test_every_kind_of_rule_is_among_the_samples() -> None:
    kinds = {one.model_fields["kind"].default for one in get_args(CheckRule | EffectRule)}
    assert kinds == {one.rule.kind for one in FORM.rules}
