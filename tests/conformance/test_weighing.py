"""Weighing counts what judging each record by each version says, record by record."""

from hypothesis import given, settings
from hypothesis import strategies as st

from thistlequartz.core.analysis.weighing import Scales, Stored
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import RuleSet

from .generators import FULL, NOW, document_of, rules

OTHERS = {kind for kind, one in CHECK_KINDS.items() if one.other_records}


@settings(max_examples=25, deadline=None)
@given(rules(), rules(), st.lists(FULL, min_size=1, max_size=4))
def test_weighing_counts_what_judging_says(before, after, entries) -> None:
    versions = [
        document_of([one for one in given if one["kind"] not in OTHERS])
        for given in (before, after)
    ]
    forms = [compile_ruleset(one, form="form") for one in versions]
    stored = [Stored(place, forms[0].canonical(one)) for place, one in enumerate(entries)]
    scales = Scales(*versions, "form", NOW)
    assert list(scales.weigh(stored)) == list(range(len(entries)))
    sides = [[judged(form, one) for one in stored] for form in forms]
    weight = scales.weight
    for moment in ("save", "submit"):
        was, now = ([one[moment] for one in side] for side in sides)
        refused = [n for n, (a, b) in enumerate(zip(was, now, strict=True))
                   if b.outcome == "blocked" and a.outcome != "blocked"]  # fmt: skip
        assert weight.newly_refused[moment].numbers == refused
    for key, one in weight.rules.items():
        newly = [
            n
            for n in range(len(stored))
            if broken(sides[1][n], key) and not broken(sides[0][n], key)
        ]
        gone = [
            n
            for n in range(len(stored))
            if broken(sides[0][n], key) and not broken(sides[1][n], key)
        ]
        assert (one.newly.numbers, one.no_longer.numbers) == (newly, gone)
        for moment in ("save", "submit"):
            assert one.stops[moment] == sum(
                blocks(sides[1][n], key, moment) and not blocks(sides[0][n], key, moment)
                for n in range(len(stored))
            )
    told = {key for key, one in weight.rules.items() if one.newly.count or one.no_longer.count}
    differing = {
        rule.rule.key
        for form in forms
        for rule in form.rules
        for n in range(len(stored))
        if broken(sides[0][n], rule.rule.key) != broken(sides[1][n], rule.rule.key)
    }
    assert told == differing


def judged(form, record):
    return form.judge_moments(
        form.as_entered(record.values),
        today=form.today_at(NOW),
        now=NOW,
        event="update",
        role="clerk",
        stored=record.values,
    )


def blocks(verdicts, key, moment):
    return any(
        one.rule == key and one.status == "broken" and one.severity == "block"
        for one in verdicts[moment].results
    )


def broken(verdicts, key):
    return any(
        one.rule == key and one.status == "broken"
        for verdict in verdicts.values()
        for one in verdict.results
    )


def test_rules_that_look_at_other_records_are_named_and_left_out() -> None:
    unique = {"kind": "unique", "targets": ["code"], "severity": {"save": "block"}}
    before, after = document_of([]), document_of([{**unique, "name": "One of a code"}])
    scales = Scales(before, RuleSet.model_validate(after), "form", NOW)
    assert list(scales.weigh([Stored(1, {"code": "a"}), Stored(2, {"code": "a"})])) == [1, 2]
    assert scales.weight.left_out == ("One of a code",)
    assert scales.weight.newly_refused["save"].count == 0
