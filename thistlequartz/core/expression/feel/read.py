"""Reading formula text into a tree."""

from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any, cast

from lark import Lark, Token, v_args
from lark.exceptions import (
    UnexpectedCharacters,
    UnexpectedEOF,
    UnexpectedInput,
    UnexpectedToken,
    VisitError,
)
from lark.tree import Meta
from lark.visitors import Transformer_NonRecursive

from thistlequartz.core.expression import tree
from thistlequartz.core.expression.problems import FormulaError, Position, Problem
from thistlequartz.core.values import DateType, Fault, NumberType, read_value

MAX_LENGTH = 10_000
"""Characters in one formula."""
MAX_DEPTH = 60
"""Levels of parts within parts in one formula."""

_ESCAPES = {"n": "\n", "r": "\r", "t": "\t", '"': '"', "'": "'", "\\": "\\"}
_NAMES = {
    "NUMBER": "a number",
    "STRING": "a text",
    "NAME": "a field",
    "AND": "“and”",
    "OR": "“or”",
    "IN": "“in”",
    "COMPARATOR": "a comparison",
    "LPAR": "“(”",
    "RPAR": "“)”",
    "RSQB": "“]”",
    "COMMA": "“,”",
    "$END": "the end",
}


def read_formula(text: str) -> tree.Node:
    """The tree of `text`. Raises FormulaError with the line, the column and what was expected."""
    if len(text) > MAX_LENGTH:
        raise _refusal(
            f"The formula has {len(text):,} characters.",
            f"Shorten it to {MAX_LENGTH:,}, or split it into several rules.",
        )
    if not text.strip():
        raise _refusal("The formula is empty.", "Write a condition, such as: type_status = null")
    try:
        read = _Builder().transform(_parser().parse(text))
    except UnexpectedInput as error:
        raise FormulaError([_describe(error)]) from None
    except VisitError as error:
        raise error.orig_exc from None
    if tree.depth(read) > MAX_DEPTH:
        raise _refusal(
            f"The formula has more than {MAX_DEPTH} levels of parts within parts.",
            "Split it into several rules.",
        )
    return read


def _refusal(message: str, remedy: str, at: Position | None = None) -> FormulaError:
    return FormulaError([Problem(message, remedy, position=at)])


def _describe(error: UnexpectedInput) -> Problem:
    at = Position(max(error.line, 1), max(error.column, 1))
    if isinstance(error, UnexpectedCharacters):
        if error.char == '"':
            return Problem(
                "This text has no closing quotation mark.", 'Close it with ".', position=at
            )
        return Problem(f"“{error.char}” has no meaning in a formula.", "Take it out.", position=at)
    at_end = isinstance(error, UnexpectedEOF)
    expected: set[str] = set(getattr(error, "accepts", ()) or getattr(error, "expected", ()) or ())
    if isinstance(error, UnexpectedToken):
        at_end = error.token.type == "$END"
    found = "ends too early" if at_end else f"goes wrong at “{getattr(error, 'token', '')}”"
    wanted = " or ".join(name for token, name in _NAMES.items() if token in expected)
    return Problem(
        f"The formula {found}.",
        f"Expected here: {wanted}." if wanted else "Take it out, or complete what stands before.",
        position=None if at_end else at,
    )


@cache
def _parser() -> Lark:
    grammar = (Path(__file__).parent / "grammar.lark").read_text(encoding="utf-8")
    return Lark(grammar, parser="lalr", propagate_positions=True)


def _at(meta: Meta) -> Position:
    return Position(meta.line, meta.column)


def _joined(kind: type[tree.And] | type[tree.Or], meta: Meta, parts: tuple[Any, ...]) -> tree.Node:
    return kind(tuple(part for part in parts if isinstance(part, tree.Node)), at=parts[0].at)


