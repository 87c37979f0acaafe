"""Files as tables, held against general libraries: Python's csv and json, and openpyxl."""

import csv
import io
import json
import zipfile
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook, load_workbook

from thistlequartz.core.language import Declaration
from thistlequartz.core.tables import (
    KINDS,
    MAX_COLUMNS,
    REASONS,
    BrokenTable,
    FailedFormula,
    Marks,
    WrittenRow,
    WrongEncoding,
    columns_of,
    entered,
    kind_of,
    marks_of,
    open_table,
    with_marks,
    written,
)
from thistlequartz.core.types import (
    Choice,
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    TextType,
    TimeType,
    YesNoType,
    read_value,
)
from thistlequartz.core.values import PLAIN, Fault, ReadingSettings
from thistlequartz.workers.tables import open_apart

ENTRIES = {
    "number": "Accession number",
    "gathered_on": "Gathered on",
    "gathered_by": "Gathered by",
    "lat": "Latitude",
}


def opened(content: bytes | str, part: str | None = None) -> Any:
    raw = content.encode() if isinstance(content, str) else content
    return open_table(io.BytesIO(raw), part)


def cells(content: bytes | str, part: str | None = None) -> list[tuple[int, dict[str, Any]]]:
    return [(row.number, dict(row.cells)) for row in opened(content, part).rows()]


def workbook(*rows: list[Any]) -> bytes:
    book, file = Workbook(), io.BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(file)
    return file.getvalue()


def test_rows_are_numbered_as_a_spreadsheet_numbers_them():
    """Blank rows count, and a row whose cell is three lines high counts once (common practice)."""
    content = b'a,b\n1,2\n\n"x\ny\nz",4\n\n\n5,6\n'
    numbers = [number for number, _ in cells(content)]
    assert numbers == [2, 4, 7]


@pytest.mark.parametrize(
    ("content", "part"),
    [
        ("a,b\n1,x\n\n2,\"y\n;z\"\n", None),
        ("\ufeffa;b\r\n1;x\r\n2;\"y\n;z\"\r\n", None),
        ("a\tb\n1\tx\n2\t\"y\n;z\"\n", None),
        ("a,b\n1,x\n2,\"y\n;z\"\n".encode("utf-16"), None),
        ('{"a": "1", "b": "x"}\n\n{"a": "2", "b": "y\\n;z"}\n', None),
        (workbook(["a", "b"], ["1", "x"], ["2", "y\n;z"]), "Sheet"),
    ],
)  # fmt: skip
def test_whatever_the_file_the_table_is_the_same(content: bytes | str, part: str | None) -> None:
    table = opened(content, part)
    assert table.heads == ("a", "b")
    found = [dict(row.cells) for row in table.rows()]
    assert found == [{"a": "1", "b": "x"}, {"a": "2", "b": "y\n;z"}]
    assert [dict(row.cells) for row in table.rows()] == found, "it can be read again"


