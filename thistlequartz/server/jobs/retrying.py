"""Trying again what failed: after waits that grow, and not for ever."""

from datetime import datetime, timedelta
from typing import Final

WAITS: Final = tuple(timedelta(minutes=minutes) for minutes in (0.25, 1, 5, 30, 120, 480))
"""Before the second attempt, the third, and so on."""


def next_attempt(attempts: int, now: datetime) -> datetime | None:
    """When to try again after so many attempts; None: no more."""
    return now + WAITS[attempts - 1] if attempts <= len(WAITS) else None
