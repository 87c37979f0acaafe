"""Files of records: matched, tried, stored row by row, given back with what was refused."""

import io
import json

import pytest
from openpyxl import Workbook, load_workbook

from thistlequartz.demo.records import values_of
from thistlequartz.server.imports import running as importing
from thistlequartz.server.imports.models import ImportedRow, RecordFile
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.records.models import Record, RecordBook
from thistlequartz.server.watch.models import AttemptCount, RuleCount

from .bringing import bring, brought, came, run
from .conftest import SMALL_THING, released_with, save

pytestmark = pytest.mark.django_db
HARD = {"entry": "none", "save": "block", "submit": "block"}
RULES = (
    {"kind": "unique", "key": "one", "name": "Marks are unique", "targets": ["mark"], "severity": HARD},
    {
        "kind": "mandatory", "key": "graded", "name": "A grade is required", "targets": ["grade"],
        "severity": {"entry": "none", "save": "warn", "submit": "block"},
    },
    {
        "kind": "range", "key": "light", "name": "Light things only", "targets": ["mass"],
        "upper": {"value": "100"}, "severity": {"entry": "none", "save": "warn", "submit": "warn"},
        "reason_required": True,
    },
    {"kind": "close", "key": "no_note", "name": "No notes of great things", "targets": ["note"],
     "when": 'grade = "A"'},
    {"kind": "start", "key": "begins", "name": "Begins today", "targets": ["day"], "formula": "today"},
)  # fmt: skip


@pytest.fixture(scope="module")
def at(for_the_file):
    mass = {"type": "decimal", "key": "mass", "label": "Mass", "scale": 3}
    day = {"type": "date", "key": "day", "label": "Seen on"}
    released_with(*RULES, fields=(mass, day))
    return SMALL_THING


def refused(caller, at, file):
    rows = caller.get(f"{at}/record-files/{file['id']}/refused").json()["rows"]
    return {row["row"]: [(one["head"], one["text"]) for one in row["said"]] for row in rows}


THINGS = """MARK;Note;Grades;Mass;Seen on;Shoe size
k;fine;Small a;1,5;31/12/2025;7
k;double;Small a;2;01/02/2026;7
a;known;Small a;2;;7
l;;Medium;heavy;;7
m;lost;Great A;150,25;;7
n;;;3;13/13/2026;7
"""


def test_a_file_is_read_as_it_is_written_and_what_is_refused_comes_back(clerk, at, draft):
    file = brought(clerk, at, THINGS)
    plan = file["plan"]
    assert plan["columns"] == {
        "MARK": "mark", "Note": "note", "Grades": "grade", "Mass": "mass", "Seen on": "day",
    }  # fmt: skip
    assert (plan["decimal_mark"], plan["date_order"]) == (None, "day_first")
    seen = clerk.post(f"{at}/record-files/{file['id']}/preview", plan).json()
    by = {one["head"]: one["by"] for one in seen["columns"]}
    assert by["Grades"] == "likeness"
    assert by["Shoe size"] is None
    assert [one["row"] for one in seen["refused"]] == [3, 4, 5, 6, 7]
    assert (seen["would_add"], seen["looked_at"], seen["rows"]) == (1, 6, 6)
    stored = Record.objects.filter(form=draft).count()
    assert came(clerk, at, file, dry=True) == {"rows": 6, "added": 1, "refused": 5}
    assert Record.objects.filter(form=draft).count() == stored

    assert came(clerk, at, file) == {"rows": 6, "added": 1, "refused": 5}
    record = Record.objects.get(form=draft, values__mark="k")
    assert record.values == {
        "mark": "k", "note": "fine", "grade": "a", "mass": "1.5", "day": "2025-12-31",
    }  # fmt: skip
    said = refused(clerk, at, file)
    assert said[3][0][0] == "MARK", "the first row of the file holds the same mark"
    assert said[4][0][0] == "MARK", "a stored record does"
    assert [head for head, _ in said[5]] == ["Grades", "Mass"]
    assert said[6][0][0] == "Mass"
    assert "Give a reason in a column “Reason: Light things only”" in said[6][0][1]
    assert said[7] == [("Seen on", said[7][0][1])]

    answer = clerk.get(f"{at}/record-files/{file['id']}/refused-file")
    assert answer.status_code == 200, answer.content
    back = b"".join(answer.streaming_content)
    text = back.decode("utf-8-sig")
    assert text.startswith("MARK,Note,Grades,Mass,Seen on,Shoe size,What is to be corrected\r\n")
    corrected = text.replace("k,double", "k2,double").replace("a,known", "a2,known")
    corrected = corrected.replace("Medium,heavy", "Small a,12").replace("13/13/2026", "13/12/2026")
    again = brought(clerk, at, corrected.replace("Shoe size", "Reason: Light things only"))
    assert again["plan"]["columns"]["Reason: Light things only"] == "reason:light"
    done = came(clerk, at, again)
    assert done == {"rows": 5, "added": 5, "left_out": 1, "warned": 2}
    assert Record.objects.get(form=draft, values__mark="m").reasons["light"]["text"] == "7"


