"""Times, date-times and durations by ISO 8601, as DMN 1.4 spells them."""

import re
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta, timezone

_DURATION = re.compile(
    r"(-)?P(?:(\d{1,9})Y)?(?:(\d{1,9})M)?(?:(\d{1,9})D)?"
    r"(?:T(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9})(?:\.(\d{1,9}))?S)?)?",
    re.ASCII,
)
_TIME = re.compile(r"T?(\d{2}):(\d{2}):(\d{2})(?:\.(\d{1,9}))?(Z|[+-]\d{2}:\d{2})?", re.ASCII)
_DATE = re.compile(r"\d{4}-\d{2}-\d{2}", re.ASCII)
_MICROSECOND_DIGITS = 6


@dataclass(frozen=True, slots=True, order=True)
class Months:
    """A length of time in whole years and months, which no number of days can stand for."""

    count: int


def read_date(text: str) -> date | None:
    """`2026-06-11` and nothing else: the years from 1 to 9999; None where it is no such day."""
    try:
        return date.fromisoformat(text) if _DATE.fullmatch(text) else None
    except ValueError:
        return None


def read_time(text: str) -> time | None:
    """`23:59:00`, with a fraction, and an offset or Z; None where it is no such time."""
    found = _TIME.fullmatch(text)
    if not found:
        return None
    hour, minute, second = (int(part) for part in found.groups()[:3])
    micro = int((found[4] or "0").ljust(_MICROSECOND_DIGITS, "0")[:_MICROSECOND_DIGITS])
    try:
        return time(hour, minute, second, micro, (read_offset(found[5]) if found[5] else None))
    except ValueError:
        return None


def read_offset(text: str) -> timezone:
    """Read `Z`, `+02:00`, or `+00:53:28` as zones had before 1900.

    Raises ValueError for a day or more.
    """
    if text == "Z":
        return UTC
    size = timedelta(hours=int(text[1:3]), minutes=int(text[4:6]), seconds=int(text[7:9] or 0))
    return timezone(-size if text[0] == "-" else size)


def read_date_time(text: str) -> datetime | None:
    """`2026-06-11T10:00:00`, with an offset or Z where it has one; a day alone is its midnight."""
    written, _, rest = text.partition("T")
    day = read_date(written)
    clock = read_time(rest) if rest else time()
    return None if day is None or clock is None else datetime.combine(day, clock)


def read_duration(text: str) -> timedelta | Months | None:
    """`P1DT2H` or `P1Y8M`; None for anything else, or for a mixture of both."""
    found = _DURATION.fullmatch(text)
    if not found or text[-1] in "PT":
        return None
    sign = -1 if found[1] else 1
    years, months, days, hours, minutes, seconds = (int(part or 0) for part in found.groups()[1:7])
    exact = any(part is not None for part in found.groups()[3:])
    if not exact:
        return Months(sign * (12 * years + months))
    if found[2] or found[3]:
        return None
    micro = int((found[8] or "0").ljust(_MICROSECOND_DIGITS, "0")[:_MICROSECOND_DIGITS])
    try:
        return sign * timedelta(days, seconds, micro, 0, minutes, hours)
    except OverflowError:
        return None


def write_time(value: time) -> str:
    """ISO 8601, with Z for no offset from UTC."""
    return value.isoformat().replace("+00:00", "Z")


def write_date_time(value: datetime) -> str:
    """ISO 8601, with Z for no offset from UTC."""
    return value.isoformat().replace("+00:00", "Z")


def write_offset(value: datetime) -> str:
    """`+02:00`: the offset of a date-time that has one."""
    return value.isoformat()[len(value.replace(tzinfo=None).isoformat()) :]


def write_duration(value: timedelta | Months) -> str:
    """ISO 8601: the shortest spelling."""
    if isinstance(value, Months):
        years, months = divmod(abs(value.count), 12)
        body = (f"{years}Y" if years else "") + (f"{months}M" if months or not years else "")
        return f"{'-' if value.count < 0 else ''}P{body}"
    size = abs(value)
    minutes, seconds = divmod(size.seconds, 60)
    hours, minutes = divmod(minutes, 60)
    fraction = f".{size.microseconds:06}".rstrip("0") if size.microseconds else ""
    clock = "".join(f"{part}{sign}" for part, sign in ((hours, "H"), (minutes, "M")) if part) + (
        f"{seconds}{fraction}S" if seconds or fraction else ""
    )
    days = f"{size.days}D" if size.days else ""
    body = days + (f"T{clock}" if clock else "") or "T0S"
    return f"{'-' if value < timedelta(0) else ''}P{body}"
