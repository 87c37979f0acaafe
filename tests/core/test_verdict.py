"""What a verdict says: statuses in their order, severities, marks, reasons."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .conftest import TODAY, form_of, result

FIELDS = [
    {
        "key": "type_status",
        "type": "choice",
        "label": "Type status",
        "choices": [
            {"code": "holotype", "label": "Holotype"},
            {"code": "none", "label": "Not a type"},
        ],
    },
    {"key": "determined_by", "type": "text", "label": "Determined by"},
    {"key": "sheets", "type": "whole_number", "label": "Sheets", "unit": "pcs"},
]
DEMAND = {
    "kind": "mandatory",
    "targets": ["determined_by"],
    "when": 'type_status = "holotype"',
    "severity": {"entry": "note", "save": "warn", "submit": "block"},
}


def test_a_conditional_demand_warns_on_saving_and_blocks_on_submitting(judging):
    judge = judging(FIELDS, [DEMAND])
    for moment, outcome, may_pass in (("save", "warned", True), ("submit", "blocked", False)):
        verdict = judge(moment=moment, type_status="holotype")
        assert (verdict.outcome, verdict.may_pass) == (outcome, may_pass)
        assert judge(moment=moment, type_status="none").outcome == "clear"
        assert judge(moment=moment, type_status="holotype", determined_by="A").outcome == "clear"


def test_every_rule_has_a_status_and_a_reason_in_words_and_values(judging):
    rules = [
        DEMAND,
        {**DEMAND, "enabled": False},
        {**DEMAND, "severity": {"submit": "block"}},
        {**DEMAND, "when": 'type_status = "none"'},
        {"kind": "range", "targets": ["sheets"], "lower": {"value": "1"}},
        {"kind": "range", "targets": ["gone"], "lower": {"value": "1"}},
        {**DEMAND, "when": None},
    ]
    verdict = judging(FIELDS, rules)(moment="save", type_status="holotype")
    assert {one.rule: (one.status, one.reason) for one in verdict.results} == {
        "r1": ("violated", "Determined by is blank."),
        "r2": ("disabled", "The rule is switched off."),
        "r3": ("silent", "It is set to say nothing on saving."),
        "r4": (
            "not_applicable",
            "Only when Type status is Not a type. Here Type status is Holotype.",
        ),
        "r5": ("not_evaluable", "Sheets is blank."),
        "r6": (
            "unfinished",
            "There is no field “gone” in this form. Choose a field of this form.",
        ),
        "r7": ("violated", "Determined by is blank."),
    }


def test_while_typing_a_rule_waits_until_one_of_its_fields_has_been_left(judging):
    judge = judging(FIELDS, [DEMAND])
    silent = result(judge(moment="entry", type_status="holotype"))
    assert silent.status == "silent"
    assert silent.reason == "It speaks once Type status or Determined by has been left."
    spoken = judge(moment="entry", touched=["type_status"], type_status="holotype")
    assert (spoken.outcome, spoken.may_pass) == ("noted", True)


def test_unreadable_value_blocks_and_is_not_blank(judging):
    rules = [
        {"kind": "mandatory", "targets": ["sheets"]},
        {"kind": "mandatory", "targets": ["determined_by"], "when": "sheets != null"},
        {"kind": "mandatory", "targets": ["determined_by"], "when": "sheets = null or 1 = 1"},
    ]
    verdict = judging(FIELDS, rules)(moment="save", sheets="two")
    assert verdict.outcome == "blocked"
    assert (
        verdict.fields["sheets"].fault == "“two” is not a number: write digits, such as 12 or 0.5."
    )
    assert [one.status for one in verdict.results] == [
        "not_evaluable",
        "not_applicable",
        "violated",
    ]
    typing = judging(FIELDS, rules)(moment="entry", sheets="two")
    assert typing.fields["sheets"].fault is None, "not told before the field has been left"


@pytest.mark.parametrize(
    ("severity", "mark"),
    [
        ({"save": "block", "submit": "block"}, ("required", "save")),
        ({"save": "warn", "submit": "block"}, ("required", "submit")),
        ({"save": "warn", "submit": "note"}, ("recommended", "save")),
        ({"entry": "warn"}, None),
    ],
)
def test_a_mark_promises_only_what_is_enforced(judging, severity, mark):
    verdict = judging(FIELDS, [{**DEMAND, "severity": severity}])(
        moment="entry", type_status="holotype"
    )
    given_mark = verdict.fields["determined_by"].mark
    assert (given_mark and (given_mark.kind, given_mark.moment)) == mark
    unmarked = judging(FIELDS, [{**DEMAND, "severity": severity}])(moment="entry")
    assert unmarked.fields["determined_by"].mark is None


@pytest.mark.parametrize(
    ("part", "circumstances", "reason"),
    [
        ({"scope": {"events": ["create"]}}, {"event": "update"}, "It counts for new records only."),
        ({"scope": {"events": ["update"]}}, {"event": "create"}, "It counts for changed records only."),
        ({"scope": {"roles": ["clerk", "reader"]}}, {"role": "steward"},
         "It counts for the role clerk or reader only."),
        ({"scope": {"entry_points": ["import"]}}, {"entry_point": "desk"},
         "It counts only by import."),
        ({"in_force_from": "2026-06-13"}, {}, "It counts from 13 June 2026 on."),
        ({"in_force_to": "2026-06-11"}, {}, "It counted until 11 June 2026."),
    ],
)  # fmt: skip
def test_a_rule_counts_only_within_its_scope_and_says_so(part, circumstances, reason):
    def judged(rule):
        compiled = compile_ruleset(RuleSet(forms=(form_of(FIELDS, [rule]),)), form="form")
        values = {"type_status": "holotype"}
        return compiled.judge(values, moment="submit", today=TODAY, **circumstances)

    outside = judged({**DEMAND, **part})
    assert (result(outside).status, result(outside).reason) == ("out_of_scope", reason)
    assert outside.outcome == "clear"
    assert outside.fields["determined_by"].mark is None, "no mark promises what nothing enforces"
    assert result(judged(DEMAND)).status == "violated"


@pytest.mark.parametrize("bounds", [{"in_force_from": "2026-06-12"}, {"in_force_to": "2026-06-12"}])
def test_the_days_a_rule_is_in_force_include_both_ends(judging, bounds):
    verdict = judging(FIELDS, [{**DEMAND, **bounds}])(type_status="holotype")
    assert result(verdict).status == "violated"


def test_a_worded_message_replaces_the_drafted_one(judging):
    judge = judging(FIELDS, [DEMAND, {**DEMAND, "message": "Ask the curator."}])
    verdict = judge(type_status="holotype")
    assert result(verdict, "r1").messages[0].text == (
        "Determined by is required. This applies when Type status is Holotype."
    )
    assert result(verdict, "r2").messages[0].text == "Ask the curator."


ODD = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text() | st.characters(),
    lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner),
    max_leaves=6,
)


@given(st.dictionaries(st.sampled_from([field["key"] for field in FIELDS]) | st.text(), ODD))
def test_no_record_however_odd_makes_judging_raise(values):
    form = form_of(
        FIELDS, [DEMAND, {"kind": "range", "targets": ["sheets"], "upper": {"value": "9"}}]
    )
    compiled = compile_ruleset(RuleSet(forms=(form,)), form="form")
    for verdict in compiled.judge_moments(values, today=TODAY).values():
        assert set(verdict.fields) == {field["key"] for field in FIELDS}
        assert set(verdict.ignored) == set(values) - set(verdict.fields)
