"""When, where and by whom a record is judged."""

from dataclasses import dataclass
from datetime import date, datetime

from thistlequartz.core.ruleset import EntryPoint, Event

AT_A_SCREEN: tuple[EntryPoint, ...] = ("desk", "handheld", "link")
"""Where a person fills the form in; elsewhere fields do not wait for one another."""


@dataclass(frozen=True, slots=True)
class Circumstances:
    """What decides whether a rule counts, beside the values of the record.

    `today` is a day in the form's zone; `now` (with an offset) is null to formulas when left out.
    """

    today: date
    now: datetime | None = None
    event: Event = "create"
    entry_point: EntryPoint = "desk"
    layout: str | None = None
    role: str | None = None
