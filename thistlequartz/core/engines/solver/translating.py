"""Each node of the kernel as a term; what has none is left free, and its name kept."""

from collections.abc import Callable, Iterator, Mapping
from typing import Any

import z3

from thistlequartz.core.kernel import NotTranslated, nodes
from thistlequartz.core.kernel.value_kinds import kind_of_value

from .arithmetic import arithmetic
from .calls import CALLS, asked_of_text
from .surroundings import NAME, TranslationContext
from .terms import (
    FALSE,
    NULL,
    CodesTerm,
    ListTerm,
    NullTerm,
    OpaqueTerm,
    Term,
    TruthTerm,
    ValueTerm,
    all_of,
    any_of,
    equal,
    known,
    literal,
    merged,
    none_of,
    number_of,
    unless,
)

MOST_COMBINATIONS = 200
"""Of the items of lists that a quantifier goes through."""


class Translator:
    """From nodes to terms."""

    def __init__(
        self,
        surroundings: TranslationContext,
        variables: Mapping[str, Term] | None = None,
        other: object = None,
    ) -> None:
        self.surroundings = surroundings
        self.texts = surroundings.texts
        self.variables = dict(variables or {})
        self.other = other
        self._terms: dict[nodes.Node, Term] = {}

    def term(self, node: nodes.Node) -> Term:
        """What a node comes to."""
        found = self._terms.get(node)
        if found is None:
            found = self._term(node)
            self._terms[node] = found
        return found

    def truth(self, node: nodes.Node) -> TruthTerm:
        """What a condition comes to; what is no truth value counts as null."""
        match self.term(node):
            case TruthTerm() as truth:
                return truth
            case OpaqueTerm():
                free = self.free(node, "boolean")
                assert isinstance(free, TruthTerm)
                return free
            case _:
                return TruthTerm(FALSE, FALSE)

    def _term(self, node: nodes.Node) -> Term:
        try:
            way = WAYS.get(type(node))
            if way is None:
                raise NotTranslated(NAME, type(node).__name__)
            return way(self, node)
        except NotTranslated as refusal:
            free = self.free(node, node.kind)
            self.surroundings.left_free(node, free, refusal.name)
            return free

    def free(self, node: nodes.Node, kind: nodes.Kind) -> Term:
        """Anything of a kind."""
        fresh = self.surroundings.fresh
        match kind:
            case "boolean":
                truth = TruthTerm(fresh(z3.BoolSort()), fresh(z3.BoolSort()))
                self.surroundings.assume(none_of(all_of((truth.true, truth.false))))
                if not node.blankable:
                    self.surroundings.assume(any_of((truth.true, truth.false)))
                return truth
            case "list" | "range" | "context" | "unknown":
                return OpaqueTerm(fresh(z3.BoolSort()))
            case _:
                sort = z3.RealSort() if kind == "number" else z3.IntSort()
                return ValueTerm(
                    kind, fresh(z3.BoolSort()) if node.blankable else FALSE, fresh(sort)
                )

    def constant(self, value: Any) -> Term:
        """A value that is known beforehand."""
        match value:
            case None:
                return NULL
            case bool():
                return known(z3.BoolVal(value))
            case str():
                return ValueTerm("text", FALSE, z3.IntVal(self.texts.number(value)))
            case list() | tuple():
                return ListTerm(tuple(map(self.constant, value)))
        number = number_of(value)
        if number is None:
            raise NotTranslated(NAME, f"a constant such as {value}")
        kind = kind_of_value(value)
        exponent = value.as_tuple().exponent if kind == "number" else 0
        return ValueTerm(
            kind, FALSE, literal(number), max(0, -exponent) if kind == "number" else None
        )

    def equality(self, left: Term, right: Term) -> Any:
        """That two values are equal."""
        same = equal(left, right)
        if same is None:
            raise NotTranslated(NAME, "equality of lists")
        return same

    def with_variables(self, more: Mapping[str, Term]) -> "Translator":
        """One that knows more names."""
        return Translator(self.surroundings, {**self.variables, **more}, self.other)


def _read(translator: Translator, node: nodes.Read) -> Term:
    if node.source == "variable":
        if node.key not in translator.variables:
            raise NotTranslated(NAME, "a name that a formula gives")
        return translator.variables[node.key]
    return translator.surroundings.read(node, translator.other)


