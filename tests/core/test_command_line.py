"""The commands: verdicts or cases of a file, exit codes, and unusable input by its place."""

import json
from pathlib import Path
from xml.etree import ElementTree as ET

import attr
import pytest
import sarif_om

from scripts.publish_schema import published
from thistlequartz import cli
from thistlequartz.cli import main
from thistlequartz.core.cases.files import cases_to_csv, cases_to_json
from thistlequartz.core.findings import SEARCHES, SearchProgress
from thistlequartz.demo.cases import kept_cases
from thistlequartz.demo.forms import DRAFT, RELEASED

DOCS = Path(__file__).parents[2] / "docs"
GOOD = {"accession_number": "QH-P-000001", "scientific_name": "Brindlea montana"}


@pytest.fixture
def judge(tmp_path, capsys):
    """Write records under a name, judge them by the demo's form, give code, output and errors."""
    ruleset = tmp_path / "rules.json"
    ruleset.write_text(RELEASED.model_dump_json())

    def run(name, text, *options, rules=None):
        if rules is not None:
            ruleset.write_text(rules)
        records = tmp_path / name
        records.write_bytes(text if isinstance(text, bytes) else text.encode())
        code = main(
            [
                "judge",
                str(ruleset),
                str(records),
                "--moment",
                "submit",
                "--today",
                "2026-06-12",
                *(options if "--form" in options else ("--form", "plant_accession", *options)),
            ]
        )
        said = capsys.readouterr()
        return code, said.out, said.err

    return run


def test_all_pass(judge):
    other = GOOD | {"accession_number": "QH-P-000002"}
    code, out, _ = judge("good.json", json.dumps([GOOD, other]))
    assert (code, out) == (0, "1: clear\n2: clear\n")


def test_two_records_of_a_file_with_one_number_are_told_of_each_other(judge):
    code, out, _ = judge(
        "twice.json", json.dumps([GOOD, GOOD | {"accession_number": "qh-p-000001"}])
    )
    assert code == 1
    assert out.count("No two records may share Accession number.") == 2


def test_one_blocked_record_sets_the_exit_code_and_says_why(judge):
    text = "accession_number,scientific_name,latitude\nQH-P-000001,B,5\nC,,95\nD,E,north\n"
    code, out, _ = judge("plants.csv", text)
    assert code == 1
    assert out.splitlines()[0:2] == [
        "2: blocked",
        "    block  coordinate_uncertainty: Coordinate uncertainty is required. This applies"
        " when either Latitude has a value or Longitude has a value.",
    ]
    assert "    block  latitude: Latitude must be from −90 to 90°." in out
    assert "    block  latitude: “north” is not a number" in out


def test_json_says_what_each_rule_and_field_came_to(judge):
    odd = {**GOOD, "latitude": "north", "type_status": "holotype", "determined_by": "zz"}
    code, out, _ = judge("one.json", json.dumps([odd]), "--json")
    said = json.loads(out)
    assert code == 1
    rules = {one["key"]: one for one in RELEASED.forms[0].model_dump()["rules"]}
    assert set(said["rules"]) == {key for key, one in rules.items() if "severity" in one} | {
        key for key in said["rules"] if key in rules
    }
    (fault,) = (one for one in said["told"] if one["rule"] is None)
    assert fault["fields"] == ["latitude"]
    assert said["fields"]["latitude"]["fault"] == fault["message"]
    violated = {one["rule"] for one in said["told"]} - {None}
    assert violated == {key for key, one in said["rules"].items() if one["status"] == "violated"}
    assert said["stores"]["scientific_name"] == "Brindlea montana"
    assert "latitude" not in said["stores"]
    assert (said["on_hold"], said["ignored"]) == (False, {})


