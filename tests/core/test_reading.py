"""Reading what people type: kindly, exactly, and with a fault that says how to correct it."""

import json
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from typing import get_args
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.judging import GENERATED_FROM
from thistlequartz.core.types import (
    NOT_CANONICAL,
    Choice,
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    YesNoType,
    read_canonical,
    read_value,
    show_value,
)
from thistlequartz.core.values import (
    PLAIN,
    DateStyle,
    Fault,
    NumberStyle,
    ReadingSettings,
    WritingStyle,
    normalised,
    to_json,
)

from .conftest import compiled_form

KIND = ChoiceType((Choice("fern", "Fern"), Choice("moss", "Tufted moss")))
KINDS = [{"code": one.code, "label": one.label} for one in KIND.choices]
SEVERAL = ChoicesType(KIND.choices)
BERLIN = DateTimeType("Europe/Berlin")
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
        ("June 11th, 2026", DateType(), date(2026, 6, 11)),
        ("13/6/2026", DateType(), date(2026, 6, 13)),
        ("2026/6/11", DateType(), date(2026, 6, 11)),
        ("1,5", MONEY, Decimal("1.5")),
        ("80 000", MONEY, Decimal(80000)),
        ("80,000.00", MONEY, Decimal(80000)),
        ("€ 1.250,50", MONEY, Decimal("1250.5")),
        ("1'250.50 €", MONEY, Decimal("1250.5")),
        ("1,234,567", MONEY, Decimal(1234567)),
        ("1.234.567", MONEY, Decimal(1234567)),
        ("50,000", WHOLE, Decimal(50000)),
        ("14:30", TimeType(), time(14, 30)),
        ("2:30 pm", TimeType(), time(14, 30)),
        ("12 a.m.", TimeType(), time(0)),
        ("9h05", TimeType(), time(9, 5)),
        ("10:30:15.25", TimeType(), time(10, 30, 15, 250_000)),
        ("2026-06-11 14:30", BERLIN, datetime(2026, 6, 11, 12, 30, tzinfo=UTC)),
        ("11 June 2026 at 2:30 pm", BERLIN, datetime(2026, 6, 11, 12, 30, tzinfo=UTC)),
        ("2026-06-11T14:30:00Z", BERLIN, datetime(2026, 6, 11, 14, 30, tzinfo=UTC)),
        ("2026-10-25T02:30+01:00", BERLIN, datetime(2026, 10, 25, 1, 30, tzinfo=UTC)),
        (["moss", "Fern", "fern", ""], SEVERAL, ("fern", "moss")),
        ("tufted moss; fern", SEVERAL, ("fern", "moss")),
        ([], SEVERAL, None),
        (17, ReferenceType("loan"), "17"),
    ],
)
def test_what_is_typed_is_read_as_meant(given_value, type_, value):
    read = read_value(given_value, type_)
    assert read == value
    assert type(read) is type(value)


@pytest.mark.parametrize(
    ("given_value", "type_", "words"),
    [
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
        ("\ud800", TextType(), "has half a character"),
        ("perhaps", YesNoType(), "neither yes nor no: choose one"),
        ("algae", KIND, "not among the choices: choose one of them"),
        ("11/06/2026", DateType(), "as 11 June 2026 or as 6 November 2026: write the month"),
        ("11/6/26", DateType(), "a year of two figures: write all four"),
        ("the 11th", DateType(), "write it as 2026-06-11 or 11 June 2026"),
        ("32/12/2026", DateType(), "December 2026 has 31 days"),
        ("1,500", MONEY, "can be read as 1500 or as 1.500: write it without a comma"),
        ("1.2.3", MONEY, "is not a number"),
        ("1,50,000", MONEY, "is not a number"),
        ("25:00", TimeType(), "times run from 00:00 to 23:59"),
        ("13 pm", TimeType(), "hours run to 12"),
        ("10", TimeType(), "write it as 14:30 or 2:30 pm"),
        ("2026-06-11", BERLIN, "write it as 2026-06-11 14:30"),
        ("2026-02-30 10:00", BERLIN, "February 2026 has 28 days"),
        ("2026-06-11 10:00+25:00", BERLIN, "an offset that does not exist"),
        ("29 March 2026, 02:30", BERLIN, "does not exist in Europe/Berlin"),
        ("25 October 2026, 02:30", BERLIN, "happens twice in Europe/Berlin"),
        ("25 October 2026, 02:30", BERLIN, "Add which is meant: +02:00 or +01:00."),
        ("0001-01-01 00:30+05:00", BERLIN, "outside the years 0001 to 9999"),
        (["fern", "algae"], SEVERAL, "“algae” is not among the choices"),
        ({"fern": True}, SEVERAL, "A list of choices is expected here"),
        ([["fern"]], SEVERAL, "Several values were given where one is expected"),
        ("31 April 2026", DateType(), "April 2026 has 30 days"),
        ("1 Smarch 2026", DateType(), "is not a date"),
    ],
)
def test_what_cannot_be_read_says_how_to_mend_it(given_value, type_, words):
    read = read_value(given_value, type_)
    assert isinstance(read, Fault)
    assert words in read.message


