"""A tree written as clauses, wherever clauses can say it."""

from datetime import timedelta
from typing import Literal

from thistlequartz.core.language import tree
from thistlequartz.core.language.declared import Vocabulary
from thistlequartz.core.language.operators import (
    MEASURE_WORDS,
    OPERATOR_OF,
    TEXT_FUNCTIONS,
    Operator,
)
from thistlequartz.core.language.problems import FormulaError
from thistlequartz.core.language.subjects import subject_of
from thistlequartz.core.values import Months, to_json

from .reading import tree_from_clauses
from .shapes import (
    MAX_SHIFT,
    BetweenOperand,
    Clause,
    ClauseGroup,
    FieldOperand,
    Operand,
    TodayOperand,
    Unit,
    ValueOperand,
    ValuesOperand,
)

_TEXT_OPERATORS: dict[str, Operator] = {name: one for one, name in TEXT_FUNCTIONS.items()}
_ONE_DAY = timedelta(days=1)


def clauses_from_tree(node: tree.Node, vocabulary: Vocabulary) -> ClauseGroup | None:
    """Return the clauses that say the same as `node`; None where only a formula can.

    Reading the clauses gives exactly `node` again.
    """
    part = _part(node, vocabulary)
    group = ClauseGroup(parts=(part,)) if isinstance(part, Clause) else part
    if group is None:
        return None
    try:
        return group if tree_from_clauses(group, vocabulary) == node else None
    except FormulaError:
        return None


def _part(node: tree.Node, vocabulary: Vocabulary) -> Clause | ClauseGroup | None:
    match node:
        case tree.And(nodes) | tree.Or(nodes):
            parts = [_part(part, vocabulary) for part in nodes]
            if any(part is None for part in parts):
                return None
            join: Literal["and", "or"] = "and" if isinstance(node, tree.And) else "or"
            return ClauseGroup(join=join, parts=tuple(part for part in parts if part))
        case tree.Field(key) if _is_condition(key, vocabulary):
            return Clause(field=key, operator="is_true")
        case tree.ChangedField(key):
            return Clause(field=key, operator="has_changed")
        case tree.Comparison(sign, left, right):
            return _comparison(left, OPERATOR_OF[sign], right)
        case tree.Membership(tree.Text(code), (tree.Field() | tree.StoredValue() as several,)):
            return _held(several, code, "includes", vocabulary)
        case tree.Membership(subject, (tree.Interval() as interval,), ignore_case=False):
            return _between(subject, interval)
        case tree.Membership(subject, tests, ignore_case=False):
            return _listed(subject, "is_one_of", tests)
        case tree.Call(function, (subject, piece), ()) if function in _TEXT_OPERATORS:
            return _with(subject, _TEXT_OPERATORS[function], piece)
        case tree.Not(denied):
            return _denial(denied, vocabulary)
        case _:
            return None


def _denial(node: tree.Node, vocabulary: Vocabulary) -> Clause | None:
    match node:
        case tree.Field(key) if _is_condition(key, vocabulary):
            return Clause(field=key, operator="holds_not")
        case tree.ChangedField(key):
            return Clause(field=key, operator="has_not_changed")
        case tree.Membership(tree.Text(code), (tree.Field() | tree.StoredValue() as several,)):
            return _held(several, code, "includes_not", vocabulary)
        case tree.Membership(subject, tests, ignore_case=False):
            return _listed(subject, "is_none_of", tests)
        case tree.Call("contains", (subject, piece), ()):
            return _with(subject, "contains_not", piece)
        case _:
            return None


def _is_condition(key: str, vocabulary: Vocabulary) -> bool:
    return key in vocabulary and vocabulary[key].condition


def _clause(subject: tree.Node, operator: Operator, operand: Operand | None) -> Clause | None:
    named = subject_of(subject)
    if named is None or (named[1] in ("length", "count") and operator not in MEASURE_WORDS):
        return None
    return Clause(field=named[0], part=named[1], operator=operator, operand=operand)


def _with(subject: tree.Node, operator: Operator, other: tree.Node) -> Clause | None:
    """A comparison with a text as it is written, or with another field."""
    operand = ValueOperand(value=other.value) if isinstance(other, tree.Text) else _operand(other)
    return _clause(subject, operator, operand) if operand else None


def _held(
    several: tree.Field | tree.StoredValue, code: str, operator: Operator, vocabulary: Vocabulary
) -> Clause | None:
    declared = vocabulary.get(several.key)
    if declared is None or not declared.type.holds_several:
        return None
    part = "before" if isinstance(several, tree.StoredValue) else "value"
    return Clause(field=several.key, part=part, operator=operator, operand=ValueOperand(value=code))


def _comparison(left: tree.Node, operator: Operator, right: tree.Node) -> Clause | None:
    if isinstance(right, tree.Null):
        blank: dict[Operator, Operator] = {"is": "is_blank", "is_not": "has_value"}
        return _clause(left, blank[operator], None) if operator in blank else None
    operand = _operand(right)
    return _clause(left, operator, operand) if operand else None


def _operand(node: tree.Node) -> Operand | None:
    plus, unit, base = _unshifted(node)
    if isinstance(base, tree.Today):
        return TodayOperand(plus=plus, unit=unit)
    named = subject_of(base)
    if named:
        return FieldOperand(field=named[0], part=named[1], plus=plus, unit=unit)
    value = _literal_value(node)
    return None if value is None else ValueOperand(value=value)


def _unshifted(node: tree.Node) -> tuple[int, Unit, tree.Node]:
    """By how much a date is shifted, and which; zero where it is not, or not by whole units."""
    if not isinstance(node, tree.Arithmetic) or not isinstance(node.right, tree.Duration):
        return 0, "days", node
    length = node.right.value
    unit: Unit
    if isinstance(length, Months):
        years, months = divmod(length.count, 12)
        count, unit = (length.count, "months") if months else (years, "years")
    else:
        count, rest = divmod(length, _ONE_DAY)
        unit = "days"
        if rest:
            return 0, "days", node
    if node.operator not in ("+", "-") or not 0 < count <= MAX_SHIFT:
        return 0, "days", node
    return count if node.operator == "+" else -count, unit, node.left


def _between(subject: tree.Node, interval: tree.Interval) -> Clause | None:
    low, high = _literal_value(interval.low), _literal_value(interval.high)
    if not isinstance(low, str) or not isinstance(high, str):
        return None
    operand = BetweenOperand(
        low=low,
        high=high,
        low_included=interval.low_included,
        high_included=interval.high_included,
    )
    return _clause(subject, "is_between", operand)


def _listed(subject: tree.Node, operator: Operator, tests: tuple[tree.Node, ...]) -> Clause | None:
    values = [_literal_value(test) for test in tests]
    if not all(isinstance(value, str) for value in values):
        return None
    listed = tuple(value for value in values if isinstance(value, str))
    return _clause(subject, operator, ValuesOperand(values=listed))


def _literal_value(node: tree.Node) -> str | bool | None:
    match node:
        case tree.Boolean(value):
            return value
        case tree.Number(value) | tree.Text(value) | tree.Date(value):
            written = to_json(value)
        case tree.Time(value) | tree.DateTime(value) | tree.Duration(value):
            written = to_json(value)
        case _:
            return None
    return written if isinstance(written, str) else None