def test_the_same_file_brings_nothing_twice(clerk, at, draft):
    content = "mark,grade\nk,a\nl,a\na,a\n"
    first, second = brought(clerk, at, content), brought(clerk, at, content, "other name.csv")
    assert came(clerk, at, first) == {"rows": 3, "added": 2, "refused": 1}
    assert came(clerk, at, first) == {"rows": 3, "known": 2, "refused": 1}
    assert came(clerk, at, second) == {"rows": 3, "known": 2, "refused": 1}
    assert ImportedRow.objects.filter(form=draft).count() == 2
    book = RecordBook.objects.get(form=draft)
    records = Record.objects.filter(form=draft)
    assert (book.stored, book.last_number) == (records.count(), 10)


def test_records_are_found_by_a_unique_field_and_changed(clerk, at, draft):
    content = "mark,note,grade\nA,new note,A\nz,,a\nb,kept,a\nB,last,a\n,nothing,a\n"
    file = brought(clerk, at, content, update_by="mark")
    before = {one.values["mark"]: one for one in Record.objects.filter(form=draft)}
    expected = {"rows": 5, "added": 1, "changed": 3, "refused": 1, "left_out": 1}
    assert came(clerk, at, file, dry=True) == expected
    assert came(clerk, at, file) == expected
    after = {one.values["mark"].casefold(): one for one in Record.objects.filter(form=draft)}
    assert len(after) == len(before) + 1
    assert after["a"].number == before["a"].number
    assert after["a"].revision == before["a"].revision + 1
    assert "note" not in after["a"].values, "it is closed for great things"
    assert after["b"].values["note"] == "last"
    assert after["c"].values == before["c"].values
    acts = clerk.get(f"/api/v1/forms/{draft.key}/records/{after['b'].number}").json()
    assert acts["revision"] == before["b"].revision + 2
    submitted = clerk.send(
        "PUT",
        f"{at}/records/{after['b'].number}",
        {"values": {**acts["values"], "mass": "1"}, "revision": acts["revision"], "submit": True},
    )
    assert submitted.status_code == 200
    late = brought(clerk, at, "mark,note\nb,too late\n", update_by="mark")
    assert came(clerk, at, late) == {"rows": 1, "refused": 1}
    assert "has been submitted" in refused(clerk, at, late)[2][0][1]


def test_submitting_is_judged_at_both_moments_and_counted_by_entry_point(clerk, at, draft):
    file = brought(clerk, at, "mark,grade\nk,a\nl,\n", submit=True)
    assert came(clerk, at, file) == {"rows": 2, "added": 1, "refused": 1}
    record = Record.objects.get(form=draft, values__mark="k")
    assert (record.state, record.submitted_by.username) == ("submitted", "clerk")
    assert "day" in record.values, "without a column it begins as at the desk"
    tried = AttemptCount.objects.get(form=draft, entry_point="import", moment="submit")
    assert (tried.tried, tried.stopped) == (2, 1)
    assert RuleCount.objects.get(form=draft, entry_point="import", rule_key="graded").blocked == 1
    told = clerk.get(f"/api/v1/forms/{draft.key}/history?act=submit%20record")
    assert told.status_code in (200, 403)


