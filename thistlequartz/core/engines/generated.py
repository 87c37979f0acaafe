"""Translation of the kernel to Python source: conditions that a node is true, or false.

Source is written for what can be compared without looking at types again: fields, constants and
`today` of one kind, all of them readable. What it does not know it refuses by name within itself,
and asks the traced engine there, so both always agree.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any, Literal

from thistlequartz.core.formats import NAMED_FORMATS, InClasses, compile_pattern, is_plain
from thistlequartz.core.functions import INTERNAL
from thistlequartz.core.kernel import NotTranslated, nodes
from thistlequartz.core.kernel.value_kinds import kind_of_value
from thistlequartz.core.language import Vocabulary

from .answers import NOTHING_TO_JUDGE, SATISFIED, VIOLATED, Answers, CheckQuery
from .environment import TODAY, Evaluator
from .traced import answer_of, traced

Sort = Literal["text", "number", "count", "date", "time", "date_time", "boolean", "list"]
"""What an operand is to Python; a count is a whole number of Python's own."""
_MARGIN = " " * 4
TEXT_END = "\0"
MAX_DEPTH = 20
"""Levels of parts beyond which a condition is traced: Python bounds its parentheses."""
_ORDERED: frozenset[Sort] = frozenset({"text", "number", "count", "date", "time", "date_time"})
_SORTS: dict[nodes.Kind, Sort] = {
    "text": "text",
    "number": "number",
    "boolean": "boolean",
    "date": "date",
    "time": "time",
    "date_time": "date_time",
    "list": "list",
}
_OPPOSITE = {"<": ">=", "<=": ">"}
_LENGTHS = ("string length", "count")
"""Functions that give how long a filled field is."""
_ELSEWHERE = nodes.Refer | nodes.Taken | nodes.Exists | nodes.CountFilled | nodes.CountRelevant
_LOOPS = nodes.Some | nodes.Collect | nodes.Filter
_Filled = frozenset[str]


def local_names(fields: Iterable[str]) -> dict[str, str]:
    """By field, the local name under which its value stands in generated functions."""
    return {key: f"f{place}" for place, key in enumerate(fields)}


class Source:
    """Writes conditions, and keeps the constants and functions that they name.

    A field stands as a local name, an environment as `env`, the closed fields as `closed`.
    """

    def __init__(self, vocabulary: Vocabulary, today: date, closable: frozenset[str]) -> None:
        self.names: dict[str, Any] = {}
        self.used: set[str] = set()
        """The fields that were named since this was last emptied."""
        self.asks_environment = False
        self.today = today
        self.closable = closable
        self._constants: dict[tuple[type, Any], str] = {}
        self._places = local_names(vocabulary)

    def field(self, key: str) -> str:
        """The local name of a field."""
        self.used.add(key)
        return self._places[key]

    def loads(self, keys: Iterable[str]) -> list[str]:
        """The statements that give fields their local names, in the order of the form."""
        named = sorted((int(self._places[key][1:]), key) for key in keys)
        if 2 * len(named) > len(self._places):
            # An environment begins with all fields: together they are taken in a third of the time.
            return [f"{', '.join(self._places.values())}, *_ = env.values()"]
        return [f"{self._places[key]} = env[{self.constant(key)}]" for _, key in named]

    def bound(self, value: Any) -> str:
        """A global name for `value`."""
        name = f"k{len(self.names)}"
        self.names[name] = value
        return name

    def constant(self, value: Any) -> str:
        """A name for a constant; equal ones of one type share it."""
        key = (type(value), value)
        if key not in self._constants:
            self._constants[key] = self.bound(value)
        return self._constants[key]

    def called(self, evaluator: Evaluator) -> str:
        """A call of `evaluator`."""
        self.asks_environment = True
        return f"{self.bound(evaluator)}(env)"

    def is_true(self, node: nodes.Node) -> str:
        """A Python condition that holds exactly where `node` is true."""
        return self._asked(node, wanted=True)

    def is_false(self, node: nodes.Node) -> str:
        """A Python condition that holds exactly where `node` is false."""
        return self._asked(node, wanted=False)

    def answer(self, node: nodes.Node) -> str:
        """A Python expression of the answer to a check."""
        if _as_a_whole(node):
            return f"{self.bound(answer_of)}({self.called(traced(node))})"
        return _Writer(self).answer(node, frozenset())

    def one_unfit(self, keys: Sequence[str], together: InClasses) -> str:
        """Return a condition that some filled field does not fit its plain pattern.

        The patterns stand together, in the order of the fields.
        """
        # A blank one is no reason against: something that fits stands for it.
        texts = ", ".join(
            f"{self.field(key)} or {text!r}"
            for key, text in zip(keys, together.fitting, strict=True)
        )
        given = f"{self.constant(TEXT_END)}.join(({texts})).encode('utf-8', 'replace')"
        table, classes = self.bound(together.table), self.bound(together.classes)
        return f"{given}.translate({table}) != {classes}"

    def _asked(self, node: nodes.Node, *, wanted: bool) -> str:
        if _as_a_whole(node):
            return f"{self.called(traced(node))} is {wanted}"
        return _Writer(self).write(node, wanted, frozenset())


