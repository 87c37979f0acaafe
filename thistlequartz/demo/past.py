"""The past months at Quillhaven: what was stored when, by whom, at which entry point.

The same for the same seed and the same day.
"""

import random
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final

from thistlequartz.core.ruleset import EntryPoint

from .records import FAULTS, Values, values_of

BEGAN: Final = timedelta(days=180)
"""How long ago the first releases were made."""
RELEASED_AGAIN: Final = timedelta(days=80)
"""How long ago the second release was, of the form that has one."""
FIRST_DAYS: Final = 64
"""Records that one clerk stored at the desk, before anybody else did; they still wait."""
LEARNED: Final = 0.7
"""The share of slips that are not made any more after a second release."""
RETRIED: Final = 0.8
"""The share of refused records that are corrected at once and tried again."""
APPROVED: Final = 0.7
"""Of what was submitted, after the first days."""
REASONS: Final = (
    "Checked against the sheet.",
    "The label says so.",
    "Confirmed by the keeper.",
    "Old entry, taken over as it was.",
)
_ENTRY_POINTS: Final[tuple[tuple[EntryPoint, int], ...]] = (
    ("desk", 16),
    ("handheld", 3),
    ("import", 1),
)


@dataclass(frozen=True, slots=True)
class PastRecord:
    """A record that somebody wanted to store."""

    values: Values
    corrected: Values
    """The same as it would be tried again."""
    submit: bool
    retried: bool
    approved: bool
    """Whether an approver let it pass, where it was submitted."""
    reason: str
    """Given where a warning asks for one."""
    who: str
    """The name that is signed in with."""
    entry_point: EntryPoint
    at: datetime


def at_work(moment: datetime) -> datetime:
    """The same part of a working day, from eight to six, as `moment` is of its whole day."""
    midnight = moment.replace(hour=0, minute=0, second=0, microsecond=0)
    return midnight + timedelta(hours=8) + (moment - midnight) * 10 / 24


def past_of(
    form: str,
    seed: int,
    count: int,
    now: datetime,
    again: datetime | None = None,
    faults: float = FAULTS,
) -> Iterator[PastRecord]:
    """Return `count` records in the order of their days, from half a year ago up to `now`.

    After `again`, when the form was released a second time, fewer slips are made.
    """
    chance = random.Random(f"the past of {form} {seed}")  # noqa: S311 - made-up data
    begin = now - BEGAN
    step = BEGAN / max(count, 1)
    entry_points, weights = zip(*_ENTRY_POINTS, strict=True)
    for place, one in enumerate(values_of(form, seed, count, faults)):
        at = min(at_work(begin + step * (place + chance.random() * 0.9)), now)
        early = place < FIRST_DAYS
        learned = again is not None and at >= again and chance.random() < LEARNED
        yield PastRecord(
            values=one.clean if learned else one.values,
            corrected=one.clean,
            submit=one.submit,
            retried=not early and chance.random() < RETRIED,
            approved=not early and chance.random() < APPROVED,
            reason=chance.choice(REASONS),
            who="clerk" if early or chance.random() < 0.75 else "approver",
            entry_point="desk" if early else chance.choices(entry_points, weights)[0],
            at=at,
        )
