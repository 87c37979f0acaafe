"""Bands and maps as they are drawn: every stop and every cell says what judging there says."""

from datetime import date, timedelta
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.judging import Circumstances, JudgeRequest, compile_ruleset
from thistlequartz.core.sweep import (
    RecordContext,
    drawing_of,
    lanes_of,
    stops_of,
    sweep_field,
    sweep_map,
)
from thistlequartz.core.types import DateType, NumberType
from thistlequartz.core.types.domain import place_of
from thistlequartz.demo.forms import DRAFT
from thistlequartz.demo.records import values_of

from .conftest import TODAY, compiled_form

HERE = Circumstances(TODAY, role="clerk")
PLANT = compile_ruleset(DRAFT, form="plant_accession")
ORDERED = [key for key, one in PLANT.fields.items() if isinstance(one.type, NumberType | DateType)]
RECORDS = [dict(one.values) for one in values_of("plant_accession", 11, 12)]


def judged(around, changes):
    record = around.form.read({**around.values, **changes})
    seen = Observer(around.form).of_judged(around.form.judged(JudgeRequest(record, HERE)))
    return seen.save, seen.submit


@given(st.sampled_from(ORDERED), st.sampled_from(RECORDS))
@settings(max_examples=few(20))
def test_every_stop_along_a_band_does_what_the_band_says(key, values):
    around = RecordContext(PLANT, values, HERE)
    found = sweep_field(around, key)
    stops = stops_of(found, PLANT.fields[key], TODAY)
    assert {stop.band for stop in stops} == set(range(len(found.bands)))
    for stop in stops:
        answer = found.bands[stop.band].answer
        assert judged(around, {key: stop.value}) == (answer.save, answer.submit)


@given(st.sampled_from(RECORDS), st.data())
@settings(max_examples=few(6))
def test_map_region_agrees_with_judging_at_every_point(values, data):
    across, up = data.draw(st.lists(st.sampled_from(ORDERED), min_size=2, max_size=2, unique=True))
    around = RecordContext(PLANT, values, HERE)
    found = sweep_map(around, across, up)
    says_what_judging_says(around, found, data)


def says_what_judging_says(around, found, data, near=0.0):
    """Of values that can be pointed at, and of the pair that each region names. `near` a border, or
    not a value away from it, it may be either.
    """
    for region in found.regions:
        pair = zip((found.across.key, found.up.key), region.sample, strict=True)
        assert judged(around, dict(pair)) == (region.answer.save, region.answer.submit)
    sides = [list(side.pointed_at(around)) for side in (found.across, found.up)]
    for _ in range(30):
        (x, x_value, _), (y, y_value, _) = (data.draw(st.sampled_from(side)) for side in sides)
        widths = beside(around, found.across, x_value, x, near)
        heights = beside(around, found.up, y_value, y, near)
        there = set().union(*(answers(found, *one) for one in product(widths, heights)))
        assert there, "nothing is left out"
        if len(there) == 1:
            seen = judged(around, {found.across.key: x_value, found.up.key: y_value})
            assert {seen} == there


def beside(around, side, entry, at, near):
    """Where a value is drawn, and where those are that stand beside it."""
    place = place_of(around.form.read({side.key: entry}).readings[side.key])
    step = side.type.domain(TODAY).step
    below, above = (at, at) if place is None else (side.at(place - step), side.at(place + step))
    near = max(near, 1e-6)
    return below, at - near, at, at + near, above


def answers(found, x, y):
    """What is said at a point of the picture."""
    return {
        (one.answer.save, one.answer.submit)
        for one in found.regions
        if any(inside(shape, x, y) for shape in one.shapes)
    }


def inside(shape, x, y):
    """Whether a point lies in a polygon: a ray to the right leaves it an odd number of times."""
    xs, ys = [one for one, _ in shape], [one for _, one in shape]
    if max(xs) == min(xs) or max(ys) == min(ys):  # a line
        return min(xs) <= x <= max(xs) and min(ys) <= y <= max(ys)
    crossed = [
        a[0] + (y - a[1]) / (b[1] - a[1]) * (b[0] - a[0]) > x
        for a, b in zip(shape, (*shape[1:], shape[0]), strict=True)
        if (a[1] > y) != (b[1] > y)
    ]
    return sum(crossed) % 2 == 1


