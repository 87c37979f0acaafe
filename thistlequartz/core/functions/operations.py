"""What FEEL's operators do to values (DMN 1.4, clause 10.3.2): null where they cannot."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from decimal import Decimal
from typing import Any, Final

from thistlequartz.core.values import ARITHMETIC, Months, ZoneOffset, at_clock, moved

from .work import spend

UNREADABLE: Final = object()
"""Stands for a value that could not be read; whatever compares it is null."""
MAX_TEXT: Final = 1_000_000
"""Characters that a text may grow to."""
_MICROSECONDS = 1_000_000
_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class RangeValue:
    """A range as a value of its own."""

    low: Any
    high: Any
    low_included: bool
    high_included: bool

    def contains(self, value: Any) -> bool | None:
        """Whether `value` lies in the range; null where they have no common order."""
        above = compare(">=" if self.low_included else ">", value, self.low)
        below = compare("<=" if self.high_included else "<", value, self.high)
        return all_true((above, below))


def finite(number: Decimal) -> Decimal | None:
    """`number`, or null where it is beyond all bounds."""
    return number if number.is_finite() else None


def in_microseconds(length: timedelta) -> int:
    """An exact duration as a whole number of microseconds."""
    return (length.days * 86_400 + length.seconds) * _MICROSECONDS + length.microseconds


def add(a: Any, b: Any) -> Any:
    """`a + b` for numbers, texts, durations, and a duration with a date or time."""
    match a, b:
        case Decimal(), Decimal():
            return finite(ARITHMETIC.add(a, b))
        case str(), str():
            return a + b if len(a) + len(b) <= MAX_TEXT else None
        case timedelta(), timedelta():
            return a + b
        case Months(), Months():
            return Months(a.count + b.count)
        case ((date() | time()), (timedelta() | Months())):
            return _moved(a, b)
        case ((timedelta() | Months()), (date() | time())):
            return _moved(b, a)
        case _:
            return None


def subtract(a: Any, b: Any) -> Any:
    """`a - b` for numbers and durations, between two dates or times, and of a duration from one."""
    match a, b:
        case Decimal(), Decimal():
            return finite(ARITHMETIC.subtract(a, b))
        case timedelta(), timedelta():
            return a - b
        case Months(), Months():
            return Months(a.count - b.count)
        case ((date() | time()), (timedelta() | Months())):
            return _moved(a, negate(b))
        case time(), time():
            return (
                since_midnight(a) - since_midnight(b)
                if (a.tzinfo is None) == (b.tzinfo is None)
                else None
            )
        case datetime(), datetime():
            one, other = _in_one_zone(a, b)
            return one - other
        case (datetime(), date()) | (date(), datetime()):
            return subtract(_at_midnight(a, b), _at_midnight(b, a))
        case date(), date():
            return a - b
        case _:
            return None


def _at_midnight(day: date, beside: date) -> datetime:
    """A date beside a date-time stands for its midnight in UTC (clause 10.3.2.13, table 58)."""
    if isinstance(day, datetime):
        return day
    aware = isinstance(beside, datetime) and beside.tzinfo is not None
    return datetime.combine(day, time(), tzinfo=UTC if aware else None)


def since_midnight(value: time) -> timedelta:
    """How long after midnight, of UTC where it has an offset."""
    offset = value.utcoffset() or timedelta(0)
    return (
        timedelta(
            hours=value.hour,
            minutes=value.minute,
            seconds=value.second,
            microseconds=value.microsecond,
        )
        - offset
    )


def _moved(value: date | time, by: timedelta | Months) -> Any:
    if isinstance(value, time):
        if isinstance(by, Months):
            return None
        clock = datetime(2000, 1, 1, value.hour, value.minute, value.second, value.microsecond)
        return (clock + by % _DAY).time().replace(tzinfo=value.tzinfo)
    if isinstance(by, Months):
        there = _moved_by_months(value, by.count)
        zone = getattr(value, "tzinfo", None)
        if isinstance(there, datetime) and isinstance(zone, ZoneOffset):
            return at_clock(there.replace(tzinfo=None), zone.zone)
        return there
    if isinstance(value, datetime):
        return moved(value, by)
    return (datetime.combine(value, time()) + by).date()


def _moved_by_months(value: date, count: int) -> date:
    """The same day so many months on; the month's last day where it is too short."""
    months = value.year * 12 + value.month - 1 + count
    year, month = divmod(months, 12)
    for day in range(value.day, 27, -1):
        try:
            return value.replace(year=year, month=month + 1, day=day)
        except ValueError:
            continue
    return value.replace(year=year, month=month + 1)


def multiply(a: Any, b: Any) -> Any:
    """`a * b` for numbers, and a number with a duration."""
    match a, b:
        case Decimal(), Decimal():
            return finite(ARITHMETIC.multiply(a, b))
        case timedelta(), Decimal():
            return timedelta(microseconds=int(ARITHMETIC.multiply(in_microseconds(a), b)))
        case Months(), Decimal():
            return Months(int(ARITHMETIC.multiply(a.count, b)))
        case Decimal(), (timedelta() | Months()):
            return multiply(b, a)
        case _:
            return None


