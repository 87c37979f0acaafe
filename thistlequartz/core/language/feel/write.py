"""Writing a tree as formula text, so that reading it gives the same tree again."""

import re

from thistlequartz.core.language import tree
from thistlequartz.core.language.problems import FormulaError, Problem
from thistlequartz.core.translation import tr
from thistlequartz.core.values import write_date_time, write_duration, write_time

from .keys import FEEL_WORDS

_LOOSE, _OR, _AND, _COMPARISON, _ADDITION, _PRODUCT, _POWER, _NEGATION, _POSTFIX, _ATOM = range(10)
"""How tightly a form binds; `if`, `for` and the quantifiers reach as far as they can."""
_KEY = re.compile(r"[A-Za-z_][A-Za-z0-9_]*")


def write_formula(node: tree.Node) -> str:
    """The formula of `node`. Raises FormulaError for what FEEL has no words for."""
    return _write(node, _LOOSE)


def _write(node: tree.Node, weakest: int) -> str:
    """`node` in text, in parentheses where it binds weaker than its surroundings need."""
    text, binding = _text_and_binding(node)
    return f"({text})" if binding < weakest else text


def _list(nodes: tuple[tree.Node, ...]) -> str:
    return ", ".join(_write(node, _LOOSE) for node in nodes)


def _text_and_binding(node: tree.Node) -> tuple[str, int]:
    match node:
        case tree.Null():
            return "null", _ATOM
        case tree.Boolean(value):
            return ("true" if value else "false"), _ATOM
        case tree.Number(value):
            return f"{value:f}", (_NEGATION if value.is_signed() else _ATOM)
        case tree.Text(value):
            return _quoted(value), _ATOM
        case tree.Date(value):
            return f'date("{value.isoformat()}")', _ATOM
        case tree.Time(value):
            return f'time("{write_time(value)}")', _ATOM
        case tree.DateTime(value):
            return f'date and time("{write_date_time(value)}")', _ATOM
        case tree.Duration(value):
            return f'duration("{write_duration(value)}")', _ATOM
        case tree.Field(name) | tree.Variable(name):
            return name, _ATOM
        case tree.Today():
            return "today", _ATOM
        case tree.Now():
            return "now", _ATOM
        case tree.Circumstance(name):
            return name, _ATOM
        case tree.StoredValue(key):
            return f"stored.{key}", _POSTFIX
        case tree.ChangedField(key):
            return f"changed.{key}", _POSTFIX
        case tree.OtherField(key):
            return f"other.{key}", _POSTFIX
        case tree.Referred(subject, _, name):
            return f"{_write(subject, _POSTFIX)}.{name}", _POSTFIX
        case tree.NamedConditionUse(key):
            return key, _ATOM
        case tree.Negate(operand):
            return f"-{_write(operand, _POSTFIX)}", _NEGATION
        case tree.Arithmetic():
            return _arithmetic(node)
        case tree.Comparison(sign, left, right):
            return f"{_write(left, _ADDITION)} {sign} {_write(right, _ADDITION)}", _COMPARISON
        case tree.UnaryTest(sign, operand):
            return f"{sign} {_write(operand, _ADDITION)}", _COMPARISON
        case tree.Membership(value, tests, ignore_case=False):
            return f"{_write(value, _ADDITION)} in {_tests(tests)}", _COMPARISON
        case tree.InstanceOf(subject, type_name):
            return f"{_write(subject, _ADDITION)} instance of {type_name}", _COMPARISON
        case tree.And(parts):
            return " and ".join(_write(part, _COMPARISON) for part in parts), _AND
        case tree.Or(parts):
            return " or ".join(_write(part, _AND) for part in parts), _OR
        case tree.Not(operand):
            return f"not({_write(operand, _LOOSE)})", _ATOM
        case _:
            return _structure(node)


def _arithmetic(node: tree.Arithmetic) -> tuple[str, int]:
    level = {"+": _ADDITION, "-": _ADDITION, "**": _POWER}.get(node.operator, _PRODUCT)
    return f"{_write(node.left, level)} {node.operator} {_write(node.right, level + 1)}", level


def _structure(node: tree.Node) -> tuple[str, int]:
    match node:
        case tree.Interval():
            return _interval(node), _ATOM
        case tree.If(condition, then, otherwise):
            parts = (_write(part, _LOOSE) for part in (condition, then, otherwise))
            return "if {} then {} else {}".format(*parts), _LOOSE
        case tree.For(iterations, body):
            return f"for {_iterations(iterations)} return {_write(body, _LOOSE)}", _LOOSE
        case tree.Quantified(quantifier, iterations, condition):
            said = f"{quantifier} {_iterations(iterations)} satisfies {_write(condition, _LOOSE)}"
            return said, _LOOSE
        case tree.ListOf(items):
            return f"[{_list(items)}]", _ATOM
        case tree.Context(entries):
            inside = ", ".join(f"{_key(e.key)}: {_write(e.value, _LOOSE)}" for e in entries)
            return f"{{{inside}}}", _ATOM
        case tree.Filter(subject, condition):
            return f"{_write(subject, _POSTFIX)}[{_write(condition, _LOOSE)}]", _POSTFIX
        case tree.Path(subject, name):
            return f"{_write(subject, _POSTFIX)}.{name}", _POSTFIX
        case tree.Call(function, arguments, ()):
            return f"{function}({_list(arguments)})", _ATOM
        case tree.Call(function, arguments, names):
            pairs = zip(names, arguments, strict=True)
            inside = ", ".join(f"{name}: {_write(value, _LOOSE)}" for name, value in pairs)
            return f"{function}({inside})", _ATOM
        case _:
            raise FormulaError(
                [
                    Problem(
                        tr("{node} has no formula text.", node=type(node).__name__),
                        tr("Keep it in the rule's own settings."),
                    )
                ]
            )


def _iterations(iterations: tuple[tree.Iteration, ...]) -> str:
    return ", ".join(f"{one.name} in {_items(one.items)}" for one in iterations)


def _items(node: tree.Node) -> str:
    if isinstance(node, tree.Counting):
        return f"{_write(node.first, _OR)}..{_write(node.last, _OR)}"
    return _write(node, _OR)


def _tests(tests: tuple[tree.Node, ...]) -> str:
    match tests:
        case (tree.UnaryTest(),):
            return f"({_list(tests)})"
        case (single,):
            return _write(single, _ADDITION)
        case _:
            return f"({_list(tests)})"


def _interval(node: tree.Interval) -> str:
    opening = "[" if node.low_included else "("
    closing = "]" if node.high_included else ")"
    return f"{opening}{_write(node.low, _LOOSE)}..{_write(node.high, _LOOSE)}{closing}"


def _key(key: str) -> str:
    return key if _KEY.fullmatch(key) and key not in FEEL_WORDS else _quoted(key)


def _quoted(value: str) -> str:
    text = value.replace("\\", "\\\\").replace('"', '\\"')
    return '"' + text.replace("\n", "\\n").replace("\r", "\\r").replace("\t", "\\t") + '"'
