"""Instants as the clock of a zone shows them.

Python compares and counts two date-times of one zone by their wall clocks, which is wrong around a
change of the clocks. So an instant carries the offset that its zone has then: it is compared and
counted as an instant, and shows the day and the clock of its zone.
"""

from datetime import UTC, datetime, timedelta, tzinfo
from functools import lru_cache
from zoneinfo import ZoneInfo


class ZoneOffset(tzinfo):
    """The offset that a zone has at one instant; at another it may have another."""

    def __init__(self, zone: str, offset: timedelta) -> None:
        self.zone = zone
        self._offset = offset

    def utcoffset(self, when: datetime | None) -> timedelta:
        """The offset, whenever."""
        return self._offset

    def dst(self, when: datetime | None) -> None:
        """Not known apart from the offset."""

    def tzname(self, when: datetime | None) -> str:
        """The zone."""
        return self.zone


@lru_cache(maxsize=1_024)
def _offset_of(zone: str, offset: timedelta) -> ZoneOffset:
    return ZoneOffset(zone, offset)


def in_zone(instant: datetime, zone: str) -> datetime:
    """Return `instant` (with an offset) on the clock of `zone`.

    Raises OverflowError outside the years 1 to 9999.
    """
    there = instant.astimezone(ZoneInfo(zone))
    offset = there.utcoffset()
    assert offset is not None
    return there.replace(tzinfo=_offset_of(zone, offset), fold=0)


def at_clock(local: datetime, zone: str) -> datetime:
    """Return the instant at which the clock of `zone` shows `local` (without an offset).

    The first where there are two; where there is none, the one as far on.
    """
    return in_zone(local.replace(tzinfo=ZoneInfo(zone), fold=0).astimezone(UTC), zone)


def moved(instant: datetime, by: timedelta) -> datetime:
    """So much later, as an instant, as the clock of the same zone shows it."""
    later = instant + by
    zone = instant.tzinfo
    return in_zone(later, zone.zone) if isinstance(zone, ZoneOffset) else later
