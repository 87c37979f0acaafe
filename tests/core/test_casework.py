"""Cases: run, drafted, cleared, measured, and as files; two ways to look at a record agree."""

import json
from datetime import date
from itertools import product
from xml.etree import ElementTree as ET

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.examples import ALIKE
from thistlequartz.core.candidates.baseline import good_baseline
from thistlequartz.core.candidates.corrections import ways_through
from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.files import (
    CaseFileError,
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
)
from thistlequartz.core.cases.junit_report import junit_report
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.cases.verdict_changes import JudgedRequest, changes_between
from thistlequartz.core.coverage.proof import prove
from thistlequartz.core.drafting.techniques import drafted_cases
from thistlequartz.core.judging import Circumstances, JudgeRequest, compile_ruleset
from thistlequartz.core.mutation.mutations import mutants_of
from thistlequartz.core.mutation.search import try_mutants
from thistlequartz.core.ruleset import Case
from thistlequartz.core.sweep import RecordContext
from thistlequartz.demo.cases import kept_cases
from thistlequartz.demo.forms import DRAFT, RELEASED
from thistlequartz.demo.records import values_of

from .conftest import TODAY, compiled_form

HERE = Circumstances(TODAY, role="clerk")
FORMS = [form.key for form in RELEASED.forms]
TERMS = {"key": "terms", "type": "yes_no"}
WHY = {"key": "why", "type": "text"}
DEPTH = {"key": "depth", "type": "whole_number"}
ASKED = {"kind": "open", "targets": ["why"], "when": "terms = false"}
DEMANDED = {"kind": "mandatory", "targets": ["why"]}
DEEP = {"kind": "range", "targets": ["depth"], "upper": {"value": "90"}}


def case_of(values, save="clear", submit="clear", **more):
    expected = {"save": save, "submit": submit, **more}
    document = {"key": "one", "name": "One", "circumstances": {"as_of": str(TODAY)}}
    return Case.model_validate({**document, "values": values, "expected": expected})


def test_a_case_says_in_words_how_it_disagrees():
    form = compiled_form([TERMS, WHY, DEPTH], [ASKED, DEMANDED, DEEP])
    run = Runner(form).run
    assert run(case_of({"depth": "90"})).state == "passes"
    assert run(case_of({"terms": "no"}, "warned", "blocked", violated=["r2"])).state == "passes"
    amiss = run(
        case_of(
            {"terms": "no", "depth": "91"}, violated=["gone"], field_states={"why": "not_relevant"}
        )
    )
    assert amiss.state == "fails"
    assert amiss.differences == (
        "Saving is warned, where clear was expected.",
        "Submitting is blocked, where clear was expected.",
        "“Rule 2” is violated, which was not expected.",
        "“Rule 3” is violated, which was not expected.",
        "“gone” should be violated, but there is no such rule any more.",
        "Why is asked, where it was expected to be not asked.",
    )
    lost = run(case_of({"depht": "3"}))
    assert lost.state == "cannot_run"
    assert lost.differences == ("It fills in “depht”, which the form does not have any more.",)


@pytest.mark.parametrize("key", FORMS)
def test_demo_cases_pass_on_release_and_some_fail_on_draft(key):
    cases = kept_cases(key)
    released, drafted = (
        [run.state for run in Runner(compile_ruleset(rules, form=key)).run_all(cases)]
        for rules in (RELEASED, DRAFT)
    )
    assert set(released) == {"passes"}
    assert "fails" in drafted


@given(st.sampled_from(FORMS), st.integers(0, 40), st.data())
def test_an_entry_changed_is_read_as_if_it_had_always_been_there(key, place, data):
    form = compile_ruleset(DRAFT, form=key)
    values = [dict(one.values) for one in values_of(key, 7, 41)][place]
    named = st.sampled_from(sorted(form.entries))
    entries = st.one_of(st.none(), st.booleans(), st.sampled_from(["", "7", "x", "2026-01-31"]))
    changes = data.draw(st.dictionaries(named, entries, max_size=3))
    record = form.changed(form.read(values), changes)
    whole = form.read({**values, **changes})
    assert (record.readings, record.base, record.faulty) == (
        whole.readings,
        whole.base,
        whole.faulty,
    )
    # and what a case would see of it is the same, screened or judged
    observer = Observer(form)
    judged = observer.of_judged(form.judged(JudgeRequest(whole, HERE)))
    assert observer.observe(record, HERE) == judged