def test_a_workbook_and_json_lines_come_back_as_they_came(clerk, at):
    book, content = Workbook(), io.BytesIO()
    for row in (
        ["mark", "mass", "grade", "day"],
        ["w1", 1.25, "a", "2026-01-02"],
        ["a", 2, "a", None],
    ):
        book.active.append(row)
    book.save(content)
    file = brought(clerk, at, content.getvalue(), "things.xlsx")
    assert came(clerk, at, file) == {"rows": 2, "added": 1, "refused": 1}
    answer = clerk.get(f"{at}/record-files/{file['id']}/refused-file")
    assert answer.status_code == 200, answer.content
    back = b"".join(answer.streaming_content)
    sheet = load_workbook(io.BytesIO(back)).active
    assert [cell.value for cell in sheet[2]][:2] == ["a", 2]
    assert "mark" in sheet["E2"].value
    assert sheet["A2"].comment is not None
    lines = '{"mark": "w2", "mass": "1.125", "grade": "a"}\n{"mark": "w2", "mass": 0.5}\n'
    file = brought(clerk, at, lines, "things.jsonl")
    assert came(clerk, at, file) == {"rows": 2, "added": 1, "refused": 1}
    answer = clerk.get(f"{at}/record-files/{file['id']}/refused-file")
    assert answer.status_code == 200, answer.content
    back = b"".join(answer.streaming_content)
    told = json.loads(back)
    assert told["mark"] == "w2"
    assert "What is to be corrected" in told


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "The file is empty."),
        (b"mark\n\xff\xfe\xfd\n", "A character is not written in UTF-8."),
        (b"mark,note\na\n", "1 cell, where the number of heads is 2"),
        (b"x" * (33 * 1024 * 1024), "The file has more than 32 MB."),
    ],
)
def test_what_cannot_be_taken_in_is_refused_whole(clerk, at, content, says):
    answer = bring(clerk, at, content)
    assert answer.status_code in (413, 422)
    assert answer.json()["type"]
    assert says in answer.json()["title"]
    assert RecordFile.objects.count() == 0


def test_plans_that_do_not_fit_say_where(clerk, at):
    file = brought(clerk, at, "mark,note\nx,y\n")
    where = f"{at}/record-files/{file['id']}/plan"
    for change, place in (
        ({"columns": {"mark": "nonsense"}}, "columns.mark"),
        ({"columns": {"mark": "mark", "note": "mark"}}, "columns.note"),
        ({"columns": {}}, "columns"),
        ({"update_by": "note"}, "update_by"),
        ({"columns": {"note": "note"}, "update_by": "mark"}, "update_by"),
        ({"columns": {"mark": "reason:none"}}, "columns.mark"),
    ):
        answer = clerk.send("PUT", where, {**file["plan"], **change})
        assert answer.status_code == 422
        assert place in [one["place"] for one in answer.json()["errors"]]


def test_who_may_not_write_records_brings_none(at, anyone, request):
    answer = bring(anyone, at, "mark,grade\nq,a\n")
    is_reader = "reader" in request.node.name
    assert answer.status_code == (403 if is_reader else 201)


@pytest.mark.parametrize("few", [4_000, 0])
def test_a_file_breaks_off_at_its_fault_and_keeps_what_came_before(
    clerk, at, draft, monkeypatch, few
):
    """With 0, a second process is begun, which does not see this transaction, and gives up."""
    monkeypatch.setattr(importing, "FEW", few)
    content = "mark,grade\n" + "".join(f"j{n},a\n" for n in range(2_500)) + 'x,"a\n'
    file = brought(clerk, at, content)
    monkeypatch.setattr(importing, "AT_ONCE", 500)
    done = run(clerk, at, file)
    assert done["job"]["state"] == "failed"
    assert "cannot be read" in done["job"]["trouble"]
    assert done["came"]["added"] == 2_500


