"""The port through which a caller shows other records."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Protocol

from thistlequartz.core.engines.rows import Where
from thistlequartz.core.language import Vocabulary

NUMBER = "#"
"""Under which name the values of another record carry its number; no field can be called so."""


@dataclass(frozen=True, slots=True)
class ReferredRecord:
    """A record that was looked up: its canonical values by field, and whether it is on hold."""

    values: Mapping[str, object]
    on_hold: bool = False


class Lookup(Protocol):
    """What a caller knows of other records. The record being judged is never among them.

    Of one that has a true `discreet` it is never told which record it was, nor why one cannot be
    referred to.
    """

    def record(self, form: str, number: str) -> ReferredRecord | None:
        """The record `number` of the form with the key `form`."""

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Whether another record of this form has the same unique key (see `folded_key`)."""

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """The number of a record that has the same unique key; None where none is known by one."""

    def others(self, where: Where, fields: Vocabulary) -> Iterable[Mapping[str, object]]:
        """Return the canonical values of other records of this form, with their numbers.

        A number stands under the name NUMBER. At least the records for which `where` is true, with
        their fields read as `fields` says.
        """
