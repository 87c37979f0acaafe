"""Work is bounded: whatever a formula asks, the answer comes soon, and says why where it is none."""

from datetime import UTC, date, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core import RuleSet, compile_ruleset
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.functions import FUNCTIONS, work
from thistlequartz.core.judging import TOO_MUCH_WORK
from thistlequartz.core.language.feel import read_formula

NOW = datetime(2026, 6, 11, 12, tzinfo=UTC)
CODES = [f"c{number}" for number in range(5_000)]


def compiled(must="x > 0", *, conditions=(), rules=None):
    rule = {
        "kind": "cross_field",
        "key": "rule",
        "name": "Rule",
        "targets": ["x"],
        "must": must,
        "severity": {"save": "block"},
    }
    form = {
        "key": "form",
        "name": "Form",
        "fields": [
            {"type": "decimal", "key": "x", "label": "X", "scale": 2},
            {"type": "text", "key": "n", "label": "N", "long": True},
            {
                "type": "choices",
                "key": "many",
                "label": "Many",
                "choices": [{"code": code, "label": code} for code in CODES],
            },
        ],
        "conditions": list(conditions),
        "rules": [rule] if rules is None else rules,
    }
    return compile_ruleset(RuleSet.model_validate({"forms": [form]}), form="form")


def result(form, values):
    verdict = form.judge(values, moment="save", today=date(2026, 6, 11), now=NOW)
    return verdict.results[0]


def doubled(levels: int, join: str) -> str:
    lines = ["a0: [x]"] + [f"a{n}: {join.format(f'a{n - 1}')}" for n in range(1, levels)]
    return "{" + ", ".join(lines) + "}" + f".a{levels - 1}"


TOO_MUCH = {
    "three loops in one": "some a in 1..9999, b in 1..9999, c in 1..9999 satisfies a + b + c < x",
    "three loops inside one another": "some a in 1..9999 satisfies some b in 1..9999 satisfies"
    " some c in 1..9999 satisfies a + b + c < x",
    "steps without a result": "count(for i in 1..100000000000, j in [] return 1) > x",
    "several loops together": " or ".join(["count(for i in 1..3000 return i) = x"] * 6),
    "doubling lists": f"count({doubled(24, 'concatenate({0}, {0})')}) > x",
    "a text for each letter": 'string length(replace(n, "(a)", n)) > x',
    "texts joined": "string length(string join(for i in 1..999 return n)) > x",
    "what was given so far": "count(for i in 1..9000 return count(partial)) > x",
    "a filter in a loop": "count(for i in 1..900 return count(many[item = n])) > x",
}


@pytest.mark.parametrize("must", TOO_MUCH.values(), ids=TOO_MUCH)
def test_past_its_budget_a_rule_judges_nothing_and_says_why(must):
    found = result(compiled(must), {"x": "1", "n": "a" * 20_000, "many": CODES})
    assert (found.status, found.reason) == ("not_evaluable", TOO_MUCH_WORK)


ENOUGH = {
    "a power beyond a decimal": "even(10 ** 999999) or x > 0",
    "the digits of a large power": "string length(string(10 ** 6000)) > x",
    "many different values": "count(distinct values(for i in 1..9999 return i)) = 9999 * x",
    "every choice": "every code in many satisfies string length(code) > x",
    "all choices at once": "count(distinct values(many)) > x",
    "a long chain": " + ".join(["x"] * 100) + " = 100",
    "a long disjunction": " or ".join(["x = 5"] * 600 + ["x = 1"]),
}


@pytest.mark.parametrize("must", ENOUGH.values(), ids=ENOUGH)
def test_what_people_need_is_within_the_budget(must):
    form = compiled(must)
    assert not form.problems
    assert result(form, {"x": "1", "n": "a" * 20_000, "many": CODES}).status == "satisfied"


def test_other_rules_judge_as_ever_and_the_next_record_too():
    long = {
        "kind": "cross_field",
        "key": "long",
        "name": "Long",
        "targets": ["x"],
        "must": "some a in 1..1000, b in 1..1000 satisfies a + b = x",
        "severity": {"save": "block"},
    }
    form = compiled(rules=[long, {**long, "key": "short", "name": "Short", "must": "x > 2"}])

    def both(x):
        verdict = form.judge({"x": x}, moment="save", today=date(2026, 6, 11), now=NOW)
        return [one.status for one in verdict.results]

    assert both("1") == ["not_evaluable", "violated"]
    assert both("3") == ["satisfied", "satisfied"], "found at once, so the budget is not spent"


