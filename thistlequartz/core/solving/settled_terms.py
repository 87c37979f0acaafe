"""One record after the rules with an effect, in solver terms, and the result of every rule.

The order of one evaluation: for every field first its state, then its value; then the checks.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import z3

from thistlequartz.core.engines.solver import (
    OpaqueTerm,
    Term,
    TextTerms,
    Translator,
    TruthTerm,
)
from thistlequartz.core.engines.solver.terms import (
    FALSE,
    NULL,
    TRUE,
    all_of,
    any_of,
    merged,
    none_of,
)
from thistlequartz.core.judging import AT_A_SCREEN, CompiledForm, CompiledRule
from thistlequartz.core.judging.compiling.settlement import (
    VALUE_SOURCES,
    AllHold,
    AnyHolds,
    Applies,
    AtScreen,
    AwaitsCondition,
    Counts,
    IsOpen,
    NoneHolds,
    SettlingCondition,
    ValueSource,
    settlement_of,
)
from thistlequartz.core.kernel import lower, nodes
from thistlequartz.core.ruleset import Moment

from .coercion import Coercion
from .record_variables import RecordVariables


@dataclass(frozen=True, slots=True)
class FreeTerm:
    """A part of which little is known, as something of that name cannot be said."""

    node: nodes.Node
    term: Term
    why: str


@dataclass(frozen=True, slots=True)
class RuleTerms:
    """What one rule says."""

    counts: Any
    """That it is in scope and in force."""
    applies: Any
    """That it counts and its condition is true."""
    checks: tuple[TruthTerm, ...] = ()
    """Whether each of its checks is satisfied, asked apart from whether it applies."""

    @property
    def violated(self) -> Any:
        """That it applies and one of its checks is violated."""
        return all_of((self.applies, any_of(one.false for one in self.checks)))

    @property
    def satisfied(self) -> Any:
        """That it applies, and has something to judge that is as it should be."""
        some = any_of(one.true for one in self.checks)
        return all_of((self.applies, some, none_of(any_of(one.false for one in self.checks))))


class SettledRecord:
    """A record of `world`, settled; `applied` are values that a proposal has set, by field.

    With `like`, it is the same record by `form`, another writing with the same fields: what is the
    same in both is one and the same term, so that nothing left open makes a difference.
    """

    def __init__(
        self,
        world: RecordVariables,
        applied: Mapping[str, Term] | None = None,
        form: CompiledForm | None = None,
        like: "SettledRecord | None" = None,
    ) -> None:
        self.world = world
        self.form: CompiledForm = form or world.form
        self._like = like
        self._alike = set(self.form.fields) if like else set()
        """The fields that are settled as they are in `like`."""
        self._written = {one.rule.key: one for one in like.form.rules} if like else {}
        self.texts: TextTerms = world.texts
        self.free: list[FreeTerm] = []
        self.values: dict[str, Term] = {**world.entered, **(applied or {})}
        self.closed: dict[str, Any] = {}
        self.locked: dict[str, Any] = {}
        self.waiting: dict[str, Any] = {}
        self.derived: dict[str, Any] = {}
        self._applied = applied or {}
        self.taken_keys: dict[tuple[str, ...], Any] = {}
        self._translator = Translator(self)
        self._coercion = Coercion(world)
        self._plans = self._planned()
        self._settlements = {key: settlement_of(rules) for key, rules in self._plans.items()}
        if like:
            self._alike -= like._plans.keys() - self._plans.keys()
        for what, key in self._order():
            if like and self._settles_alike(like, key):
                self._settle_like(like, what, key)
                continue
            self._alike.discard(key)
            world.part = f"{what} {key}"
            if what == "state":
                self._settle_state(key)
            else:
                self._settle_value(key)

    # What the translator asks.

    def read(self, node: nodes.Read, other: object) -> Term:
        """A value that is given."""
        match node.source:
            case "field":
                return self.values.get(node.key, NULL)
            case "second":
                return self.world.second.get(node.key, NULL)
            case "stored":
                return self.world.stored.get(node.key, NULL)
            case "other":
                return self.world.other_record(other).get(node.key, NULL)
            case _:
                return self.world.circumstance(node.key)

    def refer(self, node: nodes.Refer, reference: Term) -> Term:
        """A field of the record that is referred to."""
        found = self.world.referred(node, reference)
        return OpaqueTerm(self.fresh(z3.BoolSort())) if found is None else found

    def is_relevant(self, key: str) -> Any:
        """That a field is relevant."""
        return none_of(self.closed.get(key, FALSE))

    def there(self, other: object) -> Any:
        """That there is the other record that is spoken of."""
        return self.world.is_there(other)

    def taken(self, keys: tuple[str, ...]) -> Any:
        """That another record holds the same values."""
        if keys not in self.taken_keys:
            self.taken_keys[keys] = self.fresh(z3.BoolSort())
        return self.taken_keys[keys]

    def assume(self, condition: Any) -> None:
        """Something that is so whatever the record."""
        self.world.assume(condition)

    def fresh(self, sort: Any) -> Any:
        """Something of which nothing is known."""
        return self.world.fresh(sort)

    def left_free(self, node: nodes.Node, term: Term, why: str) -> None:
        """That little is known of a node."""
        self.free.append(FreeTerm(node, term, why))

    # What rules are asked.

    @cached_property
    def rules(self) -> dict[str, RuleTerms]:
        """What every rule that is switched on and can be used says, by key."""
        like = self._like
        return {
            one.rule.key: like.rules[one.rule.key]
            if like and self._as_in_like([one])
            else self.terms(one)
            for one in self.form.rules
            if one.rule.enabled
        }

    def terms(self, one: CompiledRule) -> RuleTerms:
        """What a rule says, or would say of this record if the form had it."""
        self.world.part = f"rule {one.rule.key}"
        checks = tuple(self.truth(check.satisfied) for check in one.lowered.checks)
        return RuleTerms(self.counts(one), self._applies(one), checks)

    def truth(self, node: nodes.Node) -> TruthTerm:
        """What a condition comes to."""
        return self._translator.truth(node)

    def term(self, node: nodes.Node) -> Term:
        """What a part comes to."""
        return self._translator.term(node)

    def constant(self, value: Any) -> Term:
        """A value that is known beforehand."""
        return self._translator.constant(value)

    def counts(self, one: CompiledRule) -> Any:
        """That a rule is in scope and in force."""
        world, rule = self.world, one.rule
        scope, parts = rule.scope, []
        for given, is_that in (
            (scope.events, world.is_event),
            (scope.entry_points, world.is_entry_point),
            (scope.roles, world.is_role),
        ):
            if given:
                parts.append(any_of(is_that(name) for name in given))
        if scope.layouts:
            known = [name for name in scope.layouts if name in self.form.layouts]
            parts.append(any_of(map(world.is_layout, known)))
        if rule.in_force_from:
            parts.append(world.today >= rule.in_force_from.toordinal())
        if rule.in_force_to:
            parts.append(world.today <= rule.in_force_to.toordinal())
        return all_of(parts)

    def _applies(self, one: CompiledRule) -> Any:
        condition = one.lowered.applies
        return all_of((self.counts(one), TRUE if condition is None else self.truth(condition).true))

    def stops(self, one: CompiledRule, moment: Moment) -> bool:
        """Whether it stops who saves, or who submits; submitting saves, too."""
        hard = one.severities["save"] == "block"
        return hard or (moment == "submit" and one.severities["submit"] == "block")

    def offered(self, one: CompiledRule) -> dict[str, tuple[Any, Term]]:
        """The fields that a proposal sets: that it is offered for each, and the value."""
        at_target = any_of(self.is_relevant(key) for key in one.rule.targets)
        applies = all_of((self._applies(one), at_target))
        offered: dict[str, tuple[Any, Term]] = {}
        for key, node in one.lowered.values:
            value = self._coercion.coerced(self.term(self.lowered(node)), self.form.fields[key])
            there = all_of((applies, self.is_relevant(key), none_of(value.blank)))
            for earlier in self._proposing_before(one, key):
                there = all_of((there, none_of(self.offered(earlier)[key][0])))
            offered[key] = there, value
        return offered

    def _proposing_before(self, one: CompiledRule, key: str) -> list[CompiledRule]:
        before: list[CompiledRule] = []
        for other in self.form.rules:
            if other is one:
                break
            if (
                other.part == "proposing"
                and other.rule.enabled
                and key in dict(other.lowered.values)
            ):
                before.append(other)
        return before

    # Settling.

    def _planned(self) -> dict[str, list[CompiledRule]]:
        """The rules with an effect on each field that a record cannot decline."""
        plans: dict[str, list[CompiledRule]] = {}
        for one in self.form.rules:
            if one.part is not None and one.part != "proposing" and one.rule.enabled:
                for key in one.rule.targets:
                    plans.setdefault(key, []).append(one)
        return plans

    def _order(self) -> list[tuple[str, str]]:
        ordered: list[tuple[str, str]] = [one for one in self.form.order if one[1] in self._plans]
        reached = {key for _, key in ordered}
        return [*ordered, *(("value", key) for key in self._plans if key not in reached)]

    def _rules_of(self, key: str) -> list[CompiledRule]:
        return self._plans[key]

    def _settles_alike(self, like: "SettledRecord", key: str) -> bool:
        rules = self._rules_of(key)
        before = like._rules_of(key) if key in like._plans else []
        same = [one.rule.key for one in rules] == [one.rule.key for one in before]
        return same and key in self._alike and self._as_in_like(rules)

    def _as_in_like(self, rules: list[CompiledRule]) -> bool:
        """Whether rules are written as they are in `like`, and read what is the same there."""
        for one in rules:
            there = self._written.get(one.rule.key)
            if there is None or (there.rule, there.lowered) != (one.rule, one.lowered):
                return False
            if not self._alike.issuperset({*one.reads, *one.rule.targets}):
                return False
        return True

    def _settle_like(self, like: "SettledRecord", what: str, key: str) -> None:
        if what == "value":
            self.values[key] = like.values[key]
            if key in like.derived:
                self.derived[key] = like.derived[key]
            return
        for mine, theirs in (
            (self.closed, like.closed),
            (self.locked, like.locked),
            (self.waiting, like.waiting),
        ):
            if key in theirs:
                mine[key] = theirs[key]

    def _settle_state(self, key: str) -> None:
        settlement = self._settlements[key]
        for causes, states in (
            (settlement.closed, self.closed),
            (settlement.locked, self.locked),
            (settlement.waiting, self.waiting),
        ):
            if causes:
                states[key] = any_of(self._condition(one.condition, key) for one in causes)

    def _condition(self, condition: SettlingCondition, key: str) -> Any:
        """A condition of the settlement of a field."""
        match condition:
            case Counts(rule):
                return self.counts(rule)
            case Applies(rule):
                return self._applies(rule)
            case AwaitsCondition(rule):
                assert rule.lowered.until is not None
                return none_of(self.truth(self.lowered(rule.lowered.until)).true)
            case AtScreen():
                return any_of(self.world.is_entry_point(name) for name in AT_A_SCREEN)
            case IsOpen():
                return self.is_relevant(key)
            case AllHold(parts):
                return all_of(tuple(self._condition(one, key) for one in parts))
            case AnyHolds(parts):
                return any_of(self._condition(one, key) for one in parts)
            case NoneHolds(parts):
                return none_of(any_of(self._condition(one, key) for one in parts))

    def _settle_value(self, key: str) -> None:
        settlement, value = self._settlements[key], self.values[key]
        states = {"closed": self.closed.get(key)}
        if key not in self._applied:
            states["locked"] = self.locked.get(key)
        if settlement.derived is not None:
            states["derived"] = self.derived[key] = self._condition(settlement.derived, key)
        for state, source in reversed(VALUE_SOURCES):
            is_so = states.get(state)
            if is_so is not None:
                value = self._either(is_so, self._from(source, key, value), value, value)
        self.values[key] = value

    def _from(self, source: ValueSource, key: str, value: Term) -> Term:
        match source:
            case "nothing":
                return NULL
            case "computed":
                return self._first(key, self._settlements[key].deriving)
            case "kept":
                world = self.world
                return self._either(world.is_new, self.starting(key), world.stored[key], value)

    def starting(self, key: str) -> Term:
        """What a new record starts with in a field."""
        settlement = self._settlements.get(key)
        return self._first(key, settlement.starting) if settlement else NULL

    def _first(self, key: str, rules: Sequence[CompiledRule]) -> Term:
        """The value of the first rule that applies; null where none does."""
        result: Term = NULL
        for one in reversed(rules):
            given = dict(one.lowered.values).get(key)
            if given is None:
                continue
            value = self._coercion.coerced(self.term(self.lowered(given)), self.form.fields[key])
            result = self._either(self._applies(one), value, result, value)
        return result

    def _either(self, condition: Any, then: Term, otherwise: Term, like: Term) -> Term:
        found = merged(condition, then, otherwise)
        return OpaqueTerm(self.fresh(z3.BoolSort())) if found is None else found

    def lowered(self, node: Any) -> nodes.Node:
        """A written part in the kernel."""
        return lower(node, self.form.vocabulary)
