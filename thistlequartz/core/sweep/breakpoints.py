"""Where the answers of conditions can change as one field moves, all other entries staying.

A condition is followed down to the field: `2 * x + 3 > y` changes at `(y - 3) / 2`. Too many
places do no harm, as cells that turn out alike are joined again; what cannot be followed is noted,
so that the caller can look at samples and say so.
"""

from collections.abc import Iterable, Mapping
from datetime import date, datetime, timedelta
from fractions import Fraction
from math import floor
from typing import Any

from thistlequartz.core.engines.environment import Environment, again
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.functions.numbers import around_halves
from thistlequartz.core.functions.operations import RangeValue, add
from thistlequartz.core.judging import CompiledRule, Program
from thistlequartz.core.language import Vocabulary, tree
from thistlequartz.core.types.domain import MICROSECONDS_A_DAY, GridPoint, place_of
from thistlequartz.core.values import Months

GridPoints = frozenset[GridPoint]
NOWHERE: GridPoints = frozenset()
_DAYS_AROUND = 3
"""Days by which moving back by months may miss: the shortest month is three days short."""


class _Untraceable(Exception):
    """The field enters in a way that cannot be followed."""


class Conditions:
    """Everything that the rules of a program ask, as far as it depends on one field.

    With `length`, it is the length of the field that moves, and not its value.
    """

    def __init__(self, program: Program, swept: str, fields: Vocabulary, *, length: bool) -> None:
        self.swept = swept
        self.swept_type = fields[swept].type
        self.fields = fields
        self.length = length
        self.derived = _derived_from(program, swept)
        """The derived fields that move with the swept one, with the formulas that give them."""
        self.moving = frozenset({swept, *self.derived})
        self._asked: list[tuple[CompiledRule, list[tree.Node]]] = []
        for one in (*program.checks, *program.effects):
            nodes = [node for node in _asked_by(one) if self.reads(node)]
            if nodes:
                self._asked.append((one, nodes))
        self.sampled: set[str] = set()
        """The rules with a condition that could not be followed."""

    def places(self, environment: Environment) -> GridPoints:
        """Where answers can change, as far as what does not move stands as in `environment`."""
        follower = _Follower(self, environment)
        found: set[GridPoint] = set()
        for one, nodes in self._asked:
            when = one.lowered.when
            if when is not None and not self.reads(when) and not one.applies(environment):
                continue
            for node in nodes:
                try:
                    found |= follower.follow(node)
                except _Untraceable:
                    self.sampled.add(one.rule.key)
                if follower.lost:
                    self.sampled.add(one.rule.key)
                    follower.lost = False
        return frozenset(found)

    def reads(self, node: tree.Node) -> bool:
        """Whether the value of `node` moves with the field."""
        return not self.moving.isdisjoint(tree.fields_read(node))

    def shared_with(self, other: "Conditions") -> bool:
        """Whether a rule moves with both fields."""
        mine = {one.rule.key for one, _ in self._asked}
        return any(one.rule.key in mine for one, _ in other._asked)


def _derived_from(program: Program, swept: str) -> Mapping[str, tuple[tree.Node, ...]]:
    """The derived fields whose value moves with the swept one, with the formulas."""
    moving = {swept}
    formulas = {
        key: tuple(dict(one.lowered.values)[key] for one in plan.settlement.deriving)
        for key, plan in program.plans.items()
    }
    while True:
        more = {
            key
            for key, nodes in formulas.items()
            if key not in moving
            and any(not moving.isdisjoint(tree.fields_read(node)) for node in nodes)
        }
        if not more:
            return {key: formulas[key] for key in moving - {swept}}
        moving |= more


def _asked_by(one: CompiledRule) -> Iterable[tree.Node]:
    yield from one.conditions
    yield from (tree.ChangedField(key) for key in one.rule.changed_fields)
    if one.part == "proposing":
        # What is proposed changes with its value, and so does whether it stands there already.
        for key, node in one.lowered.values:
            yield tree.Comparison("=", node, tree.Field(key))


def _joined(parts: Iterable[GridPoints]) -> GridPoints:
    return frozenset().union(*parts)


def _places_of(value: Any) -> GridPoints:
    """The places of a value, or of those in a list or range; texts have none."""
    match value:
        case list():
            return _joined(_places_of(one) for one in value)
        case RangeValue(low, high):
            return _places_of(low) | _places_of(high)
        case datetime() if value.tzinfo is None:
            raise _Untraceable  # where it stands depends on what it is held against
    place = place_of(value)
    return NOWHERE if place is None else frozenset({place})


_Linear = tuple[Fraction, Fraction]


