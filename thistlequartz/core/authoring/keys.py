"""Keys drawn from names."""

import re
import unicodedata
from collections.abc import Collection

from thistlequartz.core.language.feel import key_problem

_LONGEST = 40


def drawn_key(name: str, taken: Collection[str], what: str) -> str:
    """A key that says what `name` says, and is not taken; `what` it is begins it where need be."""
    bare = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    stem = re.sub(r"[^a-z0-9]+", "_", bare.casefold()).strip("_")[:_LONGEST].strip("_") or what
    if key_problem(stem):
        stem = f"{what}_{stem}"
    key, count = stem, 1
    while key in taken:
        count += 1
        key = f"{stem}_{count}"
    return key
