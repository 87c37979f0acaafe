"""Writing a tree as formula text, so that reading it gives the same tree again."""

from datetime import date

from thistlequartz.core.expression import tree
from thistlequartz.core.expression.problems import FormulaError, Problem

_OR, _AND, _COMPARISON, _ADDITION, _PRODUCT, _NEGATION, _ATOM = range(7)


def write_formula(node: tree.Node) -> str:
    """The formula of `node`. Raises FormulaError for what FEEL has no words for."""
    return _write(node, _OR)


def _write(node: tree.Node, weakest: int) -> str:
    """`node` in text, in parentheses where it binds weaker than its surroundings need."""
    text, binding = _text_and_binding(node)
    return f"({text})" if binding < weakest else text


def _text_and_binding(node: tree.Node) -> tuple[str, int]:
    match node:
        case tree.Null():
            return "null", _ATOM
        case tree.Truth(value):
            return ("true" if value else "false"), _ATOM
        case tree.Number(value):
            return f"{value:f}", (_NEGATION if value < 0 else _ATOM)
        case tree.Text(value):
            return _quoted(value), _ATOM
        case tree.Date(value):
            return _date(value), _ATOM
        case tree.Field(key):
            return key, _ATOM
        case tree.Today():
            return "today", _ATOM
        case tree.Negate(operand):
            return f"-{_write(operand, _ATOM)}", _NEGATION
        case tree.Arithmetic(sign, left, right):
            level = _ADDITION if sign in "+-" else _PRODUCT
            return f"{_write(left, level)} {sign} {_write(right, level + 1)}", level
        case tree.Comparison(sign, left, right):
            return f"{_write(left, _ADDITION)} {sign} {_write(right, _ADDITION)}", _COMPARISON
        case tree.Membership(value, tests, ignore_case=False):
            return f"{_write(value, _ADDITION)} in {_tests(tests)}", _COMPARISON
        case tree.And(parts):
            return " and ".join(_write(part, _COMPARISON) for part in parts), _AND
        case tree.Or(parts):
            return " or ".join(_write(part, _AND) for part in parts), _OR
        case tree.Not(operand):
            return f"not({_write(operand, _OR)})", _ATOM
        case _:
            raise FormulaError(
                [
                    Problem(
                        f"{type(node).__name__} has no formula text.",
                        "Keep it in the rule's own settings.",
                    )
                ]
            )


def _tests(tests: tuple[tree.Node, ...]) -> str:
    match tests:
        case (tree.Interval(low, high, low_included, high_included),):
            opening = "[" if low_included else "("
            closing = "]" if high_included else ")"
            return f"{opening}{_write(low, _OR)}..{_write(high, _OR)}{closing}"
        case _:
            return f"({', '.join(_write(test, _OR) for test in tests)})"


def _date(value: date) -> str:
    return f'date("{value.isoformat()}")'


def _quoted(value: str) -> str:
    text = value.replace("\\", "\\\\").replace('"', '\\"')
    return '"' + text.replace("\n", "\\n").replace("\r", "\\r").replace("\t", "\\t") + '"'
