"""Date-times are instants; only their day and their clock are those of the form's zone.

Around the changes of the clocks in Paris of 2026 (IANA time zone database: on 29 March from 02:00 to
03:00, on 25 October from 03:00 back to 02:00).
"""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from .conftest import TODAY, compiled_form, result

FIELDS = [
    {"key": "a", "type": "date_time"},
    {"key": "b", "type": "date_time"},
    {"key": "yes", "type": "yes_no"},
    {"key": "note", "type": "text"},
]
PARIS = ZoneInfo("Europe/Paris")
NEAR_A_CHANGE = st.one_of(
    *(
        st.integers(-7_200, 7_200).map(lambda s, at=at: at + timedelta(seconds=s))
        for at in (datetime(2026, 3, 29, 1, tzinfo=UTC), datetime(2026, 10, 25, 1, tzinfo=UTC))
    )
)


def said(must, **values):
    """Whether a condition holds of values, in Paris: true, false or None."""
    rule = {"kind": "cross_field", "targets": ["yes"], "must": f"({must}) or yes = false"}
    form = compiled_form(FIELDS, [rule], zone="Europe/Paris")
    verdict = form.judge({**values, "yes": True}, moment="save", today=TODAY)
    return {"satisfied": True, "violated": False}.get(result(verdict).status)


def written(instant):
    return instant.isoformat().replace("+00:00", "Z")


@given(NEAR_A_CHANGE, NEAR_A_CHANGE, st.integers(-48, 48))
def test_instants_are_compared_and_counted_in_utc(a, b, hours):
    values = {"a": written(a), "b": written(b)}
    assert said("a < b", **values) is (a < b)
    assert said("a = b", **values) is (a == b)
    apart = int(abs(b - a).total_seconds())
    assert said(f'abs(b - a) = duration("PT{apart}S")', **values) is True
    later = {"a": written(a), "b": written(a + timedelta(hours=hours))}
    sign = "-" if hours < 0 else ""
    assert said(f'a + duration("{sign}PT{abs(hours)}H") = b', **later) is True


@given(NEAR_A_CHANGE)
def test_the_clock_is_that_of_the_zone_also_after_a_day_was_added(a):
    there = (a + timedelta(hours=24)).astimezone(PARIS)
    assert said(f'(a + duration("PT24H")).hour = {there.hour}', a=written(a)) is True
    assert said(f'(a + duration("PT24H")).day = {there.day}', a=written(a)) is True


def test_a_month_later_the_clock_shows_the_same():
    winter = "2026-03-15T09:00:00Z"  # ten o'clock in Paris
    assert said('a + duration("P1M") = b', a=winter, b="2026-04-15T08:00:00Z") is True


def test_an_instant_that_was_stored_is_unchanged_however_it_is_written():
    rule = {"kind": "cross_field", "targets": ["note"], "must": 'changed.a = false or note = "x"'}
    form = compiled_form(FIELDS, [rule], zone="Europe/Paris")
    stored = {"a": "2026-10-25T00:30:00Z"}
    asked = {"moment": "save", "today": TODAY, "event": "update", "stored": stored}
    for entry, status in (
        ("2026-10-25T02:30:00+02:00", "satisfied"),
        ("2026-10-25 02:30+01:00", "violated"),
    ):
        assert result(form.judge({"a": entry, "note": "y"}, **asked)).status == status


def test_now_has_the_day_of_the_form():
    rule = {"kind": "derive", "targets": ["note"], "value": "string(date(now))"}
    form = compiled_form(FIELDS, [rule], zone="Pacific/Auckland")
    now = datetime(2026, 6, 11, 20, tzinfo=UTC)
    verdict = form.judge({}, moment="save", today=form.today_at(now), now=now)
    assert verdict.stores["note"] == "2026-06-12"


@pytest.mark.parametrize("zone", ["Pacific/Auckland", "America/Los_Angeles", "UTC"])
@pytest.mark.parametrize(
    "entry",
    ["0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "0001-01-01 00:30", "9999-12-31 23:30"],
)
def test_the_ends_of_time_are_read_or_are_faults(zone, entry):
    rule = {"kind": "cross_field", "targets": ["a"], "must": 'a + duration("P1D") > b'}
    form = compiled_form(FIELDS, [rule], zone=zone)
    for moment in ("entry", "save", "submit"):
        verdict = form.judge({"a": entry, "b": "2026-01-01T00:00:00Z"}, moment=moment, today=TODAY)
        assert verdict.fields["a"].value or verdict.fields["a"].fault or moment == "entry"
