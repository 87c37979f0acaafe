"""Clauses read as a tree."""

from collections.abc import Callable
from datetime import date, datetime, time, timedelta
from decimal import Decimal

from thistlequartz.core.language import tree
from thistlequartz.core.language.declared import Vocabulary
from thistlequartz.core.language.operators import SIGN_OF, TEXT_FUNCTIONS, Operator
from thistlequartz.core.language.problems import FormulaError, Problem
from thistlequartz.core.language.subjects import subject_node, type_of_part
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType, read_written
from thistlequartz.core.values import Fault, Months, Value

from .shapes import (
    MAX_CLAUSES,
    MAX_GROUP_DEPTH,
    BetweenOperand,
    Clause,
    ClauseGroup,
    FieldOperand,
    TodayOperand,
    Unit,
    ValueOperand,
    ValuesOperand,
)

_MONTHS_IN: dict[Unit, int] = {"months": 1, "years": 12}
_ALONE: dict[Operator, Callable[[Clause], tree.Node]] = {
    "is_blank": lambda clause: tree.Comparison("=", _subject(clause), tree.Null()),
    "has_value": lambda clause: tree.Comparison("!=", _subject(clause), tree.Null()),
    "has_changed": lambda clause: tree.ChangedField(clause.field),
    "has_not_changed": lambda clause: tree.Not(tree.ChangedField(clause.field)),
    "is_true": lambda clause: tree.Field(clause.field),
    "holds_not": lambda clause: tree.Not(tree.Field(clause.field)),
}
"""The clauses that compare with nothing."""


def tree_from_clauses(group: ClauseGroup, vocabulary: Vocabulary) -> tree.Node:
    """The tree of `group`. Raises FormulaError with the place of every clause that cannot work."""
    _check_size(group)
    reader = _Reader(vocabulary)
    node = reader.group(group, "")
    if reader.problems:
        raise FormulaError(reader.problems)
    assert node is not None
    return node


def literal(value: Value) -> tree.Node:
    """The node of a literal value."""
    match value:
        case bool():
            return tree.Boolean(value)
        case str():
            return tree.Text(value)
        case Decimal():
            return tree.Number(Decimal(value))  # without a unit that it was given in
        case datetime():
            return tree.DateTime(value)
        case date():
            return tree.Date(value)
        case time():
            return tree.Time(value)
        case timedelta() | Months():
            return tree.Duration(value)
        case tuple():
            return tree.ListOf(tuple(tree.Text(code) for code in value))


def _check_size(group: ClauseGroup) -> None:
    count, waiting = 0, [(group, 1)]
    while waiting:
        current, level = waiting.pop()
        count += len(current.parts)
        if count > MAX_CLAUSES or level > MAX_GROUP_DEPTH:
            said = tr(
                "A condition may have {max_clauses} clauses and {max_group_depth} levels of "
                "groups; this one has more.",
                max_clauses=MAX_CLAUSES,
                max_group_depth=MAX_GROUP_DEPTH,
            )
            raise FormulaError([Problem(said, tr("Split it into several rules."))])
        waiting.extend((part, level + 1) for part in current.parts if isinstance(part, ClauseGroup))


def _subject(clause: Clause) -> tree.Node:
    return subject_node(clause.field, clause.part)