@pytest.mark.parametrize(
    ("given_value", "type_", "settings", "value"),
    [
        ("1.250", MONEY, ReadingSettings(decimal_mark="comma"), Decimal(1250)),
        ("1,500", MONEY, ReadingSettings(decimal_mark="comma"), Decimal("1.5")),
        ("1,500", MONEY, ReadingSettings(decimal_mark="point"), Decimal(1500)),
        ("11.06.2026", DateType(), ReadingSettings(date_order="day_first"), date(2026, 6, 11)),
        ("11/06/2026", DateType(), ReadingSettings(date_order="month_first"), date(2026, 11, 6)),
        ("  a \u2003 b ", TextType(), ReadingSettings(collapse=True), "a b"),
        ("  a  b ", TextType(), ReadingSettings(trim=False), "  a  b "),
        ("  a  b ", TextType(), ReadingSettings(trim=False, collapse=True), "  a b "),
        (" \u00a0 ", TextType(), ReadingSettings(trim=False), None),
        ("qh-P", TextType(), ReadingSettings(letter_case="upper"), "QH-P"),
        ("QH-p", TextType(), ReadingSettings(letter_case="lower"), "qh-p"),
    ],
)
def test_a_fields_own_settings_decide_how_it_is_read(given_value, type_, settings, value):
    assert read_value(given_value, type_, settings) == value


@given(st.text(), st.booleans(), st.booleans(), st.sampled_from([None, "upper", "lower"]))
def test_normalising_what_is_normalised_changes_nothing(text, trim, collapse, letter_case):
    settings = ReadingSettings(trim=trim, collapse=collapse, letter_case=letter_case)
    once = normalised(text, settings)
    assert normalised(once, settings) == once


@given(st.datetimes(), st.sampled_from(["Europe/Berlin", "America/New_York", "Asia/Kathmandu"]))
def test_an_instant_is_stored_in_utc_and_read_back(local, zone):
    """Against the standard library's zones: a local time that is read is what that zone shows."""
    read = read_value(local.isoformat(sep=" "), DateTimeType(zone))
    assert read is not None
    if isinstance(read, Fault):
        assert any(words in read.message for words in ("not exist", "twice", "outside"))
    else:
        assert read.astimezone(ZoneInfo(zone)).replace(tzinfo=None) == local
        assert read_value(to_json(read), DateTimeType(zone)) == read


@given(
    st.decimals(
        allow_nan=False, allow_infinity=False, places=4, min_value=-(10**20), max_value=10**20
    )
)
def test_a_stored_number_is_read_back_as_it_was(number):
    stored = to_json(read_value(str(f"{number:f}"), NumberType()))
    assert read_value(stored, NumberType()) == number
    assert stored == to_json(read_value(stored, NumberType())), "the stored form is the only one"


@given(st.dates(), st.sampled_from(get_args(DateStyle)))
def test_a_day_is_read_back_from_every_way_of_writing_it(day, style):
    assert read_value(to_json(day), DateType()) == day
    assert read_value(show_value(day, style=WritingStyle(style)), DateType()) == day


@settings(max_examples=few(100))
@given(
    st.datetimes(timezones=st.just(UTC)), st.sampled_from(get_args(DateStyle)),
    st.sampled_from(["UTC", "Europe/Berlin", "America/St_Johns", "Australia/Lord_Howe"]),
    st.sampled_from([None, datetime(2026, 10, 25, 0, 30, tzinfo=UTC), datetime(2026, 11, 1, 4, 15, tzinfo=UTC)]),
)  # fmt: skip
def test_an_instant_is_read_back_from_every_way_of_writing_it(instant, style, zone, near):
    """Also in the hour that comes twice when the clocks of a zone are put back."""
    if near is not None:
        instant = near + timedelta(minutes=instant.minute * 4)
    type_ = DateTimeType(zone)
    if isinstance(read_value(to_json(instant), type_), Fault):
        return  # no day of that zone
    shown = show_value(instant, type_, WritingStyle(style))
    assert read_value(shown, type_) == instant
    assert read_value(show_value(instant.time()), TimeType()) == instant.time()


