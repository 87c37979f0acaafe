"""One tree, two spellings: formula text and clauses; words; and errors with their place."""

from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.language import (
    ClauseGroup,
    Declaration,
    FormulaError,
    check_types,
    clauses_from_tree,
    condition_words,
    plain,
    read_formula,
    tree,
    tree_from_clauses,
    write_formula,
)
from thistlequartz.core.types import (
    Choice,
    ChoicesType,
    ChoiceType,
    DateType,
    NumberType,
    TextType,
    YesNoType,
)

VOCABULARY = {
    "depth": Declaration("Depth", NumberType(scale=2, unit="m")),
    "name": Declaration("Name", TextType()),
    "seen": Declaration("Seen on", DateType()),
    "wet": Declaration("Wet", YesNoType()),
    "kind": Declaration("Kind", ChoiceType((Choice("fern", "Fern"), Choice("moss", "Moss")))),
    "kinds": Declaration("Kinds", ChoicesType((Choice("fern", "Fern"), Choice("moss", "Moss")))),
    "place": Declaration("Place", TextType()),
}

keys = st.sampled_from(sorted(VOCABULARY))
numbers = st.decimals(-1000, 1000, allow_nan=False, places=3).map(tree.Number)
literals = (
    numbers
    | st.text(st.characters(exclude_categories=["Cs"]), max_size=6).map(tree.Text)
    | st.dates(date(1000, 1, 1)).map(tree.Date)
    | st.booleans().map(tree.Boolean)
)
values = st.recursive(
    literals | keys.map(tree.Field) | st.just(tree.Today()),
    lambda inner: (
        st.builds(tree.Arithmetic, st.sampled_from("+-*/"), inner, inner)
        | st.builds(tree.Negate, keys.map(tree.Field))
    ),
    max_leaves=4,
)
signs = st.sampled_from(["=", "!=", "<", "<=", ">", ">="])
intervals = st.builds(tree.Interval, values, values, st.booleans(), st.booleans())
unary = st.builds(tree.UnaryTest, signs, values)
tests = st.lists(values | unary, min_size=1, max_size=3).map(tuple) | st.tuples(intervals)
conditions = st.recursive(
    st.builds(tree.Comparison, signs, values, values | st.just(tree.Null()))
    | st.builds(tree.Membership, values, tests)
    | st.builds(tree.InstanceOf, values, st.sampled_from(["number", "date and time", "Any"])),
    lambda inner: (
        st.builds(tree.And, st.lists(inner, min_size=2, max_size=3).map(tuple))
        | st.builds(tree.Or, st.lists(inner, min_size=2, max_size=3).map(tuple))
        | st.builds(tree.Not, inner)
    ),
    max_leaves=6,
)


@given(conditions)
def test_reading_is_the_inverse_of_writing(node):
    assert read_formula(write_formula(node)) == node


def clause(key, operators, value):
    one = st.builds(lambda text: {"kind": "value", "value": text}, value)
    several = st.builds(
        lambda texts: {"kind": "values", "values": texts}, st.lists(value, min_size=1, max_size=3)
    )
    compared = st.tuples(st.sampled_from(operators), one)
    listed = st.tuples(st.sampled_from(["is_one_of", "is_none_of"]), several)
    blank = st.tuples(st.sampled_from(["is_blank", "has_value"]), st.none())
    return (compared | listed | blank).map(
        lambda pair: {"kind": "clause", "field": key, "operator": pair[0], "operand": pair[1]}
    )


def value(text):
    return {"kind": "value", "value": text}


def between(low, high, included):
    return {"kind": "between", "low": low, "high": high, "low_included": included}