class _Reader:
    """Reads clauses, and collects what is wrong with them by place."""

    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary
        self.problems: list[Problem] = []

    def report(self, message: str, remedy: str, place: str, *, unsaid: bool = False) -> None:
        self.problems.append(Problem(message, remedy, place, unsaid=unsaid))

    def group(self, group: ClauseGroup, place: str) -> tree.Node | None:
        if not group.parts:
            said = tr("This group has no clauses.")
            self.report(said, tr("Add a clause, or take the group out."), place)
            return None
        parts: list[tree.Node] = []
        for position, part in enumerate(group.parts):
            inside = f"{place}.parts.{position}".lstrip(".")
            if isinstance(part, ClauseGroup):
                node = self.group(part, inside)
            else:
                node = self.clause(part, inside)
            if node is not None:
                parts.append(node)
        if len(parts) == 1:
            return parts[0]
        return (tree.And if group.join == "and" else tree.Or)(tuple(parts))

    def clause(self, clause: Clause, place: str) -> tree.Node | None:
        alone = _ALONE.get(clause.operator)
        if alone:
            return alone(clause)
        declared = self.vocabulary.get(clause.field)
        type_ = type_of_part(declared, clause.part) if declared else None
        if type_ is None:
            # The type check names the missing field or property, with the nearest one.
            return tree.Comparison("=", _subject(clause), tree.Null())
        return self.compared(clause, type_.item_type(), place)

    def compared(self, clause: Clause, type_: ValueType, place: str) -> tree.Node | None:
        subject, operator = _subject(clause), clause.operator
        if operator == "is_between":
            interval = self.interval(clause, type_, place)
            return interval and tree.Membership(subject, (interval,))
        operands = self.operands(clause, type_, place)
        if not operands:
            return None
        match operator:
            case "includes":
                return tree.Membership(operands[0], (subject,))
            case "includes_not":
                return tree.Not(tree.Membership(operands[0], (subject,)))
            case "is_one_of":
                return tree.Membership(subject, operands)
            case "is_none_of":
                return tree.Not(tree.Membership(subject, operands))
            case "contains" | "starts_with" | "ends_with":
                return tree.Call(TEXT_FUNCTIONS[operator], (subject, operands[0]))
            case "contains_not":
                return tree.Not(tree.Call("contains", (subject, operands[0])))
            case _:
                return tree.Comparison(SIGN_OF[operator], subject, operands[0])

    def interval(self, clause: Clause, type_: ValueType, place: str) -> tree.Interval | None:
        operand = clause.operand
        if not isinstance(operand, BetweenOperand):
            self.needs(tr("two ends of a range"), place)
            return None
        low = self.literal(operand.low, type_, f"{place}.operand")
        high = self.literal(operand.high, type_, f"{place}.operand")
        if low is None or high is None:
            return None
        both = operand.low_included and operand.high_included
        if (a := low.value) > (b := high.value) or (a == b and not both):  # type: ignore[attr-defined]
            self.report(tr("No value lies between these ends."), tr("Swap or widen them."), place)
            return None
        return tree.Interval(low, high, operand.low_included, operand.high_included)

    def operands(self, clause: Clause, type_: ValueType, place: str) -> tuple[tree.Node, ...]:
        several = clause.operator in ("is_one_of", "is_none_of")
        match clause.operand:
            case ValueOperand(value=value) if not several:
                given: tuple[str | bool, ...] = (value,)
            case ValuesOperand(values=values) if several and values:
                given = values
            case FieldOperand(field=other, part=part, plus=plus, unit=unit) if not several:
                return (_shifted(subject_node(other, part), plus, unit),)
            case TodayOperand(plus=plus, unit=unit) if not several:
                return (_shifted(tree.Today(), plus, unit),)
            case _:
                self.needs(tr("a list of values") if several else tr("a value or a field"), place)
                return ()
        nodes = [self.literal(one, type_, f"{place}.operand") for one in given]
        return tuple(node for node in nodes if node is not None)

    def needs(self, wanted: str, place: str) -> None:
        said = tr("This clause needs {wanted} to compare with.", wanted=wanted)
        self.report(said, tr("Choose what it is compared with."), place, unsaid=True)

    def literal(self, given: str | bool, type_: ValueType, place: str) -> tree.Node | None:
        read = read_written(given, type_)
        if isinstance(read, Fault):
            self.report(read.message, tr("Correct the value of this clause."), place)
        elif read is None:
            said = tr("This clause compares with nothing.")
            self.report(said, tr("Give a value, or say “is blank”."), place, unsaid=True)
        else:
            return literal(read)
        return None


def _shifted(node: tree.Node, plus: int, unit: Unit) -> tree.Node:
    """`node` so much later, or earlier."""
    if plus == 0:
        return node
    size = abs(plus)
    length = timedelta(days=size) if unit == "days" else Months(size * _MONTHS_IN[unit])
    return tree.Arithmetic("+" if plus > 0 else "-", node, tree.Duration(length))
