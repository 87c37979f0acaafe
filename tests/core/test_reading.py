"""Reading what people type: kindly, exactly, and with a fault that says how to mend it."""

from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.values import (
    Choice,
    ChoiceType,
    DateType,
    Fault,
    NumberType,
    TextType,
    YesNoType,
    read_value,
    show_value,
    to_json,
)

KIND = ChoiceType((Choice("fern", "Fern"), Choice("moss", "Tufted moss")))
WHOLE, MONEY = NumberType(scale=0), NumberType(scale=2, unit="€")


@pytest.mark.parametrize(
    ("given_value", "type_", "value"),
    [
        ("  a b  ", TextType(), "a b"),
        ("e\u0301", TextType(), "é"),
        ("\u00a0", TextType(), None),
        (None, WHOLE, None),
        ("12.000", WHOLE, Decimal(12)),
        (12, WHOLE, Decimal(12)),
        (0.1, MONEY, Decimal("0.1")),
        ("1 000", WHOLE, Decimal(1000)),
        (".5", MONEY, Decimal("0.5")),
        ("+3", WHOLE, Decimal(3)),
        ("Yes", YesNoType(), True),
        (False, YesNoType(), False),
        ("fern", KIND, "fern"),
        ("TUFTED MOSS", KIND, "moss"),
        ("1 Feb 2024", DateType(), date(2024, 2, 1)),
        ("29. February 2024", DateType(), date(2024, 2, 29)),
    ],
)
def test_what_is_typed_is_read_as_meant(given_value, type_, value):
    read = read_value(given_value, type_)
    assert read == value
    assert type(read) is type(value)


@pytest.mark.parametrize(
    ("given_value", "type_", "words"),
    [
        ("1,5", MONEY, "write 1.5, with a point"),
        ("1.234", MONEY, "has more than 2 digits after the point: round it"),
        ("1.5", WHOLE, "is not a whole number: leave out what follows the point"),
        (True, WHOLE, "write digits, such as 12"),
        (float("nan"), WHOLE, "“nan” is not a number"),
        (float("inf"), WHOLE, "“inf” is not a number"),
        (10**40, WHOLE, "more than 34 digits: shorten it"),
        (["1"], WHOLE, "Several values were given where one is expected: give one."),
        ({}, TextType(), "Several values"),
        (5, TextType(), "A text is expected here"),
        ("x" * 20_001, TextType(), "shorten it to 20,000"),
        ("\ud800", TextType(), "holds half a character"),
        ("perhaps", YesNoType(), "neither yes nor no: choose one"),
        ("algae", KIND, "not among the choices: choose one of them"),
        ("11/06/2026", DateType(), "write it as 2026-06-11 or 11 June 2026"),
        ("31 April 2026", DateType(), "April 2026 has 30 days"),
        ("1 Smarch 2026", DateType(), "is not a date"),
    ],
)
def test_what_cannot_be_read_says_how_to_mend_it(given_value, type_, words):
    read = read_value(given_value, type_)
    assert isinstance(read, Fault)
    assert words in read.message


@given(
    st.decimals(
        allow_nan=False, allow_infinity=False, places=4, min_value=-(10**20), max_value=10**20
    )
)
def test_a_stored_number_is_read_back_as_it_was(number):
    stored = to_json(read_value(str(f"{number:f}"), NumberType()))
    assert read_value(stored, NumberType()) == number
    assert stored == to_json(read_value(stored, NumberType())), "the stored form is the only one"


@given(st.dates())
def test_a_day_is_read_back_from_both_ways_of_writing_it(day):
    assert read_value(to_json(day), DateType()) == day
    if day.year >= 1000:
        assert read_value(show_value(day), DateType()) == day


@pytest.mark.parametrize(
    ("value", "type_", "shown"),
    [
        (None, None, "blank"),
        (Decimal("-1234.5"), MONEY, "−1,234.5 €"),
        (Decimal(90), NumberType(unit="°"), "90°"),
        ("moss", KIND, "Tufted moss"),
        ("moss", TextType(), "“moss”"),
        (True, YesNoType(), "yes"),
        (date(2026, 6, 1), DateType(), "1 June 2026"),
    ],
)
def test_values_are_shown_as_people_write_them(value, type_, shown):
    assert show_value(value, type_) == shown
