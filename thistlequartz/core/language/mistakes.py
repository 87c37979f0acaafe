"""Typical mistakes in formulas: what was meant, and how to write it.

They come from other notations that people know: program code, spreadsheets, SQL, typeset text.
"""

import re
from collections.abc import Mapping
from typing import Final

from thistlequartz.core.translation import tr
from thistlequartz.core.types import ChoosingType

from .declared import Vocabulary
from .problems import Position, Problem

SIGNS: Final[Mapping[str, str]] = {
    "≥": ">=", "≤": "<=", "≠": "!=", "−": "-", "–": "-", "×": "*", "÷": "/", "·": "*",
    "“": '"', "”": '"', "„": '"', "«": '"', "»": '"', "‘": '"', "’": '"', "‚": '"', "'": '"',
    "`": '"', "&": "and", "|": "or",
}  # fmt: skip
"""What stands for a sign that formulas do not have."""
_OTHERS: Final[Mapping[str, str]] = {
    "!": tr("Write not(…), or != for “is not”."),
    "%": tr("Write modulo(a, b) for the remainder; a per cent is a hundredth: n / 100."),
    "^": tr("Write ** for a power."),
    ";": tr("Separate the arguments of a function by a comma; a formula needs no end mark."),
    "#": tr('Write the day as date("2026-06-11").'),
    "$": tr("Write the number alone; its currency belongs to the field."),
    "€": tr("Write the number alone; its currency belongs to the field."),
    "£": tr("Write the number alone; its currency belongs to the field."),
    "\\": tr("Write / to divide."),
}
_WORDS: Final[Mapping[str, str]] = {
    "mod": tr("Write modulo(a, b)."),
    "contains": tr('Write contains(text, "part"), or list contains(choices, "code").'),
    "includes": tr('Write list contains(choices, "code").'),
    "has": tr('Write list contains(choices, "code").'),
    "like": tr('Write contains(text, "part"), or matches(text, "pattern").'),
    "is": tr("Write = null for “is blank”, != null for “is filled”, = for “is”."),
    "isnt": tr("Write != for “is not”."),
    "starts": tr('Write starts with(text, "part").'),
    "ends": tr('Write ends with(text, "part").'),
    "equals": tr("Write =."),
    "plus": tr("Write +."),
    "minus": tr("Write -."),
    "xor": tr("Write a != b."),
}
FUNCTIONS_MEANT: Final[Mapping[str, str]] = {
    "len": tr("string length(text)"), "length": tr("string length(text)"),
    "today": tr("today, without parentheses"), "now": tr("now, without parentheses"),
    "year": tr("the property: day.year"), "month": tr("the property: day.month"),
    "day": tr("the property: day.day"), "weekday": tr("the property: day.weekday"),
    "upper": tr("upper case(text)"), "lower": tr("lower case(text)"), "avg": "mean(…)",
    "average": "mean(…)", "isblank": "value = null", "isnull": "value = null",
    "isempty": "value = null", "is_blank": "value = null", "is_null": "value = null",
    "coalesce": tr("if a != null then a else b"), "iif": "if … then … else …",
    "left": "substring(text, 1, length)", "right": "substring(text, -length)",
    "mid": "substring(text, start, length)", "substr": "substring(text, start, length)",
    "concat": tr('string join([a, b]), or a + b'), "regex": 'matches(text, "pattern")',
    "regexmatch": 'matches(text, "pattern")', "pow": "a ** b", "power": "a ** b",
    "mod": "modulo(a, b)", "datediff": "(later - earlier).days", "days": "(later - earlier).days",
    "includes": tr('list contains(choices, "code")'), "in_list": tr("value in (a, b)"),
    "ceil": "ceiling(number)", "int": "floor(number)", "trunc": "floor(number)",
    "tostring": "string(value)", "str": "string(value)", "tonumber": "number(text)",
    "startswith": tr('starts with(text, "part")'), "endswith": tr('ends with(text, "part")'),
    "indexof": 'contains(text, "part")', "size": "count(list)", "empty": "value = null",
}  # fmt: skip
"""By the name of a function elsewhere: how a formula says it."""
_NAMES: Final[Mapping[str, str]] = {
    "none": "null", "nil": "null", "null": "null", "undefined": "null", "blank": "null",
    "empty": "null", "na": "null", "yes": "true", "true": "true", "no": "false", "false": "false",
    "on": "true", "off": "false", "date": "today", "sysdate": "today", "current_date": "today",
}  # fmt: skip
"""By what people write for a value, in small letters: how a formula writes it."""
_CHAINED: Final = re.compile(r"(\S+)\s*(<=?|>=?)\s*(\S+)\s*\Z")
_WORD: Final = re.compile(r"[A-Za-z_]+")


