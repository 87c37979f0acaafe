"""Fields of durations, exact and by the calendar.

Outside opinion: pydantic-core reads and writes ISO 8601 durations with a parser of its own. Worked
examples of months and years: FEEL, DMN 1.4, clause 10.3.2.3.7 and 10.3.4.7.
"""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from thistlequartz.core import compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.types import DaysType, MonthsType, read_canonical, read_value, show_value
from thistlequartz.core.values import Fault, Months, order_key, to_json
from thistlequartz.core.values.durations import LONGEST_DAYS, LONGEST_MONTHS

ISO = TypeAdapter(timedelta)
A_YEAR = timedelta(days=365)
LENGTHS = st.timedeltas(-A_YEAR, A_YEAR) | st.timedeltas(-LONGEST_DAYS, LONGEST_DAYS)
MONTHS = st.integers(-LONGEST_MONTHS, LONGEST_MONTHS).map(Months)


@given(LENGTHS)
def test_exact_durations_agree_with_another_reader_of_iso_8601(length):
    written = to_json(length)
    assert ISO.validate_python(written) == length
    if abs(length) < A_YEAR:  # to it a year is 365 days, which FEEL has not
        assert read_value(ISO.dump_python(length, mode="json"), DaysType()) == length


@given(LENGTHS)
def test_exact_durations_read_back_as_they_are_shown_and_stored(length):
    shown = show_value(length, DaysType())
    assert read_value(shown, DaysType()) == length, shown
    assert read_canonical(to_json(length), DaysType()) == length


@given(MONTHS)
def test_months_read_back_as_they_are_shown_and_stored(months):
    shown = show_value(months, MonthsType())
    assert read_value(shown, MonthsType()) == (months if months.count else Months(0)), shown
    assert read_canonical(to_json(months), MonthsType()) == months


@given(LENGTHS, LENGTHS)
def test_durations_sort_in_the_database_as_they_compare(one, other):
    keys = (order_key(one), order_key(other))
    assert None not in keys
    assert (keys[0] < keys[1]) == (one < other)


@pytest.mark.parametrize(
    ("typed", "hours"),
    [
        ("2 h 30 min", 2.5),
        ("2.5 h", 2.5),
        ("2,5 hours", 2.5),
        ("1 day, 2 hours and 30 minutes", 26.5),
        ("3 weeks", 504),
        ("pt90m", 1.5),
        ("−4h", -4),
    ],
)  # common practice
def test_durations_are_read_as_people_type_them(typed, hours):
    assert read_value(typed, DaysType("minute")) == timedelta(hours=hours)


@pytest.mark.parametrize(
    ("typed", "type_", "told"),
    [
        ("5", DaysType("minute"), "write a number with its unit, such as 2 days 4 hours"),
        ("5 m", DaysType("minute"), "is no duration"),  # minutes, or months?
        ("2 h 3 h", DaysType("minute"), "is no duration"),
        ("1 year", DaysType("minute"), "has months in it: write days and hours"),
        ("90 s", DaysType("minute"), "a part finer than minutes: round it"),
        ("P1YT3H", DaysType("minute"), "is no duration"),
        ("1 month 3 days", MonthsType(), "neither is a part of the other"),
        ("10 days", MonthsType(), "write years and months"),
        ("1.3 months", MonthsType(), "no whole number of months"),
        ("18 months", MonthsType("year"), "finer than years"),
        ("10000 years", MonthsType(), "longer than 9,999 years"),
        ("9999999999 days", DaysType(), "longer than 9,999 years"),
        ("1.234.5 h", DaysType(), "1.234.5"),
        (["P1D"], DaysType(), "Several values"),
        (True, DaysType(), "is no duration"),
    ],
)
def test_what_is_no_duration_is_refused_with_a_remedy(typed, type_, told):
    read = read_value(typed, type_)
    assert isinstance(read, Fault)
    assert told in read.message


@pytest.mark.parametrize("sent", ["PT24H", "1 day", "P0Y", "pt1m", "P1Y12M"])
def test_one_spelling_is_canonical(sent):
    type_ = MonthsType() if "Y" in sent else DaysType()
    read = read_canonical(sent, type_)
    assert isinstance(read, Fault)
    assert "not in canonical form" in read.message


def form(*rules, fields):
    fields = [{"label": one["key"].capitalize(), **one} for one in fields]
    rules = [
        {
            "key": f"r{place}",
            "name": f"Rule {place}",
            **({} if one["kind"] == "derive" else {"severity": {"save": "block"}}),
            **one,
        }
        for place, one in enumerate(rules)
    ]
    document = {
        "forms": [{"key": "f", "name": "F", "fields": fields, "rules": rules}],
        "version": 2,
    }
    return compile_ruleset(RuleSet.model_validate(document), form="f")


def statuses(compiled, values):
    verdict = compiled.judge(values, moment="save", today=date(2026, 6, 12))
    return [one.status for one in verdict.results]


def test_rules_bound_compare_and_derive_durations():
    compiled = form(
        {
            "kind": "range",
            "targets": ["kept"],
            "lower": {"value": "1 h"},
            "upper": {"value": "P2D"},
        },
        {"kind": "cross_field", "targets": ["kept"], "must": "kept <= until - since"},
        {"kind": "derive", "targets": ["age"], "value": "years and months duration(since, until)"},
        {"kind": "cross_field", "targets": ["until"], "must": "since + term = until"},
        fields=[
            {"key": "since", "type": "date"},
            {"key": "until", "type": "date"},
            {"key": "kept", "type": "duration", "finest": "hour"},
            {"key": "age", "type": "duration", "finest": "month"},
            {"key": "term", "type": "duration", "finest": "month"},
        ],
    )
    values = {"since": "2025-01-31", "until": "2025-02-28", "kept": "26 h", "term": "1 month"}
    # The last day of a shorter month: clause 10.3.2.3.7.
    assert statuses(compiled, values) == ["satisfied"] * 4
    long = {**values, "kept": "P30D", "term": "P2M"}
    assert statuses(compiled, long) == ["violated", "violated", "satisfied", "violated"]
    # The thirteenth month is not whole: clause 10.3.4.7.
    settled = compiled.judge(
        {**values, "until": "2026-02-28", "term": "P13M"}, moment="save", today=date(2026, 6, 12)
    )
    assert settled.stores["age"] == Months(12)


def test_a_derived_duration_that_is_finer_than_its_field_is_blank():
    compiled = form(
        {"kind": "derive", "targets": ["took"], "value": "end - begin"},
        fields=[
            {"key": "begin", "type": "time"},
            {"key": "end", "type": "time"},
            {"key": "took", "type": "duration", "finest": "hour"},
        ],
    )
    for end, took in (("12:00", timedelta(hours=3)), ("12:30", None)):
        verdict = compiled.judge(
            {"begin": "09:00", "end": end}, moment="save", today=date(2026, 6, 12)
        )
        assert verdict.stores.get("took") == took
