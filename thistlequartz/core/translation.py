"""Texts that people read, in the language of the house (GNU gettext).

The English text stands where it is used and is the key of its translation. A translation is a file
`thistlequartz/locale/LANGUAGE/LC_MESSAGES/thistlequartz.mo`; no code changes for it.
"""

import gettext
import os
from pathlib import Path
from typing import Any, Final

DOMAIN: Final = "thistlequartz"
LOCALE: Final = Path(__file__).parents[1] / "locale"
LANGUAGE: Final = os.environ.get("THISTLEQUARTZ_LANGUAGE", "en")
"""One for the whole house, as findings, histories and messages are stored in words."""

_catalogue: Final = gettext.translation(
    DOMAIN, os.environ.get("THISTLEQUARTZ_LOCALE", LOCALE), [LANGUAGE], fallback=True
)


def tr(text: str, /, **values: Any) -> str:
    """Return `text` in the language of the house, with `values` in its places."""
    told = _catalogue.gettext(text)
    return told.format_map(values) if values else told


def tr_count(one: str, many: str, count: int, /, **values: Any) -> str:
    """Return what is said of `count` things, which is also the value of the place {count}."""
    return _catalogue.ngettext(one, many, count).format(count=count, **values)