@pytest.mark.parametrize(
    "content",
    [
        'a,b\n1,x\n\n2,"y\n;z"\n',
        '{"a": 0.1, "b": null}\n{"a": [1, {"x": true}], "c": {}}\n{"b": 12345678901234567890}\n',
        workbook(["a", "b"], [datetime(2026, 6, 1, 9, 30), time(9, 5)], [0.1, True]),
        workbook(["a"], [timedelta(hours=30)], ["#N/A"]),
    ],
)
def test_a_file_is_read_apart_as_it_is_read_here(
    content: bytes | str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("thistlequartz.workers.tables.SMALL_TEXT", 0)
    path = tmp_path / "file"
    path.write_bytes(content if isinstance(content, bytes) else content.encode())
    with path.open("rb") as file:
        here, apart = open_table(file), open_apart(file)
        assert replace(apart, rows=here.rows) == here
        assert list(apart.rows()) == list(here.rows())


def test_what_is_wrong_is_told_apart_as_it_is_here(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("thistlequartz.workers.tables.SMALL_TEXT", 0)
    path = tmp_path / "file.csv"
    path.write_bytes("Größe\nmäßig\n".encode("windows-1252"))
    with (
        path.open("rb") as file,
        pytest.raises(WrongEncoding, match=r"line 1.*not written in UTF-8"),
    ):
        open_apart(file)


def test_letters_beyond_ascii_need_their_encoding() -> None:
    content = "Größe\nmäßig\n".encode("windows-1252")
    with pytest.raises(BrokenTable, match="line 1: A character is not written in UTF-8"):
        opened(content)
    assert cells(content, "windows-1252") == [(2, {"Größe": "mäßig"})]


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ("", "The file is empty"),
        (b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1", "an older or a locked workbook"),
        (b"%PDF-1.7 ...", "a PDF document"),
        (b"PK\x03\x04 and no more", "damaged, or locked"),
        ("a,a\n1,2\n", "The head “a” stands 2 times"),
        (",,\n1,2,3\n", "There are no heads"),
        ("a,b\n1\n", "row 2: 1 cell, where the number of heads is 2"),
        ('a,b\n1,"x\n', "unexpected end of data"),
        ("a\n\x00\n", r"row 2: A character cannot be stored \(NUL\)"),
        (",".join(f"c{n}" for n in range(1_000_000)) + "\n", "1,000,000 columns, and at most 500"),
        (f"a\n{'x' * 200_000}\n", "field larger than field limit"),
        ('{"a": 1}\n[1]\n', "line 2: This is no object"),
        ('{"a": 1, "a": 2}\n', "line 1: .*twice"),
        ('{"a": 1}\n{"a": }\n', "line 2, column 7"),
        (workbook(["a", "b"], [1, "=1+1"]), "formulas of which no values are stored"),
        (workbook(["a"], [1, 2]), "row 2: A cell stands under no head"),
        (workbook(["a"] * (MAX_COLUMNS + 1), [1]), "501 columns"),
    ],
)
def test_what_cannot_be_read_says_where_and_how_to_mend_it(content: Any, says: str) -> None:
    with pytest.raises(BrokenTable, match=says) as broken:
        list(opened(content).rows())
    assert broken.value.remedy


def test_a_small_file_that_unpacks_to_very_much_is_refused(monkeypatch) -> None:
    monkeypatch.setattr("thistlequartz.core.tables.xlsx_table.MAX_UNPACKED", 16 << 20)
    file = io.BytesIO()
    with (
        zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive,
        archive.open("xl/worksheets/sheet1.xml", "w", force_zip64=True) as inside,
    ):
        for _ in range(20):
            inside.write(bytes(1 << 20))
    assert len(file.getvalue()) < 100_000
    with pytest.raises(BrokenTable, match="unpacks to more than 16 MB"):
        opened(file.getvalue())


def test_columns_find_their_fields_by_key_label_and_likeness() -> None:
    heads = ["ACCESSION  NUMBER", "lat", "Gathered On", "Gatherd by", REASONS, "Shoe size", "No."]
    found = {one.head: (one.to, one.by) for one in columns_of(heads, ENTRIES)}
    assert found == {
        "ACCESSION  NUMBER": ("number", "label"),
        "lat": ("lat", "key"),
        "Gathered On": ("gathered_on", "label"),
        "Gatherd by": ("gathered_by", "likeness"),
        REASONS: (None, None),
        "Shoe size": (None, None),
        "No.": (None, None),
    }


@pytest.mark.parametrize(
    ("numbers", "days", "marks", "left_open"),
    [
        (["1", "2.5"], ["2026-06-11", "11 June 2026"], Marks(), (False, False)),
        (["1,5", "1.250,50"], ["31/12/2026"], Marks(), (False, False)),
        (["1,250"], ["03/04/2026"], Marks("point", "day_first"), (True, True)),
        (["1,250", "7,5"], ["03/04/2026", "03/25/2026"], Marks("comma", "month_first"), (False, False)),
    ],
)  # fmt: skip
def test_marks_are_found_or_left_open(
    numbers: list[str], days: list[str], marks: Marks, left_open: tuple[bool, bool]
) -> None:
    found = marks_of(
        [(Declaration("Mass", NumberType()), numbers), (Declaration("Day", DateType()), days)]
    )
    assert found.marks == marks
    assert (found.decimal_mark_open, found.date_order_open) == left_open


def test_a_cell_is_entered_as_its_field_would_read_it() -> None:
    comma = ReadingSettings(decimal_mark="comma")
    number = Declaration("Mass", NumberType(), comma)
    assert entered("1.250", number, with_marks(comma, Marks("point"))) == "1,25"
    assert entered(1.25, number, comma) == "1,25"
    assert entered(12, Declaration("Phone", TextType()), PLAIN) == "12"
    assert entered(date(2026, 6, 11), Declaration("Seen", DateTimeType("UTC")), PLAIN) is not None
    assert entered(datetime(2026, 6, 11), Declaration("Day", DateType()), PLAIN) == "2026-06-11"
    assert entered("#N/A", Declaration("Note", TextType()), PLAIN) == "#N/A", (
        "a text in any other file"
    )
    failed = entered(FailedFormula("#DIV/0!"), Declaration("Note", TextType()), PLAIN)
    assert isinstance(failed, Fault)
    assert "failed (#DIV/0!)" in failed.message


CHOICES = (Choice("a", "First, with a comma"), Choice("b", "=Second"), Choice("c", "-3"))
FIELDS = {
    "text": Declaration("Text", TextType(), ReadingSettings(trim=False)),
    "number": Declaration("Number", NumberType()),
    "day": Declaration("Day", DateType()),
    "clock": Declaration("Clock", TimeType()),
    "instant": Declaration("Instant", DateTimeType("Europe/Paris")),
    "yes": Declaration("Yes", YesNoType()),
    "choice": Declaration("Choice", ChoiceType(CHOICES)),
    "choices": Declaration("Choices", ChoicesType(CHOICES)),
}
TEXTS = st.text(
    st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Cn", "Co", "Zl", "Zp")),
    min_size=1,
).map(lambda text: str(read_value(text, TextType(), ReadingSettings(trim=False)) or "x"))
VALUES = st.fixed_dictionaries(
    {},
    optional={
        "text": st.one_of(
            TEXTS,
            st.sampled_from(
                [
                    "=1+1",
                    "+7",
                    "-x",
                    "@a",
                    "'=a",
                    "00012",
                    "#x",
                    "#N/A",
                    "a\r\nb",
                    "a\nb",
                    "_x000D_",
                ]
            ),
        ),
        "number": st.decimals(-(10**20), 10**20, places=4),
        "day": st.dates(),
        "clock": st.times(),
        "instant": st.datetimes(
            datetime(1000, 1, 2), datetime(9998, 12, 30), timezones=st.just(UTC)
        ),
        "yes": st.booleans(),
        "choice": st.sampled_from("abc"),
        "choices": st.lists(st.sampled_from("abc"), min_size=1, unique=True).map(
            lambda some: tuple(sorted(some))
        ),
    },
)


@pytest.mark.parametrize("kind", KINDS)
@given(records=st.lists(VALUES.filter(bool), min_size=1, max_size=3))
def test_what_is_written_is_read_as_the_same(kind: Any, records: list[dict[str, Any]]) -> None:
    content = b"".join(written(kind, tuple(FIELDS), map(WrittenRow, records)))
    assert kind_of(content) == kind
    found = [
        {
            key: read_value(entered(cell, declared, declared.settings), declared.type, declared.settings)
            for key, declared in FIELDS.items()
            if (cell := row.cells.get(key)) is not None and cell != ""
        }
        for row in opened(content).rows()
    ]  # fmt: skip
    assert found == records


def test_other_programs_read_what_is_written() -> None:
    rows = [
        WrittenRow({"No.": 7, "Mass": Decimal("2.50"), "Day": date(2026, 6, 11), "Note": "=1+1"}),
        WrittenRow({"No.": 8, "Mass": Decimal(10**20 + 1), "Day": date(1700, 1, 2), "Note": None}),
    ]
    heads = ("No.", "Mass", "Day", "Note")
    text = b"".join(written("csv", heads, rows)).decode("utf-8-sig")
    assert list(csv.reader(io.StringIO(text))) == [
        list(heads),
        ["7", "2.50", "2026-06-11", "'=1+1"],
        ["8", "100000000000000000001", "1700-01-02", ""],
    ]
    lines = b"".join(written("jsonl", heads, rows)).decode().splitlines()
    assert json.loads(lines[0]) == {"No.": 7, "Mass": "2.50", "Day": "2026-06-11", "Note": "=1+1"}
    remarked = WrittenRow({"No.": 9, "Mass": "heavy"}, {"Mass": "“heavy” is not a number."})
    book = load_workbook(io.BytesIO(b"".join(written("xlsx", heads, [*rows, remarked]))))
    found = list(book["Records"].iter_rows(min_row=2, values_only=True))
    assert found[0] == (7, 2.5, datetime(2026, 6, 11), "=1+1")
    assert found[1] == (8, "100000000000000000001", "1700-01-02", None)
    assert book["Records"]["D2"].data_type == "s", "it is a text and no formula"
    assert "not a number" in book["Records"]["B4"].comment.text
    assert time(0) == found[0][2].time()
