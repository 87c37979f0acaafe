"""What every part of a document is made of: keys, texts, severities, and common manners."""

import unicodedata
from collections.abc import Iterable
from datetime import date
from typing import Annotated, Protocol

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    StringConstraints,
    ValidationError,
)
from pydantic_core import ErrorDetails

from thistlequartz.core.language.feel import key_problem
from thistlequartz.core.translation import tr
from thistlequartz.core.types import DateType, read_value
from thistlequartz.core.values import Fault

MAX_LABEL = 200
"""Characters in a label or a name."""
MAX_PROSE = 5_000
MAX_CHOICES = 5_000
MAX_TARGETS = 100


def shape_errors(error: ValidationError) -> list[ErrorDetails]:
    """Return the errors of a document's shape, each once.

    A list is not also called too short where only some of its items cannot be used.
    """
    found = error.errors()
    return [one for one in found if not (one["type"] == "too_short" and _inside(one, found))]


def _inside(one: ErrorDetails, found: Iterable[ErrorDetails]) -> bool:
    place = one["loc"]
    return any(len(e["loc"]) > len(place) and e["loc"][: len(place)] == place for e in found)


def _checked_key(key: str) -> str:
    problem = key_problem(key)
    if problem:
        raise ValueError(problem)
    return key


def _whole_characters(text: str) -> str:
    if any("\ud800" <= character <= "\udfff" for character in text):
        raise ValueError(tr("This text has half a character: type it again."))
    if "\x00" in text:
        raise ValueError(tr("This text has a character that cannot be stored (NUL): remove it."))
    return unicodedata.normalize("NFC", text)


def _written_day(given: object) -> object:
    """A day as people write it (1 December 2026), as a date."""
    if not isinstance(given, str):
        return given
    read = read_value(given, DateType())
    if isinstance(read, Fault):
        raise ValueError(read.message)
    return read


Clean = AfterValidator(_whole_characters)
"""A text of whole characters, in Unicode NFC."""
Day = Annotated[date, BeforeValidator(_written_day)]
Key = Annotated[str, Clean, AfterValidator(_checked_key)]
Label = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=MAX_LABEL), Clean
]
Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500), Clean]
Prose = Annotated[str, StringConstraints(strip_whitespace=True, max_length=MAX_PROSE), Clean]
Formula = Annotated[str, StringConstraints(strip_whitespace=True, max_length=10_000), Clean]


class Document(BaseModel):
    """Common manners: frozen, and nothing unknown is let by."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class HasKey(Protocol):
    """Anything known by a key."""

    @property
    def key(self) -> str:
        """Its key."""


def refuse_same_keys(what: str, parts: Iterable[HasKey]) -> None:
    """Raise ValueError where two parts have one key."""
    refuse_twice(what, (part.key for part in parts))


def refuse_twice(what: str, keys: Iterable[str]) -> None:
    """Raise ValueError where a key stands twice."""
    seen: set[str] = set()
    for key in keys:
        if key in seen:
            raise ValueError(
                tr(
                    "The {what} “{key}” is there twice: take one out or rename it.",
                    what=what,
                    key=key,
                )
            )
        seen.add(key)
