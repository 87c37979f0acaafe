"""What can be looked at: the catalogue's counts, the list of records, readings of rules, pages."""

import pytest

from thistlequartz.server.forms import summaries as presenting
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import Record

from .conftest import FORM, Caller, demand

pytestmark = pytest.mark.django_db


def test_the_catalogue_counts_what_can_warn_and_stop(steward):
    form = plant_accession(steward)
    counts = {
        name: form[name]
        for name in (
            "fields", "mandatory_fields", "rules", "can_block_save", "can_block_submit",
            "can_warn", "records", "draft_changed",
        )
    }  # fmt: skip
    assert counts == {
        "fields": 28, "mandatory_fields": 6, "rules": 32, "can_block_save": 5,
        "can_block_submit": 21, "can_warn": 19, "records": 12, "draft_changed": True,
    }  # fmt: skip
    off = {"rules": [{"key": "latitude_on_earth", "revision": 1, "enabled": False}]}
    assert steward.send("PATCH", f"{FORM}/rules", off).json() == [
        {"key": "latitude_on_earth", "revision": 2}
    ]
    form = plant_accession(steward)
    assert (form["rules"], form["can_block_save"], form["draft_changed"]) == (31, 4, True)


def plant_accession(caller):
    """The form in the catalogue, among the five that are there."""
    forms = caller.get("/api/v1/forms").json()
    assert len(forms) == 5
    return next(form for form in forms if form["key"] == "plant_accession")


def test_records_are_listed_newest_first_and_filtered_in_the_database(clerk):
    everything = clerk.get(f"{FORM}/records").json()
    assert everything["total"] == 12
    numbers = [record["number"] for record in everything["records"]]
    assert numbers == sorted(numbers, reverse=True)
    for name, value in (("state", "submitted"), ("outcome", "warned")):
        part = clerk.get(f"{FORM}/records?{name}={value}").json()
        expected = [one for one in everything["records"] if one[name] == value]
        assert part == {"total": len(expected), "more": False, "records": expected}
        assert 0 < len(expected) < 12
    (found,) = clerk.get(f"{FORM}/records?search=004203").json()["records"]
    assert found["title"].startswith("QH-P-004203")
    assert clerk.get(f"{FORM}/records?offset=10").json()["records"] == everything["records"][10:]
    assert clerk.get(f"{FORM}/records?state=lost").status_code == 422


def test_each_stored_record_breaks_just_what_the_release_says_of_it(clerk):
    """What the list shows agrees with judging the stored values again."""
    for record in Record.objects.select_related("form"):
        body = {"values": record.values, "number": record.number}
        verdict = clerk.post(f"/api/v1/forms/{record.form.key}/desk/judge", body).json()[
            "save" if record.state == "in_progress" else "submit"
        ]
        violated = [one["rule"] for one in verdict["results"] if one["status"] == "violated"]
        assert sorted(violated) == sorted(record.violations.values_list("rule_key", flat=True))
        assert record.outcome == verdict["outcome"]


def test_a_rule_can_be_read_before_it_is_stored(steward):
    clauses = {
        "kind": "group",
        "join": "or",
        "parts": [
            {"kind": "clause", "field": "gathered_on", "operator": "is_less",
             "operand": {"kind": "value", "value": "11 June 1950"}},
            {"kind": "clause", "field": "type_status", "operator": "is_one_of",
             "operand": {"kind": "values", "values": ["holotype", "isotype"]}},
        ],
    }  # fmt: skip
    body = {"rule": demand(when=None), "clauses": {"when": clauses}}
    reading = steward.post(f"{FORM}/rules/read", body).json()
    assert reading["rule"]["when"] == (
        'gathered_on < date("1950-06-11") or type_status in ("holotype", "isotype")'
    )
    assert "".join(segment["text"] for segment in reading["sentence"]) == (
        "When either Gathered on is before 11 June 1950 or Type status is one of Holotype or"
        " Isotype, Determined by is required."
    )
    canonical = reading["clauses"]["when"]["parts"][0]["operand"]
    assert canonical == {"kind": "value", "value": "1950-06-11"}
    clauses["parts"][0]["operand"]["value"] = "31 June 1950"
    problem = steward.post(f"{FORM}/rules/read", body).json()["problems"][0]
    assert problem["place"] == "clauses.when.parts.0.operand"
    assert "June 1950 has 30 days" in problem["message"]


def test_a_condition_only_a_formula_can_say_stays_a_formula(steward):
    body = {"rule": demand(when="latitude + 1 > longitude")}
    reading = steward.post(f"{FORM}/rules/read", body).json()
    assert (reading["clauses"], reading["problems"]) == ({}, [])


def test_signing_out_ends_the_session(steward):
    assert steward.send("DELETE", "/api/v1/session", b"").json()["name"] is None
    assert steward.get("/api/v1/forms").status_code == 401


def test_pages_carry_a_policy_that_lets_nothing_in_from_outside(db):
    page = Caller().get("/forms/plant_accession/rules")
    policy = page["content-security-policy"]
    assert "default-src 'self'" in policy
    assert "script-src 'self'" in policy
    assert "unsafe-eval" not in policy
    assert page["x-frame-options"] == "DENY"
    assert Caller().get("/api/v1/openapi.json").json()["info"]["title"] == "Thistlequartz"


def test_no_browser_keeps_what_is_answered_from_the_database(steward):
    for there in (FORM, f"{FORM}/record-file", "/api/v1/nowhere", "/service/v1/openapi.json"):
        assert steward.get(there)["cache-control"] == "no-store", there


def test_a_form_removed_while_the_register_is_read_is_left_out(steward, draft, monkeypatch):
    """Somebody else removes it between two looks at the database."""
    read = presenting.standing

    def removed_meanwhile(form):
        if form.key == draft.key:
            form.pk = None
            raise DraftForm.DoesNotExist
        return read(form)

    monkeypatch.setattr(presenting, "standing", removed_meanwhile)
    answer = steward.get("/api/v1/forms")
    assert answer.status_code == 200
    assert draft.key not in {one["key"] for one in answer.json()}
    assert len(answer.json()) > 1