NUMBERS = [{"key": "x", "type": "whole_number"}, {"key": "y", "type": "decimal", "scale": 1}]
MUSTS = ["x <= y", "x + y <= 100", "x >= 2 * y + 3", "x * y <= 60", "x in [10..20]", "y != 4.5",
         "x > 5 or y > 7", "x - y in [0..5]", "x <= 10 or y = 5",
         "x <= (if y = 5 then 12 else 10)", "x <= (if y >= 5.5 then y else 7)"]  # fmt: skip


@given(st.lists(st.sampled_from(MUSTS), min_size=1, max_size=3, unique=True), st.data())
@settings(max_examples=few(12))
def test_map_regions_are_exact_where_two_fields_are_compared(musts, data):
    rules = [
        {"kind": "cross_field", "targets": ["x"], "must": must,
         "severity": {"save": "warn" if place else "block"}}
        for place, must in enumerate(musts)
    ]  # fmt: skip
    around = RecordContext(compiled_form(NUMBERS, rules), {}, HERE)
    found = sweep_map(around, "x", "y")
    if not found.exact:
        # Whole numbers are held to be equal to decimals, which changes at each of them: too often
        # to look at, and the map says so.
        assert {"x <= y", "x - y in [0..5]", "x + y <= 100"} == set(musts)
        return
    assert found.bent <= ("x * y <= 60" in musts)
    says_what_judging_says(around, found, data, near=0.01 if found.bent else 0.0)


def test_a_slanted_border_says_what_is_so_along_it():
    said = {}
    for must in MUSTS:
        rule = {"kind": "cross_field", "targets": ["x"], "must": must}
        form = compiled_form([{**one, "label": one["key"].upper()} for one in NUMBERS], [rule])
        found = sweep_map(RecordContext(form, {}, HERE), "x", "y")
        said[must] = [one.words for one in found.borders if one.words]
    assert said["x <= y"] == ["X = Y"]
    assert said["x + y <= 100"] == ["X + Y = 100"]
    assert said["x - y in [0..5]"] == ["X = Y", "X = Y + 5"]
    assert said["x in [10..20]"] == []


@pytest.mark.parametrize("types", list(product(["whole_number", "decimal"], repeat=2)))
def test_an_upright_border_with_one_spared_value_stays_upright(types):
    fields = [{"key": key, "type": type_} for key, type_ in zip("xy", types, strict=True)]
    for must in (
        "x <= (if y = 5 then 12 else 10)",
        "x <= 10 or y = 5",
        "x <= (if y > 5 then 9 else 7)",
    ):
        rule = {"kind": "cross_field", "targets": ["x"], "must": must}
        around = RecordContext(compiled_form(fields, [rule]), {}, HERE)
        found = sweep_map(around, "x", "y")
        assert (found.exact, found.bent) == (True, False)
        for border in found.borders:
            (x, y), (other_x, other_y) = border.points
            assert x == pytest.approx(other_x) or y == pytest.approx(other_y)


TIERS = [
    {"kind": "propose", "targets": ["x"], "when": "x in [0..9]",
     "title": "Low", "sets": [{"field": "y", "value": "1"}]},
    {"kind": "propose", "targets": ["x"], "when": "x in [9..20]",
     "title": "Middle", "sets": [{"field": "y", "value": "2"}]},
    {"kind": "propose", "targets": ["x"], "when": "x >= 30",
     "title": "High", "sets": [{"field": "y", "value": "3"}]},
    {"kind": "open", "targets": ["why"], "when": "x > 20"},
    {"kind": "mandatory", "targets": ["why"], "when": "x > 40"},
]  # fmt: skip


def test_gaps_and_overlaps_of_tiers_are_seen_along_a_band():
    fields = [*NUMBERS, {"key": "why", "type": "text"}]
    around = RecordContext(compiled_form(fields, TIERS), {}, HERE)
    found = sweep_field(around, "x", closely=True)
    lanes = {
        (one.act, one.field): one.parts for one in lanes_of([b.consequences for b in found.bands])
    }
    words = [band.words for band in found.bands]
    offered = dict(zip(words, lanes["offers", "y"], strict=True))
    assert [word for word, part in offered.items() if not part] == ["blank", "up to −1", "21 to 29"]
    assert offered["9"] == ("1", "2"), "both match; the first is offered"
    asked = dict(zip(words, lanes["asks", "why"], strict=True))
    assert [word for word, part in asked.items() if part] == ["21 to 29", "30 to 40", "41 and more"]
    needed = dict(zip(words, lanes["needs", "why"], strict=True))
    assert [word for word, part in needed.items() if part] == ["41 and more"]


