"""From a parse to nodes, bottom up and without recursion; depth is bounded after."""

import datetime
import re
import unicodedata
from typing import Any, cast

from lark import Token, v_args
from lark.tree import Meta
from lark.visitors import Transformer_NonRecursive

from thistlequartz.core.functions import FUNCTIONS, Function
from thistlequartz.core.language import tree
from thistlequartz.core.language.mistakes import FUNCTIONS_MEANT
from thistlequartz.core.language.problems import FormulaError, Position, Problem, nearest
from thistlequartz.core.translation import tr
from thistlequartz.core.types import DateType, NumberType, read_value
from thistlequartz.core.values import Fault, read_date, read_date_time, read_duration, read_time

_ESCAPES = {"n": "\n", "r": "\r", "t": "\t", '"': '"', "'": "'", "\\": "\\"}
_LITERAL_MAKERS = ("date", "time", "date and time", "duration")
_EXAMPLES = {
    "date": 'date("2026-06-11")',
    "time": 'time("10:30:00")',
    "date and time": 'date and time("2026-06-11T10:30:00")',
    "duration": 'duration("P1D") or duration("P1Y8M")',
}


def refusal(message: str, remedy: str, at: Position | None = None) -> FormulaError:
    """An error with a single problem."""
    return FormulaError([Problem(message, remedy, position=at)])


def _at(meta: Meta) -> Position:
    return Position(meta.line, meta.column)


def _nodes(parts: tuple[Any, ...]) -> tuple[tree.Node, ...]:
    return tuple(part for part in parts if isinstance(part, tree.Node))


def temporal_literal(function: str, text: str, at: Position | None) -> tree.Node:
    """The literal that `function` makes of a constant text; raises where it is no such thing."""
    if function == "date":
        day = read_date(text)
        if day is not None:
            return tree.Date(day, at=at)
        meant = read_value(text, DateType())
        if isinstance(meant, datetime.date):
            said = tr(
                "Formulas write dates as year, month and day, not as “{text}”.", text=text[:40]
            )
            raise refusal(said, tr('Write date("{day}").', day=meant.isoformat()), at)
        if isinstance(meant, Fault):
            raise refusal(
                meant.message, tr("Write it as {examples}.", examples=_EXAMPLES[function]), at
            )
    elif function == "time" and (clock := read_time(text)) is not None:
        return tree.Time(clock, at=at)
    elif function == "date and time" and (moment := read_date_time(text)) is not None:
        return tree.DateTime(moment, at=at)
    elif function == "duration" and (length := read_duration(text)) is not None:
        return tree.Duration(length, at=at)
    raise refusal(
        tr("“{text}” is not a {function} that exists.", text=text[:40], function=function),
        tr("Write {examples}.", examples=_EXAMPLES[function]),
        at,
    )


_HALF_CHARACTER = re.compile("[\ud800-\udfff]")


