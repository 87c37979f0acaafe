"""Help in writing: tiers that meet, copies that mean the same, hints, places in a message."""

from datetime import UTC, date, datetime
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from thistlequartz.core.authoring import (
    RECIPES,
    Tiers,
    drawn_key,
    names_in,
    profile,
    recipe_rules,
    renamed,
    tiers_in,
    tiers_rules,
)
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.language import FormulaError
from thistlequartz.core.language.feel import key_problem
from thistlequartz.core.ruleset import Form, Rule, RuleSet, drafted_hint

AT = {"today": date(2026, 6, 11), "now": datetime(2026, 6, 11, 8, tzinfo=UTC)}
FIELDS = [
    {"type": "decimal", "key": "value", "label": "Value"},
    {"type": "decimal", "key": "rate", "label": "Rate"},
    {"type": "whole_number", "key": "rating", "label": "Rating"},
    {"type": "text", "key": "email", "label": "E-mail"},
    {"type": "date", "key": "start", "label": "Start"},
    {"type": "date", "key": "finish", "label": "Finish"},
    {"type": "choice", "key": "kind", "label": "Kind", "choices": [
        {"code": "plain", "label": "Plain"}, {"code": "other", "label": "Other"}]},
]  # fmt: skip
HARD = {"entry": "warn", "save": "warn", "submit": "block"}


def form(*rules, renaming=None):
    names = renaming or {}
    fields = [field | {"key": names.get(field["key"], field["key"])} for field in FIELDS]
    return Form.model_validate({"key": "f", "name": "F", "fields": fields, "rules": rules})


def compiled(*rules, **more):
    return compile_ruleset(RuleSet(forms=(form(*rules, **more),)), form="f")


def rule(**parts):
    parts = {"key": "r", "name": "R", "targets": ["rating"], "severity": HARD} | parts
    return TypeAdapter(Rule).validate_python(parts)


bounds = st.lists(st.integers(1, 99), min_size=2, max_size=5, unique=True).map(sorted)


@given(bounds, st.data())
def test_tiers_meet_and_are_read_back_as_they_were_written(ends, data):
    rows = [
        {"upto": str(end), "included": data.draw(st.booleans()),
         "value": data.draw(st.sampled_from([str(number), str(number), None])), "title": "T"}
        for number, end in enumerate(ends)
    ]  # fmt: skip
    rows[0]["value"] = rows[-1]["value"] = "7"  # rows without a value are seen between others only
    for row, before in zip(rows[1:], rows, strict=False):
        if before["value"] is None and row["value"] is None:
            row["value"] = "1"  # two gaps in a row are one
    begin = {"begin": "0", "begin_included": data.draw(st.booleans())}
    tiers = Tiers.model_validate(
        {"governor": "value", "field": "rate", "title": "T", "rows": rows, **begin}
    )
    for row in rows:
        row["title"] = "T" if row["value"] else ""
    whole = compiled()
    made = tiers_rules(tiers, whole.fields, whole.form)
    (found,) = tiers_in(made)
    assert found.tiers == Tiers.model_validate(tiers.model_dump() | {"rows": rows})
    judge = compiled(*made)
    for amount in range(100):
        verdict = judge.judge({"value": str(amount)}, moment="save", **AT)
        assert len(verdict.proposals) <= 1
        value = next((row for row in rows if _holds(row, rows, begin, amount)), {}).get("value")
        offered = [one.values["rate"] for one in verdict.proposals]
        assert offered == ([Decimal(value)] if value else []), amount


def _holds(row, rows, begin, amount):
    place = rows.index(row)
    low, low_included = (
        (int(rows[place - 1]["upto"]), not rows[place - 1]["included"])
        if place
        else (0, begin["begin_included"])
    )
    high = int(row["upto"])
    above = amount > low or (amount == low and low_included)
    return above and (amount < high or (amount == high and row["included"]))


NAMES = {"value": "amount", "rating": "stars", "start": "begun", "kind": "sort"}


@pytest.mark.parametrize(
    "parts",
    [
        {"kind": "mandatory", "when": "value > 2 and kind = \"other\""},
        {"kind": "range", "lower": {"value": "value"}, "upper": {"value": "9"}},
        {"kind": "cross_field", "targets": ["start"], "must": "start <= today"},
        {"kind": "allowed_values", "governor": "kind", "rows": [
            {"answer": "other", "values": ["1", "2"]}]},
        {"kind": "mandatory", "when": "stored.value = null or changed.start"},
    ],
)  # fmt: skip
def test_a_copy_for_other_names_means_the_same(parts):
    original = rule(**parts)
    copy = renamed(original, NAMES)
    assert set(names_in(copy)) == {NAMES.get(key, key) for key in names_in(original)}
    here, there = compiled(original), compiled(copy, renaming=NAMES)
    assert there.problems == {}
    for value, rating, kind, start in (
        ("1", "2", "other", "2026-06-12"), ("5", "", "other", "2026-06-01"),
        ("", "9", "", ""), ("3", "4", "plain", "2026-06-11"),
    ):  # fmt: skip
        values = {"value": value, "rating": rating, "kind": kind, "start": start}
        moved = {NAMES[key]: text for key, text in values.items()}
        ours = here.judge(values, moment="submit", **AT)
        theirs = there.judge(moved, moment="submit", **AT)
        assert [one.status for one in ours.results] == [one.status for one in theirs.results]