SCOPED = {
    "key": "small",
    "name": "Small",
    "fields": [
        {"key": "mass", "label": "Mass", "type": "decimal", "decimal_mark": "comma", "scale": 3},
        {"key": "note", "label": "Note", "type": "text"},
    ],
    "rules": [
        {
            "key": key,
            "name": key,
            "kind": "mandatory",
            "targets": ["note"],
            "scope": scope,
            "severity": {"save": "block"},
        }
        for key, scope in (
            ("imports", {"entry_points": ["import"]}),
            ("approvers", {"roles": ["approver"]}),
            ("changes", {"events": ["update"]}),
        )
    ]
    + [
        {
            "key": "never_less",
            "name": "never_less",
            "kind": "cross_field",
            "targets": ["mass"],
            "must": "mass >= stored.mass",
            "severity": {"save": "block"},
        }
    ],
}


def test_records_are_judged_as_they_come_in(judge, tmp_path):
    rules = json.dumps({"forms": [SCOPED]})
    before = tmp_path / "before.json"
    before.write_text(json.dumps([{"mass": "1.125"}]))
    changed = ("--event", "update", "--stored", str(before))
    for options, violated in (
        ((), []),
        (("--entry-point", "import"), ["imports"]),
        (("--role", "approver"), ["approvers"]),
        (changed, ["changes", "never_less"]),
    ):
        asked = ("--form", "small", "--json", *options)
        code, out, _ = judge("new.json", json.dumps([{"mass": "1,124"}]), *asked, rules=rules)
        found = json.loads(out)["rules"]
        assert [key for key, one in found.items() if one["status"] == "violated"] == violated
        assert code == bool(violated)
    for options in (("--event", "update"), ("--stored", str(before))):
        code, _, err = judge("new.json", "[{}]", "--form", "small", *options)
        assert (code, "--event update and --stored together" in err) == (2, True)
    code, _, err = judge("new.json", "[{}, {}]", "--form", "small", *changed)
    assert (code, "the number of its records is 1, where 2 are judged" in err) == (2, True)


TWICE = '{"forms": [{"key": "f", "name": "F", "fields": [], "rules": [], "rules": []}]}'


@pytest.mark.parametrize(
    ("rules", "lines"),
    [
        (TWICE, ["The name “rules” stands twice in one object."]),
        (
            json.dumps({"forms": [{**SCOPED, "shade": 1, "tint": 2}]}),
            ["forms.0.shade: Nothing of this name is known here.", "forms.0.tint: Nothing of this"],
        ),
        (
            json.dumps({"forms": [{**SCOPED, "fields": [SCOPED["fields"][1]] * 2, "rules": []}]}),
            ["note"],
        ),
        (
            json.dumps(
                {"forms": [{**SCOPED, "rules": [{**SCOPED["rules"][0], "when": "x >"}] * 1}]}
            ),
            ["rules.imports.when"],
        ),
    ],
    ids=["a name twice", "unknown names", "a key twice", "an unfinished rule"],
)
def test_a_document_that_cannot_be_used_tells_each_thing_once(judge, rules, lines):
    code, out, err = judge("new.json", "[{}]", "--form", "small", rules=rules)
    assert (code, out) == (2, "")
    told = err.strip().splitlines()
    assert len(told) == len(lines)
    assert all(line in said for line, said in zip(lines, told, strict=True))


def test_a_head_that_comes_twice_and_half_characters_are_refused(judge):
    for name, text, said in (
        ("two.csv", "accession_number,accession_number\nA,B\n", "stands 2 times"),
        ("nul.csv", "accession_number\nA\x00\n", "row 2: A character cannot be stored"),
        ("half.json", '[{"accession_number": "\\ud800"}]', "half a character"),
        ("big.json", '[{"latitude": 1e999}]', "beyond what can be carried"),
    ):
        code, _, err = judge(name, text)
        assert (code, said in err) == (2, True), err


