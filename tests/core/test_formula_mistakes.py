"""Mistakes people make in formulas who know other notations, and what they are told: common practice
of programming languages, spreadsheets, SQL and typeset text.
"""

from datetime import date

import pytest

from thistlequartz.core import RuleSet, compile_ruleset

FIELDS = [
    {"key": "n", "label": "Number of pieces", "type": "decimal"},
    {"key": "m", "label": "M", "type": "decimal"},
    {"key": "t", "label": "T", "type": "text"},
    {"key": "d", "label": "D", "type": "date"},
    {"key": "dt", "label": "Dt", "type": "date_time"},
    {"key": "y", "label": "Y", "type": "yes_no"},
    {"key": "c", "label": "C", "type": "choice",
     "choices": [{"code": "a", "label": "Alpha"}, {"code": "b", "label": "beta"}]},
    {"key": "cs", "label": "Cs", "type": "choices", "choices": [{"code": "x", "label": "Ex"}]},
]  # fmt: skip
TOLD = {
    # Signs of typeset text and of other languages.
    "n ≥ 3": (3, "Write >="), "n ≤ 3": (3, "Write <="), "n ≠ 3": (3, "Write !="),
    "n × 2 > 3": (3, "Write *"), "n ÷ 2 > 3": (3, "Write /"), "n − 2 > 3": (3, "Write -"),
    "t = “a”": (5, 'Write "'), "t = ‘a’": (5, 'Write "'), "t = 'a'": (5, 'Write "'),
    "n => 3": (3, "Write >="), "n =< 3": (3, "Write <="), "n == 3": (3, "Write =."),
    "n <> 3": (3, "Write !="), "n > 1 && m > 1": (7, "Write and"), "n > 1 || y": (7, "Write or"),
    "!y": (1, "not("), "n % 2 = 0": (3, "modulo("), "n ^ 2 > 1": (3, "**"), "n >= 3;": (7, "end"),
    # Functions of other languages.
    "len(t) > 2": (1, "string length"), "d > today()": (5, "today, without"),
    "now() > dt": (1, "now, without"), "year(d) = 2026": (1, "day.year"),
    "isblank(t)": (1, "= null"), "upper(t) = t": (1, "upper case"), "avg(n, m) > 1": (1, "mean"),
    "left(t, 2) = t": (1, "substring"), "pow(n, 2) > 1": (1, "**"), "concat(t, t) = t": (1, "+"),
    # Words.
    "n mod 2 = 0": (3, "modulo("), 't contains "a"': (3, "contains("),
    'cs includes "x"': (4, "list contains"), 't like "a%"': (3, "matches("),
    "n is null": (3, "= null"), "not y": (5, "not(y)"), "1 < n < 3": (7, "1 < n and n < 3"),
    "n in 1..3": (7, "[1..3]"), "n > 1,5": (6, "1.5"), "Number of pieces > 1": (8, "key"),
    # Values.
    "t = Null": (5, "null"), "t = None": (5, "null"), "y = True": (5, "true"),
    "y = yes": (5, "true"), "y = No": (5, "false"), 'blank = ""': (1, "field = null"),
    'n > "3"': (5, "without quotation"), 'd > "2026-01-01"': (5, "date("),
    "d > 2026-01-01": (5, "date("), "d + 30 > today": (1, "duration("),
    "today - d > 30": (13, "duration("), 'c = "Alpha"': (5, '"a"'), 'c = "BETA"': (5, '"b"'),
    "c = Alpha": (5, '"a"'), "Number_of_pieces > 1": (1, "key n"), 'cs = "x"': (6, '"x" in cs'),
    # Brackets.
    "(n > 3": (1, "Close it"), "n in (1,2": (6, "Close it"), "n > 3)": (6, "Remove it"),
    "sum([n, m) > 3": (10, "Remove it"),
    # Patterns that RE2 refuses, literal ones where they stand.
    'matches(t, "a(?=b)")': (12, "look-around"), 'replace(t, "(", "x") = t': (12, "pattern"),
    'split(t, "[") = ["a"]': (10, "pattern"), 'matches(t, "a", "q")': (12, "pattern"),
}  # fmt: skip
RIGHT = (
    "[1,2] in [[1,2], [3]]", 'dt - d > duration("P1D")', "d - dt < duration(\"P1D\")",
    'matches(t, "a.b", "i")', "n in [1, 2]",
)  # fmt: skip


def problems(must):
    rule = {"kind": "cross_field", "key": "r", "name": "R", "targets": ["n"], "must": must}
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": [rule]}
    compiled = compile_ruleset(RuleSet.model_validate({"forms": [form]}), form="form")
    return compiled.problems.get("r", ())


@pytest.mark.parametrize(("written", "told"), TOLD.items())
def test_a_mistake_is_told_with_its_place_and_how_to_write_it(written, told):
    column, remedy = told
    first = problems(written)[0]
    assert remedy in first.remedy, first
    assert first.position is not None
    assert first.position.column == column, first


@pytest.mark.parametrize("written", RIGHT)
def test_what_the_standard_takes_is_taken(written):
    assert problems(written) == ()


@pytest.mark.parametrize(
    ("must", "blank", "other"),
    [
        ('t in ("a", null)', "satisfied", "violated"),
        ('not(t in ("a", null))', "violated", "satisfied"),
        ('t in ["a", null]', "satisfied", "violated"),
        ('t in ("a", "b")', "not_evaluable", "violated"),
    ],
)
def test_membership_with_null_tests_for_blank(must, blank, other):
    """A missing value is the business of a rule that names it (semantics, “Three values”)."""
    rule = {"kind": "cross_field", "key": "r", "name": "R", "targets": ["t"], "must": must,
            "severity": {"save": "block"}}  # fmt: skip
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": [rule]}
    compiled = compile_ruleset(RuleSet.model_validate({"forms": [form]}), form="form")
    for values, wanted in (({}, blank), ({"t": "z"}, other)):
        verdict = compiled.judge(values, moment="save", today=date(2026, 6, 12))
        assert verdict.results[0].status == wanted
