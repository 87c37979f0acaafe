"""Every built-in function of FEEL at least once, and what each does with what it cannot take.

Source: OMG DMN 1.4, clause 10.3.4 and its tables, from memory.
"""

from contextlib import suppress
from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.engines.environment import TODAY
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.language import check_types, read_formula


def value_of(formula: str, **environment: object) -> object:
    return interpret(read_formula(formula))({TODAY: date(2026, 6, 12), **environment})


EXAMPLES = {
    "number": [('number("1,000.50", ",", ".")', "1000.5"), ('number("1.000,50", ".", ",")', "1000.5")],
    "string": [("string(1.10)", '"1.1"'), ('string(date("2012-12-25"))', '"2012-12-25"'),
               ('string([1, "a", null])', '"[1, \\"a\\", null]"'), ("string(true)", '"true"')],
    "date": [("date(2012, 12, 25)", 'date("2012-12-25")'),
             ('date(date and time("2012-12-25T11:00:00Z"))', 'date("2012-12-25")')],
    "time": [("time(10, 30, 0)", 'time("10:30:00")'),
             ('time(23, 59, 0, duration("PT2H"))', 'time("23:59:00+02:00")')],
    "date and time": [('date and time(date("2012-12-24"), time("23:59:00"))',
                       'date and time("2012-12-24T23:59:00")')],
    "duration": [('duration("P" + "1D")', 'duration("PT24H")')],
    "years and months duration": [
        ('years and months duration(date("2013-08-24"), date("2011-12-22"))', 'duration("-P1Y8M")')],
    "not": [("not(false)", "true")],
    "substring": [('substring("foobar", 3, 3)', '"oba"'), ('substring("foobar", 7)', "null")],
    "string length": [('string length("foo")', "3"), ('string length("")', "0")],
    "upper case": [('upper case("aBc4")', '"ABC4"')],
    "lower case": [('lower case("aBc4")', '"abc4"')],
    "substring before": [('substring before("foobar", "bar")', '"foo"'),
                         ('substring before("foobar", "xyz")', '""')],
    "substring after": [('substring after("foobar", "ob")', '"ar"'),
                        ('substring after("", "a")', '""')],
    "contains": [('contains("foobar", "of")', "false"), ('contains("foobar", "ob")', "true")],
    "starts with": [('starts with("foobar", "fo")', "true")],
    "ends with": [('ends with("foobar", "r")', "true")],
    "matches": [('matches("foobar", "FO", "i")', "true")],
    "replace": [('replace("banana", "a", "o")', '"bonono"'), ('replace("abc", "x*", "-")', "null")],
    "split": [('split("a;b;;c", ";")', '["a", "b", "", "c"]')],
    "string join": [('string join(["a", "b"], "_and_")', '"a_and_b"'),
                    ('string join(["a", null, "c"])', '"ac"'), ("string join([])", '""')],
    "decimal": [("decimal(1.5, 0)", "2"), ("decimal(125, -1)", "120")],
    "floor": [("floor(1.5)", "1"), ("floor(-1.56, 1)", "-1.6")],
    "ceiling": [("ceiling(1.5)", "2"), ("ceiling(-1.56, 1)", "-1.5")],
    "round up": [("round up(5.5, 0)", "6"), ("round up(-5.5, 0)", "-6")],
    "round down": [("round down(5.5, 0)", "5"), ("round down(-1.126, 2)", "-1.12")],
    "round half up": [("round half up(-5.5, 0)", "-6"), ("round half up(1.126, 2)", "1.13")],
    "round half down": [("round half down(5.5, 0)", "5"), ("round half down(1.126, 2)", "1.13")],
    "abs": [("abs(-10)", "10"), ('abs(duration("-P1M"))', 'duration("P1M")')],
    "modulo": [("modulo(12, 5)", "2"), ("modulo(10.1, 4.5)", "1.1"), ("modulo(-10.1, 4.5)", "3.4"),
               ("modulo(1, 0)", "null")],
    "sqrt": [("sqrt(16)", "4"), ("sqrt(-1)", "null")],
    "log": [("decimal(log(10), 8)", "2.30258509"), ("log(0)", "null")],
    "exp": [("decimal(exp(5), 8)", "148.41315910")],
    "odd": [("odd(5)", "true"), ("odd(2)", "false"), ("odd(1.5)", "null")],
    "even": [("even(5)", "false"), ("even(0)", "true")],
    "list contains": [("list contains([1, 2, 3], 2)", "true"), ("list contains([], 1)", "false")],
    "count": [("count([1, 2, 3])", "3"), ("count([])", "0"), ("count([1, [2, 3]])", "2")],
    "min": [("min([1, 2, 3])", "1"), ('min("b", "a")', '"a"'), ("min([])", "null")],
    "max": [("max(1, 2, 3)", "3"), ('max(date("2020-01-01"), date("2021-01-01"))', 'date("2021-01-01")')],
    "sum": [("sum([1, 2, 3])", "6"), ("sum(1)", "1"), ("sum([])", "null")],
    "mean": [("mean([1, 2, 3])", "2"), ("mean(1)", "1")],
    "median": [("median([6, 1, 2, 3])", "2.5"), ("median([])", "null")],
    "product": [("product(2, 3, 4)", "24"), ("product([])", "null")],
    "stddev": [("stddev([47])", "null"), ("stddev(1, 1)", "0")],
    "mode": [("mode(6, 3, 9, 6, 6)", "[6]"), ("mode([])", "[]")],
    "all": [("all(true)", "true"), ("all([])", "true"), ("all([true, null])", "null")],
    "any": [("any([false, null, true])", "true"), ("any([])", "false")],
    "sublist": [("sublist([4, 5, 6], 1, 2)", "[4, 5]"), ("sublist([4, 5, 6], -1)", "[6]")],
    "append": [("append([1], 2, 3)", "[1, 2, 3]")],
    "concatenate": [("concatenate([1, 2], [3])", "[1, 2, 3]")],
    "insert before": [("insert before([1, 3], -1, 2)", "[1, 2, 3]"),
                      ("insert before([1], 5, 2)", "null")],
    "remove": [("remove([1, 2, 3], 2)", "[1, 3]"), ("remove([1], 0)", "null")],
    "reverse": [("reverse([1, 2, 3])", "[3, 2, 1]")],
    "index of": [("index of([1, 2, 3, 2], 2)", "[2, 4]"), ("index of([1], 9)", "[]")],
    "union": [("union([1, 2], [2, 3])", "[1, 2, 3]")],
    "distinct values": [('distinct values([1, "1", 1])', '[1, "1"]')],
    "flatten": [("flatten([1, [2, [3]]])", "[1, 2, 3]")],
    "is": [("is(1, 1.0)", "true"), ('is(date("2012-12-25"), "2012-12-25")', "false")],
    "day of year": [("day of year(date(2020, 12, 31))", "366")],
    "day of week": [("day of week(date(2026, 11, 24))", '"Tuesday"')],
    "month of year": [("month of year(date(2026, 1, 31))", '"January"')],
    "week of year": [("week of year(date(2003, 12, 29))", "1"), ("week of year(date(2005, 1, 1))", "53")],
    "before": [("before(1, 10)", "true")],
    "after": [("after(10, 1)", "true")],
    "meets": [("meets([1..5], [5..10])", "true")],
    "met by": [("met by([5..10], [1..5])", "true")],
    "overlaps": [("overlaps([5..8], [1..5])", "true")],
    "overlaps before": [("overlaps before([1..5], (5..8])", "false")],
    "overlaps after": [("overlaps after([5..8], [1..5])", "true")],
    "finishes": [("finishes((5..10], [1..10])", "true")],
    "finished by": [("finished by([1..10], 10)", "true")],
    "includes": [("includes([1..10], [4..6])", "true")],
    "during": [("during(1, (1..10])", "false")],
    "starts": [("starts([1..10], [1..10])", "true")],
    "started by": [("started by((1..10], (1..5])", "true")],
    "coincides": [("coincides([1..5], [1..5))", "false")],
    "get value": [("get value({a: 1}, \"a\")", "1"), ("get value({a: 1}, \"b\")", "null")],
    "context": [('context([{key: "a", value: 1}]).a', "1"), ("context([{key: 1}])", "null")],
    "context put": [('context put({a: 1}, "b", 2).b', "2"), ('context put({a: 1}, ["b", "c"], 2).b.c', "2")],
    "context merge": [("context merge([{a: 1}, {b: 2}]).b", "2"), ("context merge([1])", "null")],
    "list replace": [("list replace([2, 4], 1, 6)", "[6, 4]"), ("list replace([2], 2, 6)", "null")],
    "get entries": [('get entries({a: 1})', '[{key: "a", value: 1}]')],
}  # fmt: skip


