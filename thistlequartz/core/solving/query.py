"""One question to the solver, with all that bears on it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

import z3

from .answer_cache import Premises, premises_of
from .witness import fields_in

WORK_LIMIT: Final = 1_200_000
"""For one look, in the solver's own units of work: some 1.5 s where nothing else is at work."""
TIME_LIMIT: Final = 15_000
"""Milliseconds for one look, on however busy a machine."""


def limited(solver: Any) -> Any:
    """`solver`, which gives a question up after so much work of its own."""
    solver.set("rlimit", WORK_LIMIT)
    solver.set("timeout", TIME_LIMIT)
    return solver


@dataclass(frozen=True, slots=True)
class QueryParts:
    """What is asked, with all that bears on it."""

    goal: Any
    rules: Mapping[str, Any]
    facts: Sequence[Any]
    names: frozenset[str]
    usual: Sequence[Any]

    @property
    def premises(self) -> Premises:
        """By what it is known again."""
        return premises_of(self.goal, self.facts, self.rules, self.usual)

    def question(self) -> "SolverQuery":
        """It, put to the solver."""
        return SolverQuery(self.goal, self.rules, self.facts, self.names, self.usual)


class SolverQuery:
    """One question, with all that bears on it."""

    def __init__(
        self,
        goal: Any,
        rules: Mapping[str, Any],
        facts: Sequence[Any],
        names: frozenset[str],
        usual: Sequence[Any],
    ) -> None:
        self.names = names
        self.fields = fields_in(names)
        self.undecided = False
        self.is_impossible = False
        """Known once it was looked whether there is a record."""
        self._solver = limited(z3.Solver())
        self._solver.add(goal, *facts)
        self._conditions = rules
        self._known = (goal, *facts)
        # Said outright they are looked through at once; told apart only to know which are to blame.
        self._solver.add(*rules.values())
        self._usual = [self._named(f"usual {n}", one) for n, one in enumerate(usual)]

    def _named(self, name: str, condition: Any) -> Any:
        literal = z3.Bool(name)
        self._solver.add(z3.Implies(literal, condition))
        return literal

    def has_record(self) -> bool:
        """Return whether there is a record, as usual a one as can be.

        `undecided` where it is not known.
        """
        for first in range(len(self._usual) + 1):
            usual = self._usual[first:]
            looked = self._solver.check(*usual)
            if looked == z3.sat:
                return True
        self.is_impossible = looked == z3.unsat
        self.undecided = not self.is_impossible
        return False

    @property
    def wanted(self) -> list[Any]:
        """All that its record has to be."""
        return [*self._known, *self._conditions.values()]

    def model(self) -> Any:
        """What the solver gave."""
        return self._solver.model()

    def smallest(self) -> tuple[str, ...]:
        """As few of the rules as make it impossible, none of which can be left out."""
        if not self._conditions:
            return ()
        self._solver = limited(z3.Solver())
        self._solver.add(*self._known)
        rules = {key: self._named(f"kept {key}", one) for key, one in self._conditions.items()}
        if self._solver.check(*rules.values()) != z3.unsat:
            return tuple(rules)
        core = {str(one) for one in self._solver.unsat_core()}
        needed = [key for key, one in rules.items() if str(one) in core]
        for key in list(needed):
            fewer = [one for one in needed if one != key]
            if self._solver.check(*(rules[one] for one in fewer)) == z3.unsat:
                needed = fewer
        return tuple(sorted(needed, key=list(rules).index))
