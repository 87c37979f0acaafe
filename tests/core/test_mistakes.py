"""Mistakes that stewards really make, each as a form with the verdicts it gives, and its fix."""

import pytest

from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .conftest import TODAY, compiled_form, form_of, result

TERMS = {"key": "terms", "type": "yes_no"}
WHY = {"key": "why_not", "type": "text"}
DEMAND_WHY = {"kind": "mandatory", "targets": ["why_not"]}


def test_the_blank_answer_is_forgotten(judging):
    """Yes and no are handled; the blank that every new record starts with falls through."""
    forgotten = judging([TERMS, WHY], [{**DEMAND_WHY, "when": "terms = false"}])
    assert forgotten().outcome == "clear", "a new record passes with nothing said"
    fixed = judging([TERMS, WHY], [{**DEMAND_WHY, "when": "terms != true"}])
    assert fixed().outcome == "blocked"
    assert fixed(terms="yes").outcome == "clear"


AMOUNT = {"key": "amount", "type": "decimal", "scale": 2}


def test_more_than_is_written_where_inclusive_was_meant(judging):
    rule = {"kind": "range", "targets": ["amount"], "lower": {"value": "1000"}}
    meant = judging([AMOUNT], [rule])
    slip = judging([AMOUNT], [{**rule, "lower": {"value": "1000", "inclusive": False}}])
    assert meant(amount="1,000.00").outcome == "clear"
    assert slip(amount="1,000.00").outcome == "blocked"
    assert slip(amount="1000.01").outcome == "clear"


def test_a_zero_too_many_in_a_bound_shows_in_the_drafted_message(judging):
    rule = {"kind": "range", "targets": ["amount"], "upper": {"value": "50000"}}
    told = result(judging([AMOUNT], [rule])(amount="60000")).messages[0].text
    assert told == "Amount must be at most 50,000."
    slip = {**rule, "upper": {"value": "500000"}}
    assert judging([AMOUNT], [slip])(amount="60000").outcome == "clear"


def test_a_drafted_message_never_says_another_number_than_the_rule(judging):
    for bound in ("2", "5"):
        rule = {"kind": "range", "targets": ["amount"], "upper": {"value": bound}}
        assert bound in result(judging([AMOUNT], [rule])(amount=9)).messages[0].text


CHOICE = {
    "key": "handling",
    "type": "choice",
    "choices": [{"code": "cold", "label": "Cold chain"}, {"code": "dry", "label": "Dry"}],
}
DAY = {"key": "day", "type": "date"}


@pytest.mark.parametrize(
    ("when", "words"),
    [
        ("day = handling", "A date is compared with a choice."),
        ('day = "cold"', "A date is compared with text."),
        ('day = ""', "A date is compared with text."),
        ('handling = "Cold chain"', "There is no choice “Cold chain”."),
        ("handling > 1", "A choice has no order."),
    ],
)
def test_what_cannot_be_compared_leaves_the_rule_unfinished_and_says_so(judging, when, words):
    judge = judging([CHOICE, DAY, WHY], [{**DEMAND_WHY, "when": when}])
    told = result(judge(handling="cold", day="2026-06-11"))
    assert (told.status, told.messages) == ("unfinished", ())
    assert words in told.reason


def test_a_blank_date_is_tested_as_blank_and_not_as_empty_text(judging):
    judge = judging([DAY, WHY], [{**DEMAND_WHY, "when": "day = null"}])
    assert judge().outcome == "blocked"
    assert judge(day="2026-06-11").outcome == "clear"
    assert judge(day="   ").outcome == "blocked", "spaces are blank"


def test_a_blank_item_does_not_turn_a_whole_total_blank(judging):
    fields = [{"key": key, "type": "whole_number"} for key in ("first", "second", "third")]
    must = {"kind": "cross_field", "targets": ["first"]}
    by_hand = judging(fields, [{**must, "must": "first + second + third <= 10"}])
    assert result(by_hand(first=9, second=9)).status == "not_evaluable"
    whole = "sum([first, second, third]) <= 10"
    tolerant = judging(fields, [{**DEMAND_THIRD, "when": f"not({whole})"}])
    assert tolerant(first=9, second=9).outcome == "blocked"
    assert tolerant(first=5, second=5).outcome == "clear"


DEMAND_THIRD = {"kind": "mandatory", "targets": ["third"]}


def test_a_check_that_runs_on_typing_only_stops_nobody_from_saving(judging):
    rule = {
        "kind": "range",
        "targets": ["amount"],
        "upper": {"value": "10"},
        "severity": {"entry": "warn"},
    }
    judge = judging([AMOUNT], [rule])
    assert judge(moment="entry", touched=["amount"], amount=11).outcome == "warned"
    unchanged = judge(moment="save", amount=11)
    assert (unchanged.outcome, unchanged.may_pass) == ("clear", True)
    assert result(unchanged).reason == "It is set to say nothing on saving."


def test_the_second_link_of_a_chain_looks_at_its_own_governor_only(judging):
    """Contact wanted, how, e-mail: closing the first link must close the last."""
    how = {
        "key": "how",
        "type": "choice",
        "choices": [{"code": "mail", "label": "By mail"}, {"code": "phone", "label": "By phone"}],
    }
    fields = [{"key": "wanted", "type": "yes_no"}, how, {"key": "address", "type": "text"}]
    demand = {"kind": "mandatory", "targets": ["address"]}
    short = judging(fields, [{**demand, "when": 'how = "mail"'}])
    assert short(wanted="no", how="mail").outcome == "blocked", "asked though nothing is wanted"
    chained = judging(fields, [{**demand, "when": 'wanted = true and how = "mail"'}])
    assert chained(wanted="no", how="mail").outcome == "clear"
    assert chained(wanted="yes", how="mail").outcome == "blocked"


