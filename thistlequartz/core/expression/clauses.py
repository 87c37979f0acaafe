"""The builder's spelling of a condition: clauses joined by “and” or “or”, nested.

A second spelling of the same tree as the formula; whatever clauses can say is shown as
clauses, whoever wrote it.
"""

from datetime import date, datetime, time
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    Fault,
    Value,
    ValueType,
    read_value,
    to_json,
)

from . import tree
from .declared import Vocabulary
from .operators import OPERATOR_OF, SIGN_OF, Operator
from .problems import FormulaError, Problem

MAX_CLAUSES = 200
"""Clauses and groups in one condition."""
MAX_GROUP_DEPTH = 8
"""Groups within groups."""


class _Document(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class ValueOperand(_Document):
    """A value, written as people type it."""

    kind: Literal["value"] = "value"
    value: str | bool


class ValuesOperand(_Document):
    """Several values, any of which fits."""

    kind: Literal["values"] = "values"
    values: tuple[str, ...]


class FieldOperand(_Document):
    """The value of another field."""

    kind: Literal["field"] = "field"
    field: str


class TodayOperand(_Document):
    """The day of the evaluation."""

    kind: Literal["today"] = "today"


Operand = Annotated[
    ValueOperand | ValuesOperand | FieldOperand | TodayOperand, Field(discriminator="kind")
]


class Clause(_Document):
    """One comparison: a field, how it is compared, and with what."""

    kind: Literal["clause"] = "clause"
    field: str
    operator: Operator
    operand: Operand | None = None


class ClauseGroup(_Document):
    """Clauses and groups joined by one word: all of them (`and`) or any of them (`or`)."""

    kind: Literal["group"] = "group"
    join: Literal["and", "or"] = "and"
    parts: tuple["Annotated[Clause | ClauseGroup, Field(discriminator='kind')]", ...]


def tree_from_clauses(group: ClauseGroup, vocabulary: Vocabulary) -> tree.Node:
    """The tree of `group`. Raises FormulaError with the place of every clause that cannot work."""
    _check_size(group)
    problems: list[Problem] = []
    node = _group_tree(group, vocabulary, "", problems)
    if problems:
        raise FormulaError(problems)
    assert node is not None
    return node


def clauses_from_tree(node: tree.Node, vocabulary: Vocabulary) -> ClauseGroup | None:
    """The clauses that say the same as `node`, or None where only a formula can say it."""
    part = _part(node, vocabulary)
    if isinstance(part, Clause):
        return ClauseGroup(parts=(part,))
    return part


def _check_size(group: ClauseGroup) -> None:
    count, waiting = 0, [(group, 1)]
    while waiting:
        current, level = waiting.pop()
        count += len(current.parts)
        if count > MAX_CLAUSES or level > MAX_GROUP_DEPTH:
            raise FormulaError(
                [
                    Problem(
                        f"A condition may have {MAX_CLAUSES} clauses and {MAX_GROUP_DEPTH} levels"
                        " of groups; this one has more.",
                        "Split it into several rules.",
                    )
                ]
            )
        waiting.extend((part, level + 1) for part in current.parts if isinstance(part, ClauseGroup))


def _group_tree(
    group: ClauseGroup, vocabulary: Vocabulary, place: str, problems: list[Problem]
) -> tree.Node | None:
    if not group.parts:
        problems.append(
            Problem("This group has no clauses.", "Add a clause, or take the group out.", place)
        )
        return None
    parts: list[tree.Node] = []
    for position, part in enumerate(group.parts):
        inside = f"{place}.parts.{position}".lstrip(".")
        if isinstance(part, ClauseGroup):
            node = _group_tree(part, vocabulary, inside, problems)
        else:
            node = _clause_tree(part, vocabulary, inside, problems)
        if node is not None:
            parts.append(node)
    if len(parts) == 1:
        return parts[0]
    return (tree.And if group.join == "and" else tree.Or)(tuple(parts))


def _clause_tree(
    clause: Clause, vocabulary: Vocabulary, place: str, problems: list[Problem]
) -> tree.Node | None:
    subject = tree.Field(clause.field)
    if clause.operator in ("is_blank", "has_value"):
        return tree.Comparison("=" if clause.operator == "is_blank" else "!=", subject, tree.Null())
    declared = vocabulary.get(clause.field)
    if declared is None:
        # The type check names the missing field, with the nearest one.
        return tree.Comparison("=", subject, tree.Null())
    type_ = declared.type
    if isinstance(type_, ChoicesType):
        type_ = ChoiceType(type_.choices)
    operands = _operand_nodes(clause, type_, place, problems)
    if not operands:
        return None
    match clause.operator:
        case "includes":
            return tree.Membership(operands[0], (subject,))
        case "includes_not":
            return tree.Not(tree.Membership(operands[0], (subject,)))
        case "is_one_of":
            return tree.Membership(subject, operands)
        case "is_none_of":
            return tree.Not(tree.Membership(subject, operands))
        case operator:
            return tree.Comparison(SIGN_OF[operator], subject, operands[0])


def _operand_nodes(
    clause: Clause, type_: ValueType, place: str, problems: list[Problem]
) -> tuple[tree.Node, ...]:
    several = clause.operator in ("is_one_of", "is_none_of")
    match clause.operand:
        case ValueOperand(value=value) if not several:
            return _literals((value,), type_, f"{place}.operand", problems)
        case ValuesOperand(values=values) if several and values:
            return _literals(values, type_, f"{place}.operand", problems)
        case FieldOperand(field=other) if not several:
            return (tree.Field(other),)
        case TodayOperand() if not several:
            return (tree.Today(),)
        case _:
            wanted = "a list of values" if several else "a value or a field"
            problems.append(
                Problem(
                    f"This clause needs {wanted} to compare with.",
                    "Choose what it is compared with.",
                    place,
                )
            )
            return ()


def _literals(
    given: tuple[str | bool, ...], type_: ValueType, place: str, problems: list[Problem]
) -> tuple[tree.Node, ...]:
    nodes: list[tree.Node] = []
    for one in given:
        read = read_value(one, type_)
        if isinstance(read, Fault):
            problems.append(Problem(read.message, "Mend the value of this clause.", place))
        elif read is None:
            problems.append(
                Problem(
                    "This clause compares with nothing.", "Give a value, or say “is blank”.", place
                )
            )
        else:
            nodes.append(literal(read))
    return tuple(nodes)


def literal(value: Value) -> tree.Node:
    """The node of a literal value."""
    match value:
        case bool():
            return tree.Truth(value)
        case str():
            return tree.Text(value)
        case Decimal():
            return tree.Number(value)
        case datetime():
            return tree.DateTime(value)
        case date():
            return tree.Date(value)
        case time():
            return tree.Time(value)
        case tuple():
            return tree.ListOf(tuple(tree.Text(code) for code in value))


def _part(node: tree.Node, vocabulary: Vocabulary) -> Clause | ClauseGroup | None:
    match node:
        case tree.And(nodes) | tree.Or(nodes):
            parts = [_part(part, vocabulary) for part in nodes]
            if any(part is None for part in parts):
                return None
            join: Literal["and", "or"] = "and" if isinstance(node, tree.And) else "or"
            return ClauseGroup(join=join, parts=tuple(part for part in parts if part))
        case tree.Comparison(sign, tree.Field(key), right):
            return _comparison_clause(key, OPERATOR_OF[sign], right)
        case tree.Membership(tree.Text(code), (tree.Field(key),)) if _several(key, vocabulary):
            return Clause(field=key, operator="includes", operand=ValueOperand(value=code))
        case tree.Not(tree.Membership(tree.Text(code), (tree.Field(key),))) if _several(
            key, vocabulary
        ):
            return Clause(field=key, operator="includes_not", operand=ValueOperand(value=code))
        case tree.Membership(tree.Field(key), tests, ignore_case=False):
            return _list_clause(key, "is_one_of", tests)
        case tree.Not(tree.Membership(tree.Field(key), tests, ignore_case=False)):
            return _list_clause(key, "is_none_of", tests)
        case _:
            return None


def _several(key: str, vocabulary: Vocabulary) -> bool:
    return key in vocabulary and isinstance(vocabulary[key].type, ChoicesType)


def _comparison_clause(key: str, operator: Operator, right: tree.Node) -> Clause | None:
    match right:
        case tree.Null():
            if operator == "is":
                return Clause(field=key, operator="is_blank")
            return Clause(field=key, operator="has_value") if operator == "is_not" else None
        case tree.Field(other):
            return Clause(field=key, operator=operator, operand=FieldOperand(field=other))
        case tree.Today():
            return Clause(field=key, operator=operator, operand=TodayOperand())
        case _:
            value = _literal_value(right)
            if value is None:
                return None
            return Clause(field=key, operator=operator, operand=ValueOperand(value=value))


def _list_clause(key: str, operator: Operator, tests: tuple[tree.Node, ...]) -> Clause | None:
    values = [_literal_value(test) for test in tests]
    if not all(isinstance(value, str) for value in values):
        return None
    listed = tuple(value for value in values if isinstance(value, str))
    return Clause(field=key, operator=operator, operand=ValuesOperand(values=listed))


def _literal_value(node: tree.Node) -> str | bool | None:
    match node:
        case tree.Truth(value):
            return value
        case tree.Number(value) | tree.Text(value) | tree.Date(value):
            written = to_json(value)
        case tree.Time(value) | tree.DateTime(value):
            written = to_json(value)
        case _:
            return None
    return written if isinstance(written, str) else None