def test_each_line_can_be_json(judge):
    lines = "\n".join(json.dumps(one) for one in (GOOD, {}))
    code, out, _ = judge("plants.jsonl", lines, "--json")
    first, second = (json.loads(line) for line in out.splitlines())
    assert code == 1
    assert (first["row"], first["may_pass"], first["told"]) == (1, True, [])
    assert (second["outcome"], len(second["told"])) == ("blocked", 2)


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [
        (
            "a.json",
            '[{"latitud": 5}]',
            "row 1, column “latitud”: the form has no such field. Did you mean “latitude”?",
        ),
        ("a.json", '[{"latitude": 5', "row 1, column 16"),
        ("a.jsonl", '{}\n{"a": }\n', "row 2, column 7"),
        ("a.json", "[3]", "row 1: a record is an object"),
        ("a.csv", "latitude,longitude\n1,2\n3\n", "row 3: 1 cell, where the number of heads is 2"),
        ("a.csv", b"latitude\n\xff\n", "byte 10 is not UTF-8"),
        ("a.txt", "", "“.txt” is not known"),
    ],
)
def test_unusable_records_are_named_by_row_and_column(judge, name, text, words):
    code, _, err = judge(name, text)
    assert code == 2
    assert words in err


def test_unusable_rules_are_named_by_place(judge):
    def with_rule(**parts):
        document = RELEASED.model_dump(mode="json")
        form = document["forms"][2]
        form["rules"] = [{**form["rules"][0], **parts}]
        return json.dumps({**document, "forms": [form]})

    for parts, words in (
        ({"when": "countr = null"}, "rules.known_before_lending.when: There is no field “countr”"),
        ({"colour": "red"}, "forms.0.rules.0.mandatory.colour"),
    ):
        code, _, err = judge("a.json", "[]", "--form", "borrower", rules=with_rule(**parts))
        assert code == 2
        assert words in err
    assert judge("a.json", "[]", "--form", "gone", rules=with_rule())[0] == 2


@pytest.mark.parametrize(("path", "text"), published().items(), ids=lambda one: str(one)[-20:])
def test_published_files_are_those_of_the_core(path, text):
    """After a change: python -m scripts.publish_schema"""
    assert path.read_text() == text


@pytest.fixture
def hold(tmp_path, capsys):
    """Run cases of the demo's loans by its release or its draft; give code, output, report."""

    def run(ruleset, name, text):
        rules, cases, report = tmp_path / "rules.json", tmp_path / name, tmp_path / "report.xml"
        rules.write_text(ruleset.model_dump_json())
        cases.write_text(text)
        options = ["--form", "loan_out", "--junit", str(report)]
        code = main(["cases", str(rules), str(cases), *options])
        said = capsys.readouterr()
        return code, said.out + said.err, report.read_text() if report.exists() else ""

    return run


def test_a_pipeline_holds_a_release_to_its_cases(hold):
    cases = kept_cases("loan_out")
    code, out, report = hold(RELEASED, "cases.json", cases_to_json("loan_out", cases))
    assert (code, out.splitlines()[-1]) == (0, "9 of 9 cases pass.")
    code, out, report = hold(DRAFT, "cases.csv", cases_to_csv(cases))
    assert code == 1
    assert "fails: Four months\n    Saving is warned, where clear was expected." in out
    failures = [one.get("name") for one in ET.fromstring(report).iter("testcase") if len(one)]
    assert "Four months" in failures


@pytest.mark.parametrize(
    ("name", "text", "said"),
    [
        ("cases.txt", "", "Use .json or .csv"),
        ("cases.json", '{"form": "borrower"}', "These are cases of “borrower”"),
        ("cases.csv", "name,as_of,expected_save,expected_submit,peice\n", "Did you mean “piece”?"),
    ],
)
def test_cases_that_cannot_be_used_are_told_by_their_place(hold, name, text, said):
    code, out, _ = hold(RELEASED, name, text)
    assert code == 2
    assert said in out


@pytest.fixture
def findings(tmp_path, capsys):
    """Look for findings in the demo's drafts, or releases, as a file."""

    def run(*options, ruleset=DRAFT):
        file = tmp_path / "rules.json"
        file.write_text(ruleset.model_dump_json(indent=1))
        code = main(["findings", str(file), "--today", "2026-06-12", *options])
        said = capsys.readouterr()
        return code, said.out, said.err

    return run


