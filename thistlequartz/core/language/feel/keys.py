"""Which names a field or rule may have, so that every formula can say them."""

import re

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
        return (
            f"“{key[:MAX_KEY]}” cannot be a key: begin with a small letter, then use small letters,"
            " digits and underscores only."
        )
    if len(key) > MAX_KEY:
        return f"This key has {len(key)} characters: shorten it to {MAX_KEY}."
    if key in FEEL_WORDS | READABLE_WORDS:
        return f"“{key}” is a word of the formula language: choose another, such as “{key}_given”."
    return None