def test_a_release_in_the_middle_judges_the_rows_that_are_left(
    steward, clerk, at, draft, monkeypatch
):
    file = brought(clerk, at, "mark,grade\n" + "".join(f"r{n},a\n" for n in range(30)))
    monkeypatch.setattr(importing, "AT_ONCE", 10)
    tell, told = Progress.tell, []

    def release_once(self, *progress):
        if not told:
            rule = {"kind": "mandatory", "key": "noted", "targets": ["note"], "severity": HARD}
            assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
            assert steward.release(at, "Notes are required.").status_code == 201
        told.append(progress)
        tell(self, *progress)

    monkeypatch.setattr(Progress, "tell", release_once)
    assert came(clerk, at, file) == {"rows": 30, "added": 10, "refused": 20}
    said = refused(clerk, at, file)
    assert {texts[0][1] for texts in said.values()} == {"Note is required."}


@pytest.mark.parametrize("naming", ["labels", "codes"])
@pytest.mark.parametrize("kind", ["csv", "xlsx", "jsonl"])
def test_what_is_exported_comes_back_as_the_same(clerk, at, draft, kind, naming):
    for values in (
        {"mark": "=1+1", "note": "-a, \"b\"\n;c", "grade": "a", "mass": "0.125", "day": "1931-02-28"},
        {"mark": "007", "grade": "A", "mass": "12345678901234567890.5", "day": "2026-11-27"},
    ):  # fmt: skip
        reasons = {"light": {"text": "Weighed twice."}} if len(values["mass"]) > 9 else {}
        body = {"values": values, "reasons": reasons}
        answer = clerk.post(f"{at}/records", body)
        assert answer.status_code == 201, answer.content
    before = {one.number: one.values for one in Record.objects.filter(form=draft)}
    answer = clerk.get(f"{at}/record-file?kind={kind}&naming={naming}")
    content = b"".join(answer.streaming_content)
    file = brought(clerk, at, content, f"out.{kind}", update_by="mark")
    assert set(file["plan"]["columns"].values()) == {"mark", "note", "grade", "mass", "day"}
    assert came(clerk, at, file) == {"rows": 10, "changed": 10, "warned": 9}
    assert {one.number: one.values for one in Record.objects.filter(form=draft)} == before


def test_mended_rows_go_where_their_columns_went_before(clerk, at):
    lines = "Number of it,Remark of mine,Mass\nq1,fine,1\nq2,this is far too long,1\n"
    columns = {"Number of it": "mark", "Remark of mine": "note"}
    file = brought(clerk, at, lines, columns=columns, submit=True, starting=False)
    came(clerk, at, file)
    answer = clerk.get(f"{at}/record-files/{file['id']}/refused-file")
    back = b"".join(answer.streaming_content)
    assert b"Number of it" in back
    again = brought(clerk, at, back, "corrected.csv")
    assert again["plan"]["columns"] == columns
    assert (again["plan"]["submit"], again["plan"]["starting"]) == (True, False)
    other = brought(clerk, at, "Number of it,Mark\na,b\n", "other.csv")
    assert other["plan"]["columns"] == {"Mark": "mark"}


def test_json_lines_are_canonical_unless_they_are_said_to_be_typed(clerk, at):
    """One spelling, as the service API takes it; any other is refused with what is meant."""
    lines = '{"mark": "j1", "grade": "Small a", "mass": "1.50", "note": " n "}\n'
    file = brought(clerk, at, lines, "rows.jsonl")
    assert came(clerk, at, file) == {"rows": 1, "refused": 1}
    said = refused(clerk, at, file)
    assert sorted(text for texts in said.values() for _, text in texts) == [
        '"1.50" is not in canonical form: send "1.5".',
        '"Small a" is not in canonical form: send "a".',
    ]
    file = brought(clerk, at, lines, "typed.jsonl", as_typed=True)
    assert came(clerk, at, file) == {"rows": 1, "added": 1}


