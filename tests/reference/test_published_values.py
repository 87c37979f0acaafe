"""Values published elsewhere. Each check names its source; all were written from memory of it."""

import calendar
import decimal
from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.engines.environment import TODAY
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.language import read_formula
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.types import DateType, NumberType, read_value
from thistlequartz.core.values import Fault
from thistlequartz.demo.forms.plant import PLANT_ACCESSION

DAY = date(2026, 6, 12)


def value_of(formula: str, **environment: object) -> object:
    return interpret(read_formula(formula))({TODAY: DAY, **environment})


KLEENE = {"T": True, "F": False, "N": None}


@pytest.mark.parametrize(
    ("joining", "table"),
    [
        ("and", "TTT TFF TNN FTF FFF FNF NTN NFF NNN"),
        ("or", "TTT TFT TNT FTT FFF FNN NTT NFN NNN"),
    ],
)
def test_three_valued_logic_follows_the_truth_tables_of_sql_2016(joining, table):
    """SQL:2016 part 2, clause 6.39; the same as DMN 1.4 clause 10.3.2.4."""
    literal = {"T": "1 = 1", "F": "1 = 2", "N": "blank_number > 1"}
    for left, right, expected in table.split():
        formula = f"({literal[left]}) {joining} ({literal[right]})"
        assert value_of(formula) is KLEENE[expected], formula
    assert [value_of(f"not({literal[one]})") for one in "TFN"] == [False, True, None]


@pytest.mark.parametrize(
    ("formula", "expected"),
    [
        ("5 in (5..10]", False),
        ("5 in [5..10]", True),
        ("10 in (5..10]", True),
        ("10 in [5..10)", False),
        ("true or x > 1", True),
        ("false and x > 1", False),
        ("true and x > 1", None),
        ("x = null", True),
        ("1 = null", False),
        ("1 between 0 and 2", True),
        ("2 + 3 * 4 = 14", True),
        ("10 - 2 - 3 = 5", True),
        ("1 / 0 = null", True),
        ('date("2012-12-25") > date("2012-12-24")', True),
        ('"a" in ("b", "a")', True),
        ('@"2026-06-12" = today', True),
    ],
)
def test_feel_gives_what_dmn_1_4_says(formula, expected):
    """OMG DMN 1.4, clause 10.3 (FEEL): tables 42 to 55 and the grammar rules 7 and 49 to 51."""
    assert value_of(formula) is expected


@pytest.mark.parametrize(
    ("formula", "expected"),
    [
        ('substring("foobar", 3)', '"obar"'),
        ('substring("foobar", -2, 1)', '"a"'),
        ("decimal(1/3, 2)", "0.33"),
        ("decimal(2.5, 0)", "2"),
        ("floor(-1.56)", "-2"),
        ("ceiling(-1.5)", "-1"),
        ("round half up(5.5, 0)", "6"),
        ("round half down(-5.5, 0)", "-5"),
        ("round up(1.121, 2)", "1.13"),
        ("modulo(-12, 5)", "3"),
        ("modulo(12, -5)", "-3"),
        ("sqrt(16)", "4"),
        ("-2 ** 2", "4"),
        ('date("2012-12-25") - date("2012-12-24")', 'duration("P1D")'),
        ('date("2020-01-31") + duration("P1M")', 'date("2020-02-29")'),
        ('time("23:30:00") + duration("PT1H")', 'time("00:30:00")'),
        ("day of week(date(2019, 9, 17))", '"Tuesday"'),
        ("month of year(date(2019, 9, 17))", '"September"'),
        ("day of year(date(2019, 9, 17))", "260"),
        ("week of year(date(2019, 9, 17))", "38"),
        (
            'years and months duration(date("2011-12-22"), date("2013-08-24"))',
            'duration("P1Y8M")',
        ),
        ('matches("foobar", "^fo*b")', "true"),
        ('replace("abcd", "(ab)|(a)", "[1=$1][2=$2]")', '"[1=ab][2=]cd"'),
        ('split("John Doe", "\\\\s")', '["John", "Doe"]'),
        ('number("1 000,0", " ", ",")', "1000"),
        ('string length("\\U01F40Eab")', "3"),
        ("list contains([1,2,null], null)", "true"),
        ("insert before([1,3], 1, 2)", "[2, 1, 3]"),
        ("distinct values([1,2,3,2,1])", "[1, 2, 3]"),
        ("flatten([[1,2],[[3]], 4])", "[1, 2, 3, 4]"),
        ("median(8, 2, 5, 3, 4)", "4"),
        ("mode([6, 1, 9, 6, 1])", "[1, 6]"),
        ("decimal(stddev(2, 4, 7, 5), 10)", "2.0816659995"),
        ("for i in 0..4 return if i = 0 then 1 else i * partial[-1]", "[1, 1, 2, 6, 24]"),
        ("all([true, false, true])", "false"),
        ("any([false, true])", "true"),
        ('get value({key1: "value1"}, "key1")', '"value1"'),
        ("[1, 2, 3, 4][item > 2]", "[3, 4]"),
        ("[1, 2, 3, 4][-1]", "4"),
        ("5 in (<= 3, > 4)", "true"),
        ("1 instance of number", "true"),
        ('@"2019-09-17T10:00:00+02:00".time offset', 'duration("PT2H")'),
    ],
)
def test_feel_functions_give_what_dmn_1_4_says(formula, expected):
    """OMG DMN 1.4, clause 10.3.4: the examples of its tables, from memory."""
    assert value_of(f"({formula}) = ({expected})") is True, value_of(formula)


