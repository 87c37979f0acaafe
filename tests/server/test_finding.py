"""Finding records: each filter finds what reading every record finds."""

import csv
from io import StringIO

import pytest

from thistlequartz.server.records import list_pages as pages
from thistlequartz.server.records import search as finding
from thistlequartz.server.records.list_pages import PAGE
from thistlequartz.server.records.models import Record

from .conftest import FORM

pytestmark = pytest.mark.django_db


def numbers(caller, **query):
    found, asked = (
        [],
        "&".join(
            f"{name}={one}"
            for name, value in query.items()
            for one in (value if isinstance(value, list) else [value])
        ),
    )
    while True:
        page = caller.get(f"{FORM}/records?{asked}&offset={len(found)}").json()
        found += [record["number"] for record in page["records"]]
        if len(page["records"]) < PAGE:
            assert page["total"] == len(found)
            return found


def by_reading(test):
    rows = Record.objects.filter(form__key="plant_accession").order_by("-number")
    return [row.number for row in rows if test(row)]


HELD = {
    "country~is~NO": lambda held: held.get("country") == "NO",
    "country~not~NO": lambda held: held.get("country") != "NO",
    "country~blank": lambda held: not held.get("country"),
    "country~filled": lambda held: bool(held.get("country")),
    "gathered_on~from~1 June 2010": lambda held: held.get("gathered_on", "") >= "2010-06-01",
    "gathered_on~to~2010-06-01": lambda held: "" < held.get("gathered_on", "") <= "2010-06-01",
    "latitude~from~10": lambda held: float(held.get("latitude") or -99) >= 10,
    "collector~contains~A": lambda held: "a" in held.get("collector", "").lower(),
    "sensitive_locality~is~yes": lambda held: held.get("sensitive_locality") is True,
}


@pytest.mark.parametrize("few", [1, 1_000], ids=["records probed", "rows gathered"])
@pytest.mark.parametrize("where", HELD)
def test_a_field_is_asked_in_the_index_as_people_write_it(steward, where, few, monkeypatch):
    monkeypatch.setattr(finding, "FEW", few)
    found = numbers(steward, where=where)
    assert found == by_reading(lambda row: HELD[where](row.values))


def test_what_would_take_long_to_count_is_counted_so_far(steward, monkeypatch):
    monkeypatch.setattr(finding, "FEW", 1)
    monkeypatch.setattr(pages, "COUNTED_TO", 3)
    monkeypatch.setattr(pages, "PAGE", 2)
    asked = "where=accession_number~filled"
    page = steward.get(f"{FORM}/records?{asked}").json()
    assert (page["total"], page["more"], len(page["records"])) == (3, True, 2)
    whole = len(by_reading(lambda row: row.values.get("accession_number")))
    last = steward.get(f"{FORM}/records?{asked}&offset={whole - 1}").json()
    assert (last["total"], last["more"], len(last["records"])) == (whole, False, 1)
    held = steward.get(f"{FORM}/records?where=latitude~from~-90").json()
    every = len(by_reading(lambda row: row.values.get("latitude")))
    assert (held["total"], held["more"]) == (every, False), "the index counts these"


def test_filters_are_held_together_and_lists_are_sorted(steward, clerk):
    both = ["latitude~from~0", "latitude~to~60"]
    assert numbers(steward, where=both, state="in_progress") == by_reading(
        lambda row: (
            0 <= float(row.values.get("latitude") or -1) <= 60 and row.state == "in_progress"
        )
    )
    every = by_reading(lambda row: True)
    assert numbers(steward, order="number") == every[::-1]
    titles = dict(Record.objects.filter(form__key="plant_accession").values_list("number", "title"))
    by_title = [titles[number] for number in numbers(steward, order="title")]
    assert by_title == sorted(by_title, key=str.lower)
    violating = Record.objects.filter(violations__rule_key="datum_and_uncertainty").first()
    key = violating.violations.first().rule_key if violating else "nothing"
    assert numbers(steward, rule=key) == by_reading(
        lambda row: row.violations.filter(rule_key=key).exists()
    )
    assert numbers(steward, by="clerk") == every
    some = titles[every[0]][-6:]
    assert numbers(steward, search=some.upper()) == by_reading(
        lambda row: some.lower() in row.title.lower()
    )
    assert numbers(steward, keeper="steward") == []
    day = Record.objects.get(form__key="plant_accession", number=7).changed_at.date()
    assert numbers(steward, since=day, until=day) == by_reading(
        lambda row: row.changed_at.date() == day
    )
    assert numbers(steward, until="2001-01-01") == []


