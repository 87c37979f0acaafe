"""The demo's rules and records as a pipeline takes them: the scenario of Quillhaven."""

import json

import pytest

from thistlequartz.cli import main as judge
from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.language import plain, tree
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.core.ruleset.sentence import rule_sentence
from thistlequartz.core.sweep import RecordContext, sweep_field
from thistlequartz.demo.__main__ import main as demo
from thistlequartz.demo.forms import DRAFT, RELEASED

from .conftest import TODAY

FORMS = [form.key for form in RELEASED.forms]


@pytest.mark.parametrize("ruleset", [RELEASED, DRAFT])
@pytest.mark.parametrize("form", FORMS)
def test_every_form_of_the_demo_works_and_travels_as_json(ruleset, form):
    again = RuleSet.model_validate_json(ruleset.model_dump_json())
    assert again == ruleset
    compiled = compile_ruleset(again, form=form)
    assert (compiled.problems, compiled.form_problems) == ({}, ())


@pytest.mark.parametrize("form", FORMS)
def test_invented_records_depend_on_the_seed_and_some_are_refused(form, tmp_path, capsys):
    rules, records = tmp_path / "rules.json", tmp_path / "records.jsonl"
    written = []
    for seed in ("7", "7", "8"):
        assert demo(["records", form, "--count", "60", "--seed", seed]) == 0
        written.append(capsys.readouterr().out)
    assert written[0] == written[1] != written[2]
    records.write_text(written[0])
    demo(["rules"])
    rules.write_text(capsys.readouterr().out)
    arguments = ["judge", str(rules), str(records), "--moment", "submit", "--form", form]
    assert judge([*arguments, "--today", "2026-11-25", "--json"]) == 1
    outcomes = [json.loads(line)["outcome"] for line in capsys.readouterr().out.splitlines()]
    assert len(outcomes) == 60
    assert {"clear", "blocked"} <= set(outcomes)


def offered(ruleset: RuleSet) -> list[tuple[str, tuple[str, ...]]]:
    form = compile_ruleset(ruleset, form="loan_out")
    found = sweep_field(RecordContext(form, {}, Circumstances(TODAY)), "insured_value")
    assert found.exact
    said: list[tuple[str, tuple[str, ...]]] = []
    for band in found.bands:
        if not said or said[-1][1] != band.answer.offered:
            said.append((band.words, band.answer.offered))
    return said


def test_the_release_s_tiers_meet_and_the_draft_s_leave_a_gap_and_overlap():
    assert [rules for _, rules in offered(RELEASED)] == [
        (),
        ("premium_small",),
        ("premium_middle",),
        ("premium_large",),
    ]
    draft = offered(DRAFT)
    assert ("over € 20,000 to under € 50,000", ()) in draft
    # At 2,000 two tiers apply, and the first in order wins.
    assert [rules for _, rules in draft[1:3]] == [("premium_small",), ("premium_middle",)]


@pytest.mark.parametrize("key", [one.key for one in DRAFT.forms])
def test_each_sentence_names_the_fields_that_its_rule_is_about(key):
    form = compile_ruleset(DRAFT, form=key)
    for one in form.rules:
        said = plain(rule_sentence(one.lowered, form.vocabulary))
        read = (key for _, node in one.lowered.values for key in tree.fields_read(node))
        named = [*one.rule.targets, *read]
        assert [
            label for label in (form.vocabulary[each].label for each in named) if label not in said
        ] == []
