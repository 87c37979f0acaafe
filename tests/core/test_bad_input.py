"""Whatever is handed in: an error that names the place, or a verdict; never a crash, never a hang."""

import json
import time
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.examples import few
from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.language import FormulaError, read_formula
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.demo.forms import DRAFT

from .conftest import TODAY

DOCUMENT = DRAFT.model_dump(mode="json")
ODD: list[Any] = [
    None, True, -1, 1e400, 10**40, "", " ", "\ud800", "null", "9" * 60, "2023-02-29", "today", [], {}, [None], {"key": None},
    "x" * 5_000, "(" * 300, 'a = "', "stored.", "plant_accession", "country", "1..", ["a"] * 300, "0001-01-01", "\u0000", "🌵",
]  # fmt: skip
LONG_ENOUGH = 40.0
"""Seconds: far more than any of this should take on a slow machine."""


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The path of every value in a document."""
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()  # fmt: skip
    return [path, *(one for key, part in inside for one in places(part, (*path, key)))]


PLACES = places(DOCUMENT)[1:]
assert RuleSet.model_validate(DOCUMENT) == DRAFT


def changed(document: Any, path: tuple[Any, ...], value: Any) -> Any:
    """The document with one value put in another's place, or taken away."""
    if not path:
        return value
    key, *rest = path
    copy = dict(document) if isinstance(document, dict) else list(document)
    if rest:
        copy[key] = changed(document[key], tuple(rest), value)
    elif value is ...:
        del copy[key]
    else:
        copy[key] = value
    return copy


@settings(max_examples=few(120), deadline=None, suppress_health_check=list(HealthCheck))
@given(st.sampled_from(PLACES), st.one_of(st.sampled_from(ODD), st.just(...), st.text(), st.sampled_from(PLACES)))  # fmt: skip
def test_a_document_spoilt_anywhere_is_refused_by_place_or_judges(path: Any, value: Any) -> None:
    if isinstance(value, tuple):  # a part from elsewhere in the document
        part: Any = DOCUMENT
        for key in value:
            part = part[key]
        value = part
    try:
        ruleset = RuleSet.model_validate(changed(DOCUMENT, path, value))
    except ValidationError as error:
        assert all(one["msg"] for one in error.errors())
        return
    for form in ruleset.forms:
        compiled = compile_ruleset(ruleset, form=form.key)
        for found in (*compiled.problems.values(), compiled.form_problems):
            assert all(problem.message and problem.remedy for problem in found)
        compiled.judge_moments({}, today=TODAY)


FORMS = [compile_ruleset(DRAFT, form=form.key) for form in DRAFT.forms]
KEYS = sorted({key for form in FORMS for key in form.entries})
ANYTHING = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.decimals() | st.text() | st.dates()
    | st.datetimes() | st.binary() | st.sampled_from(ODD),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=2),
)  # fmt: skip
RECORDS = st.dictionaries(st.sampled_from(KEYS) | st.text(), ANYTHING, max_size=12)


@settings(max_examples=few(120))
@given(st.sampled_from(FORMS), RECORDS, RECORDS, st.sampled_from(["create", "update"]))
def test_no_record_makes_judging_raise(
    form: CompiledForm, values: dict[str, Any], stored: dict[str, Any], event: Any
) -> None:
    record = form.read(values, stored=stored if event == "update" else None)
    verdicts = form.judge_moments(record, today=TODAY, event=event)
    screened = form.screener(today=TODAY, event=event).screen(record)
    assert (screened.save, screened.submit) == (
        verdicts["save"].outcome,
        verdicts["submit"].outcome,
    )
    assert all(one.reason for one in verdicts["save"].results)


@pytest.mark.parametrize(
    ("formula", "words"),
    [
        ("(" * 10_000 + "1" + ")" * 10_000, "deep"),
        ("not(" * 500 + "true" + ")" * 500, "deep"),
        ("1 + " * 5_000 + "1", "long"),
        ("x" * 200_000, "characters"),
        ('"' + "a" * 9_000, ""),
    ],
)
def test_a_formula_beyond_its_bounds_is_refused_with_the_bound(formula: str, words: str) -> None:
    begin = time.monotonic()
    with pytest.raises(FormulaError) as refused:
        read_formula(formula)
    assert time.monotonic() - begin < LONG_ENOUGH
    problem = refused.value.problems[0]
    assert problem.message
    assert problem.remedy
    if words:
        assert any(mark in problem.message for mark in "0123456789"), "the bound is in the message"


def test_ten_megabytes_of_text_in_any_field_are_judged_in_time() -> None:
    huge = "quartz " * (10_000_000 // 7)
    for form in FORMS:
        begin = time.monotonic()
        form.judge_moments(dict.fromkeys(form.fields, huge), today=TODAY)
        assert time.monotonic() - begin < LONG_ENOUGH


def test_whole_number_too_long_for_python_is_a_field_fault() -> None:
    for form in FORMS:
        verdict = form.judge(dict.fromkeys(form.fields, -(10**5_000)), moment="save", today=TODAY)
        assert verdict.outcome == "blocked"


def test_ten_megabytes_of_document_are_refused_in_time() -> None:
    begin = time.monotonic()
    form = {**DOCUMENT["forms"][0], "purpose": "p" * 10_000_000}
    with pytest.raises(ValidationError) as refused:
        RuleSet.model_validate(json.loads(json.dumps({"forms": [form]})))
    assert refused.value.errors()[0]["loc"] == ("forms", 0, "purpose")
    assert time.monotonic() - begin < LONG_ENOUGH