def test_the_message_stands_where_it_was_meant_to(judging):
    for placement in ("field", "top", "both"):
        rule = {"kind": "mandatory", "targets": ["why_not"], "placement": placement}
        told = result(judging([WHY], [rule])())
        assert (told.placement, told.messages[0].fields) == (placement, ("why_not",))


def test_tiers_with_a_gap_are_seen_by_trying_both_sides_of_every_bound(judging):
    """Up to 1,000; over 1,000 to 5,000; from 25,000: nothing holds what lies between."""
    tiers = "amount in [0..1000] or amount in (1000..5000] or amount >= 25000"
    judge = judging([AMOUNT], [{"kind": "cross_field", "targets": ["amount"], "must": tiers}])
    covered = {n: judge(amount=n).outcome == "clear" for n in (800, 1000, 1001, 5000, 25000, 12000)}
    assert covered == {800: True, 1000: True, 1001: True, 5000: True, 25000: True, 12000: False}


def test_a_range_of_three_values_by_its_boundary(judging):
    """ISO/IEC/IEEE 29119-4: a-s, a, a+s, b-s, b, b+s for a range from a to b of step s."""
    rule = {
        "kind": "range",
        "targets": ["amount"],
        "lower": {"value": "1"},
        "upper": {"value": "10"},
    }
    judge = judging([AMOUNT], [rule])
    boundary = ["0.99", "1", "1.01", "9.99", "10", "10.01"]
    outcomes = [judge(amount=text).may_pass for text in boundary]
    assert outcomes == [False, True, True, True, True, False]


@pytest.mark.parametrize("moments", [("save",), ("submit",), ("entry", "save", "submit")])
def test_judging_moments_together_gives_what_judging_each_alone_gives(moments):
    form = form_of(
        [TERMS, WHY, AMOUNT],
        [
            {**DEMAND_WHY, "when": "terms = false"},
            {"kind": "range", "targets": ["amount"], "upper": {"value": "10"}},
            {**DEMAND_WHY, "enabled": False},
        ],
    )
    compiled = compile_ruleset(RuleSet(forms=(form,)), form="form")
    values = {"terms": "no", "amount": "eleven"}
    together = compiled.judge_moments(values, moments=moments, today=TODAY, touched=["terms"])
    for moment in moments:
        alone = compiled.judge(values, moment=moment, today=TODAY, touched=["terms"])
        assert together[moment] == alone


def test_a_field_is_mandatory_and_locked_by_the_same_answer(judging):
    """Nobody can ever submit: the field asks to be filled and takes no entry."""
    lock = {"kind": "lock", "targets": ["why_not"], "when": "terms = false"}
    judge = judging([TERMS, WHY], [{**DEMAND_WHY, "when": "terms = false"}, lock])
    state = judge(terms="no", why_not="because").fields["why_not"]
    assert judge(terms="no", why_not="because").outcome == "blocked"
    assert (state.read_only, state.mark.kind, state.value) == (True, "required", None)


def test_a_field_is_mandatory_and_hidden_by_the_same_answer(judging):
    """Out of play its checks are not told, so the demand is void: the bench says so by status."""
    close = {"kind": "close", "targets": ["why_not"], "when": "terms = false"}
    judge = judging([TERMS, WHY], [{**DEMAND_WHY, "when": "terms = false"}, close])
    verdict = judge(terms="no")
    assert (verdict.outcome, result(verdict).status) == ("clear", "not_relevant")
    assert verdict.fields["why_not"].mark is None


def test_a_field_is_locked_where_it_should_have_been_mandatory(judging):
    judge = judging(
        [TERMS, WHY], [{"kind": "lock", "targets": ["why_not"], "when": "terms = false"}]
    )
    verdict = judge(terms="no", why_not="told")
    assert "Why_not is locked here" in verdict.ignored["why_not"]
    assert "why_not" not in verdict.stores


def test_is_other_on_several_choices_is_refused_and_includes_is_suggested():
    kinds = {"key": "kinds", "type": "choices", "choices": [{"code": c, "label": c.title()} for c in ("dust", "other")]}  # fmt: skip
    text = {"key": "named", "type": "text"}
    demand = {"kind": "mandatory", "targets": ["named"]}
    slip = form_of([kinds, text], [{**demand, "when": 'kinds = "other"'}])
    (problem,) = compile_ruleset(RuleSet(forms=(slip,)), form="form").problems["r1"]
    assert "includes" in problem.remedy
    meant = compiled_form([kinds, text], [{**demand, "when": '"other" in kinds'}])
    for ticked, outcome in ((["other"], "blocked"), (["dust", "other"], "blocked"), (["dust"], "clear")):  # fmt: skip
        assert meant.judge({"kinds": ticked}, moment="submit", today=TODAY).outcome == outcome


def test_starting_value_violates_its_range_or_answers_for_the_clerk():
    start = {"kind": "start", "targets": ["amount"], "value": "0"}
    lower = {"kind": "range", "targets": ["amount"], "lower": {"value": "1"}}
    demand = {"kind": "mandatory", "targets": ["amount"]}
    form = compiled_form([AMOUNT], [start, lower, demand])
    verdict = form.judge({}, moment="submit", today=TODAY)
    assert [result(verdict, key).status for key in ("r2", "r3")] == ["violated", "satisfied"]


def test_a_worded_message_with_an_old_number_is_told_as_it_is_worded(judging):
    """The words are the steward's; what the rule itself would say can be held against them."""
    rule = {
        "kind": "range",
        "targets": ["amount"],
        "upper": {"value": "5"},
        "message": "At most 2.",
    }
    told = result(judging([AMOUNT], [rule])(amount="6"))
    assert told.messages[0].text == "At most 2."
    assert told.reason == "Amount is 6."
