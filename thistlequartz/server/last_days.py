"""Last days, by the clock of a form."""

from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo


def end_of(last_day: date | None, zone: str) -> datetime | None:
    """The moment at which a last day is over, by the clock of a zone; None: there is none."""
    if last_day is None or last_day == date.max:
        return None
    after = datetime.combine(last_day + timedelta(days=1), time(), ZoneInfo(zone))
    return after.astimezone(UTC)
