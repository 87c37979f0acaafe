"""Which names a field or rule may have, so that every formula can say them."""

import re

from thistlequartz.core.translation import tr

KEY_PATTERN = r"[a-z][a-z0-9_]*"
MAX_KEY = 60
"""Characters in a key."""
FEEL_WORDS = frozenset(
    [
        "and",
        "between",
        "date",
        "duration",
        "else",
        "every",
        "external",
        "false",
        "for",
        "function",
        "if",
        "in",
        "instance",
        "not",
        "null",
        "of",
        "or",
        "return",
        "satisfies",
        "some",
        "then",
        "time",
        "true",
    ]
)
READABLE_WORDS = frozenset(
    {"changed", "entry_point", "event", "now", "other", "role", "stored", "today"}
)


def key_problem(key: str) -> str | None:
    """Why `key` cannot be a key, and how to correct it; None where it can."""
    if not re.fullmatch(KEY_PATTERN, key):
        return tr(
            "“{key}” cannot be a key: begin with a small letter, then use small letters, digits "
            "and underscores only.",
            key=key[:MAX_KEY],
        )
    if len(key) > MAX_KEY:
        return tr(
            "This key has {count} characters: shorten it to {max_key}.",
            count=len(key),
            max_key=MAX_KEY,
        )
    if key in FEEL_WORDS | READABLE_WORDS:
        return tr(
            "“{key}” is a word of the formula language: choose another, such as “{key}_given”.",
            key=key,
        )
    return None
