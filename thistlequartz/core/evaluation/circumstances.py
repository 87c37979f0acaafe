"""When, where and by whom a record is judged."""

from dataclasses import dataclass
from datetime import date

from thistlequartz.core.ruleset import EntryPoint, Event


@dataclass(frozen=True, slots=True)
class Circumstances:
    """What decides whether a rule counts, beside the values of the record."""

    today: date
    event: Event = "create"
    entry_point: EntryPoint = "desk"
    role: str | None = None
