"""Slips: the quick search agrees with running every case, in every circumstance a rule can ask for."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.candidates.baseline import good_baseline
from thistlequartz.core.candidates.corrections import ways_through
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.coverage.proof import prove
from thistlequartz.core.drafting.techniques import drafted_cases
from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.mutation.mutated_form import MutatedForm
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.search import try_mutants
from thistlequartz.core.sweep import RecordContext
from thistlequartz.demo.cases import kept_cases
from thistlequartz.demo.forms import RELEASED
from thistlequartz.demo.records import values_of

from .conftest import TODAY, compiled_form

HERE = Circumstances(TODAY, role="clerk")
FORMS = [form.key for form in RELEASED.forms]
TERMS = {"key": "terms", "type": "yes_no"}
WHY = {"key": "why", "type": "text"}
DEPTH = {"key": "depth", "type": "whole_number"}
RATE = {"key": "rate", "type": "decimal", "scale": 1}
DEEP = {"kind": "range", "targets": ["depth"], "upper": {"value": "90"}}


@pytest.mark.parametrize("key", FORMS)
def test_what_is_noticed_is_what_running_every_case_would_notice(key):
    form = compile_ruleset(RELEASED, form=key)
    cases, slips = kept_cases(key), list(mutants_of(form))
    for found in try_mutants(form, cases, good_baseline(form, cases, HERE), slips[::3]):
        mistaken = Runner(form.rewritten(found.slip.form))
        failing = {run.case for run in mistaken.run_all(cases) if run.state == "fails"}
        if found.state == "noticed":
            assert found.case in failing
        else:
            assert failing == set()
        if found.witness is not None:
            witness = found.witness.case("witness")
            assert Runner(form).run(witness).state == "passes"
            assert mistaken.run(witness).state == "fails"


@given(st.sampled_from(FORMS), st.data())
@settings(max_examples=few(20))
def test_a_record_that_tells_two_writings_apart_is_never_passed_over(key, data):
    """The one rule is asked first, as that is quick; it must never say no where the form says yes."""
    form = compile_ruleset(RELEASED, form=key)
    slips = list(mutants_of(form))
    slip = data.draw(st.sampled_from(slips))
    values = data.draw(st.sampled_from([dict(one.values) for one in values_of(key, 3, 30)]))
    observer, rules = Observer(form), {one.rule.key: one for one in form.rules}
    writings = MutatedForm(observer, rules, form.rewritten(slip.form), slip.rule)
    record = form.read(values)
    if writings.told_by(record, HERE) is not None:
        assert writings.may_tell(form.settled(record, HERE))


SCOPES = {
    "changed records": {"scope": {"events": ["update"]}},
    "an entry point": {"scope": {"entry_points": ["import"]}},
    "a layout": {"scope": {"layouts": ["small"]}},
    "a role": {"scope": {"roles": ["approver"]}},
    "the years to come": {"in_force_from": "2031-01-01"},
    "the years before": {"in_force_to": "2020-12-31"},
    "a change": {"changed_fields": ["depth"]},
}


@pytest.mark.parametrize("name", SCOPES)
def test_slips_are_found_wherever_a_rule_counts(name):
    layouts = [{"key": "small", "label": "Small"}]
    form = compiled_form([DEPTH], [{**DEEP, **SCOPES[name]}], layouts=layouts)
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), list(mutants_of(form))))
    assert {one.state for one in found} == {"unnoticed"}
    ground = good_baseline(form, [], HERE)
    drafted = list(drafted_cases(form, ground, "both"))
    cases = [one.case(f"case_{place}") for place, one in enumerate(drafted)]
    assert prove(form, cases, ground).both_ways.done == 1


def test_mutation_of_shared_condition_is_made_once_and_killed_by_rules():
    named = {"key": "is_deep", "name": "It is deep", "condition": "depth > 90"}
    demand = {"kind": "mandatory", "targets": ["why"], "when": "is_deep"}
    asked = {"kind": "open", "targets": ["why"], "when": "is_deep"}
    form = compiled_form([DEPTH, WHY], [asked, demand], conditions=[named])
    slips = [one for one in mutants_of(form) if one.condition == "is_deep"]
    assert {one.kind for one in slips} == {"bound", "zero"}
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), slips))
    assert {one.state for one in found} == {"unnoticed"}
    assert all(one.witness.values["depth"] for one in found)


def test_what_is_proposed_and_computed_is_looked_at_too():
    tier = {
        "kind": "propose",
        "targets": ["depth"],
        "title": "Deep",
        "when": "depth >= 90",
        "sets": [{"field": "rate", "value": "2.5"}],
    }
    double = {"kind": "derive", "targets": ["twice"], "value": "rate * 2"}
    twice = {"key": "twice", "type": "decimal", "scale": 1}
    form = compiled_form([DEPTH, RATE, twice], [tier, double])
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), list(mutants_of(form))))
    kinds = {(one.slip.kind, one.state) for one in found}
    assert kinds == {
        ("bound", "unnoticed"),
        ("zero", "unnoticed"),
        ("condition_dropped", "unnoticed"),
        ("turned_round", "unnoticed"),
    }


def test_a_case_that_disagrees_already_proves_nothing():
    form = compiled_form([DEPTH], [DEEP])
    ground = good_baseline(form, [], HERE)
    slips = list(mutants_of(form))
    drafted = list(drafted_cases(form, ground, "boundary"))
    cases = [one.case(f"case_{place}") for place, one in enumerate(drafted)]
    assert {one.state for one in try_mutants(form, cases, ground, slips)} == {"noticed"}
    wrong = [
        case.model_copy(update={"expected": case.expected.model_copy(update={"save": "noted"})})
        for case in cases
    ]
    assert {one.state for one in try_mutants(form, wrong, ground, slips)} == {"unnoticed"}


@pytest.mark.parametrize("key", FORMS)
def test_cases_drafted_both_ways_violate_and_satisfy_every_demo_rule(key):
    form = compile_ruleset(RELEASED, form=key)
    ground = good_baseline(form, [], HERE)
    cases = [
        one.case(f"case_{place}")
        for place, one in enumerate(
            [*drafted_cases(form, ground, "both"), *drafted_cases(form, ground, "boundary")]
        )
    ]
    proof = prove(form, cases, ground)
    assert (proof.both_ways.done, proof.bounds.done) == (proof.both_ways.of, proof.bounds.of)
    assert (proof.save.done, proof.submit.done) == (proof.save.of, proof.submit.of)


def test_rules_that_are_off_or_unfinished_are_neither_slipped_nor_counted():
    form = compiled_form([DEPTH], [{**DEEP, "enabled": False}])
    assert list(mutants_of(form)) == []
    (rule,) = prove(form, [], good_baseline(form, [], HERE)).rules
    assert (rule.counts, rule.bounds) == (False, ())


def test_unconditional_effect_needs_no_case_where_it_does_not_apply():
    start = {"kind": "start", "targets": ["depth"], "value": "9"}
    form = compiled_form([DEPTH], [start])
    ground = good_baseline(form, [], replace(HERE, today=TODAY.replace(year=2020)))
    assert ground.around.values == {"depth": "9"}
    drafted = [one.case(f"case_{n}") for n, one in enumerate(drafted_cases(form, ground, "both"))]
    (rule,) = prove(form, drafted, ground).rules
    assert rule.always
    assert rule.both_ways


WHOLE, DECIMAL, DAY, TEXT = (
    {"type": "whole_number"},
    {"type": "decimal", "scale": 2},
    {"type": "date"},
    {"type": "text"},
)
SMALL_FORMS = [
    ({"p": WHOLE, "q": WHOLE}, "p + 2 * q < 100"),
    ({"n": WHOLE}, "modulo(n, 7) = 3 or n > 1000"),
    ({"u": DAY, "f": DAY}, 'u <= f + duration("P90D")'),
    ({"t": TEXT}, 'not(t = "red")'),
    ({"t": TEXT}, 'not(starts with(t, "X-"))'),
    ({"t": TEXT}, 'not(contains(t, "old"))'),
    ({"t": TEXT}, 'not(t in ("red", "blue"))'),
    ({"t": TEXT}, 'substring(t, 1, 2) = "QH"'),
    ({"t": TEXT}, "string length(t) >= 3 and string length(t) <= 8"),
    ({"a": WHOLE, "b": WHOLE}, "a + b in [10..20]"),
    ({"a": WHOLE, "b": WHOLE, "c": WHOLE}, "a * b * c <= 1000"),
    ({"a": WHOLE, "b": WHOLE, "c": WHOLE}, "a + b + c = 100"),
    ({"a": WHOLE, "b": WHOLE}, "abs(a - b) <= 5"),
    ({"a": WHOLE, "b": WHOLE}, "not(a > 10 and b > 10)"),
    ({"a": DECIMAL, "b": DECIMAL}, "a * 100 / b between 10 and 90"),
    ({"a": DAY, "b": DAY}, "(b - a).days between 14 and 170"),
    ({"a": DAY, "b": DAY}, 'b >= a + duration("P6M")'),
    ({"a": WHOLE}, "a ** 2 < 400"),
    ({"a": DAY}, "a.weekday <= 5"),
]


@pytest.mark.parametrize(("fields", "must"), SMALL_FORMS, ids=[must for _, must in SMALL_FORMS])
def test_every_slip_in_a_small_form_is_told_apart(fields, must):
    """Each of these slips changes what some record is told: found by hand, rule by rule."""
    rule = {"kind": "cross_field", "targets": list(fields), "must": must}
    form = compiled_form([{"key": key, **type_} for key, type_ in fields.items()], [rule])
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), list(mutants_of(form))))
    assert [one.slip.words for one in found if one.state != "unnoticed"] == []


def test_what_is_not_told_apart_is_not_decided_and_stays_in_the_count():
    twice = {"kind": "mandatory", "targets": ["why"], "when": "depth * 2 + 1 > 31"}
    form = compiled_form([DEPTH, WHY], [twice])
    found = list(try_mutants(form, [], good_baseline(form, [], HERE), list(mutants_of(form))))
    undecided = [one.slip.words for one in found if one.state == "not_decided"]
    assert undecided == ["a zero too few: 0.1 for 1"], "of whole numbers it means the same"


def test_two_blank_fields_that_must_add_up_are_filled_together():
    rules = [
        {"kind": "mandatory", "targets": ["a", "b"]},
        {"kind": "cross_field", "targets": ["a", "b"], "must": "a + b in [10..20]"},
    ]
    form = compiled_form([{"key": "a", **WHOLE}, {"key": "b", **WHOLE}], rules)
    ways = ways_through(RecordContext(form, {}, HERE), "submit")
    assert ways
    for way in ways:
        assert 10 <= int(way.changes["a"]) + int(way.changes["b"]) <= 20
