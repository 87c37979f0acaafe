"""The check values of common practice (no published source) that belong to these kinds of rule."""

import pytest

from .conftest import TODAY, compiled_form, result

AMOUNT = [{"key": "amount", "type": "whole_number"}]
BETWEEN = {
    "kind": "range",
    "targets": ["amount"],
    "lower": {"value": "50000"},
    "upper": {"value": "170000"},
}


@pytest.mark.parametrize("amount", ["10", "10000", "49999", "170001", "170 001"])
def test_a_range_refuses_what_lies_outside(judging, amount):
    verdict = judging(AMOUNT, [BETWEEN])(amount=amount)
    assert (verdict.outcome, verdict.may_pass) == ("blocked", False)
    assert result(verdict).messages[0].text == "Amount must be from 50,000 to 170,000."


@pytest.mark.parametrize("amount", ["50000", "100,000.0", "80 000", "170000"])
def test_a_range_accepts_its_bounds_and_what_lies_between(judging, amount):
    assert result(judging(AMOUNT, [BETWEEN])(amount=amount)).status == "satisfied"


@pytest.mark.parametrize(("low", "high", "refused"), [(True, True, ()), (False, False, (1, 10))])
def test_a_rating_from_1_to_10_with_each_bound_in_or_out(judging, low, high, refused):
    rule = {
        "kind": "range",
        "targets": ["amount"],
        "lower": {"value": "1", "inclusive": low},
        "upper": {"value": "10", "inclusive": high},
    }
    judge = judging(AMOUNT, [rule])
    outside = [n for n in range(12) if not judge(amount=n).may_pass]
    assert outside == sorted({0, 11, *refused})


@pytest.mark.parametrize(
    ("value", "status"), [("m", "satisfied"), ("F", "satisfied"), ("v", "violated")]
)
def test_an_allowed_list_without_regard_to_case(judging, value, status):
    rule = {"kind": "allowed_values", "targets": ["sex"], "values": ["M", "F"], "ignore_case": True}
    judge = judging([{"key": "sex", "type": "text"}], [rule])
    assert result(judge(sex=value)).status == status
    assert result(judge(sex="g")).status == "violated"


def test_an_allowed_list_with_regard_to_case(judging):
    rule = {"kind": "allowed_values", "targets": ["sex"], "values": ["M", "F"]}
    judge = judging([{"key": "sex", "type": "text"}], [rule])
    assert result(judge(sex="M")).status == "satisfied"
    assert result(judge(sex="m")).status == "violated"


DATES = [{"key": "from_day", "type": "date"}, {"key": "to_day", "type": "date"}]
IN_ORDER = {"kind": "cross_field", "targets": ["to_day"], "must": "to_day >= from_day"}


def test_reversed_days_are_told_while_typing_until_corrected(judging):
    judge = judging(DATES, [IN_ORDER])
    wrong = {"from_day": "11 June 2026", "to_day": "9 June 2026"}
    assert judge(**wrong).outcome == "blocked"
    assert judge(moment="entry", touched=["to_day"], **wrong).outcome == "warned"
    fixed = wrong | {"to_day": "12 June 2026"}
    assert judge(**fixed).outcome == "clear"
    assert judge(moment="entry", touched=["to_day"], **fixed).outcome == "clear"


@pytest.mark.parametrize("values", [{"to_day": "2026-06-09"}, {"from_day": "2026-06-11"}, {}])
def test_a_blank_date_is_not_out_of_order(judging, values):
    assert result(judging(DATES, [IN_ORDER])(**values)).status == "not_evaluable"


def test_only_blank_counts_as_missing_zero_and_no_are_answers(judging):
    fields = [{"key": "count", "type": "whole_number"}, {"key": "agreed", "type": "yes_no"}]
    judge = judging(fields, [{"kind": "mandatory", "targets": ["count", "agreed"]}])
    assert judge(count=0, agreed=False).outcome == "clear"
    missing = result(judge(count="  ", agreed=None))
    assert [message.fields for message in missing.messages] == [("count",), ("agreed",)]


def test_the_blank_answer_is_neither_yes_nor_no(judging):
    fields = [{"key": "agreed", "type": "yes_no"}, {"key": "reason", "type": "text"}]
    demand = {"kind": "mandatory", "targets": ["reason"]}
    judge = judging(
        fields, [{**demand, "when": "agreed = false"}, {**demand, "when": "agreed != true"}]
    )
    blank, no = judge(), judge(agreed="no")
    assert result(blank, "r1").status == "not_applicable"
    assert result(blank, "r2").status == "violated"
    assert result(no, "r1").status == "violated"


def test_a_second_tick_is_told_at_once_and_gone_at_once():
    ticks = {"key": "ticks", "type": "choices", "choices": [{"code": c, "label": c} for c in "abc"]}
    rule = {"kind": "range", "of": "count", "targets": ["ticks"], "upper": {"value": "1"}}
    form = compiled_form([ticks], [rule])
    for ticked, outcome in (
        (["a"], "clear"),
        (["a", "b"], "warned"),
        (["b"], "clear"),
        ([], "clear"),
    ):
        verdict = form.judge({"ticks": ticked}, moment="entry", today=TODAY, touched=["ticks"])
        assert verdict.outcome == outcome


def test_the_starting_value_80_000_is_for_new_records_only():
    amount = {"key": "amount", "type": "whole_number"}
    form = compiled_form([amount], [{"kind": "start", "targets": ["amount"], "value": "80,000"}])
    assert form.starting_values(today=TODAY) == {"amount": "80000"}
    stored = {"amount": "90000"}
    changed = form.judge({}, moment="save", today=TODAY, event="update", stored=stored)
    assert changed.stores == {}


@pytest.mark.parametrize(
    ("code", "status"),
    [("2323", "violated"), ("9876543210", "satisfied"), ("98765 43210", "violated")],
)
def test_exactly_ten_digits(code, status):
    rule = {"kind": "format", "targets": ["code"], "pattern": "[0-9]{10}"}
    form = compiled_form([{"key": "code", "type": "text"}], [rule])
    assert result(form.judge({"code": code}, moment="save", today=TODAY)).status == status
