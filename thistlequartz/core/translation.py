"""Texts that people read, in the language of the house (GNU gettext).

The English text stands where it is used and is the key of its translation. A translation is a file
`thistlequartz/locale/LANGUAGE/LC_MESSAGES/thistlequartz.mo`; no code changes for it.
"""

import gettext
import os
from collections.abc import Iterable
from pathlib import Path
from typing import Any, Final, Literal

DOMAIN: Final = "thistlequartz"
LOCALE: Final = Path(__file__).parents[1] / "locale"
LANGUAGE: Final = os.environ.get("THISTLEQUARTZ_LANGUAGE", "en")
"""One for the whole house, as findings, histories and messages are stored in words."""

_catalogue: Final = gettext.translation(
    DOMAIN, os.environ.get("THISTLEQUARTZ_LOCALE", LOCALE), [LANGUAGE], fallback=True
)

Joining = Literal["and", "or"]


def tr(text: str, /, **values: Any) -> str:
    """Return `text` in the language of the house, with `values` in its places."""
    told = _catalogue.gettext(text)
    return told.format_map(values) if values else told


def later(text: str) -> str:
    """`text` as it is, for the catalogue: it is translated where it is said, by `tr`."""
    return text


def tr_count(one: str, many: str, count: int, /, **values: Any) -> str:
    """Return what is said of `count` things, which is also the value of the place {count}.

    Without the place {count} and without `values` the text keeps its places, as for `phrase`.
    """
    told = _catalogue.ngettext(one, many, count)
    return told.format(count=count, **values) if values or "{count" in told else told


BETWEEN: Final = tr(", ")
LAST: Final[dict[Joining, str]] = {"and": tr(" and "), "or": tr(" or ")}
"""What stands between the parts of a list, and between its last two."""


def listed(parts: Iterable[str], joining: Joining = "and") -> str:
    """“A, B and C”; blank where there is none."""
    *others, last = parts if (parts := list(parts)) else [""]
    return f"{BETWEEN.join(others)}{LAST[joining]}{last}" if others else last
