"""Days, times and durations against general libraries: datetime, calendar and dateutil."""

import calendar
from datetime import UTC, date, datetime, time, timedelta, timezone
from decimal import Decimal

import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.functions.operations import add, divide, multiply, subtract
from thistlequartz.core.values import (
    Months,
    read_date_time,
    read_duration,
    read_time,
    write_date_time,
    write_duration,
    write_time,
)

days = st.dates(date(1000, 1, 1), date(3000, 1, 1))
months = st.integers(-5000, 5000)
offsets = st.none() | st.integers(-14 * 60, 14 * 60).map(lambda n: timezone(timedelta(minutes=n)))


@given(days, months)
def test_months_are_added_as_dateutil_adds_them(day, count):
    assert add(day, Months(count)) == day + relativedelta(months=count)


@given(days, days)
def test_months_between_two_days_are_those_of_dateutil(begin, end):
    later, sooner = max(begin, end), min(begin, end)
    gap = relativedelta(later, sooner)
    expected = gap.years * 12 + gap.months
    # dateutil counts the last day of a short month as a whole month; FEEL asks for the day itself.
    short = sooner.day > calendar.monthrange(later.year, later.month)[1] == later.day
    answer = FUNCTIONS["years and months duration"].body(sooner, later)
    assert answer == Months(expected - (1 if short and answer.count < expected else 0))
    assert FUNCTIONS["years and months duration"].body(later, sooner) == Months(-answer.count)


@given(days, st.integers(-10_000, 10_000))
def test_days_are_added_as_datetime_adds_them(day, count):
    length = timedelta(days=count)
    assert add(day, length) == day + length
    assert subtract(day, length) == day - length
    assert subtract(day + length, day) == length


@given(st.datetimes(timezones=st.just(UTC)), st.timedeltas(timedelta(0), timedelta(days=300)))
def test_moments_and_lengths_agree_with_datetime(moment, length):
    assert subtract(add(moment, length), length) == moment if moment.year < 9998 else True


@given(st.times(), st.timedeltas(timedelta(days=-3), timedelta(days=3)))
def test_a_clock_goes_round(clock, length):
    moved = (datetime.combine(date(2000, 1, 10), clock) + length).time()
    assert add(clock, length) == moved


@given(days)
def test_parts_of_a_day_are_those_of_the_calendar(day):
    assert FUNCTIONS["day of year"].body(day) == Decimal(f"{day:%j}")
    assert FUNCTIONS["day of week"].body(day) == f"{day:%A}"
    assert FUNCTIONS["month of year"].body(day) == f"{day:%B}"
    assert FUNCTIONS["week of year"].body(day) == day.isocalendar().week


@given(st.timedeltas() | months.map(Months))
def test_durations_are_read_as_they_are_written(length):
    assert read_duration(write_duration(length)) == length


@given(st.times(timezones=offsets), st.dates())
def test_times_are_read_as_they_are_written(clock, day):
    assert read_time(write_time(clock)) == clock
    moment = datetime.combine(day, clock)
    assert read_date_time(write_date_time(moment)) == moment


@pytest.mark.parametrize(
    "text", ["P", "PT", "P1", "1D", "P1Y1D", "P1DT", "PT1", "P-1D", "P1H", "PT1D", ""]
)
def test_what_is_no_duration(text):
    """ISO 8601, and DMN 1.4 clause 10.3.2.3.7: years and months stand apart from days."""
    assert read_duration(text) is None


@pytest.mark.parametrize("text", ["24:00:00", "10:60:00", "10:00", "1:00:00", "10:00:00+25:00", ""])
def test_what_is_no_time(text):
    """ISO 8601."""
    assert read_time(text) is None


@given(st.integers(-10_000, 10_000), st.integers(1, 400))
def test_a_multiple_divided_gives_back_what_was_multiplied(size, times):
    length = timedelta(seconds=size)
    assert divide(multiply(length, Decimal(times)), Decimal(times)) == length
    assert divide(multiply(Months(size), Decimal(times)), Decimal(times)) == Months(size)


def test_durations_are_scaled_and_compared_by_number():
    assert multiply(timedelta(hours=1), Decimal("1.5")) == timedelta(minutes=90)
    assert multiply(Months(5), Decimal(2)) == Months(10)
    assert divide(timedelta(days=1), timedelta(hours=6)) == 4
    assert divide(Months(12), Months(5)) == Decimal("2.4")
    assert divide(timedelta(days=1), Decimal(0)) is None
    assert add(time(10), Months(1)) is None
    assert add(date(9999, 12, 31), Decimal(1)) is None
