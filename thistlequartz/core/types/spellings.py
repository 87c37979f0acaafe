"""Usual spellings that are known by a pattern, and quick readers of ISO 8601."""

import re
from collections.abc import Callable
from typing import Final

from .base import NOT_CANONICAL, UsualSpelling

DAY: Final = "[12][0-9]{3}-(?:0[1-9]|1[0-2])-(?:0[1-9]|1[0-9]|2[0-8])"
"""Days that every month has."""
CLOCK: Final = "(?:[01][0-9]|2[0-3]):[0-5][0-9]"


def matching(form: re.Pattern[str], read: Callable[[str], object]) -> UsualSpelling:
    """The spelling of texts that fit a pattern, which `read` reads."""
    names = {"fits": form.fullmatch, "read": read}
    test = "type(given) is str and {fits}(given)"
    return UsualSpelling(test, "{read}(given)", names, form.pattern, "{read}(given)")


def from_iso(given: object, form: re.Pattern[str], read: Callable[[str], object]) -> object:
    """Read a text that fits `form`; NOT_CANONICAL where it does not, or is nothing that exists."""
    if type(given) is not str or not form.fullmatch(given):
        return NOT_CANONICAL
    try:
        return read(given)
    except ValueError:
        return NOT_CANONICAL