def test_every_function_is_computed_typed_and_tried_here():
    assert set(EXAMPLES) == set(FUNCTIONS)


@pytest.mark.parametrize("one", FUNCTIONS.values(), ids=lambda one: one.name)
def test_what_is_shown_of_a_function_is_so(one):
    """Its example is true; where it is strict, null in leaves nothing but null."""
    assert one.name in one.example
    assert value_of(one.example) is True
    for way in one.ways if one.strict else ():
        needed = [parameter for parameter in way if not parameter.optional]
        with suppress(TypeError, ValueError, ArithmeticError, AttributeError):
            assert one.body(*[None for _ in needed]) is None


@given(
    st.sampled_from([one for one in FUNCTIONS.values() if one.inverse]),
    st.decimals(-20, 20, places=3),
    st.decimals(-20, 20, places=3),
    st.sampled_from(["0", "1", "2"]),
)
def test_answer_is_constant_between_two_places_of_an_inverse(one, a, b, scale):
    """Of any target: where no named place lies between two values, both answers are on one side."""
    further = (Decimal(scale),) if any(len(way) > 1 for way in one.ways) else ()
    target = Fraction(one.body(a, *further))
    named = one.inverse(frozenset({target}), *further)
    low, high = sorted((Fraction(a), Fraction(b)))
    if any(low <= place <= high for place in named):
        return
    sides = {(Fraction(one.body(x, *further)) > target) for x in (a, b)}
    assert len(sides) == 1