@given(
    st.decimals(allow_nan=False, allow_infinity=False, places=4, min_value=-(10**12), max_value=10**12),
    st.sampled_from(get_args(NumberStyle)),
)  # fmt: skip
def test_a_number_is_read_back_by_the_marks_it_is_shown_with(number, style):
    mark = "comma" if style.endswith(",5") else "point"
    shown = show_value(number, MONEY, WritingStyle(numbers=style))
    assert read_value(shown, NumberType(unit="€"), ReadingSettings(decimal_mark=mark)) == number


@pytest.mark.parametrize(
    ("sent", "type_", "meant"),
    [
        ("1,234.5", MONEY, '"1234.5"'), ("07", WHOLE, '"7"'), (" 7 ", WHOLE, '"7"'), ("7.0", WHOLE, '"7"'),
        (Decimal("7.0"), WHOLE, '"7"'), (Decimal("1E+3"), WHOLE, '"1000"'), ("11 June 2026", DateType(), '"2026-06-11"'),
        ("2026-6-1", DateType(), '"2026-06-01"'), ("14.30", TimeType(), '"14:30:00"'),
        ("2026-06-11T14:30:00+02:00", BERLIN, '"2026-06-11T12:30:00Z"'), ("yes", YesNoType(), "true"),
        ("Tufted moss", KIND, '"moss"'), ("MOSS", KIND, '"moss"'), ("fern;moss", SEVERAL, '["fern", "moss"]'),
        ("007", ReferenceType("other"), '"7"'), ("", WHOLE, "null"),
    ],
)  # fmt: skip
def test_noncanonical_spelling_is_refused_with_the_canonical_one(sent, type_, meant):
    read = read_canonical(sent, type_)
    assert isinstance(read, Fault)
    assert read.message.endswith(f"is not in canonical form: send {meant}.")
    wanted = json.loads(meant)
    again = read_canonical(wanted, type_)
    assert again == read_value(wanted, type_)
    assert not isinstance(again, Fault)


@pytest.mark.parametrize(
    ("sent", "type_", "read"),
    [(Decimal(7), WHOLE, Decimal(7)), (["moss", "fern"], SEVERAL, ("fern", "moss")), (" a ", TextType(), "a"),
     (None, WHOLE, None), ([], SEVERAL, None)],
)  # fmt: skip
def test_what_has_one_meaning_only_is_taken_as_sent(sent, type_, read):
    assert read_canonical(sent, type_) == read


@pytest.mark.parametrize("style", get_args(DateStyle) + get_args(NumberStyle))
def test_each_style_is_an_example_of_itself(style):
    if style in get_args(DateStyle):
        assert show_value(date(2026, 6, 11), style=WritingStyle(dates=style)) == style
    else:
        shown = show_value(Decimal("1234.5"), NumberType(), WritingStyle(numbers=style))
        assert shown.replace("\N{NARROW NO-BREAK SPACE}", " ") == style


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
        (Decimal("1234.5"), NumberType(unit="CHF", unit_first=True), "CHF 1,234.5"),
        (Decimal(1987), NumberType(grouped=False), "1987"),
        (time(9, 5), TimeType(), "09:05"),
        (datetime(2026, 6, 11, 12, 30, tzinfo=UTC), BERLIN, "11 June 2026, 14:30"),
        (("fern", "moss"), SEVERAL, "Fern and Tufted moss"),
    ],
)
def test_values_are_shown_as_people_write_them(value, type_, shown):
    assert show_value(value, type_) == shown


FIGURES = st.text("0123456789 .,-+$'%€kg", max_size=12)
GIVEN = st.one_of(
    FIGURES,
    st.decimals(allow_nan=True, allow_infinity=True),
    st.decimals(-1000, 1000, places=2),
    st.integers(),
    st.just(10**5_000),
    st.floats(),
    st.booleans(),
    st.none(),
    st.text(max_size=6),
    st.dates(),
    st.dates().map(str),
    st.times().map(lambda one: one.isoformat("seconds")),
    st.datetimes().map(lambda one: one.isoformat(timespec="seconds") + "Z"),
    st.sampled_from(
        [
            "fern",
            "moss",
            "Fern",
            "-0",
            "0",
            "00",
            "1.0",
            "2026-02-30",
            "1|2",
            "|",
            "a |",
            "",
            "24:00",
            "9:5",
        ]
    ),
    st.lists(st.sampled_from(["fern", "moss", "x"]), max_size=3),
)
TYPES = st.sampled_from(
    [
        TextType(),
        NumberType(),
        NumberType(0),
        NumberType(2, unit="kg"),
        NumberType(1, unit="%"),
        DateType(),
        TimeType(),
        DateTimeType("Europe/Berlin"),
        YesNoType(),
        KIND,
        ChoicesType(KIND.choices),
        ReferenceType("loan"),
    ]
)
MANNERS = st.builds(
    ReadingSettings,
    decimal_mark=st.sampled_from([None, "point", "comma"]),
    trim=st.booleans(),
    collapse=st.booleans(),
    letter_case=st.sampled_from([None, "upper"]),
)