def plain_pattern_asked(checks: nodes.Node) -> tuple[str, str] | None:
    """The field and its plain pattern, if a check asks for that and no more."""
    match checks:
        case nodes.If(
            nodes.IsBlank(nodes.Read("field", key)),
            nodes.Constant(None),
            nodes.Call("fits pattern", (nodes.Read("field", asked), nodes.Constant(str(pattern)))),
        ) if asked == key and is_plain(pattern):
            return key, pattern
    return None


def _as_a_whole(node: nodes.Node) -> bool:
    """Whether it is traced as a whole: too deep, or its parts share one budget of work."""
    return nodes.depth(node) > MAX_DEPTH or any(isinstance(one, _LOOPS) for one in nodes.walk(node))


def answering(
    questions: Sequence[CheckQuery], vocabulary: Vocabulary, today: date, closable: frozenset[str]
) -> Answers:
    """What answers the checks of rules, for records of which every value can be read, on a day.

    `closable` are the fields that may not be relevant.
    """
    source = Source(vocabulary, today, closable)
    groups: dict[nodes.Node | None, list[tuple[int, tuple[nodes.Node, ...]]]] = {}
    for place, one in enumerate(questions):
        groups.setdefault(one.applies, []).append((place, one.checks))
    lines: list[str] = []
    for applies, asked in groups.items():
        margin = _MARGIN
        if applies is not None:
            lines.append(f"{margin}if {source.is_true(applies)}:")
            margin += _MARGIN
        for place, checks in asked:
            answers = "".join(f"{source.answer(one)}, " for one in checks)
            lines.append(f"{margin}answers[{place}] = ({answers})")
    begin = ["def answer(env, closed):", f"{_MARGIN}answers = [()] * {len(questions)}"]
    loads = [_MARGIN + line for line in source.loads(source.used)]
    text = "\n".join([*begin, *loads, *lines, f"{_MARGIN}return answers"])
    exec(compile(text, "<rules of a form>", "exec"), source.names)  # noqa: S102 - our own source
    function: Answers = source.names["answer"]
    return function


class _Operand:
    """One side of a comparison: its source, its sort, and whether it may be blank."""

    def __init__(self, source: str, sort: Sort, blank: bool, value: Any = None) -> None:
        self.source, self.sort, self.blank, self.value = source, sort, blank, value