def test_what_cannot_be_asked_is_told_by_its_place(steward):
    asked = "&".join(
        f"where={one}" for one in ("contry~is~NO", "latitude~near~3", "latitude~is~north",
                                   "latitude~contains~1", "latitude~is~")
    )  # fmt: skip
    answer = steward.get(f"{FORM}/records?{asked}")
    assert answer.status_code == 422
    told = {one["place"]: one["message"] + " " + one["remedy"] for one in answer.json()["errors"]}
    assert "Did you mean “country”?" in told["where.0"]
    assert told["where.1"].startswith("“near” is no way to compare.")
    assert told["where.2"].startswith("Latitude: ")
    assert told["where.3"].startswith("Latitude is not a text.")
    assert told["where.4"].startswith("Latitude is compared with nothing.")
    assert steward.get(f"{FORM}/records?{'&'.join(['where=a~is~b'] * 9)}").status_code == 422


def test_columns_show_values_as_people_read_them(clerk):
    loan = "/api/v1/forms/loan_out/records?columns=borrower&columns=from_day&columns=nonsense"
    records = clerk.get(loan).json()["records"]
    titles = set(Record.objects.filter(form__key="borrower").values_list("title", flat=True))
    shown = [one["columns"]["borrower"] for one in records if "borrower" in one["columns"]]
    assert shown
    assert set(shown) <= titles, "a reference is shown by what people know the record by"
    assert not any("nonsense" in one["columns"] for one in records)


def test_a_list_or_the_chosen_of_it_become_a_file_that_a_spreadsheet_reads(clerk):
    def rows(query):
        answer = clerk.get(f"{FORM}/record-file?{query}")
        assert answer["Content-Type"] == "text/csv; charset=utf-8"
        text = b"".join(answer.streaming_content).decode("utf-8-sig")
        return list(csv.DictReader(StringIO(text)))

    formula = {"accession_number": "QH-P-900007", "scientific_name": "=1+1"}
    odd = clerk.post(f"{FORM}/records", {"values": formula}).json()
    whole = rows("order=number")
    by_number = {row["No."]: row for row in whole}
    for record in Record.objects.filter(form__key="plant_accession"):
        row = by_number[str(record.number)]
        assert row["Accession number"] == record.values.get("accession_number", "")
        assert row["Gathered on"] == record.values.get("gathered_on", ""), "days by ISO 8601"
        assert row["Latitude"] == record.values.get("latitude", "")
    assert by_number[str(odd["number"])]["Scientific name"] == "'=1+1", "no formula"
    assert [row["No."] for row in whole] == [str(one) for one in numbers(clerk, order="number")]
    assert {row["Country"] for row in rows("where=country~is~NO")} == {"Norway"}
    first, *_ = numbers(clerk)
    assert [row["No."] for row in rows(f"numbers={first}&numbers=999999")] == [str(first)]


def test_a_list_is_named_per_person_and_forgotten(clerk, steward):
    lists = f"{FORM}/lists"
    named = {"name": "Norway, held", "asked": "on_hold=yes&where=country~is~NO"}
    assert clerk.send("PUT", lists, named).json() == named
    clerk.send("PUT", lists, {**named, "asked": "on_hold=yes"})
    assert clerk.get(lists).json() == [{**named, "asked": "on_hold=yes"}]
    assert steward.get(lists).json() == []
    assert clerk.send("DELETE", f"{lists}/Norway, held", {}).status_code == 204
    assert clerk.get(lists).json() == []
