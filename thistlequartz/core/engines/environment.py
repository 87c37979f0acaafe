"""Under which names an environment keeps what conditions read.

Fields stand under their keys, with blank as None; no key has a point or a dollar sign in it. They
come first, in the order of the form.
"""

from collections.abc import Callable, Mapping
from typing import Any, Final

Environment = Mapping[str, Any]
Evaluator = Callable[[Environment], Any]

TODAY: Final = "today"
NOW: Final = "now"
RECORDS: Final = "$records"
"""The other records, where they can be looked up."""
CLOSED: Final = "$closed"
"""The keys of the fields that are not relevant."""
NOTHING_CLOSED: Final[frozenset[str]] = frozenset()


def again(key: str) -> str:
    """The name of a field's second entry."""
    return f"{key}.again"


def stored(key: str) -> str:
    """The name of what a field held before."""
    return f"stored.{key}"


def other(key: str) -> str:
    """The name of a field in another record."""
    return f"other.{key}"


def variable(name: str) -> str:
    """The name of what an expression itself gives."""
    return f"${name}"