@pytest.mark.parametrize(
    ("bounds", "by", "ticks"),
    [
        (("0", "1000"), "value", ["0", "200", "400", "600", "800", "1,000"]),
        (("0", "3"), "value", ["−1", "0", "1", "2", "3"]),
        (("1", "5"), "value", ["0", "1", "2", "3", "4", "5"]),
        (("0", "5", "100000"), "rank", []),
    ],
)
def test_a_band_is_drawn_to_scale_with_round_numbers_or_by_rank(bounds, by, ticks):
    rules = [{"kind": "range", "targets": ["x"], "lower": {"value": one}} for one in bounds]
    form = compiled_form(NUMBERS, rules)
    found = sweep_field(RecordContext(form, {}, HERE), "x")
    drawing = drawing_of(found, form.fields["x"].type.domain(TODAY))
    assert (drawing.by, [one.words for one in drawing.ticks]) == (by, ticks)
    assert list(drawing.spans) == sorted(drawing.spans)
    stops = stops_of(found, form.fields["x"], TODAY, drawing)
    for stop in stops:
        begins, ends = drawing.spans[stop.band]
        assert begins - 1e-9 <= stop.at <= ends + 1e-9, "the handle stands in its band"
    assert [one.at for one in stops] == sorted(one.at for one in stops)


def test_dates_are_marked_at_the_first_of_months_and_years():
    for days, wanted in ((40, "11 May"), (400, "July 2025"), (9_000, "2005")):
        first = (TODAY - timedelta(days=days)).isoformat()
        bounds = {"lower": {"value": f'date("{first}")'}, "upper": {"value": "today"}}
        rule = {"kind": "range", "targets": ["day"], **bounds}
        form = compiled_form([{"key": "day", "type": "date"}], [rule])
        found = sweep_field(RecordContext(form, {}, HERE), "day")
        drawing = drawing_of(found, form.fields["day"].type.domain(TODAY))
        assert wanted in [one.words for one in drawing.ticks]


AMOUNT = {"key": "amount", "type": "decimal", "scale": 2}


@pytest.mark.parametrize(
    ("field", "bound", "inclusive", "stops"),
    [
        (AMOUNT, "1000", True, ["1000", "1000.01"]),
        (AMOUNT, "1000", False, ["999.99", "1000"]),
        ({"key": "amount", "type": "whole_number"}, "7", True, ["7", "8"]),
        ({"key": "amount", "type": "date"}, "today", True, ["2026-06-12", "2026-06-13"]),
        ({"key": "amount", "type": "time"}, "17:30", False, ["17:29:59", "17:30:00"]),
        ({"key": "amount", "type": "duration", "finest": "minute"}, "P1D", True, ["P1D", "P1DT1M"]),
        ({"key": "amount", "type": "duration", "finest": "year"}, "P2Y", False, ["P1Y", "P2Y"]),
    ],
)
def test_stops_of_a_bound_are_the_nearest_values_on_both_sides(field, bound, inclusive, stops):
    upper = {"upper": {"value": bound, "inclusive": inclusive}}
    form = compiled_form([field], [{"kind": "range", "targets": ["amount"], **upper}])
    found = sweep_field(RecordContext(form, {}, HERE), "amount")
    values = [one.value for one in stops_of(found, form.fields["amount"], TODAY) if not one.between]
    place = values.index(stops[0])
    assert values[place : place + 2] == stops


def test_the_stops_of_choices_are_the_choices_and_blank():
    choices = [{"code": "a", "label": "Able"}, {"code": "b", "label": "Baker"}]
    form = compiled_form([{"key": "kind", "type": "choice", "choices": choices}], [])
    found = sweep_field(RecordContext(form, {}, HERE), "kind")
    stops = stops_of(found, form.fields["kind"], date(2026, 6, 12))
    assert [(one.value, one.words) for one in stops] == [
        (None, "blank"),
        ("a", "Able"),
        ("b", "Baker"),
    ]