@settings(max_examples=few(1_000))
@given(GIVEN, TYPES, MANNERS)
def test_the_quick_way_reads_as_the_kind_one_does(given_value, type_, settings):
    kindly = read_value(given_value, type_, settings)
    quick = NOT_CANONICAL if given_value is None else type_.quick_reader(settings)(given_value)
    assert quick is NOT_CANONICAL or (repr(quick), type(quick)) == (repr(kindly), type(kindly))


EVERY_FIELD = compiled_form(
    fields=[
        {"key": "text", "label": "Text", "type": "text"},
        {"key": "code", "label": "Code", "type": "text", "letter_case": "upper"},
        {"key": "share", "label": "Share", "type": "decimal", "unit": "%", "scale": 2},
        {"key": "price", "label": "Price", "type": "decimal", "decimal_mark": "comma"},
        {"key": "odd", "label": "Odd", "type": "decimal", "unit": "x10"},
        {"key": "pieces", "label": "Pieces", "type": "whole_number"},
        {"key": "day", "label": "Day", "type": "date"},
        {"key": "clock", "label": "Clock", "type": "time"},
        {"key": "at", "label": "At", "type": "date_time"},
        {"key": "sure", "label": "Sure", "type": "yes_no"},
        {"key": "kind", "label": "Kind", "type": "choice", "choices": KINDS},
        {"key": "kinds", "label": "Kinds", "type": "choices", "choices": KINDS},
        # Fields of one spelling are tested together.
        *({"key": f"text{n}", "label": f"Text {n}", "type": "text"} for n in range(3)),
        *({"key": f"count{n}", "label": f"Count {n}", "type": "whole_number"} for n in range(3)),
        *({"key": f"day{n}", "label": f"Day {n}", "type": "date"} for n in range(3)),
    ],
    rules=[],
)  # fmt: skip
for _ in range(GENERATED_FROM + 1):
    EVERY_FIELD.read({})


@settings(max_examples=few(1_000))
@given(st.dictionaries(st.sampled_from([*EVERY_FIELD.fields, "unknown"]), GIVEN))
def test_the_generated_reader_reads_as_the_kind_one_does(values):
    read = EVERY_FIELD.read(values)
    for key, field in EVERY_FIELD.fields.items():
        kindly = read_value(values.get(key), field.type, field.settings)
        assert (repr(read.readings[key]), type(read.readings[key])) == (repr(kindly), type(kindly))
    assert read.faulty == any(isinstance(one, Fault) for one in read.readings.values())
    assert read.supplied == values.keys() - {"unknown"}
    assert read.ignored.keys() == values.keys() & {"unknown"}


def test_a_form_without_fields_is_read_as_often_as_one_likes():
    empty = compiled_form(fields=[], rules=[])
    for _ in range(GENERATED_FROM + 2):
        assert empty.read({"unknown": "1"}).ignored.keys() == {"unknown"}
    assert empty.screener(today=date(2026, 6, 12)).screen_values({}).submit == "clear"


SEVERITY = {"save": "warn", "submit": "block"}
PLAIN_FIELDS = compiled_form(
    fields=[one.model_dump() for one in EVERY_FIELD.form.fields if one.key not in ("at", "kinds")],
    rules=[
        {"severity": SEVERITY, **rule}
        for rule in (
            {"key": "asked", "kind": "mandatory", "targets": ["text", "code", "day", "kind"]},
            {"key": "light", "kind": "range", "targets": ["share"], "upper": {"value": "40"}},
            {"key": "shape", "kind": "format", "targets": ["text"], "pattern": "[a-z]{3}"},
            {"key": "known", "kind": "allowed_values", "targets": ["code"], "values": ["A", "B"]},
            {
                "key": "dear",
                "kind": "cross_field",
                "must": "price < pieces",
                "targets": ["price"],
                "when": "sure",
            },
            {
                "key": "later",
                "kind": "cross_field",
                "targets": ["clock"],
                "when": 'kind = "fern"',
                "must": 'clock > time("09:00:00") or day < date("2000-01-01")',
            },
        )
    ],
)
SCREENER = PLAIN_FIELDS.screener(today=date(2026, 6, 12))