EQUAL, ORDER = ["is", "is_not"], ["is_less", "is_at_most", "is_more", "is_at_least"]
clauses = (
    clause(
        "depth",
        EQUAL + ORDER,
        st.decimals(-99, 99, places=2).map(
            lambda n: str(int(n)) if n == int(n) else f"{n.normalize():f}"
        ),
    )
    | clause("kind", EQUAL, st.sampled_from(["fern", "moss"]))
    | clause("name", EQUAL, st.sampled_from(["a", 'say "so"', "back\\slash"]))
    | clause("seen", EQUAL + ORDER, st.dates().map(date.isoformat))
    | st.builds(
        lambda plus, unit, base: {
            "kind": "clause",
            "field": "seen",
            "operator": "is_less",
            "operand": {**base, "plus": plus, "unit": unit},
        },
        # Twelve months are a year, and no shift has no unit.
        st.integers(-11, 11).filter(bool),
        st.sampled_from(["days", "months", "years"]),
        st.sampled_from(
            [
                {"kind": "today"},
                {"kind": "field", "field": "seen", "part": "value"},
                {"kind": "field", "field": "seen", "part": "before"},
            ]
        ),
    )
    | st.sampled_from(
        [
            {"field": "name", "part": "length", "operator": "is_more", "operand": value("5")},
            {"field": "name", "operator": "contains", "operand": value("sp.")},
            {"field": "name", "operator": "contains_not", "operand": value("sp.")},
            {
                "field": "name",
                "operator": "contains",
                "operand": {"kind": "field", "field": "place"},
            },
            {
                "field": "name",
                "operator": "contains_not",
                "operand": {"kind": "field", "field": "name", "part": "before"},
            },
            {"field": "kinds", "part": "before", "operator": "includes", "operand": value("moss")},
            {
                "field": "kinds",
                "part": "before",
                "operator": "includes_not",
                "operand": value("moss"),
            },
            {"field": "name", "operator": "has_changed"},
            {"field": "name", "operator": "has_not_changed"},
            {"field": "seen", "part": ".weekday", "operator": "is", "operand": value("6")},
            {"field": "seen", "part": "before", "operator": "is_blank"},
            {"field": "depth", "operator": "is_between", "operand": between("2", "5", False)},
            {
                "field": "name",
                "part": "length",
                "operator": "is_between",
                "operand": between("2", "5", True),
            },
        ]
    ).map(lambda parts: {"kind": "clause", **parts})
)
groups = st.recursive(
    clauses,
    lambda inner: st.builds(
        lambda join, parts: {"kind": "group", "join": join, "parts": parts},
        st.sampled_from(["and", "or"]),
        st.lists(inner, min_size=2, max_size=3),
    ),
    max_leaves=5,
).filter(lambda part: part["kind"] == "group")


@given(groups)
def test_clauses_and_formula_are_two_spellings_of_one_tree(document):
    group = ClauseGroup.model_validate(document)
    node = tree_from_clauses(group, VOCABULARY)
    assert check_types(node, VOCABULARY) == ()
    assert clauses_from_tree(read_formula(write_formula(node)), VOCABULARY) == group


@pytest.mark.parametrize(
    "formula",
    ["w >= 2.5", 't = ""', 't = " a "', 'not(t = "")', "w between 1.5 and 3", 't in ("a", " b")'],
)
def test_what_clauses_would_change_is_left_to_the_formula(formula):
    fields = {"w": Declaration("W", NumberType(0)), "t": Declaration("T", TextType())}
    assert clauses_from_tree(read_formula(formula), fields) is None


@given(st.text(alphabet=' \tab"\\é\u0301', max_size=6), st.decimals(-9, 9, places=2))
def test_whatever_is_shown_as_clauses_reads_back_the_same(text, number):
    fields = {"w": Declaration("W", NumberType(0)), "t": Declaration("T", TextType())}
    for node in (
        tree.Comparison("=", tree.Field("t"), tree.Text(text)),
        tree.Comparison(">=", tree.Field("w"), tree.Number(number)),
        tree.Call("starts with", (tree.Field("t"), tree.Text(text))),
    ):
        group = clauses_from_tree(node, fields)
        assert group is None or tree_from_clauses(group, fields) == node