@pytest.mark.parametrize(
    ("relation", "true", "false"),
    [
        ("before", ["1, 10", "1, (1..10]", "[1..10), [10..20]"], ["10, 1", "1, [1..10]"]),
        ("after", ["12, [1..10]", "[11..20], [1..11)"], ["[11..20], [1..11]"]),
        ("meets", ["[1..5], [5..10]"], ["[1..5), [5..10]", "[1..5], (5..10]"]),
        ("overlaps", ["[1..5], [3..8]", "[1..5], [5..8]"], ["[1..5), [5..8]", "[1..5], [6..8]"]),
        ("overlaps before", ["[1..5], [3..8]", "[1..5], [5..8]"], ["[1..5], [6..8]"]),
        ("overlaps after", ["[3..8], [1..5]", "(5..8], [1..5]"][:1], ["[6..8], [1..5]"]),
        ("finishes", ["10, [1..10]", "[5..10], [1..10]"], ["10, [1..10)", "[5..10), [1..10]"]),
        ("includes", ["[1..10], 5", "[1..10], (1..10)"], ["(1..10), [1..10]", "[1..10), 10"]),
        ("during", ["5, [1..10]", "[1..5), [1..10]"], ["12, [1..10]", "10, [1..10)"]),
        ("starts", ["1, [1..10]", "(1..5], (1..10]"], ["1, (1..10]", "(1..5], [1..10]"]),
        ("started by", ["[1..10], 1"], ["(1..10], 1"]),
        ("coincides", ["5, 5", "[1..5], [1..5]"], ["3, 4", "(1..5), [1..5]"]),
    ],
)
def test_relations_of_ranges(relation, true, false):
    """OMG DMN 1.4, clause 10.3.4.10, table 78, from memory."""
    assert [value_of(f"{relation}({pair})") for pair in true] == [True] * len(true)
    assert [value_of(f"{relation}({pair})") for pair in false] == [False] * len(false)


@given(
    st.decimals(-(10**6), 10**6, places=4),
    st.sampled_from("+-*/"),
    st.decimals(-(10**6), 10**6, places=4).filter(bool),
)
def test_arithmetic_is_python_s_decimal_at_34_digits(a, sign, b):
    """IEEE 754-2008 decimal128, by Python's decimal module."""
    operation = {"+": "add", "-": "subtract", "*": "multiply", "/": "divide"}[sign]
    context = decimal.Context(prec=34, rounding=decimal.ROUND_HALF_EVEN)
    assert value_of(f"a {sign} b", a=a, b=b) == getattr(context, operation)(a, b)


@pytest.mark.parametrize("day", ["2024-02-29", "2000-02-29", "0001-01-01", "9999-12-31"])
def test_days_that_exist(day):
    """ISO 8601, Gregorian calendar."""
    assert read_value(day, DateType()) == date.fromisoformat(day)


@pytest.mark.parametrize(
    "day", ["2023-02-29", "1900-02-29", "2026-13-01", "2026-04-31", "0000-01-01"]
)
def test_days_that_do_not_exist(day):
    """ISO 8601, Gregorian calendar."""
    assert isinstance(read_value(day, DateType()), Fault)


@given(st.integers(1, 9999), st.integers(1, 12), st.integers(1, 31))
def test_the_calendar_is_python_s(year, month, day):
    """Python's calendar module (proleptic Gregorian)."""
    exists = day <= calendar.monthrange(year, month)[1]
    for text in (f"{year:04}-{month:02}-{day:02}", f"{day} {calendar.month_name[month]} {year:04}"):
        assert (not isinstance(read_value(text, DateType()), Fault)) is exists


@pytest.mark.parametrize(
    ("text", "scale", "value"),
    [("80 000", 0, "80000"), ("80,000.00", 0, "80000"), ("1.50", 2, "1.5"), ("-0", 0, "0"),
     ("1.250", 2, "1.25"), ("−12", 0, "-12"), ("1,250,000", 0, "1250000")],
)  # fmt: skip
def test_numbers_are_read_as_people_type_them(text, scale, value):
    """Common practice."""
    assert read_value(text, NumberType(scale)) == Decimal(value)


@pytest.mark.parametrize("text", ["1,250", "1.005", "12 m", "1e5", "0x1F", "NaN", "٣", "9" * 35])
def test_numbers_that_are_ambiguous_or_too_fine_are_faults(text):
    """Common practice."""
    assert isinstance(read_value(text, NumberType(2)), Fault)


DARWIN_CORE = [
    ("latitude", ["-90", "90", "0", "-89.999999"], ["90.0001", "-90.000001", "180"]),
    ("longitude", ["-180", "180", "0"], ["-180.0001", "180.000001"]),
    ("coordinate_uncertainty", ["1", "20037509"], ["0", "-1", "20037510"]),
]


@pytest.mark.parametrize(("field", "valid", "invalid"), DARWIN_CORE)
def test_the_demo_s_bounds_are_those_of_darwin_core(field, valid, invalid):
    """Darwin Core (TDWG): decimalLatitude, decimalLongitude; BDQ Core: coordinate uncertainty."""
    compiled = compile_ruleset(RuleSet(forms=(PLANT_ACCESSION,)), form="plant_accession")

    def violated(text: str) -> bool:
        verdict = compiled.judge({field: text}, moment="submit", today=DAY)
        rule = next(
            r.key for r in PLANT_ACCESSION.rules if r.kind == "range" and field in r.targets
        )
        return any(one.rule == rule for one in verdict.violated)

    assert [violated(text) for text in valid] == [False] * len(valid)
    assert [violated(text) for text in invalid] == [True] * len(invalid)