def test_a_condition_past_its_budget_is_not_met_and_says_why():
    rule = {
        "kind": "mandatory",
        "key": "given",
        "name": "Given",
        "targets": ["n"],
        "when": "some a in 1..9999, b in 1..9999 satisfies a + b < x",
        "severity": {"save": "block"},
    }
    found = result(compiled(rules=[rule]), {"x": "1"})
    assert (found.status, found.reason) == ("not_applicable", TOO_MUCH_WORK)


LISTS = st.recursive(
    st.sampled_from(
        ["(for k in 1..40 return k)", "[1, 2, x]", "[]", "many", "split(n, n)", "[n, n]"]
    ),
    lambda one: st.one_of(
        st.tuples(one, one).map(lambda two: f"(for i in {two[0]}, j in {two[1]} return i)"),
        st.tuples(one, one).map(lambda two: f"concatenate({two[0]}, {two[1]})"),
        one.map(lambda inner: f"distinct values({inner})"),
        one.map(lambda inner: f"flatten([{inner}, {inner}])"),
        one.map(lambda inner: f"(for i in {inner} return {inner})"),
        st.tuples(one, one).map(lambda two: f"union({two[0]}, {two[1]})"),
        one.map(lambda inner: f"({inner})[item != null]"),
    ),
    max_leaves=12,
)


@given(LISTS)
def test_nothing_longer_than_the_budget_is_ever_built(written):
    environment = {"x": None, "n": "ab" * 500, "many": list(CODES)}
    built = interpret(read_formula(written))(environment)
    assert built is None or len(built) <= work.BUDGET


BIG = {
    "text": "n",
    "list": "[n, n, n, many, [n, [n, n]]]",
    "context": "{a: n, b: [n, {c: n}]}",
    "any": "[n, {a: n, b: [n, n, n]}]",
    "number": "3",
    "same": "n",
}


def characters_in(value):
    """How much there is in a value, with all that is in it."""
    if isinstance(value, str):
        return len(value)
    if isinstance(value, dict):
        value = list(value.values())
    return sum(map(characters_in, value)) if isinstance(value, list) else 1


@pytest.mark.parametrize("name", sorted(FUNCTIONS))
def test_what_a_function_builds_is_paid_for_however_deep_it_stands(name):
    for way in FUNCTIONS[name].ways:
        if not {one.shape for one in way} & {"text", "list", "context", "any"}:
            continue
        given = ", ".join(BIG.get(one.shape, "null") for one in way if not one.optional)
        formula = f"for i in 1..400, j in 1..20 return {name}({given})"
        environment = {"n": "ab " * 6_000, "many": list(CODES), "x": None}
        built = interpret(read_formula(formula))(environment)
        most = work.BUDGET * work.CHARACTERS_A_GRAIN
        assert built is None or characters_in(built) <= most, formula


CONDITIONS = [{"key": "c0", "name": "c0", "condition": "x > 1"}] + [
    {"key": f"c{n}", "name": f"c{n}", "condition": f"c{n - 1} and c{n - 1}"} for n in range(1, 40)
]


def test_compiling_is_bounded_too():
    inside = "(x > 0)"
    for _ in range(25):
        inside = f"({inside} in (true, false))"
    assert not compiled(inside).problems
    chain = compiled("c39", conditions=CONDITIONS)
    told = [problem.message for found in chain.problems.values() for problem in found]
    assert told == ["The condition “c39” cannot be used as it is written."]
    assert any("5,000 parts" in problem.message for problem in chain.form_problems)


def test_a_chain_of_terms_is_one_level_and_has_an_end():
    long = compiled(" + ".join(["x"] * 1_000) + " > 3")
    (problem,) = long.problems["rule"]
    assert "120 terms" in problem.message
    assert "sum([a, b, c])" in problem.remedy
    assert not compiled(
        "if x > 9 then false else " * 50 + " - ".join(["x"] * 100) + " < 3"
    ).problems


def test_a_ring_is_told_once_and_the_others_point_to_it():
    fields = [{"type": "decimal", "key": f"f{n}", "label": f"F{n}", "scale": 2} for n in range(500)]
    rules = [
        {
            "kind": "derive",
            "key": f"r{n}",
            "name": f"R{n}",
            "targets": [f"f{n}"],
            "value": f"f{(n + 1) % 500} + 1",
        }
        for n in range(500)
    ]
    document = {"forms": [{"key": "ring", "name": "Ring", "fields": fields, "rules": rules}]}
    problems = compile_ruleset(RuleSet.model_validate(document), form="ring").problems
    told = [found[0].message for found in problems.values()]
    assert len(told) == 500
    assert "and 492 more decide about one another in a circle" in told[0]
    assert set(told[1:]) == {"It is part of the circle that “R0” stands in."}
