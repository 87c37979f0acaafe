"""Bands and maps as they are drawn: every stop and every cell says what judging there says."""

from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from thistlequartz.core.analysis import Observer
from thistlequartz.core.analysis.sweep import RecordContext, stops_of, sweep, sweep_map
from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.values import DateType, NumberType
from thistlequartz.demo.forms import DRAFT
from thistlequartz.demo.records import values_of

from .conftest import TODAY, compiled_form

HERE = Circumstances(TODAY, role="clerk")
PLANT = compile_ruleset(DRAFT, form="plant_accession")
ORDERED = [key for key, one in PLANT.fields.items() if isinstance(one.type, NumberType | DateType)]
RECORDS = [dict(one.values) for one in values_of("plant_accession", 11, 12)]


def judged(around, changes):
    record = around.form.read({**around.values, **changes})
    seen = Observer(around.form).of_judged(around.form.judged(record, HERE))
    return seen.save, seen.submit


@given(st.sampled_from(ORDERED), st.sampled_from(RECORDS))
@settings(max_examples=40, deadline=None)
def test_every_stop_along_a_band_does_what_the_band_says(key, values):
    around = RecordContext(PLANT, values, HERE)
    found = sweep(around, key)
    stops = stops_of(found, PLANT.fields[key], TODAY)
    assert {stop.band for stop in stops} == set(range(len(found.bands)))
    for stop in stops:
        answer = found.bands[stop.band].answer
        assert judged(around, {key: stop.value}) == (answer.save, answer.submit)


@given(st.sampled_from(RECORDS), st.data())
@settings(max_examples=12, deadline=None)
def test_every_cell_of_a_map_does_what_it_says(values, data):
    across, down = data.draw(
        st.lists(st.sampled_from(ORDERED), min_size=2, max_size=2, unique=True)
    )
    around = RecordContext(PLANT, values, HERE)
    found = sweep_map(around, across, down)
    assert len(found.cells) == len(found.rows)
    for row, cells in zip(found.rows, found.cells, strict=True):
        assert len(cells) == len(found.columns)
        for column, cell in zip(found.columns, cells, strict=True):
            seen = judged(around, {across: column.sample, down: row.sample})
            assert seen == (cell.answer.save, cell.answer.submit)


AMOUNT = {"key": "amount", "type": "decimal", "scale": 2}


@pytest.mark.parametrize(
    ("field", "bound", "inclusive", "stops"),
    [
        (AMOUNT, "1000", True, ["1000", "1000.01"]),
        (AMOUNT, "1000", False, ["999.99", "1000"]),
        ({"key": "amount", "type": "whole_number"}, "7", True, ["7", "8"]),
        ({"key": "amount", "type": "date"}, "today", True, ["2026-06-12", "2026-06-13"]),
        ({"key": "amount", "type": "time"}, "17:30", False, ["17:29:59", "17:30:00"]),
    ],
)
def test_the_stops_of_a_bound_are_the_last_value_on_one_side_and_the_first_on_the_other(
    field, bound, inclusive, stops
):
    upper = {"upper": {"value": bound, "inclusive": inclusive}}
    form = compiled_form([field], [{"kind": "range", "targets": ["amount"], **upper}])
    found = sweep(RecordContext(form, {}, HERE), "amount")
    values = [one.value for one in stops_of(found, form.fields["amount"], TODAY)]
    place = values.index(stops[0])
    assert values[place : place + 2] == stops


def test_the_stops_of_choices_are_the_choices_and_blank():
    choices = [{"code": "a", "label": "Able"}, {"code": "b", "label": "Baker"}]
    form = compiled_form([{"key": "kind", "type": "choice", "choices": choices}], [])
    found = sweep(RecordContext(form, {}, HERE), "kind")
    stops = stops_of(found, form.fields["kind"], date(2026, 6, 12))
    assert [(one.value, one.words) for one in stops] == [
        (None, "blank"),
        ("a", "Able"),
        ("b", "Baker"),
    ]
