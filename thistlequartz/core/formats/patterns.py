"""Patterns on RE2: every match takes time in proportion to the text, whatever the pattern."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import re2

from thistlequartz.core.translation import tr

re2.set_fallback_notification(re2.FALLBACK_EXCEPTION)

_ASCII, _BYTES = 128, 256
MAX_PATTERN = 1_000
"""Characters in one pattern."""
_FLAGS = {"i": "i", "s": "s", "m": "m"}
_CHARACTER = r"[A-Za-z0-9 _:;,@#%&=<>~'\"!/-]"
_SIMPLE = re.compile(
    rf"(?:(?:{_CHARACTER}|\\d|\\[.\-/+]|\[(?:[A-Z]-[A-Z]|[a-z]-[a-z]|[0-9]-[0-9]|[A-Za-z0-9_])+\])"
    r"(?:\{[0-9]{1,2}\})?)+",
    re.ASCII,
)
"""Patterns of fixed length, a character or class at a time: nothing is ever tried twice, so the
standard library takes linear time too, means the same and answers several times faster."""

_PARTS_OF_PLAIN = re.compile(r"(\[[^\]]+\]|\\.|.)(?:\{([0-9]+)\})?")
_NO_BRACES = re.compile(
    r"\\Q.*?(?:\\E|$)|\\[pPx]\{[^}]*\}|\\.|\[\^?\]?(?:\[:[a-z^]+:\]|\\.|[^\]])*\]"
    r"|\{[0-9]+(?:,[0-9]*)?\}",
    re.DOTALL,
)
"""Parts of a pattern in which a brace is closed, or stands for itself."""
_OPEN_BRACE = re.compile(r"\{")


class PatternError(ValueError):
    """A pattern that cannot be used; the message says why."""


@lru_cache(maxsize=512)
def compile_pattern(pattern: str, flags: str = "") -> Any:
    """The compiled pattern, with `search`, `fullmatch`, `sub` and `split`. Raises PatternError.

    `flags` are those of XPath that RE2 knows: i (ignore case), s (dot matches all), m (lines).
    """
    if len(pattern) > MAX_PATTERN:
        raise PatternError(
            tr(
                "The pattern has {count:,} characters; {max_pattern:,} are the most.",
                count=len(pattern),
                max_pattern=MAX_PATTERN,
            )
        )
    if _OPEN_BRACE.search(_NO_BRACES.sub("", pattern)):
        raise PatternError(
            tr(
                "The pattern opens a “{” that counts nothing: close it, as in {10} or {2,5}, or "
                "write"
                " \\{ for the character itself."
            )
        )
    unknown = set(flags) - set(_FLAGS)
    if unknown:
        raise PatternError(tr("The flag “{min}” is not known; i, s and m are.", min=min(unknown)))
    if not flags and _SIMPLE.fullmatch(pattern):
        try:
            return re.compile(pattern, re.ASCII)
        except re.error as error:
            raise PatternError(
                tr("The pattern cannot be used: {reason}.", reason=_reason(error))
            ) from None
    inline = f"(?{''.join(sorted(set(flags)))})" if flags else ""
    try:
        return re2.compile(inline + pattern, re2.ASCII)
    except (
        re2.RegexError,
        re.error,
        re2.BackreferencesException,
        re2.CharClassProblemException,
    ) as error:
        raise PatternError(
            tr("The pattern cannot be used: {reason}.", reason=_reason(error))
        ) from None


def is_plain(pattern: str) -> bool:
    """Whether it has a fixed length, a character or class at a time."""
    return _SIMPLE.fullmatch(pattern) is not None


@dataclass(frozen=True, slots=True)
class InClasses:
    """Several plain patterns as one comparison of bytes, many times as fast as a match each.

    The texts stand one after the other with NUL between them, which no text holds; each byte is
    replaced by the class of characters it belongs to (`table`, as `bytes.translate` takes it), and
    all of them fit exactly where that gives `classes`.
    """

    table: bytes
    classes: bytes
    fitting: tuple[str, ...]
    """For each pattern a text that fits it, to stand for one that is blank."""


def in_classes(patterns: Sequence[str]) -> InClasses | None:
    """Plain patterns together; None where their classes overlap in part, as [A-Z] and [A-F] do."""
    parted = [_PARTS_OF_PLAIN.findall(one) for one in patterns]
    wanted = [
        [_members(part) for part, count in parts for _ in range(int(count or 1))]
        for parts in parted
    ]
    apart = frozenset((0,))
    places = [each for one in wanted for each in (*one, apart)][:-1]
    different = list(dict.fromkeys(places))
    belongs: dict[int, tuple[bool, ...]] = {
        character: tuple(character in one for one in different) for character in range(_ASCII)
    }
    kinds = list(dict.fromkeys([(False,) * len(different), *belongs.values()]))
    if len(kinds) > _BYTES or any(len({belongs[one] for one in each}) > 1 for each in different):
        return None
    table = bytes(kinds.index(belongs.get(byte, kinds[0])) for byte in range(_BYTES))
    classes = bytes(table[min(each)] for each in places)
    fitting = ("".join(chr(min(each)) for each in one) for one in wanted)
    return InClasses(table, classes, tuple(fitting))


@lru_cache(maxsize=512)
def _members(part: str) -> frozenset[int]:
    """The ASCII characters that a part of a plain pattern takes."""
    one = re.compile(part, re.ASCII)
    return frozenset(code for code in range(_ASCII) if one.fullmatch(chr(code)))


def _reason(error: Exception) -> str:
    said = error.args[0] if error.args else error
    return said.decode("utf-8", "replace") if isinstance(said, bytes) else str(said)