def sign_problem(sign: str, at: Position) -> Problem | None:
    """What is said of a sign that has no meaning in a formula; None where nothing is known."""
    if sign in SIGNS:
        return Problem(
            tr("“{sign}” is not written so in a formula.", sign=sign),
            tr("Write {signs} for it.", signs=SIGNS[sign]),
            position=at,
        )
    if sign in _OTHERS:
        return Problem(
            tr("“{sign}” has no meaning in a formula.", sign=sign), _OTHERS[sign], position=at
        )
    return None


def syntax_problem(text: str, at: Position | None) -> Problem | None:
    """What was meant where a formula goes wrong, or, without a place, ends too early."""
    if at is None:
        return _never_closed(text)
    place = _offset(text, at)
    before, after = text[:place].rstrip(), text[place:]

    def problem(message: str, remedy: str, back: int = 0) -> Problem:
        column = max(at.column - back, 1)
        return Problem(message, remedy, position=Position(at.line, column))

    for written, meant in (("=>", ">="), ("=<", "<="), ("==", "="), ("<>", "!="), ("!==", "!=")):
        if before.endswith(written[:-1]) and after.startswith(written[-1]):
            return problem(
                tr("“{written}” is not written so in a formula.", written=written),
                tr("Write {meant}.", meant=meant),
                1,
            )
    if after.startswith(","):
        number = re.search(r"[0-9]+\Z", before)
        fraction = re.match(r",([0-9]+)", after)
        if number and fraction:
            whole = f"{number.group()}.{fraction.group(1)}"
            return problem(
                tr("A number in a formula has a decimal point."), tr("Write {whole}.", whole=whole)
            )
    if after.startswith(")"):
        return problem(tr("This “)” closes nothing."), tr("Remove it, or open it where it begins."))
    if after.startswith(".."):
        return problem(tr("A range stands in brackets."), tr("Write in [1..3]."))
    if after.startswith(("<", ">")) and (chained := _CHAINED.search(before)):
        low, sign, middle = chained.groups()
        second = re.match(r"(<=?|>=?)\s*(\S+)", after)
        if second:
            said = f"{low} {sign} {middle} and {middle} {second.group(1)} {second.group(2)}"
            return problem(tr("Comparisons are not chained."), tr("Write {formula}.", formula=said))
    word = _WORD.match(after)
    if re.search(r"\bnot\Z", before) and word:
        return problem(
            tr("“not” takes what it denies in parentheses."),
            tr("Write not({group}).", group=word.group()),
        )
    if word and word.group().lower() in _WORDS:
        name = word.group()
        return problem(
            tr("“{name}” is not written so in a formula.", name=name), _WORDS[name.lower()]
        )
    if word and _WORD.search(before[-1:] or " "):
        return problem(
            tr("Two words stand side by side before “{group}”.", group=word.group()),
            tr("Name a field by its key, and put an operator between two values."),
        )
    return None


def name_remedy(name: str, vocabulary: Vocabulary) -> str | None:
    """How something is written that was taken for the key of a field; None where nobody knows."""
    meant = _NAMES.get(name.lower())
    if meant == "null":
        return tr("Write null: to ask whether a field is blank, write field = null.")
    if meant:
        return tr("Write {meant}.", meant=meant)
    for key, declared in vocabulary.items():
        if declared.label.casefold() == name.replace("_", " ").casefold():
            return tr("“{label}” has the key {key}: write {key}.", label=declared.label, key=key)
        for code, label in declared.type.answers() or ():
            if declared.type.kind != "boolean" and name in (code, label):
                return tr('Write the choice by its code, as a text: "{code}".', code=code)
    return None


def choice_remedy(written: str, type_: ChoosingType) -> str | None:
    """The code of a choice that was named by its label."""
    for choice in type_.choices:
        if choice.label.casefold() == written.casefold():
            return tr(
                '“{label}” is written by its code: "{code}".', label=choice.label, code=choice.code
            )
    return None


def _never_closed(text: str) -> Problem | None:
    """The bracket that is opened and never closed."""
    opened: list[tuple[str, int]] = []
    in_text = False
    for place, sign in enumerate(text):
        if sign == '"':
            in_text = not in_text
        elif not in_text and sign in "([{":
            opened.append((sign, place))
        elif not in_text and sign in ")]}" and opened:
            opened.pop()
    if not opened:
        return None
    sign, place = opened[-1]
    lines = text[:place].split("\n")
    closing = {"(": ")", "[": "]", "{": "}"}[sign]
    return Problem(
        tr("This “{sign}” is never closed.", sign=sign),
        tr("Close it with “{closing}”.", closing=closing),
        position=Position(len(lines), len(lines[-1]) + 1),
    )


def _offset(text: str, at: Position) -> int:
    lines = text.split("\n")
    return sum(len(line) + 1 for line in lines[: at.line - 1]) + at.column - 1
