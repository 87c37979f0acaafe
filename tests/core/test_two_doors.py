"""What is stored has one form and one reader; what people type is read by the field's settings."""

from datetime import date
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core import RuleSet, compile_ruleset, sweep_field
from thistlequartz.core.judging import Circumstances, ReferredRecord
from thistlequartz.core.sweep import RecordContext, stops_of

from .conftest import TODAY

FIELDS: list[dict[str, Any]] = [
    {"key": "mass", "label": "Mass", "type": "decimal", "scale": 4, "decimal_mark": "comma"},
    {"key": "count", "label": "Count", "type": "whole_number", "decimal_mark": "comma"},
    {"key": "found", "label": "ReferredRecord", "type": "date", "date_order": "day_first"},
    {"key": "named", "label": "Named", "type": "text", "letter_case": "upper", "collapse": True},
    {"key": "at", "label": "At", "type": "date_time"},
    {"key": "open", "label": "Open", "type": "yes_no"},
    {"key": "pair", "label": "Pair", "type": "reference", "form": "form"},
]


def form_with(*rules: dict[str, Any], fields: list[dict[str, Any]] | None = None) -> Any:
    named = [{"key": f"r{n}", "name": f"Rule {n}", **one} for n, one in enumerate(rules)]
    form = {"key": "form", "name": "Form", "fields": fields or FIELDS, "rules": named}
    return compile_ruleset(RuleSet.model_validate({"forms": [form]}), form="form")


BARE = form_with()
STORED = st.fixed_dictionaries(
    {},
    optional={
        "mass": st.decimals(-(10**20), 10**20, places=4).map("{:f}".format),
        "count": st.integers(-(10**9), 10**9).map(str),
        "found": st.dates().map(date.isoformat),
        "named": st.text(st.characters(codec="ascii", categories=["Lu", "Nd"]), min_size=1),
        "open": st.booleans(),
        "at": st.just("2026-06-11T09:00:00Z"),
    },
)


@given(STORED)
def test_what_is_given_out_can_be_sent_back_unchanged_and_means_the_same(stored):
    entered = BARE.as_entered(stored)
    verdict = BARE.judge(entered, moment="save", today=TODAY, event="update", stored=stored)
    changed = BARE.read(entered, stored=stored)
    assert verdict.may_pass
    assert changed.readings == {**dict.fromkeys(BARE.fields), **changed.before}
    again = BARE.canonical(entered)
    assert BARE.canonical(BARE.as_entered(again)) == again


def test_number_typed_with_a_comma_is_stored_as_meant():
    rule = {"kind": "lock", "targets": ["mass"], "when": "open = true"}
    form = form_with(rule, {"kind": "derive", "targets": ["count"], "value": "floor(stored.mass)"})
    typed = form.judge({"mass": "1,125"}, moment="save", today=TODAY)
    assert typed.stores == {"mass": Decimal("1.125")}
    stored = {"mass": "1.125", "open": True}
    kept = form.judge({"open": True}, moment="save", today=TODAY, event="update", stored=stored)
    assert kept.stores["mass"] == Decimal("1.125")
    assert kept.stores["count"] == Decimal(1)


def test_a_value_kept_while_it_is_out_of_play_stays_what_it_was():
    fields = [{**FIELDS[0], "keep": True}, FIELDS[5]]
    form = form_with({"kind": "open", "targets": ["mass"], "when": "open = true"}, fields=fields)
    asked = {"moment": "save", "today": TODAY, "event": "update", "stored": {"mass": "1.125"}}
    assert form.judge({"open": False}, **asked).stores["mass"] == Decimal("1.125")


def test_a_starting_value_is_given_as_it_is_entered():
    form = form_with({"kind": "start", "targets": ["mass"], "value": "1.125"})
    starting = form.starting_values(today=TODAY)
    assert starting == {"mass": "1,125"}
    verdict = form.judge(starting, moment="save", today=TODAY)
    assert verdict.stores == {"mass": Decimal("1.125")}


def test_bands_and_their_stops_are_entered_as_people_would():
    severity = {"save": "block", "submit": "block"}
    rule = {"kind": "range", "targets": ["mass"], "upper": {"value": "1.125"}, "severity": severity}
    form = form_with(rule)
    found = sweep_field(RecordContext(form, {"mass": "1,5"}, Circumstances(TODAY)), "mass")
    ends = [(band.answer.save, band.high.value if band.high else None) for band in found.bands]
    assert ("clear", Decimal("1.125")) in ends
    for stop in stops_of(found, form.fields["mass"], TODAY):
        if stop.value is not None:
            outcome = form.judge({"mass": stop.value}, moment="save", today=TODAY).outcome
            assert outcome == found.bands[stop.band].answer.save


@pytest.mark.parametrize("written", ["1.125", "1,125"])
def test_another_record_is_read_in_canonical_form_and_normalised(written):
    class One:
        def record(self, form, number):
            return ReferredRecord({"mass": "1.125", "named": "an  oak"})

        def taken(self, keys, folded):
            return False

        def holder(self, keys, folded):
            return None

        def others(self, where, fields):
            return [{"mass": "1.125", "named": "an  oak"}]

    severity = {"save": "block", "submit": "block"}
    same = "other.mass = mass and other.named = named"
    form = form_with(
        {"kind": "elsewhere", "targets": ["mass"], "no_other": same, "severity": severity},
        {
            "kind": "cross_field",
            "targets": ["mass"],
            "must": "pair.mass = mass",
            "severity": severity,
        },
    )
    values = {"mass": written, "named": "An oak", "pair": "7"}
    verdict = form.judge(values, moment="save", today=TODAY, lookup=One())
    alike = written == "1,125"
    assert {one.rule for one in verdict.violated} == ({"r0"} if alike else {"r1"})