@pytest.mark.parametrize(
    ("formula", "words"),
    [
        ('kind = "fern" and (depth > 1250 or seen = null)',
         "Kind is Fern and either Depth is more than 1,250 m or Seen on is blank"),
        ('seen + duration("P1Y2M") > today', "Seen on plus 1 year 2 months is after today"),
        ("string length(name) >= 3", "Name has at least 3 characters"),
        ("seen.year = 2026", "the year of Seen on is 2026"),
        ("depth in (< 3, > 5)", "Depth is one of less than 3 m or more than 5 m"),
        ("depth in (0..12.5]", "Depth is more than 0 and at most 12.5 m"),
        ("depth between -5 and 5", "Depth is from −5 to 5 m"),
        ('not(kind in ("fern", "moss"))', "Kind is none of Fern or Moss"),
        ('seen >= date("2026-06-11") and wet = true', "Seen on is on or after 11 June 2026 and Wet is yes"),
        ("seen < today", "Seen on is before today"),
        ('name != null and name != "x"', "Name has a value and Name is not “x”"),
    ],
)  # fmt: skip
def test_a_tree_reads_as_a_plain_sentence(formula, words):
    assert plain(condition_words(read_formula(formula), VOCABULARY)) == words


@pytest.mark.parametrize(
    ("formula", "message", "remedy", "column"),
    [
        ("dept > 3", "no field “dept”", "“depth”", 1),
        ('wet = true and kind = "ferm"', "no choice “ferm”", "“fern”", 23),
        ('seen = "2026-06-11"', "A date is compared with text", "date(", 8),
        ('seen > date("2026-02-30")', "February 2026 has 28 days", "date(", 8),
        ('kind < "moss"', "A choice has no order", "=", 1),
        ("depth", "a number where a condition", "Compare", 1),
        ("depth > null", "Blank has no order", "=", 1),
        ("depth + name > 3", "“+” does not work between a number and text", "number", 9),
        ("depth = = 3", "“==”", "Write =", 8),
        ('name = "open', "no closing quotation mark", '"', 8),
        ("depth § 3", "“§” has no meaning", "Remove it", 7),
        ("sum(wet) + name", "“+” does not work", "number", 12),
        ("lower_case(name)", "no function “lower_case”", "“lower case”", 1),
        ("substring(name)", "cannot take these arguments", "start position", 1),
        ("string length(depth) > 2", "takes text as string", "Use text", 15),
        ("seen.yeer = 2020", "no property “yeer”", "“year”", 1),
        ("seen + depth = seen", "between a date and a number", "number", 1),
        ('[name] = "x"', "A list is compared with text", "list contains", 10),
        ("[1, 2][name] = 1", "filtered by a condition", "item > 1", 8),
        ('date("2026-06-11") < time("10:00:00")', "compared with a time", "same type", 22),
        ("if depth then wet else wet", "a number where a condition", "Compare", 4),
        ("depth >", "ends too early", "a field", None),
        ("", "empty", "Write", None),
        ("1=1 and " * 2000, "characters", "Shorten", None),
        ("not(" * 100 + "wet" + ")" * 100, "60 levels", "Split", None),
    ],
)
def test_a_mistake_is_told_with_its_place_and_remedy(formula, message, remedy, column):
    with pytest.raises(FormulaError) as caught:
        raise FormulaError(check_types(read_formula(formula), VOCABULARY))
    problem = caught.value.problems[0]
    assert message in problem.message
    assert remedy in problem.remedy
    assert (problem.position and problem.position.column) == column


@given(st.text(max_size=60))
def test_any_text_is_read_or_refused_by_name(text):
    try:
        node = read_formula(text)
    except FormulaError as error:
        assert error.problems[0].message
    else:
        assert isinstance(node, tree.Node)


def test_empty_group_and_clause_without_value_are_told_in_place():
    group = ClauseGroup.model_validate(
        {
            "parts": [
                {"kind": "group", "join": "or", "parts": []},
                {"kind": "clause", "field": "depth", "operator": "is_more"},
                {
                    "kind": "clause",
                    "field": "depth",
                    "operator": "is",
                    "operand": {"kind": "value", "value": "deep"},
                },
            ]
        }
    )
    with pytest.raises(FormulaError) as caught:
        tree_from_clauses(group, VOCABULARY)
    places = [problem.place for problem in caught.value.problems]
    assert places == ["parts.0", "parts.1", "parts.2.operand"]


def test_numbers_keep_every_digit_that_was_written():
    assert read_formula("0.1000000000000000000000000000000001") == tree.Number(
        Decimal("0.1000000000000000000000000000000001")
    )