def _refer(translator: Translator, node: nodes.Refer) -> Term:
    return translator.surroundings.refer(node, translator.term(node.reference))


def _is_true(translator: Translator, node: nodes.IsTrue) -> Term:
    return known(translator.truth(node.operand).true)


def _equal(translator: Translator, node: nodes.Equal) -> Term:
    return known(translator.equality(translator.term(node.left), translator.term(node.right)))


def _order(translator: Translator, node: nodes.Order) -> Term:
    left, right = translator.term(node.left), translator.term(node.right)
    if isinstance(left, NullTerm | TruthTerm | CodesTerm | ListTerm) or isinstance(
        right, NullTerm | TruthTerm | CodesTerm | ListTerm
    ):
        return TruthTerm(FALSE, FALSE)
    if isinstance(left, OpaqueTerm) or isinstance(right, OpaqueTerm):
        raise NotTranslated(NAME, "the order of something whose kind is not known")
    if left.kind != right.kind:
        return TruthTerm(FALSE, FALSE)
    if left.kind == "text":
        raise NotTranslated(NAME, "the order of texts")
    less = left.at < right.at if node.sign == "<" else left.at <= right.at
    return unless(any_of((left.blank, right.blank)), less)


def _among(translator: Translator, node: nodes.Among) -> Term:
    value = translator.term(node.value)
    return known(_one_of(translator, value, node.constants))


def _one_of(translator: Translator, value: Term, constants: tuple[Any, ...]) -> Any:
    if isinstance(value, OpaqueTerm):
        raise NotTranslated(NAME, "membership of something whose kind is not known")
    if not isinstance(value, ValueTerm | TruthTerm):
        return FALSE
    listed = map(translator.constant, constants)
    return any_of(translator.equality(value, one) for one in listed)


def _each_among(translator: Translator, node: nodes.EachAmong) -> Term:
    value = translator.term(node.value)
    match value:
        case CodesTerm(members):
            beyond = any_of(one for code, one in members.items() if code not in node.constants)
            return unless(value.blank, none_of(beyond))
        case ListTerm(items):
            return known(all_of(_one_of(translator, one, node.constants) for one in items))
        case _:
            return unless(value.blank, _one_of(translator, value, node.constants))


def _and(translator: Translator, node: nodes.And) -> Term:
    parts = [translator.truth(one) for one in node.parts]
    return TruthTerm(all_of(one.true for one in parts), any_of(one.false for one in parts))


def _or(translator: Translator, node: nodes.Or) -> Term:
    parts = [translator.truth(one) for one in node.parts]
    return TruthTerm(any_of(one.true for one in parts), all_of(one.false for one in parts))


def _not(translator: Translator, node: nodes.Not) -> Term:
    operand = translator.truth(node.operand)
    return TruthTerm(operand.false, operand.true)


def _if(translator: Translator, node: nodes.If) -> Term:
    condition = translator.truth(node.condition).true
    return _either(condition, translator.term(node.then), translator.term(node.otherwise))


def _either(condition: Any, then: Term, otherwise: Term) -> Term:
    found = merged(condition, then, otherwise)
    if found is None:
        raise NotTranslated(NAME, "a choice between values of different kinds")
    return found


def _switch(translator: Translator, node: nodes.Switch) -> Term:
    subject = translator.term(node.subject)
    if isinstance(subject, OpaqueTerm):
        raise NotTranslated(NAME, "a choice by something whose kind is not known")
    found: Term = NULL
    for case in reversed(node.cases):
        same = translator.equality(subject, translator.constant(case.constant))
        found = _either(same, translator.term(case.then), found)
    return found


def _arithmetic(translator: Translator, node: nodes.Arithmetic) -> Term:
    left, right = translator.term(node.left), translator.term(node.right)
    return arithmetic(translator.surroundings, node, left, right)


def _call(translator: Translator, node: nodes.Call) -> Term:
    arguments = tuple(map(translator.term, node.arguments))
    way = CALLS.get(node.function)
    found = way(translator, node, arguments) if way else None
    if found is None:
        found = asked_of_text(translator, node, arguments)
    if found is None:
        raise NotTranslated(NAME, node.function)
    return found