class _Writer:
    """Writes one condition. `filled` are the fields known not to be blank where it is asked."""

    def __init__(self, source: Source) -> None:
        self.source = source
        self._ways: Mapping[type[nodes.Node], Callable[[Any, bool, _Filled], str]] = {
            nodes.Constant: self._constant,
            nodes.Read: self._read,
            nodes.Not: lambda node, wanted, filled: self.write(node.operand, not wanted, filled),
            nodes.IsTrue: self._is_true,
            nodes.IsBlank: self._is_blank,
            nodes.Relevant: self._relevant,
            nodes.And: self._and,
            nodes.Or: self._or,
            nodes.If: self._if,
            nodes.Equal: self._equal,
            nodes.Order: self._order,
            nodes.Among: self._among,
            nodes.EachAmong: self._each_among,
            nodes.Switch: self._switch,
            nodes.Call: self._call,
        }

    def write(self, node: nodes.Node, wanted: bool, filled: _Filled) -> str:
        """The condition, in parentheses where it has parts."""
        way = self._ways.get(type(node))
        if way is not None:
            try:
                return way(node, wanted, filled)
            except NotTranslated:
                pass
        return f"{self.source.called(traced(node))} is {wanted}"

    def answer(self, node: nodes.Node, filled: _Filled) -> str:
        """The answer to a check, in parentheses."""
        match node:
            case nodes.If(condition, nodes.Constant(None), otherwise):
                tested = _blanks_asked(condition)
                barred = self.write(condition, True, filled)
                asked = self.answer(otherwise, filled | frozenset(tested or ()))
                return (
                    asked if barred == "False" else f"({NOTHING_TO_JUDGE} if {barred} else {asked})"
                )
        violated = self.write(node, False, filled)
        if _is_settled(node, filled):
            return f"({VIOLATED} if {violated} else {SATISFIED})"
        satisfied = f"{SATISFIED} if {self.write(node, True, filled)} else {NOTHING_TO_JUDGE}"
        return f"({VIOLATED} if {violated} else {satisfied})"

    def _constant(self, node: nodes.Constant, wanted: bool, filled: _Filled) -> str:
        return str(node.value is wanted)

    def _read(self, node: nodes.Read, wanted: bool, filled: _Filled) -> str:
        if node.source != "field" or node.kind != "boolean":
            raise _unknown(node)
        return f"{self.source.field(node.key)} is {wanted}"

    def _is_true(self, node: nodes.IsTrue, wanted: bool, filled: _Filled) -> str:
        asked = self.write(node.operand, True, filled)
        return asked if wanted else f"(not {asked})"

    def _is_blank(self, node: nodes.IsBlank, wanted: bool, filled: _Filled) -> str:
        operand = node.operand
        if not isinstance(operand, nodes.Read) or operand.source != "field":
            raise _unknown(node)
        return f"{self.source.field(operand.key)} is {'' if wanted else 'not '}None"

    def _relevant(self, node: nodes.Relevant, wanted: bool, filled: _Filled) -> str:
        if not self.source.closable.issuperset(node.keys):
            return str(wanted)
        out = " and ".join(f"{self.source.constant(key)} in closed" for key in node.keys)
        return f"(not ({out}))" if wanted else f"({out})"

    def _and(self, node: nodes.And, wanted: bool, filled: _Filled) -> str:
        return self._joined(node.parts, "and" if wanted else "or", wanted, filled)

    def _or(self, node: nodes.Or, wanted: bool, filled: _Filled) -> str:
        return self._joined(node.parts, "or" if wanted else "and", wanted, filled)

    def _joined(
        self, parts: tuple[nodes.Node, ...], word: str, wanted: bool, filled: _Filled
    ) -> str:
        return f"({f' {word} '.join(self.write(part, wanted, filled) for part in parts)})"

    def _if(self, node: nodes.If, wanted: bool, filled: _Filled) -> str:
        """Where the first way is null, what is asked is the second way alone."""
        at_once = self._blank_or_among(node, wanted)
        if at_once is not None:
            return at_once
        tested = _blanks_asked(node.condition)
        otherwise = self.write(node.otherwise, wanted, filled | frozenset(tested or ()))
        if isinstance(node.then, nodes.Constant) and node.then.value is None:
            return self._unless(node.condition, tested, otherwise, filled)
        asked = self.write(node.condition, True, filled)
        then = self.write(node.then, wanted, filled)
        return f"({then} if {asked} else {otherwise})"

    def _unless(
        self, condition: nodes.Node, tested: tuple[str, ...] | None, asked: str, filled: _Filled
    ) -> str:
        if tested is None:
            barred = self.write(condition, True, filled)
            return asked if barred == "False" else f"(not {barred} and {asked})"
        there = [f"{self.source.field(key)} is not None" for key in tested]
        return f"({' and '.join([*there, asked])})"

    def _blank_or_among(self, node: nodes.If, wanted: bool) -> str | None:
        """Whether a field is filled and not among constants, in one look: blank counts as one."""
        match node:
            case nodes.If(
                nodes.IsBlank(nodes.Read("field", key)),
                nodes.Constant(None),
                nodes.Among(nodes.Read("field", asked, kind="text"), constants),
            ) if key == asked and not wanted and isinstance(constants[0], str):
                known = self.source.bound(frozenset((None, *constants)))
                return f"({self.source.field(key)} not in {known})"
        return None

    def _operand(self, node: nodes.Node, filled: _Filled) -> _Operand:
        match node:
            case nodes.Read("field", key) if node.kind in _SORTS:
                place, blank = self.source.field(key), key not in filled
                return _Operand(place, _SORTS[node.kind], blank)
            case nodes.Call(function, (nodes.Read("field", key),)) if (
                function in _LENGTHS and key in filled
            ):
                return _Operand(f"len({self.source.field(key)})", "count", blank=False)
            case nodes.CountFilled(keys):
                filled_ones = (f"({self.source.field(key)} is not None)" for key in keys)
                return _Operand(f"({' + '.join(filled_ones)})", "count", blank=False)
            case nodes.CountRelevant(keys) if self.source.closable.isdisjoint(keys):
                return _Operand(str(len(keys)), "count", blank=False)
        sort, value = self._fixed(node)
        return _Operand(self.source.constant(value), sort, blank=False, value=value)

    def _fixed(self, node: nodes.Node) -> tuple[Sort, Any]:
        """A constant, or what depends on the day alone."""
        if not all(_is_fixed(part) for part in nodes.walk(node)):
            raise _unknown(node)
        value = traced(node)({TODAY: self.source.today})
        match value:
            case bool():
                return "boolean", value
            case Decimal():
                return "number", value
            case str():
                return "text", value
            case time() if value.tzinfo is None:
                return "time", value
            case datetime() if value.tzinfo is not None:
                return "date_time", value
            case date() if not isinstance(value, datetime):
                return "date", value
            case _:
                raise _unknown(node)

    def _two(self, node: nodes.Equal | nodes.Order, filled: _Filled) -> tuple[_Operand, _Operand]:
        left, right = self._operand(node.left, filled), self._operand(node.right, filled)
        for one, other in ((left, right), (right, left)):
            # A count is held against a whole number of Python's own, which is faster.
            if one.sort == "count" and other.sort == "number" and other.value is not None:
                whole = int(other.value)
                if whole == other.value:
                    other.source = str(whole)
        sorts = {left.sort, right.sort}
        if len(sorts) > 1 and sorts != {"number", "count"}:
            raise _unknown(node)
        return left, right

    def _equal(self, node: nodes.Equal, wanted: bool, filled: _Filled) -> str:
        left, right = self._two(node, filled)
        return f"{left.source} {'==' if wanted else '!='} {right.source}"

    def _order(self, node: nodes.Order, wanted: bool, filled: _Filled) -> str:
        left, right = self._two(node, filled)
        if left.sort not in _ORDERED:
            raise _unknown(node)
        sign = node.sign if wanted else _OPPOSITE[node.sign]
        return _unblank((left, right), f"{left.source} {sign} {right.source}")

    def _among(self, node: nodes.Among, wanted: bool, filled: _Filled) -> str:
        inside = "in" if wanted else "not in"
        match node.value:
            case nodes.Call("fold case", (inner,)):
                value = self._operand(inner, filled)
                _same_sort(node, value, "text")
                fold = self.source.constant(INTERNAL["fold case"].body)
                known = self.source.bound(frozenset(node.constants))
                return f"({fold}({value.source}) {inside} {known})"
        value = self._operand(node.value, filled)
        first = node.constants[0]
        _same_sort(node, value, _SORTS[kind_of_value(first)])
        hashed = isinstance(first, str)
        known = self.source.bound((frozenset if hashed else tuple)(node.constants))
        return f"{value.source} {inside} {known}"

    def _each_among(self, node: nodes.EachAmong, wanted: bool, filled: _Filled) -> str:
        value = self._operand(node.value, filled)
        _same_sort(node, value, "list")
        known = self.source.bound(frozenset(node.constants))
        within = f"{known}.issuperset({value.source})"
        return _unblank((value,), within if wanted else f"not {within}")

    def _switch(self, node: nodes.Switch, wanted: bool, filled: _Filled) -> str:
        """Cases that ask whether one value is among constants; any other answer is null."""
        subject = self._operand(node.subject, filled)
        values = {case.then.value for case in node.cases if isinstance(case.then, nodes.Among)}
        if (
            subject.sort == "list"
            or len(values) != 1
            or not all(
                isinstance(case.then, nodes.Among)
                and kind_of_value(case.constant) == node.subject.kind
                for case in node.cases
            )
        ):
            raise _unknown(node)
        value = self._operand(values.pop(), filled)
        rows: dict[Any, frozenset[Any]] = {}
        for case in node.cases:
            assert isinstance(case.then, nodes.Among)
            _same_sort(node, value, _SORTS[kind_of_value(case.then.constants[0])])
            rows[case.constant] = frozenset(case.then.constants)
        known, answer = self.source.bound(rows), subject.source
        inside = f"{value.source} {'in' if wanted else 'not in'} {known}[{answer}]"
        return f"({answer} in {known} and {inside})"

    def _call(self, node: nodes.Call, wanted: bool, filled: _Filled) -> str:
        match node:
            case nodes.Call("in format", (text, nodes.Constant(key), nodes.Constant(country))):
                why_not = self.source.constant(NAMED_FORMATS[key].why_not)
                value = self._text(text, filled)
                asked = f"{why_not}({value.source}, {self.source.constant(country)})"
                return _unblank((value,), f"{asked} is {'' if wanted else 'not '}None")
            case nodes.Call("fits pattern", (text, nodes.Constant(pattern))):
                matches = self.source.bound(compile_pattern(pattern).fullmatch)
                value = self._text(text, filled)
                asked = f"{matches}({value.source})"
                return _unblank((value,), f"{asked} is {'not ' if wanted else ''}None")
        raise NotTranslated("The generated engine", node.function)

    def _text(self, node: nodes.Node, filled: _Filled) -> _Operand:
        value = self._operand(node, filled)
        _same_sort(node, value, "text")
        return value


