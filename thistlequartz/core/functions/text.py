"""Text: clause 10.3.4.3. Characters are code points; patterns are RE2's."""

import re
from decimal import Decimal
from typing import Any

from thistlequartz.core.formats import PatternError, compile_pattern

from .operations import MAX_TEXT
from .record import function
from .work import CHARACTERS_A_GRAIN, TooMuchWork, spend

_GROUP = re.compile(r"\\(.)|\$(\d)")


def _text(value: Any) -> str:
    if not isinstance(value, str):
        raise TypeError
    return value


def position(value: Any) -> int:
    """A whole number as a position. Raises TypeError for anything else."""
    if not isinstance(value, Decimal) or value != int(value):
        raise TypeError
    return int(value)


def slice_of(length: int, start: Any, count: Any) -> slice | None:
    """The part from a position, counted from 1 or back from the end; null for position 0."""
    first = position(start)
    if first == 0 or abs(first) > length:
        return None
    begin = first - 1 if first > 0 else length + first
    if count is None:
        return slice(begin, None)
    wanted = position(count)
    return slice(begin, begin + wanted) if wanted >= 1 else None


def _substring(string: Any, start: Any, length: Any = None) -> str | None:
    text = _text(string)
    part = slice_of(len(text), start, length)
    return None if part is None else text[part]


def _before(string: Any, match: Any) -> str:
    sought = _text(match)
    before, found, _ = _text(string).partition(sought) if sought else ("", "", "")
    return before if found else ""


def _after(string: Any, match: Any) -> str:
    if match == "":
        return _text(string)
    _, _, after = _text(string).partition(_text(match))
    return after


def _matches(string: Any, pattern: Any, flags: Any = None) -> bool | None:
    try:
        compiled = compile_pattern(_text(pattern), flags or "")
    except PatternError:
        return None
    return compiled.search(_text(string)) is not None


def _replace(string: Any, pattern: Any, replacement: Any, flags: Any = None) -> str | None:
    """XPath's replace: `$1` is a group, a backslash takes the next character as it is."""
    try:
        compiled = compile_pattern(_text(pattern), flags or "")
    except PatternError:
        return None
    template = _text(replacement)
    if compiled.search("") is not None:
        return None

    written = 0

    def filled(found: Any) -> str:
        nonlocal written

        def group(part: re.Match[str]) -> str:
            if part[1]:
                return part[1]
            number = int(part[2])
            return (found.group(number) or "") if number <= compiled.groups else ""

        piece = _GROUP.sub(group, template)
        written += len(piece)
        spend(1 + len(template) // CHARACTERS_A_GRAIN)
        if written > MAX_TEXT:
            raise TooMuchWork
        return piece

    result: str = compiled.sub(filled, _text(string))
    return result


def _split(string: Any, delimiter: Any) -> list[str] | None:
    try:
        compiled = compile_pattern(_text(delimiter))
    except PatternError:
        return None
    text, parts, begin = _text(string), [], 0
    for found in compiled.finditer(text):
        if found.end() > found.start():
            parts.append(text[begin : found.start()])
            begin = found.end()
    return [*parts, text[begin:]]


def _join(texts: Any, delimiter: Any = None) -> str | None:
    """The texts of a list, blanks left out."""
    if not isinstance(texts, str | list):
        raise TypeError
    parts = [texts] if isinstance(texts, str) else texts
    kept, between = [_text(part) for part in parts if part is not None], _text(delimiter or "")
    if sum(map(len, kept)) + len(between) * max(len(kept) - 1, 0) > MAX_TEXT:
        raise TooMuchWork
    return between.join(kept)


FUNCTIONS = (
    function("substring", "string: text, start position: number, length?: number", "text",
             "a part of a text; positions count from 1, or from the end when negative",
             'substring("quartz", -2) = "tz"', _substring),
    function("string length", "string: text", "number", "how many characters a text has",
             'string length("quartz") = 6', lambda string: Decimal(len(_text(string)))),
    function("upper case", "string: text", "text", "a text in capitals",
             'upper case("aBc4") = "ABC4"', lambda string: _text(string).upper()),
    function("lower case", "string: text", "text", "a text in small letters",
             'lower case("aBc4") = "abc4"', lambda string: _text(string).lower()),
    function("substring before", "string: text, match: text", "text", "what stands before a text",
             'substring before("QH-0042", "-") = "QH"', _before),
    function("substring after", "string: text, match: text", "text", "what stands after a text",
             'substring after("QH-0042", "-") = "0042"', _after),
    function("contains", "string: text, match: text", "boolean", "whether a text contains another",
             'contains("quartz", "art")', lambda string, match: _text(match) in _text(string)),
    function("starts with", "string: text, match: text", "boolean",
             "whether a text begins with another", 'starts with("quartz", "qu")',
             lambda string, match: _text(string).startswith(_text(match))),
    function("ends with", "string: text, match: text", "boolean",
             "whether a text ends with another", 'ends with("quartz", "tz")',
             lambda string, match: _text(string).endswith(_text(match))),
    function("matches", "input: text, pattern: text, flags?: text", "boolean",
             "whether something in a text fits a pattern", 'matches("QH-0042", "[0-9]{4}")',
             _matches),
    function("replace", "input: text, pattern: text, replacement: text, flags?: text", "text",
             "a text with what fits a pattern replaced", 'replace("abcd", "b.", "x") = "axd"',
             _replace),
    function("split", "string: text, delimiter: text", "list", "the parts between delimiters",
             'split("a;b", ";") = ["a", "b"]', _split),
    function("string join", "list: list, delimiter?: text", "text", "texts joined into one",
             'string join(["a", null, "b"], "-") = "a-b"', _join),
)  # fmt: skip