def divide(a: Any, b: Any) -> Any:
    """`a / b` for numbers, a duration by a number, and two durations of a kind; by zero null."""
    match a, b:
        case Decimal(), Decimal():
            return finite(ARITHMETIC.divide(a, b))
        case timedelta(), timedelta():
            return divide(Decimal(in_microseconds(a)), Decimal(in_microseconds(b)))
        case Months(), Months():
            return divide(Decimal(a.count), Decimal(b.count))
        case (timedelta(), Decimal()) if b != 0:
            return timedelta(microseconds=int(ARITHMETIC.divide(in_microseconds(a), b)))
        case (Months(), Decimal()) if b != 0:
            return Months(int(ARITHMETIC.divide(a.count, b)))
        case _:
            return None


def power(a: Any, b: Any) -> Any:
    """`a ** b` for numbers."""
    if not isinstance(a, Decimal) or not isinstance(b, Decimal):
        return None
    if not b:
        return Decimal(1)  # of 0 too: IEEE 754-2008, clause 9.2.1
    return finite(ARITHMETIC.power(a, b))


def negate(a: Any) -> Any:
    """`-a` for numbers and durations."""
    match a:
        case Decimal():
            return ARITHMETIC.minus(a)
        case timedelta():
            return -a
        case Months():
            return Months(-a.count)
        case _:
            return None


def equal(a: Any, b: Any) -> bool | None:
    """Equality is never null for readable values; blank equals only blank."""
    if a is UNREADABLE or b is UNREADABLE:
        return None
    if isinstance(a, list) and isinstance(b, list):
        if len(a) != len(b):
            return False
        spend(len(a))
        return all_true(equal(x, y) for x, y in zip(a, b, strict=True))
    if isinstance(a, dict) and isinstance(b, dict):
        if a.keys() != b.keys():
            return False
        spend(len(a))
        return all_true(equal(value, b[key]) for key, value in a.items())
    if isinstance(a, datetime) and isinstance(b, datetime):
        a, b = _in_one_zone(a, b)
    return type(a) is type(b) and bool(a == b)


def _in_one_zone(a: datetime, b: datetime) -> tuple[datetime, datetime]:
    """A date-time without an offset is a local time where the other one is taken."""
    if a.tzinfo is None and b.tzinfo is not None:
        return _there(a, b.tzinfo), b
    if b.tzinfo is None and a.tzinfo is not None:
        return a, _there(b, a.tzinfo)
    return a, b


def _there(local: datetime, zone: tzinfo) -> datetime:
    return (
        at_clock(local, zone.zone) if isinstance(zone, ZoneOffset) else local.replace(tzinfo=zone)
    )


def unequal(a: Any, b: Any) -> bool | None:
    """The opposite of equal."""
    same = equal(a, b)
    return None if same is None else not same


_ORDERED = (Decimal, str, date, datetime, time, timedelta, Months)


def _ordered(order: Callable[[Any, Any], bool]) -> Callable[[Any, Any], bool | None]:
    def ordered(a: Any, b: Any) -> bool | None:
        if type(a) is not type(b) or not isinstance(a, _ORDERED):
            return None
        try:
            if isinstance(a, datetime):
                a, b = _in_one_zone(a, b)
            return order(a, b)
        except TypeError:  # one of two times has an offset, the other none
            return None

    return ordered


COMPARISONS: dict[str, Callable[[Any, Any], bool | None]] = {
    "=": equal,
    "!=": unequal,
    "<": _ordered(lambda a, b: a < b),
    "<=": _ordered(lambda a, b: a <= b),
    ">": _ordered(lambda a, b: a > b),
    ">=": _ordered(lambda a, b: a >= b),
}


def compare(sign: str, a: Any, b: Any) -> bool | None:
    """One of the six comparisons."""
    return COMPARISONS[sign](a, b)


def all_true(parts: Any) -> bool | None:
    """Kleene's `and` over many parts; what is not a truth value counts as null."""
    result: bool | None = True
    for part in parts:
        if part is False:
            return False
        if part is not True:
            result = None
    return result


def any_true(parts: Any) -> bool | None:
    """Kleene's `or` over many parts; what is not a truth value counts as null."""
    result: bool | None = False
    for part in parts:
        if part is True:
            return True
        if part is not False:
            result = None
    return result


def property_of(value: Any, name: str) -> Any:
    """A property of a date, time, duration or range, or an entry of a context (clause 10.3.2.6)."""
    match value:
        case dict():
            return value.get(name)
        case RangeValue():
            return {
                "start": value.low,
                "end": value.high,
                "start included": value.low_included,
                "end included": value.high_included,
            }.get(name)
        case Months():
            years, months = divmod(abs(value.count), 12)
            sign = -1 if value.count < 0 else 1
            return _number({"years": sign * years, "months": sign * months}.get(name))
        case timedelta():
            return _duration_part(value, name)
        case date() | time():
            return _temporal_part(value, name)
        case _:
            return None


def _number(value: int | None) -> Decimal | None:
    return None if value is None else Decimal(value)


def _duration_part(value: timedelta, name: str) -> Decimal | None:
    size, sign = abs(value), -1 if value < timedelta(0) else 1
    if name == "seconds":
        seconds = Decimal(size.seconds % 60) + Decimal(size.microseconds) / _MICROSECONDS
        return sign * seconds
    parts = {"days": size.days, "hours": size.seconds // 3600, "minutes": size.seconds // 60 % 60}
    return _number(sign * parts[name] if name in parts else None)


def _temporal_part(value: date | time, name: str) -> Any:
    if name == "weekday":
        return Decimal(value.isoweekday()) if isinstance(value, date) else None
    if name == "time offset":
        return value.utcoffset() if isinstance(value, time | datetime) else None
    if name in ("year", "month", "day", "hour", "minute", "second"):
        return _number(getattr(value, name, None))
    return None