def _unknown(node: nodes.Node) -> NotTranslated:
    return NotTranslated("The generated engine", type(node).__name__)


def _same_sort(node: nodes.Node, value: _Operand, sort: Sort) -> None:
    if value.sort != sort:
        raise _unknown(node)


def _blanks_asked(condition: nodes.Node) -> tuple[str, ...] | None:
    """The fields of which a condition asks whether one is blank, if that is all it asks."""
    match condition:
        case nodes.IsBlank(nodes.Read("field", key)):
            return (key,)
        case nodes.Or(parts):
            asked = [_blanks_asked(part) for part in parts]
            if all(asked):
                return tuple(key for one in asked for key in one or ())
    return None


def _is_settled(node: nodes.Node, filled: _Filled) -> bool:
    """Whether it is never null, where these fields are filled and can be read."""
    match node:
        case nodes.Read("field", key):
            return key in filled and node.kind == "boolean"
        case nodes.And(parts) | nodes.Or(parts):
            return all(_is_settled(part, filled) for part in parts)
        case nodes.Not(operand):
            return _is_settled(operand, filled)
        case nodes.IsBlank() | nodes.IsTrue() | nodes.Relevant():
            return True
        case nodes.Order(_, left, right) | nodes.Equal(left, right):
            there = all(_is_there(one, filled) for one in (left, right))
            return there and left.kind == right.kind
        case nodes.Among(value, _) | nodes.EachAmong(value, _):
            return _is_there(value, filled)
        case nodes.Call("in format" | "fits pattern", (text, *_)):
            return _is_there(text, filled)
        case _:
            return False


def _is_there(operand: nodes.Node, filled: _Filled) -> bool:
    match operand:
        case nodes.Read("field", key):
            return key in filled and operand.kind in _SORTS
        case nodes.Constant(value):
            return value is not None
        case nodes.Call(function, (inner,)) if function in (*_LENGTHS, "fold case"):
            return _is_there(inner, filled)
        case _:
            return False


def _is_fixed(node: nodes.Node) -> bool:
    """Whether it reads nothing but the day."""
    match node:
        case nodes.Read(source, key):
            return source == "circumstance" and key == TODAY
        case _:
            return not isinstance(node, _ELSEWHERE)


def _unblank(operands: tuple[_Operand, ...], asked: str) -> str:
    """`asked`, where none of the operands is blank."""
    tests = [f"{one.source} is not None" for one in operands if one.blank]
    return f"({' and '.join([*tests, asked])})" if tests else f"({asked})"
