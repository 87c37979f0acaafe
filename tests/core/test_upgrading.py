"""Documents of format 1: read, and judged as they were by the version that wrote them.

`data/format_1.json.xz` was written by that version (28 November 2026): the releases of the demo, as
they were stored, sixty of their records each, and for 2,500 records drawn around those the digest of
its verdicts, with the statuses, severities and the words of messages in their new names.
"""

import json
import lzma
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from pydantic import ValidationError

from tests.core.drawn_records import digest, drawn_records
from thistlequartz.core import CompiledForm, RuleSet, compile_ruleset
from thistlequartz.core.cases.files import cases_from_csv
from thistlequartz.core.ruleset import CaseFile
from thistlequartz.core.values import to_json

WRITTEN = json.loads(
    lzma.decompress((Path(__file__).parent / "data/format_1.json.xz").read_bytes())
)
DRAWN = 2_500


def as_before(text: str) -> str:
    """A drafted message in the words of the version that wrote the digests."""
    return text.replace(" must not be ", " must be not ")


def told(form: CompiledForm, record: dict[str, Any]) -> Any:
    verdicts = form.judge_moments(record, moments=("save", "submit"), today=date(2026, 6, 12))
    return [
        [
            moment,
            verdict.outcome,
            verdict.may_pass,
            [
                [one.rule, one.status, one.severity, one.reason,
                 [[as_before(message.text), list(message.fields)] for message in one.messages]]
                for one in verdict.results
            ],
            {
                key: [None if state.value is None else to_json(state.value), state.fault,
                      state.relevant, state.read_only, state.derived]
                for key, state in verdict.fields.items()
            },
        ]
        for moment, verdict in verdicts.items()
    ]  # fmt: skip


@pytest.mark.parametrize("written", WRITTEN, ids=lambda one: one["form"])
def test_released_documents_judge_as_before(written: dict[str, Any]) -> None:
    ruleset = RuleSet.model_validate(written["ruleset"])
    assert ruleset.version == 2
    assert RuleSet.model_validate_json(json.dumps(written["ruleset"])) == ruleset
    form = compile_ruleset(ruleset, form=written["form"])
    raw = next(one for one in written["ruleset"]["forms"] if one["key"] == written["form"])
    drawn = list(drawn_records(raw, written["stored"], DRAWN))
    before = [written["verdicts"][at : at + 8] for at in range(0, 8 * DRAWN, 8)]
    different = [
        record for record, known in zip(drawn, before, strict=True)
        if digest(told(form, record)) != known
    ]  # fmt: skip
    assert different == []
    assert len(set(before)) > DRAWN / 2, "records that differ in what happens to them"


def test_written_documents_are_of_the_current_format() -> None:
    ruleset = RuleSet.model_validate(WRITTEN[0]["ruleset"])
    text = ruleset.model_dump_json()
    assert RuleSet.model_validate_json(text).model_dump_json() == text
    assert '"version":2' in text


def test_cases_of_format_1_are_upgraded() -> None:
    case = {
        "key": "late",
        "name": "Late",
        "circumstances": {"as_of": "2026-06-12"},
        "expected": {
            "broken": ["deep"],
            "asked": {"why": "closed", "depth": "open", "mark": "locked", "note": "waiting"},
            "statuses": {"deep": "broken", "given": "kept", "idle": "does_not_apply"},
        },
    }
    read = CaseFile.model_validate({"version": 1, "form": "core", "cases": [case]})
    expected = read.cases[0].expected
    assert expected.violated == ("deep",)
    assert expected.field_states == {
        "why": "not_relevant", "depth": "relevant", "mark": "read_only", "note": "waiting"
    }  # fmt: skip
    assert expected.statuses == {"deep": "violated", "given": "satisfied", "idle": "not_applicable"}
    assert CaseFile.model_validate_json(read.model_dump_json()) == read


def test_cases_in_csv_keep_their_earlier_head() -> None:
    ruleset = RuleSet.model_validate(WRITTEN[0]["ruleset"])
    form = compile_ruleset(ruleset, form=WRITTEN[0]["form"])
    text = "name,as_of,expected_broken\nEmpty,2026-06-12,accession_number_given\n"
    (case,) = cases_from_csv(text, form)
    assert case.expected.violated == ("accession_number_given",)


@pytest.mark.parametrize(
    ("document", "place"),
    [
        ({"version": 3, "forms": []}, ("version",)),
        ({"version": 1, "forms": 7}, ("forms",)),
        ({"version": 1, "forms": [{"key": "a", "name": "A", "rules": ["r"]}]}, ("forms", 0, "rules", 0)),
        (
            {"version": 1, "forms": [{"key": "a", "name": "A", "rules": [
                {"key": "r", "kind": "mandatory", "severity": {"save": "hard"}}]}]},
            ("forms", 0, "rules", 0, "mandatory", "severity", "save"),
        ),
    ],
)  # fmt: skip
def test_what_cannot_be_upgraded_is_refused_where_it_stands(document: Any, place: Any) -> None:
    with pytest.raises(ValidationError) as refused:
        RuleSet.model_validate(document)
    assert place in [error["loc"] for error in refused.value.errors()]
