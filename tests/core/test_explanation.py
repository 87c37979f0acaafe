"""The trace of a rule: every part of its condition with its value, down to the fields."""

from typing import Any

from hypothesis import given, settings

from tests.examples import few
from thistlequartz.core.judging import TraceStep, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from ..conformance.generators import CONDITIONS, FIELDS, RECORDS, document_of
from .conftest import TODAY, form_of

LOAN = [
    {"key": "lent", "type": "date"},
    {"key": "due", "type": "date"},
    {"key": "purpose", "type": "choice", "choices": [{"code": "r", "label": "Research"}]},
    {"key": "fragile", "type": "yes_no"},
]
RULE = {
    "kind": "cross_field",
    "targets": ["due"],
    "when": 'purpose = "r" or fragile',
    "must": 'due - lent <= duration("P30D")',
}


def test_a_broken_rule_shows_each_part_with_the_values_it_came_from() -> None:
    form = compile_ruleset(RuleSet(forms=(form_of(LOAN, [RULE]),)), form="form")
    values = {"lent": "1 June 2026", "due": "9 July 2026", "purpose": "Research"}
    found = form.explain("r1", values, today=TODAY)
    assert found.status == "violated"
    assert found.when is not None
    assert found.when.answer == "yes"
    assert [(part.words, part.answer) for part in found.when.parts] == [
        ("Purpose is Research", "yes"),
        ("Fragile", "blank"),
    ]
    (judged,) = found.judgements
    assert (judged.fields, judged.step.answer) == (("due",), "no")
    assert judged.step.words == "Due minus Lent is at most 30 days"
    (difference,) = judged.step.parts
    assert (difference.formula, difference.answer) == ("due - lent", "38 days")
    assert [part.answer for part in difference.parts] == ["9 July 2026", "1 June 2026"]
    assert found.values["fragile"] == "blank"


def test_what_leaves_nothing_to_judge_is_named() -> None:
    form = compile_ruleset(RuleSet(forms=(form_of(LOAN, [RULE]),)), form="form")
    (judged,) = form.explain("r1", {"fragile": "yes", "lent": "2026-06-01"}, today=TODAY).judgements
    assert judged.wanting == ("due",)


def answers(step: TraceStep) -> list[str]:
    return [step.answer, *(one for part in step.parts for one in answers(part))]


@settings(max_examples=few(60))
@given(CONDITIONS, RECORDS)
def test_the_trace_agrees_with_the_status(when: str, values: dict[str, Any]) -> None:
    given = document_of([{"kind": "mandatory", "targets": ["mass"], "when": when}])
    form = compile_ruleset(given, form="form")
    found = form.explain("r0", values, today=TODAY)
    assert found.when is not None
    assert (found.when.answer == "yes") == (found.status != "not_applicable")
    assert all(answers(found.when))
    assert len(FIELDS) >= len(found.values) >= 1