def test_what_changed_is_told_in_words():
    form = compiled_form([TERMS, WHY], [ASKED, DEMANDED])
    yes, no = (
        JudgedRequest(form, form.judged(JudgeRequest(form.read({"terms": one}), HERE)))
        for one in ("yes", "no")
    )
    assert [one.words for one in changes_between(yes, no)] == [
        "Terms: no, was yes.",
        "Saving is warned now, was clear.",
        "Submitting is blocked now, was clear.",
        "“Rule 1” is in effect now.",
        "“Rule 2” is violated now.",
        "Why is asked now.",
    ]
    assert changes_between(no, no) == ()


def smallest(form, values, entries):
    """By brute force: how few changes let the record through on submitting."""
    keys = list(entries)
    best = None
    for chosen in product(*(("", *entries[key]) for key in keys)):
        changes = {key: one for key, one in zip(keys, chosen, strict=True) if one != ""}
        judged = form.judged(JudgeRequest(form.read({**values, **changes}), HERE))
        if Observer(form).of_judged(judged).submit != "blocked":
            best = len(changes) if best is None else min(best, len(changes))
    return best


@given(terms=st.sampled_from([None, "yes", "no"]), depth=st.sampled_from([None, "3", "400"]))
def test_the_smallest_way_through_is_as_small_as_brute_force_finds(terms, depth):
    tied = {"kind": "cross_field", "targets": ["depth"], "must": "terms = true or depth < 10"}
    said = {"kind": "mandatory", "targets": ["terms"]}
    form = compiled_form([TERMS, WHY, DEPTH], [ASKED, DEMANDED, DEEP, tied, said])
    values = {"terms": terms, "depth": depth}
    ways = ways_through(RecordContext(form, values, HERE), "submit")
    entries = {"terms": [None, True, False], "why": [None, "x"], "depth": [None, "9", "90"]}
    assert min((len(way.changes) for way in ways), default=0) == smallest(form, values, entries)
    for way in ways:
        judged = form.judged(JudgeRequest(form.read({**values, **way.changes}), HERE))
        assert Observer(form).of_judged(judged).submit != "blocked"


def test_where_nothing_helps_no_way_is_offered():
    closed = {"kind": "close", "targets": ["why"], "when": "terms = null or terms != null"}
    one_of = {"kind": "cross_field", "targets": ["terms"], "must": "terms = null and why != null"}
    form = compiled_form([TERMS, WHY], [closed, one_of])
    assert ways_through(RecordContext(form, {"terms": "yes"}, HERE), "submit") == []


@pytest.mark.parametrize("key", FORMS)
def test_a_good_record_is_found_for_every_form_and_goes_through(key):
    ground = good_baseline(compile_ruleset(RELEASED, form=key), [], HERE)
    assert ground.offence() == (0, 0, 0)


@pytest.mark.parametrize("key", FORMS)
def test_the_witnesses_of_slips_notice_them_and_what_is_kept_is_counted(key):
    form = compile_ruleset(RELEASED, form=key)
    slips = list(mutants_of(form))[:: 2 if ALIKE else 1]
    ground = good_baseline(form, [], HERE)
    found = list(try_mutants(form, [], ground, slips))
    unnoticed = [one for one in found if one.state == "unnoticed"]
    assert len(unnoticed) > 0.8 * len(slips)
    cases = {}
    for one in unnoticed:
        cases.setdefault(id(one.witness), one.witness.case(f"case_{len(cases)}"))
    again = {
        one.slip.key: one.state for one in try_mutants(form, list(cases.values()), ground, slips)
    }
    assert {again[one.slip.key] for one in unnoticed} == {"noticed"}
    assert prove(form, list(cases.values()), ground).save.done > 0


@pytest.mark.parametrize("technique", ["both", "boundary", "blank", "choice", "pairs", "parts"])
def test_drafted_cases_have_reasons_expect_what_happens_and_come_once(technique):
    form = compile_ruleset(DRAFT, form="mineral_accession")
    ground = good_baseline(form, [], HERE)
    drafted = list(drafted_cases(form, ground, technique))
    cases = [one.case(f"case_{place}") for place, one in enumerate(drafted)]
    assert all(case.why for case in cases)
    assert {run.state for run in Runner(form).run_all(cases)} <= {"passes"}
    assert list(drafted_cases(form, ground, technique, kept=cases)) == []


