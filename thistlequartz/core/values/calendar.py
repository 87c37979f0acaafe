"""Reading days, times of day and instants as people type them, and as ISO 8601 writes them."""

import calendar
import re
from datetime import UTC, date, datetime, time
from zoneinfo import ZoneInfo

from thistlequartz.core.translation import listed, tr

from .fault import Fault, quoted
from .instants import in_zone
from .month_names import MONTHS, SHORT_MONTHS
from .reading_settings import DateOrder
from .temporal import read_offset, write_offset

_MONTHS = {name.casefold(): n for n, name in enumerate(calendar.month_name) if name}
_MONTHS |= {name.casefold(): n for n, name in enumerate(calendar.month_abbr) if name}
_MONTHS["sept"] = 9
# Beside the English names those of the language that dates are shown in.
_MONTHS |= {name.casefold(): n for n, name in enumerate(MONTHS, 1)}
_MONTHS |= {name.casefold(): n for n, name in enumerate(SHORT_MONTHS, 1)}
_ISO = re.compile(r"([0-9]{4})([-/.])([0-9]{1,2})\2([0-9]{1,2})")
_DAY_FIRST = re.compile(r"([0-9]{1,2})(?:st|nd|rd|th)?\.?\s+([^\W\d_]+)\.?,?\s+([0-9]{4})")
_MONTH_FIRST = re.compile(r"([^\W\d_]+)\.?\s+([0-9]{1,2})(?:st|nd|rd|th)?,?\s+([0-9]{4})")
_NUMERIC = re.compile(r"([0-9]{1,2})([-/.])([0-9]{1,2})\2([0-9]{4})")
_SHORT_YEAR = re.compile(r"[0-9]{1,2}([-/.])[0-9]{1,2}\1[0-9]{2}")
_CLOCK = re.compile(
    r"([0-9]{1,2})(?:[:.h]([0-9]{2}))?(?:[:.]([0-9]{2})(?:[.,]([0-9]{1,6}))?)?\s*([ap])?\.?(m?)\.?",
    re.IGNORECASE,
)
_DATE_AND_TIME = re.compile(
    r"(.+?)(?:T|,?\s+(?:at\s+)?)([0-9]{1,2}(?:[:.h][0-9].*|\s*[ap]\.?m\.?))", re.IGNORECASE
)
_OFFSET = re.compile(r"(.*?)\s*(Z|[+-][0-9]{2}:[0-9]{2}(?::[0-9]{2})?)")
_MIDDAY = 12
_HOURS = 24


def read_date(given: object, order: DateOrder | None = None) -> date | Fault:
    """A day; where figures can be read two ways and `order` is None, a fault shows both."""
    if isinstance(given, datetime):
        given = given.date()
    if isinstance(given, date):
        return given
    text = str(given)
    if iso := _ISO.fullmatch(text):
        return _day(text, int(iso[1]), int(iso[3]), int(iso[4]))
    for pattern, day_at, month_at in ((_DAY_FIRST, 1, 2), (_MONTH_FIRST, 2, 1)):
        written = pattern.fullmatch(text)
        if written and written[month_at].casefold() in _MONTHS:
            month = _MONTHS[written[month_at].casefold()]
            return _day(text, int(written[3]), month, int(written[day_at]))
    if figures := _NUMERIC.fullmatch(text):
        return _from_figures(text, int(figures[1]), int(figures[3]), int(figures[4]), order)
    if _SHORT_YEAR.fullmatch(text):
        return Fault(tr("{text} has a year of two figures: write all four.", text=quoted(text)))
    return Fault(
        tr("{text} is not a date: write it as 2026-06-11 or 11 June 2026.", text=quoted(text))
    )


def _from_figures(
    text: str, first: int, second: int, year: int, order: DateOrder | None
) -> date | Fault:
    day_first, month_first = _day(text, year, second, first), _day(text, year, first, second)
    if order == "day_first":
        return day_first
    if order == "month_first":
        return month_first
    readings = {read for read in (day_first, month_first) if isinstance(read, date)}
    if len(readings) > 1:
        shown = tr(" or as ").join(
            f"{one.day} {MONTHS[one.month - 1]} {one.year}" for one in sorted(readings)
        )
        return Fault(
            tr(
                "{text} can be read as {shown}: write the month as a word.",
                text=quoted(text),
                shown=shown,
            )
        )
    return readings.pop() if readings else day_first