@given(
    st.sampled_from([one for one in FUNCTIONS.values() if one.monotone == "rising"]),
    st.decimals(1, 20, places=3),
    st.decimals(1, 20, places=3),
)
def test_what_is_said_to_rise_never_turns_back(one, a, b):
    further = (
        (Decimal(1),) if any(len(way) == 2 and not way[1].repeated for way in one.ways) else ()
    )
    low, high = sorted((a, b))
    assert one.body(low, *further) <= one.body(high, *further)


@pytest.mark.parametrize(
    ("formula", "expected"), [pair for pairs in EXAMPLES.values() for pair in pairs]
)
def test_it_gives_what_the_standard_says(formula, expected):
    node = read_formula(formula)
    assert check_types(node, {}, wanted=None) == ()
    assert value_of(f"({formula}) = ({expected})") is True, value_of(formula)


@pytest.mark.parametrize("name", sorted(set(FUNCTIONS) - {"not"}))
@pytest.mark.parametrize("odd", [None, UNREADABLE, Decimal(0), "", date(1, 1, 1), [], {}, True])
def test_no_argument_makes_a_function_raise(name, odd):
    way = FUNCTIONS[name].ways[0]
    arguments = ", ".join(f"x{n}" for n, parameter in enumerate(way) if not parameter.repeated)
    environment = {f"x{n}": odd for n in range(len(way))}
    given = value_of(f"{name}({arguments})", **environment)
    assert given is UNREADABLE if odd is UNREADABLE else given is not UNREADABLE


@pytest.mark.parametrize(
    ("formula", "expected"),
    [
        ("if x > 1 then 1 else 2", "2"),
        ("for i in [1, 2], j in [i, 10] return i * j", "[1, 10, 4, 20]"),
        ("for i in 2..-1 return i", "[2, 1, 0, -1]"),
        ("for i in x return i", "null"),
        ("some i in [1, 2], j in [2, 3] satisfies i > j", "false"),
        ("every i in [] satisfies i > 1", "true"),
        ("[1, 2, 3][item >= 2][1]", "2"),
        ("[1, 2, 3][7]", "null"),
        ("5[1]", "5"),
        ("x[1]", "null"),
        ("{a: 1, b: a + 1}.b", "2"),
        ("{a: 1}.c", "null"),
        ('duration("P1DT2H").hours', "2"),
        ('duration("P14M").months', "2"),
        ("date(2026, 11, 24).weekday", "2"),
        ('"2026".year', "null"),
        ("(1..5] = (1..5]", "true"),
        ("3 in [(1..2), [3..4]]", "true"),
        ("x instance of number", "false"),
        ("[1] instance of list", "true"),
        ("1 = [1]", "false"),
        ("[1, [2]] = [1, [2]]", "true"),
        ('"a" + "b"', '"ab"'),
        ('"a" + 1', "null"),
        ('time("10:00:00") < time("11:00:00Z")', "null"),
        ("[1, 2, 3] in [[1, 2, 3], [1]]", "true"),
        ("[1] in [[1, 2], [3]]", "false"),
        ("1 in [[1, 2], [3]]", "false"),
        ("[1, 2] in [1, 2]", "true"),
        ("[1..5).start included and not([1..5).end included)", "true"),
        ('context([{key: "a", value: 1}, {key: "b", value: 2}]) = {a: 1, b: 2}', "true"),
        ('context([{key: "a", value: 1}, {key: "a", value: 2}])', "null"),
        ('context put({a: 1}, ["b", "c"], 2) = {a: 1, b: {c: 2}}', "true"),
        ("context merge([{a: 1}, {a: 2, b: 3}]) = {a: 2, b: 3}", "true"),
        ("list replace([1, 2, 3], -1, 4) = [1, 2, 4]", "true"),
        ("1 /* one */ + 2 // and two", "3"),
        ("{a: true} = {a: 1}", "false"),
        ("{a: [1, {b: null}]} = {a: [1, {b: null}]}", "true"),
        ("0 ** 0", "1"),
        ('date("2026-06-11") - date and time("2026-06-10T12:00:00Z")', 'duration("PT12H")'),
        ('date and time("2026-06-10T12:00:00") - date("2026-06-11")', 'duration("-PT12H")'),
        ('date("11 June " + "2026")', "null"),
        ('date("2026-6-" + "1")', "null"),
        ('duration("P" + "١D")', "null"),
        ("mode([])", "[]"),
        ("string join([null])", '""'),
    ],
)
def test_structures_give_what_the_standard_says(formula, expected):
    assert value_of(f"({formula}\n) = ({expected})", x=None) is True, value_of(formula, x=None)


def test_work_beyond_the_budget_makes_the_whole_null():
    for formula in (
        "count(for i in 1..100001 return i)",
        "some i in 1..1000000000 satisfies i < 0",
    ):
        assert value_of(formula) is None
        assert value_of(f"({formula}) = null") is None