def test_a_case_sees_only_the_other_records_it_knows_of():
    unique = {"kind": "unique", "targets": ["why"]}
    form = compiled_form([WHY], [unique])
    alone, beside = case_of({"why": "Once"}), case_of({"why": "ONCE"}, "warned", "blocked")
    beside = Case.model_validate(
        {**beside.model_dump(), "others": [{"values": {"why": "once"}}], "why": ""}
    )
    assert Runner(form).run(alone).state == "passes"
    assert Runner(form).run(beside).observed.violated == ("r1",)
    assert CaseRecords(form, beside.others).record("form", "1") is None


def test_cases_come_back_from_files_as_they_went():
    form = compile_ruleset(RELEASED, form="plant_accession")
    cases = kept_cases("plant_accession")
    assert list(cases_from_json(cases_to_json("plant_accession", cases), form)) == cases
    back = cases_from_csv(cases_to_csv(cases), form)
    for case, read in zip(cases, back, strict=True):
        assert (read.key, read.name, read.expected.violated) == (
            case.key,
            case.name,
            case.expected.violated,
        )
    assert {run.state for run in Runner(form).run_all(back)} == {"passes"}
    with pytest.raises(CaseFileError, match=r"row 1, column\.latitud"):
        cases_from_csv("name,as_of,expected_save,expected_submit,latitud\n", form)


def test_the_report_is_what_pipelines_read():
    form = compiled_form([DEPTH], [DEEP])
    cases = [
        case_of({"depth": "3"}),
        case_of({"depth": "91"}).model_copy(update={"suite": "Deep\x00"}),
        case_of({"gone": "3"}),
    ]
    text = junit_report(form.form, cases, list(Runner(form).run_all(cases)))
    root = ET.fromstring(text)
    assert root.attrib == {"name": "Form", "tests": "3", "failures": "1", "errors": "1"}
    assert [suite.get("name") for suite in root] == ["Cases", "Deep"]
    (failure,) = root.iter("failure")
    assert "Submitting is blocked, where clear was expected." in failure.text


def test_cases_of_other_days_are_judged_as_of_theirs():
    form = compiled_form([DEPTH], [{**DEEP, "in_force_from": "2026-07-01"}])
    late = case_of({"depth": "91"}, "warned", "blocked", violated=["r1"])
    late = late.model_copy(
        update={"circumstances": late.circumstances.model_copy(update={"as_of": date(2026, 7, 1)})}
    )
    assert Runner(form).run(late).state == "passes"
    assert Runner(form).run(case_of({"depth": "91"})).state == "passes"


def test_a_case_file_is_a_document_with_one_key_for_each_case():
    one = case_of({}).model_dump(mode="json")
    text = json.dumps({"form": "form", "cases": [one, one]})
    with pytest.raises(CaseFileError, match="there twice"):
        cases_from_json(text, compiled_form([DEPTH], [DEEP]))


def test_a_case_can_look_at_one_thing_only():
    """One outcome, or what cannot be read, how a rule stands, what is stored."""
    fields = [{"key": "depth", "type": "whole_number"}, {"key": "why", "type": "text"}]
    rules = [
        {
            "kind": "mandatory",
            "targets": ["why"],
            "when": "depth > 90",
            "severity": {"submit": "block"},
        }
    ]
    form = compiled_form(fields, rules)
    (rule,) = (one.rule.key for one in form.rules)

    def told(values, **expected):
        said = Case(
            key="one",
            name="One",
            circumstances={"as_of": TODAY},
            values=values,
            expected={"violated": None, **expected},
        )
        return Runner(form).run(said).differences

    deep = {"depth": "1 000"}
    assert told(deep, submit="blocked") == ()
    assert told(deep, save="clear") == ()
    assert told(deep, submit="clear") == ("Submitting is blocked, where clear was expected.",)
    assert told(deep, statuses={rule: "violated"}) == ()
    assert (
        "violated, where “does not apply” was expected"
        in told(deep, statuses={rule: "not_applicable"})[0]
    )
    assert told(deep, stored={"depth": "1000", "why": None}) == ()
    assert told(deep, stored={"depth": "1"}) == ("Depth is stored as 1,000, where 1 was expected.",)
    assert told({"depth": "x"}, faults=["depth"]) == ()
    assert told({"depth": "x"}, faults=[]) == ("Depth cannot be read, which was not expected.",)
    assert told(deep, faults=["depth"]) == ("Depth can be read, where it was expected not to be.",)
    with pytest.raises(ValidationError, match="at least one thing"):
        told(deep)
