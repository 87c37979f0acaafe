"""What can be said about a judgement beside the values and the moment."""

from collections.abc import Collection, Mapping
from datetime import date, datetime
from typing import Required, TypedDict

from thistlequartz.core.ruleset import EntryPoint, Event

from .circumstances import Circumstances
from .other_records.port import Lookup
from .verdicts.verdict import Waiver


class JudgeOptions(TypedDict, total=False):
    """When, where and by whom a record is judged, and what was decided while it was filled in."""

    today: Required[date]
    """The day in the form's zone; see `CompiledForm.today_at`."""
    now: datetime | None
    """The instant, with an offset; null to formulas when left out."""
    event: Event
    entry_point: EntryPoint
    layout: str | None
    role: str | None
    stored: Mapping[str, object] | None
    """The values before an update."""
    touched: Collection[str]
    """The fields left, chosen or filled by a proposal since the record was opened; they count
    while typing only."""
    reasons: Mapping[str, Waiver | str] | None
    """Why warnings are passed, by rule."""
    proposals_applied: Collection[str]
    """The keys of the rules whose proposals were applied."""
    held: bool
    """Whether the record is on hold."""
    lookup: Lookup | None
    """The other records, as far as the caller knows them."""


def circumstances_of(asking: JudgeOptions) -> Circumstances:
    """What decides whether a rule counts; a new record at the desk where nothing else is said."""
    return Circumstances(
        asking["today"],
        asking.get("now"),
        asking.get("event", "create"),
        asking.get("entry_point", "desk"),
        asking.get("layout"),
        asking.get("role"),
    )
