"""To submit is to save as well: wherever the outcome of submitting is told, both moments count."""

import json

import pytest

from thistlequartz import cli
from thistlequartz.core.cases.running import Runner
from thistlequartz.core.ruleset import SEVERITIES, Case, hardest, marks_of

from .conftest import TODAY, compiled_form, result

FIELDS = [{"key": "name", "type": "text"}]
OUTCOMES = {"none": "clear", "note": "noted", "warn": "warned", "block": "blocked"}


def needing(save, submit, **more):
    severity = {"entry": "none", "save": save, "submit": submit}
    rule = {"kind": "mandatory", "targets": ["name"], "severity": severity, **more}
    return compiled_form(FIELDS, [rule])


@pytest.mark.parametrize("save", SEVERITIES)
@pytest.mark.parametrize("submit", SEVERITIES)
def test_the_harder_of_both_moments_counts_everywhere(save, submit):
    form = needing(save, submit)
    expected = OUTCOMES[hardest((save, submit))]
    verdict = form.judge({}, moment="submit", today=TODAY)
    assert (verdict.outcome, verdict.may_pass) == (expected, expected != "blocked")
    assert result(verdict).status == ("silent" if expected == "clear" else "violated")
    screened = form.screener(today=TODAY).screen(form.read({}))
    assert (screened.save, screened.submit) == (OUTCOMES[save], expected)
    mark = verdict.fields["name"].mark
    assert (mark and mark.kind) == {"clear": None, "blocked": "required"}.get(
        expected, "recommended"
    )
    assert bool(marks_of(form.form.rules)) is (expected != "clear")
    case = {
        "key": "c",
        "name": "Case",
        "values": {},
        "expected": {"save": "clear", "submit": "clear"},
        "circumstances": {"as_of": TODAY.isoformat()},
    }
    observed = Runner(form).run(Case.model_validate(case)).observed
    assert observed.submit == expected


def test_a_reason_that_saving_requires_is_required_on_submitting():
    form = needing("warn", "none", reason_required=True)
    assert form.judge({}, moment="submit", today=TODAY).may_pass is False
    passed = form.judge({}, moment="submit", today=TODAY, reasons={"r1": "No name is known."})
    assert (passed.may_pass, passed.outcome) == (True, "warned")


def test_the_command_line_says_so_too(tmp_path, capsys):
    form = needing("block", "none")
    document = {"forms": [form.form.model_dump(mode="json")]}
    rules, records = tmp_path / "rules.json", tmp_path / "records.jsonl"
    rules.write_text(json.dumps(document))
    records.write_text("{}\n")
    code = cli.main(["judge", str(rules), str(records), "--moment", "submit"])
    assert code == 1
    assert "blocked" in capsys.readouterr().out
