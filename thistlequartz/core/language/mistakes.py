"""Typical mistakes in formulas: what was meant, and how to write it.

They come from other notations that people know: program code, spreadsheets, SQL, typeset text.
"""

import re
from collections.abc import Mapping
from typing import Final

from thistlequartz.core.values import ChoicesType, ChoiceType, ChoosingType

from .declared import Vocabulary
from .problems import Position, Problem

SIGNS: Final[Mapping[str, str]] = {
    "≥": ">=", "≤": "<=", "≠": "!=", "−": "-", "–": "-", "×": "*", "÷": "/", "·": "*",
    "“": '"', "”": '"', "„": '"', "«": '"', "»": '"', "‘": '"', "’": '"', "‚": '"', "'": '"',
    "`": '"', "&": "and", "|": "or",
}  # fmt: skip
"""What stands for a sign that formulas do not have."""
_OTHERS: Final[Mapping[str, str]] = {
    "!": "Write not(…), or != for “is not”.",
    "%": "Write modulo(a, b) for the remainder; a per cent is a hundredth: n / 100.",
    "^": "Write ** for a power.",
    ";": "Separate the arguments of a function by a comma; a formula needs no end mark.",
    "#": 'Write the day as date("2026-06-11").',
    "$": "Write the number alone; its currency belongs to the field.",
    "€": "Write the number alone; its currency belongs to the field.",
    "£": "Write the number alone; its currency belongs to the field.",
    "\\": "Write / to divide.",
}
_WORDS: Final[Mapping[str, str]] = {
    "mod": "Write modulo(a, b).",
    "contains": 'Write contains(text, "part"), or list contains(choices, "code").',
    "includes": 'Write list contains(choices, "code").',
    "has": 'Write list contains(choices, "code").',
    "like": 'Write contains(text, "part"), or matches(text, "pattern").',
    "is": "Write = null for “is blank”, != null for “is filled”, = for “is”.",
    "isnt": "Write != for “is not”.",
    "starts": 'Write starts with(text, "part").',
    "ends": 'Write ends with(text, "part").',
    "equals": "Write =.",
    "plus": "Write +.",
    "minus": "Write -.",
    "xor": "Write a != b.",
}
FUNCTIONS_MEANT: Final[Mapping[str, str]] = {
    "len": "string length(text)", "length": "string length(text)",
    "today": "today, without parentheses", "now": "now, without parentheses",
    "year": "the property: day.year", "month": "the property: day.month",
    "day": "the property: day.day", "weekday": "the property: day.weekday",
    "upper": "upper case(text)", "lower": "lower case(text)", "avg": "mean(…)",
    "average": "mean(…)", "isblank": "value = null", "isnull": "value = null",
    "isempty": "value = null", "is_blank": "value = null", "is_null": "value = null",
    "coalesce": "if a != null then a else b", "iif": "if … then … else …",
    "left": "substring(text, 1, length)", "right": "substring(text, -length)",
    "mid": "substring(text, start, length)", "substr": "substring(text, start, length)",
    "concat": 'string join([a, b]), or a + b', "regex": 'matches(text, "pattern")',
    "regexmatch": 'matches(text, "pattern")', "pow": "a ** b", "power": "a ** b",
    "mod": "modulo(a, b)", "datediff": "(later - earlier).days", "days": "(later - earlier).days",
    "includes": 'list contains(choices, "code")', "in_list": "value in (a, b)",
    "ceil": "ceiling(number)", "int": "floor(number)", "trunc": "floor(number)",
    "tostring": "string(value)", "str": "string(value)", "tonumber": "number(text)",
    "startswith": 'starts with(text, "part")', "endswith": 'ends with(text, "part")',
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
            f"“{sign}” is not written so in a formula.", f"Write {SIGNS[sign]} for it.", position=at
        )
    if sign in _OTHERS:
        return Problem(f"“{sign}” has no meaning in a formula.", _OTHERS[sign], position=at)
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
            return problem(f"“{written}” is not written so in a formula.", f"Write {meant}.", 1)
    if after.startswith(","):
        number = re.search(r"[0-9]+\Z", before)
        fraction = re.match(r",([0-9]+)", after)
        if number and fraction:
            whole = f"{number.group()}.{fraction.group(1)}"
            return problem("A number in a formula has a decimal point.", f"Write {whole}.")
    if after.startswith(")"):
        return problem("This “)” closes nothing.", "Remove it, or open it where it begins.")
    if after.startswith(".."):
        return problem("A range stands in brackets.", "Write in [1..3].")
    if after.startswith(("<", ">")) and (chained := _CHAINED.search(before)):
        low, sign, middle = chained.groups()
        second = re.match(r"(<=?|>=?)\s*(\S+)", after)
        if second:
            said = f"{low} {sign} {middle} and {middle} {second.group(1)} {second.group(2)}"
            return problem("Comparisons are not chained.", f"Write {said}.")
    word = _WORD.match(after)
    if re.search(r"\bnot\Z", before) and word:
        return problem("“not” takes what it denies in parentheses.", f"Write not({word.group()}).")
    if word and word.group().lower() in _WORDS:
        name = word.group()
        return problem(f"“{name}” is not written so in a formula.", _WORDS[name.lower()])
    if word and _WORD.search(before[-1:] or " "):
        return problem(
            f"Two words stand side by side before “{word.group()}”.",
            "Name a field by its key, and put an operator between two values.",
        )
    return None


def name_remedy(name: str, vocabulary: Vocabulary) -> str | None:
    """How something is written that was taken for the key of a field; None where nobody knows."""
    meant = _NAMES.get(name.lower())
    if meant == "null":
        return "Write null: to ask whether a field is blank, write field = null."
    if meant:
        return f"Write {meant}."
    for key, declared in vocabulary.items():
        if declared.label.casefold() == name.replace("_", " ").casefold():
            return f"“{declared.label}” has the key {key}: write {key}."
        if isinstance(declared.type, ChoiceType | ChoicesType):
            for choice in declared.type.choices:
                if name in (choice.code, choice.label):
                    return f'Write the choice by its code, as a text: "{choice.code}".'
    return None


def choice_remedy(written: str, type_: ChoosingType) -> str | None:
    """The code of a choice that was named by its label."""
    for choice in type_.choices:
        if choice.label.casefold() == written.casefold():
            return f'“{choice.label}” is written by its code: "{choice.code}".'
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
        f"This “{sign}” is never closed.",
        f"Close it with “{closing}”.",
        position=Position(len(lines), len(lines[-1]) + 1),
    )


def _offset(text: str, at: Position) -> int:
    lines = text.split("\n")
    return sum(len(line) + 1 for line in lines[: at.line - 1]) + at.column - 1