def test_findings_of_drafts_are_told_and_releases_are_clean(findings):
    code, out, _ = findings("--form", "loan_out")
    assert code == 1
    assert "wrong (F10): For Insured value between € 20,000 and € 50,000 none of" in out
    assert out.splitlines()[-1].startswith("Loan out: 4 found, ")
    code, out, _ = findings("--form", "borrower", "--json", ruleset=RELEASED)
    assert (code, json.loads(out)["borrower"]["found"]) == (0, [])
    assert findings("--form", "mineral_accession")[0] == 0, "nothing wrong, only doubtful"
    assert findings("--form", "mineral_accession", "--fail-on", "doubtful")[0] == 1
    code, _, err = findings("--form", "nowhere")
    assert (code, "there is no form “nowhere”" in err) == (2, True)


SARIF = {
    "runs": sarif_om.Run,
    "tool": sarif_om.Tool,
    "driver": sarif_om.ToolComponent,
    "rules": sarif_om.ReportingDescriptor,
    "shortDescription": sarif_om.MultiformatMessageString,
    "invocations": sarif_om.Invocation,
    "toolExecutionNotifications": sarif_om.Notification,
    "associatedRule": sarif_om.ReportingDescriptorReference,
    "results": sarif_om.Result,
    "message": sarif_om.Message,
    "locations": sarif_om.Location,
    "physicalLocation": sarif_om.PhysicalLocation,
    "artifactLocation": sarif_om.ArtifactLocation,
    "region": sarif_om.Region,
    "logicalLocations": sarif_om.LogicalLocation,
}
"""By property: what it holds."""


def has_the_shape_of(kind, document):
    """Nothing in it that the standard does not know, and all that it cannot be without."""
    known = {one.metadata["schema_property_name"]: one.name for one in attr.fields(kind)}
    kind(**{known[name]: value for name, value in document.items()})
    for name, value in document.items():
        for one in value if isinstance(value, list) else [value]:
            if isinstance(one, dict) and name != "partialFingerprints":
                has_the_shape_of(SARIF[name], one)


def test_findings_as_sarif_point_to_the_line_of_their_rule(findings, tmp_path):
    """What OASIS SARIF 2.1.0 demands, by classes that were generated from its JSON schema (sarif-om);
    that results lead to their rule by its number, 3.27.6, from memory.
    """
    report = tmp_path / "report.sarif"
    findings("--form", "loan_out", "--sarif", str(report))
    log = json.loads(report.read_text())
    has_the_shape_of(sarif_om.SarifLog, log)
    assert log["version"] == "2.1.0"
    ((run),) = log["runs"]
    rules = [one["id"] for one in run["tool"]["driver"]["rules"]]
    lines = (tmp_path / "rules.json").read_text().splitlines()
    for result in run["results"]:
        assert rules[result["ruleIndex"]] == result["ruleId"]
        assert result["level"] in ("error", "warning")
        assert result["message"]["text"]
        (place,) = result["locations"]
        line = place["physicalLocation"]["region"]["startLine"]
        name = place["logicalLocations"][0]["fullyQualifiedName"].rpartition("/")[2]
        assert f'"key": "{name}"' in lines[line - 1]
    for place in ("/nowhere/report.sarif", str(tmp_path)):
        code, out, err = findings("--form", "loan_out", "--sarif", place)
        assert (code, out, f"{place} cannot be written" in err) == (2, "", True)


def test_findings_end_with_2_where_a_search_fails(tmp_path, monkeypatch, capsys):
    """A search that fails is named, the others go on, and nobody takes it for a clean result."""
    document = {"forms": [{"key": "form", "name": "Form", "fields": [], "rules": []}]}
    path, log = tmp_path / "rules.json", tmp_path / "findings.sarif"
    path.write_text(json.dumps(document))
    steps = [
        SearchProgress(n, failure="ValueError: ordinal" if n == 1 else "")
        for n in range(len(SEARCHES))
    ]
    monkeypatch.setattr(cli.FindingsProcess, "find", lambda *_: iter(steps))
    assert main(["findings", str(path), "--sarif", str(log)]) == 2
    said = capsys.readouterr()
    assert "F01 failed" in said.err
    assert "0 found" in said.out
    (run,) = json.loads(log.read_text())["runs"]
    assert run["invocations"][0]["executionSuccessful"] is False