def _day(text: str, year: int, month: int, day: int) -> date | Fault:
    if year < 1 or not 1 <= month <= 12:
        return Fault(
            tr(
                "{text} does not exist: months run from 01 to 12, years from 0001.",
                text=quoted(text),
            )
        )
    last = calendar.monthrange(year, month)[1]
    if not 1 <= day <= last:
        named = f"{calendar.month_name[month]} {year}"
        return Fault(
            tr(
                "{text} does not exist: {named} has {last} days.",
                text=quoted(text),
                named=named,
                last=last,
            )
        )
    return date(year, month, day)


def read_clock(given: object) -> time | Fault:
    """A time of day without an offset: `14:30`, `14.30`, `2:30 pm`."""
    if isinstance(given, time):
        return given.replace(tzinfo=None)
    text = str(given)
    found = _CLOCK.fullmatch(text)
    if not found or (found[2] is None and found[5] is None) or (found[6] and not found[5]):
        return Fault(tr("{text} is not a time: write it as 14:30 or 2:30 pm.", text=quoted(text)))
    hour, minute, second = (int(part or 0) for part in found.groups()[:3])
    micro = int((found[4] or "0").ljust(6, "0"))
    half = (found[5] or "").casefold()
    if half and not 1 <= hour <= _MIDDAY:
        return Fault(
            tr("{text} does not exist: before and after noon, hours run to 12.", text=quoted(text))
        )
    if half:
        hour = hour % _MIDDAY + (_MIDDAY if half == "p" else 0)
    if hour >= _HOURS or minute > 59 or second > 59:
        return Fault(tr("{text} does not exist: times run from 00:00 to 23:59.", text=quoted(text)))
    return time(hour, minute, second, micro)


def read_instant(given: object, zone: str, order: DateOrder | None = None) -> datetime | Fault:
    """An instant in UTC. Without an offset it is a local time of `zone`, if there is just one."""
    if isinstance(given, datetime):
        return _in_utc(str(given), given, zone)
    text = str(given)
    split = _DATE_AND_TIME.fullmatch(text)
    if not split:
        remedy = tr("write it as 2026-06-11 14:30 or 11 June 2026, 14:30")
        return Fault(
            tr("{text} is not a date with a time: {remedy}.", text=quoted(text), remedy=remedy)
        )
    clock_text, offset = split[2], None
    if ending := _OFFSET.fullmatch(clock_text):
        clock_text = ending[1]
        try:
            offset = read_offset(ending[2])
        except ValueError:
            return Fault(
                tr(
                    "{text} has an offset that does not exist: write it as +02:00.",
                    text=quoted(text),
                )
            )
    day, clock = read_date(split[1].strip(), order), read_clock(clock_text.strip())
    if isinstance(day, Fault):
        return day
    if isinstance(clock, Fault):
        return clock
    return _in_utc(text, datetime.combine(day, clock, offset), zone)


def _in_utc(text: str, moment: datetime, zone: str) -> datetime | Fault:
    try:
        aware = moment.tzinfo is not None
        found = moment.astimezone(UTC) if aware else _local_in_utc(text, moment, zone)
        if not isinstance(found, Fault):
            in_zone(found, zone)  # what its own zone cannot show lies outside, too
        return found
    except OverflowError:
        return Fault(tr("{text} lies outside the years 0001 to 9999.", text=quoted(text)))


def _local_in_utc(text: str, local: datetime, zone: str) -> datetime | Fault:
    """The one instant of a local time; clocks being changed make some happen twice or never."""
    place = ZoneInfo(zone)
    early, late = (local.replace(tzinfo=place, fold=fold).astimezone(UTC) for fold in (0, 1))
    if early == late:
        return early
    if early.astimezone(place).replace(tzinfo=None) != local:
        return Fault(
            tr(
                "{text} does not exist in {zone}: the clocks were put forward then. Write a time "
                "before or after.",
                text=quoted(text),
                zone=zone,
            )
        )
    offsets = listed((write_offset(one.astimezone(place)) for one in (early, late)), "or")
    return Fault(
        tr(
            "{text} happens twice in {zone}, as the clocks were put back. Add which is meant: "
            "{offsets}.",
            text=quoted(text),
            zone=zone,
            offsets=offsets,
        )
    )
