"""Repairs of a record: provably fewest changes, then the nearest; or the rules in the way."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from time import thread_time
from typing import Any, Final

import z3

from thistlequartz.core.candidates.entries import enterable
from thistlequartz.core.candidates.texts import texts_for
from thistlequartz.core.engines.environment import again
from thistlequartz.core.engines.solver import CodesTerm, Term, TruthTerm, ValueTerm
from thistlequartz.core.engines.solver.terms import (
    FALSE,
    TRUE,
    all_of,
    any_of,
    equal,
    literal,
    none_of,
    number_of,
)
from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType, read_value
from thistlequartz.core.values import Fault, Stored, to_entry

from .prover import Prover
from .query import SolverQuery, limited
from .repair_problem import Looks, RepairCheck, RepairProblem
from .witness import SolverModel

MOST_WAYS: Final = 3
MOST_CHANGES: Final = 12
"""Beyond so many the rest is left to a search."""
TOO_MANY: Final = tr("it takes more than {most_changes} changes", most_changes=MOST_CHANGES)
MOST_TRIES: Final = 40
"""Records that turn out not to go through before it is given up."""
ALL_WITHIN: Final = 4.0
"""Seconds of its own work for the whole question, however busy the machine."""
_FAR: Final = 10**24
"""How far blank is from any value: people are asked to leave blank last."""


@dataclass(frozen=True, slots=True)
class Repair:
    """Changes after which nothing stops the record; as they are entered."""

    changes: Mapping[str, Stored]


@dataclass(frozen=True, slots=True)
class Repairs:
    """What would let a record through, as far as it could be worked out."""

    ways: tuple[Repair, ...] = ()
    """The fewest changes first, each of other fields."""
    fewest: bool = False
    """Whether it is proved that no fewer changes do."""
    stopped_by: tuple[str, ...] | None = None
    """Where nothing lets it through, proved: the rules that make it so."""
    why: str = ""
    """What stands in the way, where it is not decided."""


@dataclass(slots=True)
class _Known:
    """What is known beside the rules, and grows with every try."""

    rules: list[str]
    """The rules that are looked at."""
    facts: dict[str, list[Any]] = field(default_factory=dict)
    """What each of them is known to say: it goes with the rule where one is to blame."""
    tries: int = 0

    def learn(self, rule: str, fact: Any) -> None:
        """Something that is so because of a rule."""
        self.facts.setdefault(rule, []).append(fact)


class _GivenUp(Exception):
    """It cannot be decided."""


def repairs(prover: Prover, standing: RepairProblem, looks: Looks) -> Repairs:
    """The ways to let a record through, and what is proved of them; `looks` is asked of each."""
    return _Repairer(prover, standing, looks).repairs()


class _Repairer:
    def __init__(self, prover: Prover, standing: RepairProblem, looks: Looks) -> None:
        self.prover = prover
        self.form: CompiledForm = prover.form
        self.standing = standing
        self.looks = looks
        self.world, self.record = prover.world, prover.record
        self.now = looks({})
        can = enterable(self.form)
        self.entries: dict[str, Term] = {
            key: one for key, one in self.world.entered.items() if key in can
        }
        self.same = {key: self._stands(key) for key in self.entries}
        self.known = _Known(list(self.now.rules))
        self._until = thread_time() + ALL_WITHIN
        self.given = [*self._circumstances(), *self._entries_that_stay(), *self._others()]
        self.known_records = all_of(
            any_of((self.same[key], term.blank, *self._refers_to(key, term)))
            for key, term in self.entries.items()
            if self._type(key).referred_form
        )

    def repairs(self) -> Repairs:
        """All of it."""
        if self.now.goes_through:
            return Repairs(fewest=True)
        found: list[Repair] = []
        try:
            question = self._possible(None, ())
            if isinstance(question, SolverQuery):
                order = [one.rule.key for one in self.form.rules]
                return Repairs(stopped_by=tuple(sorted(question.smallest(), key=order.index)))
            for count in range(1, MOST_CHANGES + 1):
                while len(found) < MOST_WAYS:
                    excluded = [frozenset(one.changes) for one in found]
                    changes = self._possible(count, excluded)
                    if isinstance(changes, SolverQuery):
                        break
                    found.append(Repair(changes))
                if len(found) == MOST_WAYS or (found and count > len(found[0].changes)):
                    break
        except _GivenUp as reason:
            # What was found before it still has the fewest changes.
            return Repairs(tuple(found), bool(found), why=str(reason))
        return Repairs(tuple(found), bool(found), why="" if found else TOO_MANY)

    # What stands.

    def _circumstances(self) -> Iterator[Any]:
        world, here = self.world, self.standing.circumstances
        yield world.today == here.today.toordinal()
        if here.now is not None:
            yield world.now == number_of(here.now)
        yield world.is_event(here.event)
        yield world.is_entry_point(here.entry_point)
        yield world.role.blank if here.role is None else world.is_role(here.role)
        known = here.layout in world.layouts
        yield world.layout == (world.layouts.index(here.layout) if known else 0)

    def _entries_that_stay(self) -> Iterator[Any]:
        standing = self.standing
        for key, term in self.world.entered.items():
            if key not in self.entries:
                yield self._is(key, term, standing.entered.get(key))
        for key, term in self.world.second.items():
            # A field that is entered anew is entered anew twice.
            there = self._is(key, term, standing.entered.get(again(key)))
            alike = equal(term, self.world.entered[key])
            yield z3.If(self.same[key], there, FALSE if alike is None else alike)
        if standing.circumstances.event == "update":
            for key, term in self.world.stored.items():
                yield self._is(key, term, standing.stored.get(key))

    def _others(self) -> Iterator[Any]:
        """What the records that are referred to hold."""
        for form, number, values in self.standing.referred:
            at = z3.IntVal(self.world.texts.number(number))
            for name, term, type_ in self.world.held_by_referred(form, at):
                yield _is_value(term, read_value(values.get(name), type_), self.world.texts.number)

    def _is(self, key: str, term: Term, stored: Stored) -> Any:
        read = read_value(stored, self.form.fields[key].type)
        return _is_value(term, read, self.world.texts.number)

    def _stands(self, key: str) -> Any:
        if key in self.standing.faulty:
            # What cannot be read can stay only where it is not asked.
            return all_of((self.record.closed.get(key, FALSE), self.entries[key].blank))
        return self._is(key, self.entries[key], self.standing.entered.get(key))

    # What is looked for.

    def _possible(
        self, count: int | None, excluded: Sequence[frozenset[str]]
    ) -> dict[str, Stored] | SolverQuery:
        """Changes of so many fields at most, no more of those that are excluded; or the question
        that has no answer.
        """
        while True:
            question, wanted = self._question(count, excluded, self.known_records)
            if not question.has_record():
                if question.undecided:
                    raise _GivenUp(tr("it took too long"))
                if z3.is_true(self.known_records):
                    return question
                anybody, _ = self._question(count, excluded)
                if not anybody.has_record() and not anybody.undecided:
                    return anybody
                raise _GivenUp(tr("it hangs on another record"))
            model = question.model()
            # What the question is not about stays.
            changed = [
                key
                for key, same in self.same.items()
                if key in question.fields and not _holds(model, same)
            ]
            if count is not None:
                model = self._nearest(wanted, changed) or model
            entered = self._entered(
                SolverModel(self.world, self.record, model, question.names), changed
            )
            looked = self.looks(entered)
            if looked.goes_through:
                return entered
            self._learn(entered, looked)
            self.known.tries += 1
            if self.known.tries == MOST_TRIES or thread_time() > self._until:
                raise _GivenUp(self.prover.in_the_way(bool(self.known.facts)))

    def _question(
        self, count: int | None, excluded: Sequence[frozenset[str]], more: Any = TRUE
    ) -> tuple[SolverQuery, list[Any]]:
        goal = [*self.given, more]
        if count is not None:
            goal.append(z3.PbLe([(none_of(one), 1) for one in self.same.values()], count))
        goal += [any_of(self.same[key] for key in one) for one in excluded]
        question = self.prover.question(all_of(goal), self.known.rules, self.known.facts)
        return question, question.wanted

    def _nearest(self, wanted: Sequence[Any], changed: Sequence[str]) -> Any | None:
        """As near to what stands as changes of these fields can be, one after the other."""
        nearest = z3.Optimize()
        limited(nearest)
        nearest.add(*wanted, *(one for key, one in self.same.items() if key not in changed))
        for key in changed:
            nearest.minimize(self._distance(key))
        return nearest.model() if nearest.check() == z3.sat else None

    def _distance(self, key: str) -> Any:
        """How far what is entered is from what stands, or from what people would enter first."""
        term, type_ = self.entries[key], self.form.fields[key].type
        stands = read_value(self.standing.entered.get(key), type_)
        if key in self.standing.faulty or isinstance(stands, Fault):
            stands = None
        match term:
            case TruthTerm():
                return z3.If(term.blank, z3.IntVal(_FAR), z3.IntVal(0))
            case CodesTerm(members):
                held = stands if isinstance(stands, tuple) else ()
                turned = [
                    z3.If(one, 0 if code in held else 1, 1 if code in held else 0)
                    for code, one in members.items()
                ]
                return z3.If(term.blank, z3.IntVal(_FAR), z3.Sum(turned))
            case ValueTerm("text", blank, at):
                return z3.If(blank, z3.IntVal(_FAR), self._oddness(key, at, type_))
            case ValueTerm(_, blank, at):
                home = number_of(stands) if stands is not None else self._home(term.kind)
                away = at - literal(home if home is not None else 0)
                return z3.If(blank, z3.IntVal(_FAR), z3.If(away < 0, -away, away))
            case _:
                return z3.IntVal(0)

    def _oddness(self, key: str, at: Any, type_: ValueType) -> Any:
        """Choices and known records in their order; texts that rules know before any other."""
        number = self.world.texts.number
        if type_.answers():
            known = [number(code) for code, _ in type_.answers() or ()]
        elif type_.referred_form:
            known = [number(one) for one in self.standing.numbers.get(key, ())]
        elif type_.is_free_text:
            conditions = [node for one in self.form.rules for node in one.conditions]
            known = [number(one) for one in texts_for(key, conditions)]
        else:
            known = []
        result: Any = z3.If(at < self.world.texts.known, len(known), len(known) + 1)
        for place, one in reversed(list(enumerate(known))):
            result = z3.If(at == one, place, result)
        return result

    def _home(self, kind: str) -> int:
        today: date = self.standing.circumstances.today
        match kind:
            case "date":
                return today.toordinal()
            case "date_time":
                return number_of(self.standing.circumstances.now) or 0  # type: ignore[return-value]
            case "time":
                return _NOON
            case _:
                return 1

    def _entered(self, model: SolverModel, changed: Sequence[str]) -> dict[str, Stored]:
        entered: dict[str, Stored] = {}
        for key in changed:
            declared = self.form.fields[key]
            entered[key] = to_entry(
                model.value(self.entries[key], reference=bool(declared.type.referred_form)),
                declared.settings,
            )
        return entered

    def _learn(self, entered: Mapping[str, Stored], looked: RepairCheck) -> None:
        """The rules that stop it are looked at from now on; of those that were, what they say of
        these values is known. Raises _GivenUp where it hangs on a record that nobody knows.
        """
        unknown = [key for key in looked.faults if self._type(key).referred_form]
        if any(key in entered for key in unknown):
            raise _GivenUp(tr("it hangs on another record"))
        known = [key for key in looked.rules if key in self.known.rules]
        self.known.rules += [key for key in looked.rules if key not in known]
        by_key = {one.rule.key: one for one in self.form.rules}
        for one in map(by_key.__getitem__, known):
            if not one.check_kind or not one.check_kind.second_entry:
                # It says the same again of the same values, whatever other records it looks at.
                says = none_of(all_of(self._as_looked_at(one, looked)))
                self.known.learn(one.rule.key, says)
        if looked.rules and not known:
            return  # those that were not looked at before speak for themselves
        # Nor is this very record the one.
        these = [
            self._is(key, term, entered[key]) if key in entered else self.same[key]
            for key, term in self.entries.items()
        ]
        other = none_of(all_of(these))
        if known:
            self.known.learn(known[0], other)
        else:
            self.given.append(other)

    def _as_looked_at(self, one: CompiledRule, looked: RepairCheck) -> Iterator[Any]:
        for key in sorted({*one.reads, *one.rule.targets}):
            yield self._is(key, self.record.values[key], looked.settled.get(key))
            closed = self.record.closed.get(key, FALSE)
            yield closed if key in looked.closed else none_of(closed)

    def _refers_to(self, key: str, term: Term) -> Iterator[Any]:
        for number in self.standing.numbers.get(key, ()):
            yield _is_value(term, number, self.world.texts.number)

    def _type(self, key: str) -> ValueType:
        return self.form.fields[key].type


_NOON: Final = 12 * 3_600 * 1_000_000


def _holds(model: Any, condition: Any) -> bool:
    return bool(z3.is_true(model.eval(condition, model_completion=True)))


def _is_value(term: Term, value: Any, number: Any) -> Any:
    """That a term is a value that is known; of what cannot be read, that it is blank."""
    if value is None or isinstance(value, Fault):
        return term.blank
    match term:
        case TruthTerm(true, false):
            return true if value is True else false
        case CodesTerm(members):
            return all_of(one if code in value else none_of(one) for code, one in members.items())
        case ValueTerm("text", blank, at):
            return all_of((none_of(blank), at == number(value)))
        case ValueTerm(_, blank, at):
            counted = number_of(value)
            return FALSE if counted is None else all_of((none_of(blank), at == literal(counted)))
        case _:
            return FALSE
