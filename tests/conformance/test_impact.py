"""The impact counts what judging each record by each version says, record by record."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.impact import ImpactAnalysis, ImpactRecord
from thistlequartz.core.judging import Circumstances, compile_ruleset, settles_like
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.values import to_json

from .generators import FULL, NOW, Neighbours, document_of, rules

RECORDS = st.lists(FULL, min_size=1, max_size=4)


@settings(max_examples=few(15))
@given(rules(), rules(), RECORDS)
def test_weighing_counts_what_judging_says(before, after, entries) -> None:
    impact_of([document_of(before), document_of(after)], entries)


@settings(max_examples=few(15))
@given(rules(), rules(), RECORDS, st.data())
def test_so_it_does_where_only_checks_differ_and_only_these_are_judged(
    given, other, entries, data
) -> None:
    checks = [place for place, one in enumerate(given) if one["kind"] in CHECK_KINDS]
    changed = list(given)
    for place in data.draw(st.lists(st.sampled_from(checks), min_size=1, max_size=3)):
        changed[place] = data.draw(
            st.sampled_from([one for one in other if one["kind"] in CHECK_KINDS])
        )
    assert impact_of([document_of(given), document_of(changed)], entries).narrowed


def impact_of(versions, entries):
    forms = [compile_ruleset(one, form="form") for one in versions]
    values = [forms[0].canonical(one) for one in entries]
    stored = [
        ImpactRecord(place, one, Neighbours(values[:place] + values[place + 1 :]))
        for place, one in enumerate(values)
    ]
    analysis = ImpactAnalysis(*versions, "form", NOW)
    assert list(analysis.run(stored)) == list(range(len(entries)))
    sides = [[judged(forms[0], one) for one in stored]]
    sides.append([judged(forms[1], one) for one in seen_settled(forms, stored)])
    found = analysis.impact
    for moment in ("save", "submit"):
        was, now = ([one[moment] for one in side] for side in sides)
        refused = [n for n, (a, b) in enumerate(zip(was, now, strict=True))
                   if b.outcome == "blocked" and a.outcome != "blocked"]  # fmt: skip
        assert found.newly_refused[moment].numbers == refused
    for key, one in found.rules.items():
        newly = [
            n
            for n in range(len(stored))
            if violated(sides[1][n], key) and not violated(sides[0][n], key)
        ]
        gone = [
            n
            for n in range(len(stored))
            if violated(sides[0][n], key) and not violated(sides[1][n], key)
        ]
        assert (one.newly.numbers, one.no_longer.numbers) == (newly, gone)
        for moment in ("save", "submit"):
            assert one.stops[moment] == sum(
                blocks(sides[1][n], key, moment) and not blocks(sides[0][n], key, moment)
                for n in range(len(stored))
            )
    told = {key for key, one in found.rules.items() if one.newly.count or one.no_longer.count}
    differing = {
        rule.rule.key
        for form in forms
        for rule in form.rules
        for n in range(len(stored))
        if violated(sides[0][n], rule.rule.key) != violated(sides[1][n], rule.rule.key)
    }
    assert told == differing
    dropped = [[set(one["save"].drops) for one in side] for side in sides]
    lost = {key: one.records.numbers for key, one in found.lost.items()}
    assert {n for some in lost.values() for n in some} == {
        n for n in range(len(stored)) if dropped[1][n] - dropped[0][n]
    }
    return found


def seen_settled(forms, stored):
    """The records as the second version sees them: the others as it would leave them, each settled
    by itself, where its rules with an effect are other ones.
    """
    if settles_like(*forms):
        return stored
    at = Circumstances(forms[1].today_at(NOW), NOW, event="update", role="clerk")
    left = []
    for one in stored:
        entered = forms[1].as_entered(one.values)
        read = forms[1].read(entered, stored=one.values, lookup=one.lookup)
        settled = forms[1].settled(read, at)
        decided = {key: to_json(settled.value_of(key)) for key in forms[1].program(at).plans}
        left.append({**one.values, **decided})
    return [
        one._replace(lookup=Neighbours(left[:place] + left[place + 1 :]))
        for place, one in enumerate(stored)
    ]


def judged(form, record):
    return form.judge_moments(
        form.as_entered(record.values),
        today=form.today_at(NOW),
        now=NOW,
        event="update",
        role="clerk",
        stored=record.values,
        lookup=record.lookup,
    )


def blocks(verdicts, key, moment):
    return any(
        one.rule == key and one.status == "violated" and one.severity == "block"
        for one in verdicts[moment].results
    )


def violated(verdicts, key):
    return any(
        one.rule == key and one.status == "violated"
        for verdict in verdicts.values()
        for one in verdict.results
    )


def test_a_rule_that_looks_at_other_records_is_weighed_by_them() -> None:
    unique = {"kind": "unique", "targets": ["code"], "severity": {"save": "block"}}
    before, after = document_of([]), document_of([{**unique, "name": "One of a code"}])
    same, values = Neighbours([{"code": "a"}]), {"code": "a"}
    analysis = ImpactAnalysis(before, after, "form", NOW)
    assert list(analysis.run([ImpactRecord(1, values, same), ImpactRecord(2, values, same)])) == [
        1,
        2,
    ]
    assert analysis.impact.newly_refused["save"].numbers == [1, 2]
    assert analysis.impact.rules["r0"].other_records


def test_impact_counts_rules_for_roles_other_than_the_keepers() -> None:
    rule = {"kind": "cross_field", "name": "Not a", "targets": ["code"], "must": 'code != "a"',
            "severity": {"save": "block"}, "scope": {"roles": ["steward"]}}  # fmt: skip
    before, after = document_of([]), document_of([rule])
    values, nobody = {"code": "a"}, Neighbours([])
    for role, refused in (("clerk", []), (None, []), ("steward", [1])):
        analysis = ImpactAnalysis(before, after, "form", NOW)
        list(analysis.run([ImpactRecord(1, values, nobody, role)]))
        assert analysis.impact.newly_refused["save"].numbers == refused
        assert analysis.impact.rules["r0"].newly.numbers == [1]