@pytest.mark.parametrize("submit", [False, True])
@pytest.mark.parametrize("form", ["plant_accession", "mineral_accession", "loan_out", "borrower"])
def test_a_row_meets_the_verdict_of_the_desk(clerk, form, submit):
    """Invented records of the demo, slips and all: refused by both, for the same reasons, or by
    none. What other rows of the file hold is kept apart by numbers of their own.
    """
    address = f"/api/v1/forms/{form}"
    records = [dict(one.values) for one in values_of(form, 11, 25, 0.7)]
    for number, values in enumerate(records):
        if "accession_number" in values:
            prefix = str(values["accession_number"])[:5]
            values["accession_number"] = f"{prefix}{880_000 + number:06}"
        if "registration_number" in values:
            values["registration_number"] = f"IN-{number}"
    lines = "".join(f"{json.dumps(values, default=str)}\n" for values in records)
    typed = {"submit": submit, "starting": False, "as_typed": True}
    file = brought(clerk, address, lines, "rows.jsonl", **typed)
    seen = clerk.post(f"{address}/record-files/{file['id']}/preview", file["plan"]).json()
    assert seen["looked_at"] == len(records)
    refused = {one["row"]: {said["text"] for said in one["said"]} for one in seen["refused"]}
    moments = ("save", "submit") if submit else ("save",)
    by_row = {}
    for row, values in enumerate(records, 1):
        told = clerk.post(f"{address}/desk/judge", {"values": values}).json()
        if not all(told[moment]["may_pass"] for moment in moments):
            by_row[row] = {
                message["text"]
                for moment in moments
                for result in told[moment]["results"]
                if result["severity"] == "block" or result["waiver"] == "required"
                for message in result["messages"]
            } | {
                state["fault"]
                for moment in moments
                for state in told[moment]["fields"].values()
                if state["fault"]
            }
    assert refused.keys() == by_row.keys()
    for row, texts in by_row.items():
        assert all(any(text in said for said in refused[row]) for text in texts)
    assert by_row or not submit


def test_a_row_that_fits_several_records_changes_none(steward, clerk, at, draft):
    mild = {"entry": "none", "save": "warn", "submit": "warn"}
    body = {"rules": [{"key": "one", "severity": mild, "revision": 1}]}
    assert steward.send("PATCH", f"{at}/rules", body).status_code == 200
    assert steward.release(at, "Marks should be unique.").status_code == 201
    twin = save(clerk, at, mark="A")
    first = Record.objects.get(form=draft, values__mark="a").number
    file = brought(clerk, at, "mark,note\na,mine\nb,fine\n", update_by="mark")
    assert came(clerk, at, file) == {"rows": 2, "changed": 1, "refused": 1, "warned": 1}
    assert f"Several records hold this, {first} and {twin}" in refused(clerk, at, file)[2][0][1]


def test_the_same_row_of_another_sheet_is_another_row(clerk, at, draft):
    book, content = Workbook(), io.BytesIO()
    second = book.create_sheet("Second")
    for sheet, mark in ((book.active, "s1"), (second, "s2")):
        sheet.append(["mark", "grade"])
        sheet.append([mark, "a"])
    book.save(content)
    file = brought(clerk, at, content.getvalue(), "two.xlsx")
    assert came(clerk, at, file) == {"rows": 1, "added": 1}
    file = brought(clerk, at, content.getvalue(), "two.xlsx", part="Second")
    assert came(clerk, at, file) == {"rows": 1, "added": 1}
    assert came(clerk, at, file) == {"rows": 1, "known": 1}
    file = brought(clerk, at, content.getvalue(), "two.xlsx", part="Sheet")
    assert came(clerk, at, file) == {"rows": 1, "known": 1}, "the first by its name"
