"""Reports and files of cases against general libraries, and against whatever a cell may hold."""

import csv
import io
import json

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from junitparser import JUnitXml

from tests.core.conftest import compiled_form
from tests.examples import few
from thistlequartz.core.cases.files import (
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
)
from thistlequartz.core.cases.junit_report import junit_report
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.ruleset import Case, CaseFile
from thistlequartz.core.values import BrokenJson, read_json

FORM = compiled_form(
    [
        {"key": "note", "type": "text"},
        {"key": "depth", "type": "whole_number"},
        {
            "key": "habitats",
            "type": "choices",
            "choices": [{"code": code, "label": code.title()} for code in ("bog", "dune")],
        },
    ],
    [{"kind": "range", "targets": ["depth"], "upper": {"value": "90"}}],
)
LINES = st.text(st.characters(exclude_categories=["Cs", "Cc"]), min_size=1, max_size=30)
NAMES = LINES.filter(lambda text: text.strip())
VALUES = st.fixed_dictionaries(
    {},
    optional={
        "note": LINES.filter(lambda text: text.strip()),
        "depth": st.integers(-999, 999).map(str),
        "habitats": st.lists(st.sampled_from(["bog", "dune"]), min_size=1, unique=True),
    },
)


def case(number, name, values, why="", suite=""):
    expected = {"save": "clear", "submit": "clear"}
    return Case.model_validate(
        {
            "key": f"case_{number}",
            "name": name,
            "why": why,
            "suite": suite,
            "circumstances": {"as_of": "2026-06-12"},
            "values": values,
            "expected": expected,
        }
    )


CASES = st.lists(st.tuples(NAMES, VALUES, LINES, LINES), min_size=1, max_size=4).map(
    lambda drawn: [case(number, *parts) for number, parts in enumerate(drawn)]
)


@given(CASES)
@settings(max_examples=few(40))
def test_cases_survive_both_kinds_of_file(cases):
    assert list(cases_from_json(cases_to_json("form", cases), FORM)) == cases
    back = cases_from_csv(cases_to_csv(cases), FORM)
    for before, after in zip(cases, back, strict=True):
        assert (after.name, after.why, after.suite) == (before.name, before.why, before.suite)
        ran = [Runner(FORM).run(one) for one in (before, after)]
        assert ran[0].observed == ran[1].observed


@given(CASES)
@settings(max_examples=few(20))
def test_the_csv_is_one_that_the_standard_library_reads(cases):
    """RFC 4180, as far as Python's csv goes: as many cells in each row as there are heads."""
    rows = list(csv.reader(io.StringIO(cases_to_csv(cases)), strict=True))
    assert {len(row) for row in rows} == {len(rows[0])}
    assert len(rows) == len(cases) + 1


@given(CASES)
@settings(max_examples=few(20))
def test_the_json_is_valid_by_the_published_schema(cases):
    """JSON Schema 2020-12, by the library jsonschema."""
    document = json.loads(cases_to_json("form", cases))
    jsonschema.Draft202012Validator(CaseFile.model_json_schema()).validate(document)


def test_the_report_is_read_by_a_library_for_such_reports():
    """The shape that JUnit reports share, by the library junitparser."""
    cases = [
        case(1, "Agrees", {"depth": "3"}, suite="Depths"),
        case(2, "Too deep & <told>", {"depth": "91"}, suite="Depths"),
        case(3, "Gone", {"depht": "3"}),
    ]
    text = junit_report(FORM.form, cases, list(Runner(FORM).run_all(cases)))
    report = JUnitXml.fromstring(text.split("?>", 1)[1])
    assert [(suite.name, suite.tests, suite.failures, suite.errors) for suite in report] == [
        ("Depths", 2, 1, 0),
        ("Cases", 1, 0, 1),
    ]
    failing = [one for suite in report for one in suite if one.result]
    assert [one.name for one in failing] == ["Too deep & <told>", "Gone"]
    assert failing[0].result[0].message == "Saving is warned, where clear was expected."


FORMULAS = st.sampled_from(["=1+1", "+cmd", "-x", "@sum", "'=a", "''=b", "'c", "-12.5", "+44 20"])


@given(FORMULAS)
def test_exported_cells_are_no_formulas_and_come_back_unchanged(text):
    """OWASP, “CSV Injection”: a cell that begins with =, +, - or @ is guarded by an apostrophe."""
    written = cases_to_csv([case(1, text, {"note": text})])
    for row in csv.reader(io.StringIO(written)):
        for cell in row:
            assert (
                cell[:1] not in ("=", "@", "+", "-")
                or cell[1:].replace(".", "").replace(" ", "").isdigit()
            )
    (back,) = cases_from_csv(written, FORM)
    assert (back.name, back.values["note"]) == (text, text)


ODD = st.sampled_from(["\\ud800", "\\u0000", "\\udfff\\ud800", "a\\uD834"])
PLACES = st.sampled_from(
    ['{{"a": "{0}"}}', '[["{0}"]]', '{{"{0}": 1}}', '"{0}"', '{{"a": [1, {{"b": "x{0}"}}]}}']
)


@given(PLACES, ODD)
def test_no_text_that_cannot_be_stored_comes_in_through_json(place, odd):
    """RFC 7493 (I-JSON), clause 2.1: no surrogates that stand alone."""
    with pytest.raises(BrokenJson, match=r"half a character|NUL"):
        read_json(place.format(odd))


@given(
    st.recursive(
        st.none()
        | st.booleans()
        | st.integers()
        | st.floats(allow_nan=False, allow_infinity=False)
        | st.text(st.characters(exclude_characters="\x00", exclude_categories=["Cs"])),
        lambda one: (
            st.lists(one, max_size=3)
            | st.dictionaries(
                st.text(st.characters(exclude_characters="\x00", exclude_categories=["Cs"])),
                one,
                max_size=3,
            )
        ),
        max_leaves=8,
    )
)
def test_what_is_json_is_read_as_the_standard_library_reads_it(value):
    assert read_json(json.dumps(value)) == value