def test_places_in_a_message_are_filled_alike_by_both_ways_to_judge():
    whole = compiled(
        rule(
            kind="range",
            lower={"value": "1"},
            upper={"value": "10"},
            message="{label} {value}: from {lowest} to {highest}, {email}, {{kept}}, {today}",
        )
    )
    values = {"rating": "11", "email": "a@example.org"}
    told = "Rating 11: from 1 to 10, “a@example.org”, {kept}, 11 June 2026"
    (result,) = whole.judge(values, moment="save", **AT).results
    assert [message.text for message in result.messages] == [told]
    readings = whole.read(values)
    (violation,) = whole.screener(**AT).screen(readings).violations
    assert violation.message.text == told


@pytest.mark.parametrize(
    ("target", "parts", "hint"),
    [
        ("rating", {"kind": "range", "lower": {"value": "1"}, "upper": {"value": "10"}},
         "a whole number from 1 to 10"),
        ("start", {"kind": "range", "upper": {"value": "today"}}, "a date on or before today"),
        ("email", {"kind": "format", "pattern": "[0-9]{10}", "described": "exactly ten digits"},
         "exactly ten digits"),
        ("email", {"kind": "range", "of": "length", "upper": {"value": "5"}},
         "at most 5 characters"),
        ("rating", {"kind": "mandatory"}, ""),
        ("rating", {"kind": "range", "lower": {"value": "1"}, "when": "value > 2"}, ""),
    ],
)  # fmt: skip
def test_a_hint_says_what_the_rules_always_ask(target, parts, hint):
    whole = compiled(rule(targets=[target], **parts))
    lowered = [one.lowered for one in whole.rules]
    assert drafted_hint(target, lowered, whole.fields) == hint


def test_every_recipe_makes_rules_that_work():
    answers = {
        "other_text": {"choice": ("kind",), "other": ("other",), "text": ("email",)},
        "dates_in_order": {"dates": ("start", "finish")},
        "required_together": {"fields": ("value", "rate", "rating")},
        "first_things_first": {"first": ("email",), "later": ("value",)},
    }
    for key, given_answers in answers.items():
        made = recipe_rules(RECIPES[key], given_answers, form())
        whole = compiled(*made)
        assert whole.problems == {}, key
    whole = compiled(*recipe_rules(RECIPES["other_text"], answers["other_text"], form()))
    shown = whole.judge({"kind": "other"}, moment="submit", **AT)
    assert [one.status for one in shown.results] == ["satisfied", "violated"]


@given(st.text(max_size=60))
def test_a_key_can_be_drawn_from_any_name(name):
    key = drawn_key(name, {"field", "total"}, "field")
    assert key_problem(key) is None
    assert key not in ("field", "total")


def test_a_profile_reads_what_the_columns_hold():
    """Types as a person would name them (common practice), each kept by every row."""
    lines = ["No;On;Price;Kind;Mail;Ok;Code"] + [
        f"{n};{n % 28 + 1:02}.11.2025;{n},50;{'abc'[n % 3]};p{n}@example.org;yes;00{n}"
        for n in range(1, 41)
    ]
    found = profile("\n".join(lines))
    kinds = {column.heading: column.field.type for column in found.columns}
    assert kinds == {
        "No": "whole_number", "On": "date", "Price": "decimal", "Kind": "choice",
        "Mail": "text", "Ok": "yes_no", "Code": "text",
    }  # fmt: skip
    mail = next(column for column in found.columns if column.heading == "Mail")
    assert [one.rule.kind for one in mail.rules] == ["mandatory", "format", "unique"]
    rules = [one.rule for column in found.columns for one in column.rules]
    fields = [column.field for column in found.columns]
    document = Form(key="f", name="F", fields=tuple(fields), rules=tuple(rules))
    whole = compile_ruleset(RuleSet(forms=(document,)), form="f")
    assert whole.problems == {}
    row = dict(zip([one.key for one in fields], lines[7].split(";"), strict=True))
    verdict = whole.judge(row, moment="submit", **AT)
    assert not [one for one in verdict.results if one.status == "violated"]


def test_long_names_and_other_governors_are_no_trouble():
    long = "x" * 200
    found = profile(f"{long}\n" + "\n".join(str(n) for n in range(20)))
    assert all(len(one.rule.name) <= 200 for one in found.columns[0].rules)
    fields = [field | {"label": long} for field in FIELDS]
    whole = Form.model_validate({"key": "f", "name": "F", "fields": fields})
    assert recipe_rules(RECIPES["dates_in_order"], {"dates": ("start", "finish")}, whole)
    tiers = {"governor": "kind", "field": "rate", "title": "T", "rows": [{"upto": "other"}]}
    with pytest.raises(FormulaError, match="is not a number"):
        tiers_rules(Tiers.model_validate(tiers), compiled().fields, form())
