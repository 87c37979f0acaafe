"""Modified condition/decision coverage, unique-cause: each condition matters on its own.

For each part of a decision there are two records between which that part turns from true to false,
every other part stays as it was, and the decision turns (DO-178C; NASA/TM-2001-210876). Parts that
cannot turn alone, as they are coupled with others, are told as not reachable.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import prod
from typing import Any, Literal, TypeVar

from thistlequartz.core.candidates.budgeted_search import changes_of
from thistlequartz.core.candidates.entries import Candidates, enterable
from thistlequartz.core.engines.environment import Environment, Evaluator
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.judging import CompiledForm, CompiledRule, for_conditions
from thistlequartz.core.language import condition_words, plain, tree
from thistlequartz.core.types import FieldType, read_value

Vector = tuple[Any, ...]
GridPoint = Literal["when", "must"]
Named = TypeVar("Named")
MOST_ASSIGNMENTS = 6_000
"""Combinations of entries that are all looked at; beyond that nothing is said to be unreachable."""

_FROM_ELSEWHERE = (
    tree.Circumstance
    | tree.StoredValue
    | tree.ChangedField
    | tree.Referred
    | tree.Now
    | tree.Unique
    | tree.NoOther
    | tree.EnteredTwice
)
"""What conditions read beside the entries of the record."""


@dataclass(frozen=True, slots=True)
class Decision:
    """A condition of a rule with the parts it is made of."""

    part: GridPoint
    node: tree.Node
    parts: tuple[tree.Node, ...]
    """The conditions in it that are not made of others, each once."""
    words: tuple[str, ...]
    outcome: Evaluator
    evaluators: tuple[Evaluator, ...]
    coupled: frozenset[int]
    """The parts that stand in it more than once, and so never turn alone."""

    def turned(self, environment: Environment) -> bool:
        """What the decision comes to: whether a rule applies, or whether it is satisfied."""
        answer = self.outcome(environment)
        return answer is True if self.part == "when" else answer is not False

    def vector(self, environment: Environment) -> Vector:
        """What each of its parts comes to."""
        return tuple(one(environment) for one in self.evaluators)


def decisions_of(one: CompiledRule, form: CompiledForm) -> tuple[Decision, ...]:
    """The decisions of a rule: when it applies, and each condition that must hold."""
    lowered = one.lowered
    nodes: list[tuple[GridPoint, tree.Node]] = [("when", lowered.when)] if lowered.when else []
    nodes += [("must", check.must) for check in lowered.checks]
    return tuple(_decision(part, node, form) for part, node in nodes)


def _decision(part: GridPoint, node: tree.Node, form: CompiledForm) -> Decision:
    every = list(_leaves(node))
    parts = tuple(dict.fromkeys(every))
    return Decision(
        part,
        node,
        parts,
        tuple(plain(condition_words(one, form.vocabulary)) for one in parts),
        interpret(node, form.vocabulary),
        tuple(interpret(one, form.vocabulary) for one in parts),
        frozenset(place for place, one in enumerate(parts) if every.count(one) > 1),
    )


def _leaves(node: tree.Node) -> Iterator[tree.Node]:
    match node:
        case tree.And(parts) | tree.Or(parts):
            for one in parts:
                yield from _leaves(one)
        case tree.Not(operand):
            yield from _leaves(operand)
        case tree.NamedConditionUse(_, condition):
            yield from _leaves(condition)
        case _:
            yield node


def shown_alone(
    seen: Iterable[tuple[Named, Vector, bool]], part: int
) -> tuple[Named, Named] | None:
    """Return two records between which only `part` and with it the decision turns.

    `part` is true in the first and false in the second; records are named by the caller.
    """
    groups: dict[Vector, dict[Any, tuple[Named, bool]]] = {}
    for name, vector, turned in seen:
        others = (*vector[:part], *vector[part + 1 :])
        if not isinstance(vector[part], bool):
            continue
        group = groups.setdefault(others, {})
        group.setdefault(vector[part], (name, turned))
        if len(group) == 2 and group[True][1] != group[False][1]:
            return group[True][0], group[False][0]
    return None


@dataclass(frozen=True, slots=True)
class DecisionAssignment:
    """Entries of the fields that a decision reads, and what its parts come to there."""

    entries: Mapping[str, object]
    vector: Vector
    turned: bool


@dataclass(frozen=True, slots=True)
class DecisionReach:
    """What the parts of a decision can come to, over the entries worth trying."""

    assigned: tuple[DecisionAssignment, ...]
    whole: bool
    """Whether every combination of all that the fields can hold was looked at."""

    def pair(
        self, part: int, first: Sequence[DecisionAssignment] = ()
    ) -> tuple[DecisionAssignment, DecisionAssignment] | None:
        """Two of them that show a part to matter alone, of `first` where that can be."""
        ordered = (*first, *self.assigned)
        return shown_alone(((one, one.vector, one.turned) for one in ordered), part)


def reach_of(
    decision: Decision, form: CompiledForm, candidates: Candidates, base: Environment
) -> DecisionReach:
    """Try the entries of every field that the decision reads with one another.

    A relevant field is taken at its entry; whether a whole record can hold these entries together
    is for the caller to see.
    """
    fields = [key for key in form.fields if key in tree.fields_read(decision.node)]
    known = enterable(form)
    entries = {key: candidates.of(key) for key in fields if key in known}
    few = prod(len(one) for one in entries.values()) <= MOST_ASSIGNMENTS
    elsewhere = any(isinstance(one, _FROM_ELSEWHERE) for one in tree.walk(decision.node))
    counted = all(_is_counted(form.fields[key].type) for key in fields)
    whole = few and counted and len(entries) == len(fields) and not elsewhere
    assigned: dict[tuple[Vector, bool], DecisionAssignment] = {}
    for entered in _some(entries):
        environment = {**base}
        for key, entry in entered.items():
            declared = form.fields[key]
            reading = read_value(entry, declared.type, declared.settings)
            environment[key] = for_conditions(reading, declared.type)
        vector, turned = decision.vector(environment), decision.turned(environment)
        assigned.setdefault((vector, turned), DecisionAssignment(entered, vector, turned))
    return DecisionReach(tuple(assigned.values()), whole)


def _some(entries: Mapping[str, Sequence[object]]) -> Iterator[dict[str, object]]:
    """Every combination, or, where they are too many, all pairs around the first of each."""
    keys = list(entries)
    if prod(len(one) for one in entries.values()) <= MOST_ASSIGNMENTS:
        yield from changes_of(keys, entries.__getitem__, [len(keys)], MOST_ASSIGNMENTS)
        return
    first = {key: one[0] for key, one in entries.items()}
    for pair in changes_of(keys, entries.__getitem__, [2], MOST_ASSIGNMENTS):
        yield {**first, **pair}


def _is_counted(type_: FieldType) -> bool:
    """Whether its values are few, and one at a time."""
    return type_.answers() is not None and not type_.holds_several