@v_args(inline=True, meta=True)
class _Builder(Transformer_NonRecursive[Token, tree.Node]):
    """From the parse to nodes, bottom up; without recursion, so that depth can be bounded after."""

    def number(self, meta: Meta, token: Token) -> tree.Node:
        value = read_value(str(token), NumberType())
        if isinstance(value, Fault):
            raise _refusal(value.message, "Use a shorter number.", _at(meta))
        return tree.Number(cast(Decimal, value), at=_at(meta))

    def text(self, meta: Meta, token: Token) -> tree.Node:
        return tree.Text(_unescaped(token), at=_at(meta))

    def yes(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Truth(True, at=_at(meta))

    def no(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Truth(False, at=_at(meta))

    def null(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Null(at=_at(meta))

    def date(self, meta: Meta, *tokens: Token) -> tree.Node:
        value = read_value(_unescaped(tokens[-1]), DateType())
        if value is None or isinstance(value, Fault):
            message = value.message if value else "The date is empty."
            raise _refusal(message, 'Write it as date("2026-06-11").', _at(meta))
        return tree.Date(cast(Any, value), at=_at(meta))

    def name(self, meta: Meta, token: Token) -> tree.Node:
        key = str(token)
        return tree.Today(at=_at(meta)) if key == "today" else tree.Field(key, at=_at(meta))

    def negate(self, meta: Meta, sign: Token, operand: tree.Node) -> tree.Node:
        if sign == "+":
            return operand
        if isinstance(operand, tree.Number):
            return tree.Number(-operand.value, at=_at(meta))
        return tree.Negate(operand, at=_at(meta))

    def arithmetic(self, meta: Meta, left: tree.Node, sign: Token, right: tree.Node) -> tree.Node:
        return tree.Arithmetic(cast(Any, str(sign)), left, right, at=_at(meta))

    def comparison(self, meta: Meta, left: tree.Node, sign: Token, right: tree.Node) -> tree.Node:
        return tree.Comparison(cast(Any, str(sign)), left, right, at=_at(meta))

    def between(self, meta: Meta, *parts: Any) -> tree.Node:
        value, low, high = (part for part in parts if isinstance(part, tree.Node))
        return tree.Membership(value, (tree.Interval(low, high),), at=_at(meta))

    def membership(self, meta: Meta, value: tree.Node, _: Token, tests: Any) -> tree.Node:
        listed = tests if isinstance(tests, tuple) else (tests,)
        return tree.Membership(value, listed, at=_at(meta))

    def test_list(self, meta: Meta, *tests: Any) -> tuple[tree.Node, ...]:
        return tests

    def _interval(self, low_in: bool, high_in: bool, low: tree.Node, high: tree.Node) -> tree.Node:
        return tree.Interval(low, high, low_in, high_in, at=low.at)

    def with_both_bounds(self, _: Meta, low: tree.Node, high: tree.Node) -> tree.Node:
        return self._interval(True, True, low, high)

    def with_low_bound(self, _: Meta, low: tree.Node, high: tree.Node) -> tree.Node:
        return self._interval(True, False, low, high)

    def with_high_bound(self, _: Meta, low: tree.Node, high: tree.Node) -> tree.Node:
        return self._interval(False, True, low, high)

    def with_no_bound(self, _: Meta, low: tree.Node, high: tree.Node) -> tree.Node:
        return self._interval(False, False, low, high)

    def both(self, meta: Meta, *parts: Any) -> tree.Node:
        return _joined(tree.And, meta, parts)

    def either(self, meta: Meta, *parts: Any) -> tree.Node:
        return _joined(tree.Or, meta, parts)

    def negation(self, meta: Meta, *parts: Any) -> tree.Node:
        return parts[0] if len(parts) == 1 else tree.Not(parts[-1], at=_at(meta))


def _unescaped(token: Token) -> str:
    body, out, position = str(token)[1:-1], [], 0
    while position < len(body):
        character = body[position]
        if character != "\\":
            out.append(character)
            position += 1
            continue
        sign = body[position + 1]
        width = {"u": 4, "U": 6}.get(sign, 0)
        digits = body[position + 2 : position + 2 + width]
        try:
            out.append(chr(int(digits, 16)) if width else _ESCAPES[sign])
        except (KeyError, ValueError, OverflowError):
            raise _refusal(
                f"“\\{sign}” is not an escape that texts know.",
                r"Write \\ for a backslash.",
                Position(token.line or 1, (token.column or 1) + position + 1),
            ) from None
        position += 2 + width
    return "".join(out)
