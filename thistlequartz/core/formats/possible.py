"""Whether a pattern can match any text at all.

Read with the standard library’s own parser, whose syntax RE2 shares for what is asked here. What
cannot be read that way is taken to be possible: only what is sure is told.
"""

import re
from re import _parser as parser
from typing import Any

_LAST_CODE_POINT = 0x10FFFF
_COMPLEMENTS = (
    {"CATEGORY_DIGIT", "CATEGORY_NOT_DIGIT"},
    {"CATEGORY_SPACE", "CATEGORY_NOT_SPACE"},
    {"CATEGORY_WORD", "CATEGORY_NOT_WORD"},
)
_Can = tuple[bool, bool]
"""Whether something can match no character, and whether it can match one or more."""


def can_match(pattern: str) -> bool:
    """Whether some text fits `pattern` from end to end; True where that is not sure."""
    try:
        read = parser.parse(pattern)
    except (re.error, RecursionError, OverflowError):
        return True
    return any(_sequence(list(read)))


def _sequence(items: list[Any]) -> _Can:
    cans = [_one(*item) for item in items]
    for place, (kind, value) in enumerate(items):
        if str(kind) != "AT":
            continue
        # The beginning stands only where nothing was matched before it, the end likewise.
        if "BEGINNING" in str(value):
            cans[:place] = [(empty, False) for empty, _ in cans[:place]]
        elif "END" in str(value):
            cans[place + 1 :] = [(empty, False) for empty, _ in cans[place + 1 :]]
    if not all(any(can) for can in cans):
        return False, False
    return all(empty for empty, _ in cans), any(some for _, some in cans)


def _one(kind: Any, value: Any) -> _Can:
    match str(kind):
        case "AT" | "ASSERT" | "ASSERT_NOT":
            return True, False
        case "IN":
            return False, not _is_empty(value)
        case "BRANCH":
            ways = [_sequence(list(way)) for way in value[1]]
            return any(empty for empty, _ in ways), any(some for _, some in ways)
        case "SUBPATTERN":
            return _sequence(list(value[-1]))
        case "MAX_REPEAT" | "MIN_REPEAT" | "POSSESSIVE_REPEAT":
            fewest, most, inner = value
            empty, some = _sequence(list(inner))
            return fewest == 0 or empty, bool(most) and some
        case _:
            return False, True


def _is_empty(members: list[Any]) -> bool:
    """Whether a class of characters leaves none: it denies a kind and all that is not of it."""
    if not members or str(members[0][0]) != "NEGATE":
        return False
    kinds = {str(value) for kind, value in members[1:] if str(kind) == "CATEGORY"}
    whole = any(
        str(kind) == "RANGE" and value == (0, _LAST_CODE_POINT) for kind, value in members[1:]
    )
    return whole or any(pair <= kinds for pair in _COMPLEMENTS)