@settings(max_examples=few(1_000))
@given(st.dictionaries(st.sampled_from([*PLAIN_FIELDS.fields, "unknown"]), GIVEN))
def test_a_record_is_screened_as_given_as_it_is_when_read(values):
    assert PLAIN_FIELDS.reading_source() is not None
    assert SCREENER.screen_values(values) == SCREENER.screen(PLAIN_FIELDS.read(values))


@pytest.mark.parametrize(
    ("written", "type_"),
    [("12.5", NumberType()), (" 1 234.5 ", NumberType()), ("a code", TextType()),
     ("2026-06-12", DateType()), ("14:30", TimeType()), ("2026-06-12T09:30:00Z", DateTimeType()),
     (True, YesNoType()), ("fern", KIND), (["moss", "fern"], ChoicesType(KIND.choices))],
)  # fmt: skip
def test_what_is_canonical_goes_the_quick_way(written, type_):
    assert type_.quick_reader(PLAIN)(written) is not NOT_CANONICAL


@pytest.mark.parametrize("written", ["0,250", "-0,250", "+0,001"])
def test_a_group_that_begins_with_nought_is_none_in_a_whole_number(written):
    read = read_value(written, WHOLE)
    assert isinstance(read, Fault)
    assert "is not a whole number" in read.message


# RFC 8259, section 6: the numbers of JSON have exponents; Python reads them as floats.
@pytest.mark.parametrize(
    ("written", "value"),
    [("0.00001", "0.00001"), ("1e16", "10000000000000000"), ("-2.5E-7", "-0.00000025"),
     ("1e400", None), ("-0.0", "0")],
)  # fmt: skip
def test_numbers_of_json_are_numbers(written, value):
    read = read_value(json.loads(written), NumberType())
    assert isinstance(read, Fault) if value is None else read == Decimal(value)


LABELS = st.sampled_from(["a", "A", "b", "Alpha", "alpha", "ALPHA", "b; c", "beta"])
CHOOSING = st.lists(LABELS, min_size=1, max_size=4).map(
    lambda labels: ChoicesType(
        tuple(
            Choice(code, label) for code, label in zip(("a", "b", "c", "d"), labels, strict=False)
        )
    )
)


@given(CHOOSING, st.data())
def test_choices_that_are_written_out_come_back_as_they_were(type_, data):
    codes = [one.code for one in type_.choices]
    chosen = data.draw(st.lists(st.sampled_from(codes), min_size=1, unique=True))
    wanted = tuple(code for code in codes if code in chosen)
    assert read_value("; ".join(map(type_.written, wanted)), type_) == wanted
    assert read_value(type_.written(chosen[0]), ChoiceType(type_.choices)) == chosen[0]


def test_choice_is_read_by_code_then_label_then_without_case():
    type_ = ChoiceType(
        (Choice("x", "y"), Choice("y", "Zed"), Choice("z", "zed"), Choice("w", "Wye"))
    )
    assert read_value("y", type_) == "y", "the code before another's label"
    assert read_value("Zed", type_) == "y"
    assert read_value("zed", type_) == "z"
    assert read_value("WYE", type_) == "w"
    fault = read_value("ZED", type_)
    assert isinstance(fault, Fault)
    assert "fits several choices" in fault.message


@pytest.mark.parametrize("text", ["0.125", "-0.125", "0.500"])
def test_a_group_never_begins_with_nought(text):
    read = read_value(text, NumberType(3), ReadingSettings(decimal_mark="comma"))
    assert isinstance(read, Fault)
    assert text.replace(".", ",") in read.message
    assert read_value(text.replace(".", ","), NumberType(3)) == Decimal(text)


def test_label_stored_as_text_is_entered_as_its_choice():
    kind = {"key": "kind", "type": "choice", "choices": [{"code": "m", "label": "Moss"}]}
    uses = {"key": "uses", "type": "choices", "choices": kind["choices"]}
    form = compiled_form([kind, uses], [])
    stored = {"kind": "moss", "uses": ["Moss"]}
    assert form.as_entered(stored) == {"kind": "m", "uses": ["m"]}
    assert form.as_entered({"kind": "fern"}) == {"kind": "fern"}