class _Follower:
    """Follows conditions and values down to the swept field."""

    def __init__(self, conditions: Conditions, environment: Environment) -> None:
        self.conditions = conditions
        self.environment = environment
        self.lost = False
        """Whether a part of a condition could not be followed, and the others were."""

    def constant(self, node: tree.Node) -> Any:
        """The value of a node that does not move."""
        return interpret(node, self.conditions.fields)(self.environment)

    def follow(self, node: tree.Node, targets: GridPoints = NOWHERE) -> GridPoints:
        """Where the answer of a condition can change, or a value comes to or passes `targets`."""
        if not self.conditions.reads(node):
            return NOWHERE
        match node:
            case tree.Field(key):
                return self._field(key, targets)
            case tree.EnteredTwice(key):
                return self._field(key, _places_of(self.environment.get(again(key))))
            case tree.Filled(_, keys):
                return _joined(self.follow(tree.Field(key)) for key in keys)
            case tree.And(parts) | tree.Or(parts):
                return _joined(self._part(part) for part in parts)
            case tree.Not(operand) | tree.NamedConditionUse(_, operand):
                return self.follow(operand)
            case tree.Comparison(_, left, right):
                return self._meeting(left, right)
            case tree.Membership(value, tests, ignore_case):
                return _joined(self._test(value, test, ignore_case) for test in tests)
            case tree.ValueByAnswer(ignore_case=True):
                raise _Untraceable
            case tree.ValueByAnswer(value, governor, rows):
                governing = _joined(self._meeting(governor, row.governing) for row in rows)
                going = (test for row in rows for test in row.tests)
                return governing | _joined(self._meeting(value, test) for test in going)
            case tree.ChangedField(key):
                return self._meeting(tree.Field(key), tree.StoredValue(key))
            case tree.If(condition, then, otherwise):
                inside = self.follow(then, targets) | self.follow(otherwise, targets)
                return self.follow(condition) | inside
            case tree.Negate(operand):
                return self.follow(operand, frozenset(-target for target in targets))
            case tree.Arithmetic():
                return self._arithmetic(node, targets)
            case tree.Path(subject, name):
                return self._path(subject, name, targets)
            case tree.Call(function, arguments, ()):
                return self._call(function, arguments, targets)
            case _:
                raise _Untraceable

    def _part(self, node: tree.Node) -> GridPoints:
        """Of several parts, those that can be followed."""
        try:
            return self.follow(node)
        except _Untraceable:
            self.lost = True
            return NOWHERE

    def _field(self, key: str, targets: GridPoints) -> GridPoints:
        if key == self.conditions.swept:
            if self.conditions.length and targets:
                raise _Untraceable
            return targets
        type_ = self.conditions.fields[key].type
        widened = targets
        scale = getattr(type_, "scale", None)
        if scale is not None:
            widened = around_halves(targets, scale) or targets
        return _joined(self.follow(node, widened) for node in self.conditions.derived.get(key, ()))

    def _test(self, value: tree.Node, test: tree.Node, ignore_case: bool) -> GridPoints:
        match test:
            case tree.Interval(low, high):
                return self._meeting(value, low) | self._meeting(value, high)
            case tree.UnaryTest(_, operand):
                return self._meeting(value, operand)
            case _ if ignore_case:
                raise _Untraceable
            case _:
                return self._meeting(value, test)

    def _meeting(self, left: tree.Node, right: tree.Node) -> GridPoints:
        """Where two values come to be equal, or pass one another."""
        if not self.conditions.reads(left):
            left, right = right, left
        if not self.conditions.reads(left):
            return NOWHERE
        if self.conditions.reads(right):
            return self._arithmetic(tree.Arithmetic("-", left, right), frozenset({Fraction(0)}))
        value = self.constant(right)
        if isinstance(value, str) and self.conditions.length:
            raise _Untraceable  # what the text says matters, and not its length alone
        return self.follow(left, _places_of(value))

    def _arithmetic(self, node: tree.Arithmetic, targets: GridPoints) -> GridPoints:
        left, right, sign = node.left, node.right, node.operator
        first = self.conditions.reads(left)
        if first and self.conditions.reads(right):
            slope, start = self._linear(node)
            return frozenset((target - start) / slope for target in targets if slope)
        subject, other = (left, right) if first else (right, left)
        known = self.constant(other)
        if known is None:
            return NOWHERE
        if isinstance(known, Months) and (sign == "+" or (sign == "-" and first)):
            return self.follow(subject, _moved_back(targets, known, sign))
        place = place_of(known)
        if place is None:
            raise _Untraceable
        back: set[GridPoint]
        match sign:
            case "+":
                back = {target - place for target in targets}
            case "-" if first:
                back = {target + place for target in targets}
            case "-":
                back = {place - target for target in targets}
            case "*":
                back = {target / place for target in targets if place}
            case "/" if first:
                back = {target * place for target in targets}
            case "/":
                back = {Fraction(0), *(place / target for target in targets if target)}
            case _:
                raise _Untraceable
        return self.follow(subject, frozenset(back))

    def _linear(self, node: tree.Node) -> _Linear:
        """`node` as a slope and a start. Derived fields are rounded, so they are not linear."""
        if not self.conditions.reads(node):
            place = place_of(self.constant(node))
            if place is None:
                raise _Untraceable
            return Fraction(0), place
        swept = tree.Field(self.conditions.swept)
        match node:
            case tree.Field() if node == swept and not self.conditions.length:
                return Fraction(1), Fraction(0)
            case tree.Call("string length", (inner,), ()) if inner == swept:
                return Fraction(1), Fraction(0)
            case tree.Negate(operand):
                slope, start = self._linear(operand)
                return -slope, -start
            case tree.Arithmetic("+" | "-" as sign, left, right):
                (a, b), (c, d) = self._linear(left), self._linear(right)
                return (a + c, b + d) if sign == "+" else (a - c, b - d)
            case tree.Arithmetic("*", left, right):
                (a, b), (c, d) = self._linear(left), self._linear(right)
                if not a or not c:
                    return a * d + c * b, b * d
            case tree.Arithmetic("/", left, right):
                (a, b), (c, d) = self._linear(left), self._linear(right)
                if not c and d:
                    return a / d, b / d
        raise _Untraceable

    def _path(self, subject: tree.Node, name: str, targets: GridPoints) -> GridPoints:
        """Years of a date, and whole days of a length, go up with the field.

        The year of a date-time does so too, but begins at another instant in each zone.
        """
        numbers = {floor(target) + more for target in targets for more in (-1, 0, 1)}
        match name:
            case "year" if self.conditions.swept_type.kind != "date_time":
                years = (year for year in numbers if date.min.year <= year <= date.max.year)
                return self.follow(subject, _joined(_places_of(date(year, 1, 1)) for year in years))
            case "days":
                days = frozenset(Fraction(number * MICROSECONDS_A_DAY) for number in numbers)
                return self.follow(subject, days)
            case _:
                raise _Untraceable

    def _call(
        self, function: str, arguments: tuple[tree.Node, ...], targets: GridPoints
    ) -> GridPoints:
        match function, arguments:
            case "string length", (tree.Field(key),) if key == self.conditions.swept:
                return targets
            case "min" | "max", _:
                return _joined(self.follow(one, targets) for one in _listed(arguments))
            case "sum", _:
                return self.follow(self._added(_listed(arguments)), targets)
            case _:
                return self._inverted(function, arguments, targets)

    def _inverted(
        self, function: str, arguments: tuple[tree.Node, ...], targets: GridPoints
    ) -> GridPoints:
        """Back through a function whose first argument alone moves, where its record says how."""
        inverse = FUNCTIONS[function].inverse
        if inverse is None or any(self.conditions.reads(one) for one in arguments[1:]):
            raise _Untraceable
        back = inverse(targets, *map(self.constant, arguments[1:]))
        if back is None:
            raise _Untraceable
        return self.follow(arguments[0], back)

    def _added(self, items: tuple[tree.Node, ...]) -> tree.Node:
        """The items of a sum, which skips blanks, as an addition."""
        kept = [
            one for one in items if self.conditions.reads(one) or self.constant(one) is not None
        ]
        total = kept[0]
        for one in kept[1:]:
            total = tree.Arithmetic("+", total, one)
        return total


def _listed(arguments: tuple[tree.Node, ...]) -> tuple[tree.Node, ...]:
    match arguments:
        case (tree.ListOf(items),):
            return items
        case _:
            return arguments


def _moved_back(targets: GridPoints, by: Months, sign: str) -> GridPoints:
    """Dates from which moving by months may come to or pass `targets`."""
    back = Months(-by.count if sign == "+" else by.count)
    found: set[GridPoint] = set()
    for target in targets:
        day = timedelta(days=int(target // MICROSECONDS_A_DAY))
        try:
            moved = place_of(add(date.min + day, back))
        except (ValueError, OverflowError):
            continue
        if moved is not None:
            around = range(-_DAYS_AROUND, _DAYS_AROUND + 1)
            found.update(moved + days * MICROSECONDS_A_DAY for days in around)
    return frozenset(found)