@v_args(inline=True, meta=True)
class Builder(Transformer_NonRecursive[Token, tree.Node]):
    """One method for each rule of the grammar."""

    def number(self, meta: Meta, token: Token) -> tree.Node:
        value = read_value(str(token), NumberType())
        if isinstance(value, Fault):
            raise refusal(value.message, tr("Use a shorter number."), _at(meta))
        return tree.Number(cast(Any, value), at=_at(meta))

    def text(self, meta: Meta, token: Token) -> tree.Node:
        return tree.Text(unicodedata.normalize("NFC", unescaped(token)), at=_at(meta))

    def yes(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Boolean(True, at=_at(meta))

    def no(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Boolean(False, at=_at(meta))

    def null(self, meta: Meta, *_: Token) -> tree.Node:
        return tree.Null(at=_at(meta))

    def at_literal(self, meta: Meta, token: Token) -> tree.Node:
        text = unescaped(token)
        function = "date"
        if text.lstrip("-").startswith("P"):
            function = "duration"
        elif "T" in text[1:]:
            function = "date and time"
        elif ":" in text:
            function = "time"
        return temporal_literal(function, text, _at(meta))

    def name(self, meta: Meta, token: Token) -> tree.Node:
        return tree.Field(str(token), at=_at(meta))

    def parentheses(self, _: Meta, inner: tree.Node) -> tree.Node:
        return inner

    def negate(self, meta: Meta, sign: Token, operand: tree.Node) -> tree.Node:
        if sign == "+":
            return operand
        if isinstance(operand, tree.Number):
            return tree.Number(-operand.value, at=_at(meta))
        return tree.Negate(operand, at=_at(meta))

    def arithmetic(self, meta: Meta, left: tree.Node, sign: Token, right: tree.Node) -> tree.Node:
        return tree.Arithmetic(cast(Any, str(sign)), left, right, at=_at(meta))

    def power(self, meta: Meta, left: tree.Node, right: tree.Node) -> tree.Node:
        return tree.Arithmetic("**", left, right, at=_at(meta))

    def comparison(self, meta: Meta, left: tree.Node, sign: Token, right: tree.Node) -> tree.Node:
        return tree.Comparison(cast(Any, str(sign)), left, right, at=_at(meta))

    def unary_test(self, meta: Meta, sign: Token, operand: tree.Node) -> tree.Node:
        return tree.UnaryTest(cast(Any, str(sign)), operand, at=_at(meta))

    def between(self, meta: Meta, *parts: Any) -> tree.Node:
        value, low, high = _nodes(parts)
        return tree.Membership(value, (tree.Interval(low, high),), at=_at(meta))

    def member_of_value(self, meta: Meta, *parts: Any) -> tree.Node:
        value, test = _nodes(parts)
        return tree.Membership(value, (test,), at=_at(meta))

    def member_of_tests(self, meta: Meta, value: tree.Node, _: Token, tests: Any) -> tree.Node:
        return tree.Membership(value, tests, at=_at(meta))

    def tests(self, _: Meta, *tests: Any) -> tuple[tree.Node, ...]:
        return _nodes(tests)

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
        return tree.And(_nodes(parts), at=_at(meta))

    def either(self, meta: Meta, *parts: Any) -> tree.Node:
        return tree.Or(_nodes(parts), at=_at(meta))

    def if_then_else(self, meta: Meta, *parts: Any) -> tree.Node:
        condition, then, otherwise = _nodes(parts)
        return tree.If(condition, then, otherwise, at=_at(meta))

    def over_list(self, meta: Meta, name: Token, _: Token, items: tree.Node) -> tree.Node:
        return tree.Iteration(str(name), items, at=_at(meta))

    def over_numbers(self, meta: Meta, name: Token, *parts: Any) -> tree.Node:
        first, last = _nodes(parts)
        return tree.Iteration(str(name), tree.Counting(first, last), at=_at(meta))

    def iterations(self, _: Meta, *iterations: Any) -> tuple[Any, ...]:
        return iterations

    def for_each(self, meta: Meta, *parts: Any) -> tree.Node:
        return tree.For(parts[1], parts[3], at=_at(meta))

    def some(self, meta: Meta, *parts: Any) -> tree.Node:
        return tree.Quantified("some", parts[1], parts[3], at=_at(meta))

    def every(self, meta: Meta, *parts: Any) -> tree.Node:
        return tree.Quantified("every", parts[1], parts[3], at=_at(meta))

    def instance_of(self, meta: Meta, subject: tree.Node, *tokens: Token) -> tree.Node:
        return tree.InstanceOf(subject, cast(Any, str(tokens[-1])), at=_at(meta))

    def filter(self, meta: Meta, subject: tree.Node, condition: tree.Node) -> tree.Node:
        return tree.Filter(subject, condition, at=_at(meta))

    def path(self, meta: Meta, subject: tree.Node, name: Token) -> tree.Node:
        return tree.Path(subject, str(name), at=_at(meta))

    def list(self, meta: Meta, *items: Any) -> tree.Node:
        return tree.ListOf(_nodes(items), at=_at(meta))

    def entry(self, meta: Meta, key: Token, value: tree.Node) -> tree.Node:
        name = unescaped(key) if key.type == "STRING" else str(key)
        return tree.Entry(name, value, at=_at(meta))

    def context(self, meta: Meta, *entries: Any) -> tree.Node:
        keys = [entry.key for entry in entries if entry is not None]
        for key in keys:
            if keys.count(key) > 1:
                raise refusal(
                    tr("The entry “{key}” is there twice.", key=key),
                    tr("Rename one of them."),
                    _at(meta),
                )
        return tree.Context(cast(Any, _nodes(entries)), at=_at(meta))

    def parameter(self, _: Meta, token: Token) -> str:
        return " ".join(str(token).split())

    def positional(self, _: Meta, *arguments: Any) -> Any:
        return _nodes(arguments), ()

    def named(self, _: Meta, *parts: Any) -> Any:
        return _nodes(parts), tuple(part for part in parts if isinstance(part, str))

    def call(self, meta: Meta, token: Token, arguments: Any) -> tree.Node:
        name = " ".join(str(token).split())
        nodes, names = arguments
        _check_call(FUNCTIONS[name], nodes, names, _at(meta))
        if name == "not":
            return tree.Not(nodes[0], at=_at(meta))
        if name in _LITERAL_MAKERS and not names and len(nodes) == 1:
            (constant,) = nodes
            if isinstance(constant, tree.Text):
                return temporal_literal(name, constant.value, _at(meta))
        return tree.Call(name, nodes, names, at=_at(meta))

    def unknown_call(self, meta: Meta, name: Token, _: Any) -> tree.Node:
        near = nearest(str(name).replace("_", " "), FUNCTIONS)
        remedy = (
            tr("Did you mean “{near}”?", near=near)
            if near
            else tr("Use one of FEEL's built-in functions.")
        )
        if meant := FUNCTIONS_MEANT.get(str(name).lower()):
            remedy = tr("Write {meant}.", meant=meant)
        raise refusal(
            tr("There is no function “{name}”.", name=name),
            remedy,
            _at(meta),
        )


def _check_call(
    function: Function, nodes: tuple[tree.Node, ...], names: tuple[str, ...], at: Position
) -> None:
    """Refuse a call whose arguments fit none of the function's ways."""
    for way in function.ways:
        required = [
            parameter for parameter in way if not (parameter.optional or parameter.repeated)
        ]
        most = float("inf") if way and way[-1].repeated else len(way)
        if not names and len(required) <= len(nodes) <= most:
            return
        known = {parameter.name for parameter in way}
        needed = {parameter.name for parameter in required}
        if names and len(set(names)) == len(names) and needed <= set(names) <= known:
            return
    ways = " or ".join(
        f"{function.name}({', '.join(parameter.name for parameter in way)})"
        for way in function.ways
    )
    raise refusal(
        tr("“{name}” cannot take these arguments.", name=function.name),
        tr("Write {ways}.", ways=ways),
        at,
    )


def unescaped(token: Token) -> str:
    """The text between the quotation marks, with its escapes read."""
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
            raise refusal(
                tr("“\\{sign}” is not an escape that texts know.", sign=sign),
                tr(r"Write \\ for a backslash."),
                Position(token.line or 1, (token.column or 1) + position + 1),
            ) from None
        position += 2 + width
    return _whole("".join(out), token)


def _whole(text: str, token: Token) -> str:
    """Two halves of a character, written as two escapes, joined; a half alone is refused."""
    if not _HALF_CHARACTER.search(text):
        return text
    try:
        return text.encode("utf-16", "surrogatepass").decode("utf-16")
    except UnicodeDecodeError:
        raise refusal(
            tr("This text has half a character."),
            tr("Write the whole one, such as \\U01F40E, or both of its halves."),
            Position(token.line or 1, token.column or 1),
        ) from None
