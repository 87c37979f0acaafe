"""Patterns on RE2: every match takes time in proportion to the text, whatever the pattern."""

import re
from functools import lru_cache
from typing import Any

import re2

re2.set_fallback_notification(re2.FALLBACK_EXCEPTION)

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
            f"The pattern has {len(pattern):,} characters; {MAX_PATTERN:,} are the most."
        )
    if _OPEN_BRACE.search(_NO_BRACES.sub("", pattern)):
        raise PatternError(
            "The pattern opens a “{” that counts nothing: close it, as in {10} or {2,5}, or write"
            " \\{ for the character itself."
        )
    unknown = set(flags) - set(_FLAGS)
    if unknown:
        raise PatternError(f"The flag “{min(unknown)}” is not known; i, s and m are.")
    if not flags and _SIMPLE.fullmatch(pattern):
        try:
            return re.compile(pattern, re.ASCII)
        except re.error as error:
            raise PatternError(f"The pattern cannot be used: {_reason(error)}.") from None
    inline = f"(?{''.join(sorted(set(flags)))})" if flags else ""
    try:
        return re2.compile(inline + pattern, re2.ASCII)
    except (
        re2.RegexError,
        re.error,
        re2.BackreferencesException,
        re2.CharClassProblemException,
    ) as error:
        raise PatternError(f"The pattern cannot be used: {_reason(error)}.") from None


def _reason(error: Exception) -> str:
    said = error.args[0] if error.args else error
    return said.decode("utf-8", "replace") if isinstance(said, bytes) else str(said)
