"""A request to judge one record: all that its verdict depends on beside the form."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Required, TypedDict

from thistlequartz.core.ruleset import EntryPoint, Event

from .circumstances import Circumstances
from .entry_reader import ReadRecord
from .other_records.port import Lookup
from .verdicts.verdict import Waiver


@dataclass(frozen=True, slots=True)
class JudgeRequest:
    """A record to judge, when, where and by whom, and what was decided while it was filled in."""

    values: Mapping[str, object] | ReadRecord
    """By field, as typed or as JSON carries them. Of a record that is read already, `stored` and
    `lookup` belong to that reading.
    """
    circumstances: Circumstances
    stored: Mapping[str, object] | None = None
    """The values before an update."""
    lookup: Lookup | None = None
    """The other records, as far as the caller knows them."""
    touched: frozenset[str] = frozenset()
    """The fields left, chosen or filled by a proposal since the record was opened; they count
    while typing only.
    """
    waivers: Mapping[str, Waiver | str] | None = None
    """Reasons for passing warnings, by rule."""
    applied: tuple[str, ...] = ()
    """The rules whose proposals were applied."""
    held: bool = False
    """Whether the record is on hold."""


class JudgeOptions(TypedDict, total=False):
    """A JudgeRequest by keywords, for calls that name little."""

    today: Required[date]
    now: datetime | None
    event: Event
    entry_point: EntryPoint
    layout: str | None
    role: str | None
    stored: Mapping[str, object] | None
    lookup: Lookup | None
    touched: Collection[str]
    reasons: Mapping[str, Waiver | str] | None
    proposals_applied: Collection[str]
    held: bool


def request_of(values: Mapping[str, object] | ReadRecord, options: JudgeOptions) -> JudgeRequest:
    """Return the request that keywords describe."""
    return JudgeRequest(
        values,
        circumstances_of(options),
        stored=options.get("stored"),
        lookup=options.get("lookup"),
        touched=frozenset(options.get("touched", ())),
        waivers=options.get("reasons"),
        applied=tuple(options.get("proposals_applied", ())),
        held=options.get("held", False),
    )


def circumstances_of(options: JudgeOptions) -> Circumstances:
    """Return the circumstances of keywords; by default a new record at the desk."""
    return Circumstances(
        options["today"],
        options.get("now"),
        options.get("event", "create"),
        options.get("entry_point", "desk"),
        options.get("layout"),
        options.get("role"),
    )