def _count_filled(translator: Translator, node: nodes.CountFilled) -> Term:
    surroundings = translator.surroundings
    filled = [
        all_of((surroundings.is_relevant(key), none_of(translator.term(read).blank)))
        for key in node.keys
        for read in (nodes.Read("field", key),)
    ]
    return _counted(filled)


def _count_relevant(translator: Translator, node: nodes.CountRelevant) -> Term:
    return _counted([translator.surroundings.is_relevant(key) for key in node.keys])


def _counted(conditions: list[Any]) -> ValueTerm:
    ones = [z3.If(one, z3.IntVal(1), z3.IntVal(0)) for one in conditions]
    return ValueTerm("number", FALSE, z3.Sum(ones), 0)


def _relevant(translator: Translator, node: nodes.Relevant) -> Term:
    return known(any_of(translator.surroundings.is_relevant(key) for key in node.keys))


def _taken(translator: Translator, node: nodes.Taken) -> Term:
    held = [translator.term(nodes.Read("field", key)) for key in node.keys]
    return unless(any_of(one.blank for one in held), translator.surroundings.taken(node.keys))


def _exists(translator: Translator, node: nodes.Exists) -> Term:
    surroundings = translator.surroundings
    there = surroundings.there(node)
    found = Translator(surroundings, translator.variables, node).truth(node.condition)
    surroundings.assume(z3.Implies(there, found.true))
    return known(there)


def _some(translator: Translator, node: nodes.Some) -> Term:
    blanks: list[Any] = []
    pairs = [
        (inner.truth(node.condition), there)
        for inner, there in _combinations(translator, node.iterations, blanks)
    ]
    known_lists = none_of(any_of(blanks))
    return TruthTerm(
        all_of((known_lists, any_of(all_of((there, one.true)) for one, there in pairs))),
        all_of((known_lists, *(any_of((none_of(there), one.false)) for one, there in pairs))),
    )


def _combinations(
    translator: Translator, iterations: tuple[nodes.Iteration, ...], blanks: list[Any]
) -> Iterator[tuple[Translator, Any]]:
    """Every way to take an item of each list, and that these are in the lists; `blanks` says where
    there is no list to take one of.
    """
    ways: list[tuple[Translator, Any]] = [(translator, z3.BoolVal(True))]
    for one in iterations:
        further = []
        for inner, there in ways:
            list_ = inner.term(one.items)
            blanks.append(all_of((there, list_.blank)))
            for item, is_there in _items(inner, list_):
                named = inner.with_variables({one.name: item})
                further.append((named, all_of((there, is_there))))
        ways = further
        if len(ways) > MOST_COMBINATIONS:
            raise NotTranslated(NAME, "so many combinations of items")
    yield from ways


def _items(translator: Translator, term: Term) -> Iterator[tuple[Term, Any]]:
    match term:
        case ListTerm(items):
            yield from ((one, z3.BoolVal(True)) for one in items)
        case CodesTerm(members):
            yield from ((translator.constant(code), one) for code, one in members.items())
        case ValueTerm() | TruthTerm():
            yield term, none_of(term.blank)
        case _:
            raise NotTranslated(NAME, "a list that is not known beforehand")


def _list_of(translator: Translator, node: nodes.ListOf) -> Term:
    return ListTerm(tuple(map(translator.term, node.items)))


WAYS: dict[type[nodes.Node], Callable[[Translator, Any], Term]] = {
    nodes.Constant: lambda translator, node: translator.constant(node.value),
    nodes.Read: _read,
    nodes.Refer: _refer,
    nodes.IsBlank: lambda translator, node: known(translator.term(node.operand).blank),
    nodes.IsTrue: _is_true,
    nodes.Equal: _equal,
    nodes.Order: _order,
    nodes.Among: _among,
    nodes.EachAmong: _each_among,
    nodes.And: _and,
    nodes.Or: _or,
    nodes.Not: _not,
    nodes.If: _if,
    nodes.Switch: _switch,
    nodes.Arithmetic: _arithmetic,
    nodes.Call: _call,
    nodes.CountFilled: _count_filled,
    nodes.CountRelevant: _count_relevant,
    nodes.Relevant: _relevant,
    nodes.Taken: _taken,
    nodes.Exists: _exists,
    nodes.Some: _some,
    nodes.ListOf: _list_of,
}
"""How each node is said. Ranges, contexts, filters and lists that are built are left free."""
