"""Sweeps: held against judging every single value, and against tables of boundary values."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.judging import Circumstances, CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.sweep import Band, RecordContext, RecordOutcomes, sweep_field, sweep_map

from .conftest import TODAY, form_of

BLOCK = {"severity": {"save": "none", "submit": "block"}}
FIELDS: list[dict[str, Any]] = [
    {"key": "x", "type": "whole_number"},
    {"key": "y", "type": "whole_number"},
    {"key": "half", "type": "whole_number"},
    {"key": "fee", "type": "decimal"},
    {"key": "open", "type": "yes_no"},
]


def around(rules: list[dict[str, Any]], fields: Any = FIELDS, **values: object) -> RecordContext:
    document = form_of(fields, []).model_dump() | {
        "rules": [{"key": f"r{n}", "name": f"Rule {n}", **rule} for n, rule in enumerate(rules, 1)]
    }
    form: CompiledForm = compile_ruleset(RuleSet.model_validate({"forms": [document]}), form="form")
    assert not form.problems
    return RecordContext(form, values, Circumstances(TODAY))


def holds(band: Band, value: Any) -> bool:
    """Whether `value` lies in the band."""
    low, high = band.low, band.high
    above = low is None or value > low.value or (low.included and value == low.value)
    below = high is None or value < high.value or (high.included and value == high.value)
    return above and below


ATOMS = st.sampled_from(
    [
        "x > 4", "x >= y", "x + y <= 6", "2 * x - 3 = y", "x / 3 < y", "7 - x > y", "x in [2..5)", "x in (1, 3, 8)",
        "half > 2", "half in (1..3]", "fee >= 1.05", "abs(x - y) < 3", "open", "x * x > 9", "modulo(x, 3) = 1",
        "sum(x, y) > 4", "min(x, y) >= 2", "floor(x / 4) = 1", "(if x > 3 then y else x) > 2", "open and x < y",
    ]
)  # fmt: skip
CONDITIONS = st.lists(ATOMS, min_size=1, max_size=3).flatmap(
    lambda parts: st.sampled_from([" and ".join(parts), " or ".join(parts), f"not({parts[0]})"])
)
EFFECTS = [
    {"kind": "derive", "targets": ["half"], "value": "x / 2"},
    {"kind": "derive", "targets": ["fee"], "value": "x * 0.35 / 3"},
    {"kind": "derive", "targets": ["open"], "value": "half > 1 and x < 9"},
    {"kind": "close", "targets": ["y"], "when": "x > 7"},
]


BESIDE = [
    {"kind": "entered_twice", "targets": ["x"], **BLOCK},
    {
        "kind": "propose",
        "targets": ["y"],
        "title": "As many",
        "when": "x > 2",
        "sets": [{"field": "y", "value": "x + 1"}],
    },
]


@settings(max_examples=few(60))
@given(
    st.lists(st.tuples(CONDITIONS, CONDITIONS), min_size=1, max_size=3),
    st.integers(-4, 9),
    st.lists(st.sampled_from(BESIDE), unique_by=lambda one: one["kind"]),
    st.integers(-4, 9),
)
def test_bands_say_what_judging_each_value_says(
    conditions: list[tuple[str, str]], y: int, beside: list[dict[str, Any]], again: int
) -> None:
    rules = [
        {"kind": "cross_field", "targets": ["x"], "when": when, "must": must, **BLOCK}
        for when, must in conditions
    ]
    twice = any(one["kind"] == "entered_twice" for one in beside)
    second = {"x.again": str(again)} if twice else {}
    surroundings = around([*EFFECTS, *rules, *beside], y=str(y), **second)
    found = sweep_field(surroundings, "x")
    untraceable = "x * x" in str(conditions) or "modulo" in str(conditions)
    assert found.exact or untraceable
    for value in range(-30, 31):
        (band,) = (one for one in found.bands[1:] if holds(one, Decimal(value)))
        if found.exact:
            assert band.answer == surroundings.answer({"x": str(value)}), value
    for band in found.bands:
        entered = None if band.sample is None else str(band.sample)
        assert band.answer == surroundings.answer({"x": entered})


def test_three_value_boundaries_of_a_range() -> None:
    """ISO/IEC/IEEE 29119-4, three-value boundary analysis of [a, b]: a-s, a, a+s, b-s, b, b+s."""
    a, b, step = 50_000, 170_000, 1
    rule = {
        "kind": "range",
        "targets": ["x"],
        "lower": {"value": str(a)},
        "upper": {"value": str(b)},
    }
    bands = sweep_field(around([{**rule, **BLOCK}]), "x").bands
    assert [band.words for band in bands] == [
        "blank",
        "up to 49,999",
        "50,000 to 170,000",
        "170,001 and more",
    ]
    expected = {
        a - step: True,
        a: False,
        a + step: False,
        b - step: False,
        b: False,
        b + step: True,
    }
    for value, refused in expected.items():
        (band,) = (one for one in bands[1:] if holds(one, Decimal(value)))
        assert (band.answer.submit == "blocked") is refused


def test_tiers_of_proposals_show_their_gap() -> None:
    """Check values of common practice (no source): 800 gives 5, 1,001 gives 10, 12,000 none."""
    tiers = [
        ("value > 0 and value <= 1000", 5),
        ("value in (1000..5000]", 10),
        ("value >= 25000", 20),
    ]
    rules = [
        {"kind": "propose", "targets": ["value"], "title": f"{rate} %", "when": when, "sets": [{"field": "rate", "value": str(rate)}]}
        for when, rate in tiers
    ]  # fmt: skip
    fields = [{"key": "value", "type": "decimal"}, {"key": "rate", "type": "decimal"}]
    found = sweep_field(around(rules, fields), "value")
    assert found.exact
    assert [(band.words, band.answer.offered) for band in found.bands] == [
        ("blank", ()),
        ("up to 0", ()),
        ("over 0 to 1,000", ("r1",)),
        ("over 1,000 to 5,000", ("r2",)),
        ("over 5,000 to under 25,000", ()),
        ("25,000 and more", ("r3",)),
    ]


LOAN = [
    {"key": "lent", "type": "date"},
    {"key": "due", "type": "date"},
    {"key": "note", "type": "text"},
    {"key": "purpose", "type": "choice", "choices": [{"code": c, "label": c.title()} for c in ("study", "show")]},
]  # fmt: skip


@pytest.mark.parametrize(
    ("must", "words"),
    [
        ("due >= lent", ["up to 10 June 2026", "11 June 2026 and later"]),
        ('due <= lent + duration("P1M")', ["up to 11 July 2026", "12 July 2026 and later"]),
        ("due > today", ["up to 12 June 2026", "13 June 2026 and later"]),
        ("due.year = 2026", ["up to 31 December 2025", "1 January 2026 to 31 December 2026", "1 January 2027 and later"]),
        ("string length(note) < 5", ["up to 4 characters", "5 characters and more"]),
    ],
)  # fmt: skip
def test_dates_and_lengths_have_exact_bounds(must: str, words: list[str]) -> None:
    target = "note" if "note" in must else "due"
    rule = {"kind": "cross_field", "targets": [target], "must": must, **BLOCK}
    found = sweep_field(around([rule], LOAN, lent="2026-06-11"), target)
    assert found.exact
    assert [band.words for band in found.bands[1:]] == words


def test_a_part_of_a_date_is_seen_day_by_day_and_marked_as_sampled() -> None:
    """Leap days and weekdays come round; what a year on either side of today shows is told."""
    rule = {"kind": "cross_field", "targets": ["due"], "must": "due.month != 12", **BLOCK}
    found = sweep_field(around([rule], LOAN), "due")
    assert (found.exact, found.sampled) == (False, ("r1",))
    blocked = [band.words for band in found.bands if band.answer.submit == "blocked"]
    assert blocked == ["1 December 2025 to 31 December 2025", "1 December 2026 to 31 December 2026"]


def test_a_choice_has_a_band_for_each_answer() -> None:
    rule = {"kind": "mandatory", "targets": ["note"], "when": 'purpose = "show"', **BLOCK}
    found = sweep_field(around([rule], LOAN), "purpose")
    assert [(b.words, b.answer.submit) for b in found.bands] == [("blank", "clear"), ("Study", "clear"), ("Show", "blocked")]  # fmt: skip
    assert found.exact


def test_a_map_shows_where_two_answers_meet() -> None:
    rules = [
        {"kind": "range", "targets": ["x"], "upper": {"value": "10"}, "when": "y > 3", **BLOCK},
        {"kind": "cross_field", "targets": ["x"], "must": "x >= y", "severity": {"save": "note"}},
    ]
    surroundings = around(rules)
    found = sweep_map(surroundings, "x", "y")
    assert (found.exact, found.bent) == (True, False)
    for region in found.regions:
        x, y = region.sample
        assert region.answer == surroundings.answer({"x": x, "y": y})
    by_blank = {one.answer for one in found.regions if one.sample[1] is None}
    assert by_blank == {RecordOutcomes("clear", "clear", (), ())}
    # Blank, to the right of ten above three, left of x = y, and the rest: each in one piece.
    among_values = [one for one in found.regions if None not in one.sample]
    assert sorted((one.answer.save, one.answer.submit) for one in among_values) == [
        ("clear", "blocked"),
        ("clear", "clear"),
        ("noted", "blocked"),
        ("noted", "noted"),
    ]


@pytest.mark.parametrize(
    ("swept", "rules"),
    [
        ("note", [{"kind": "derive", "targets": ["copy"], "value": "note"},
                  {"kind": "cross_field", "targets": ["copy"], "must": 'copy != "xx"', **BLOCK}]),
        ("seen", [{"kind": "cross_field", "targets": ["seen"], "must": "seen.year = 2026", **BLOCK}]),
    ],
)  # fmt: skip
def test_what_a_length_or_an_instant_alone_cannot_tell_is_sampled(
    swept: str, rules: list[dict[str, Any]]
) -> None:
    fields = [
        {"key": "note", "type": "text"},
        {"key": "copy", "type": "text"},
        {"key": "seen", "type": "date_time"},
    ]
    assert not sweep_field(around(rules, fields), swept).exact
