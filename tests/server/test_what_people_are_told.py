"""What stewards and clerks are told: names, days, doubles, and what one change changed."""

from urllib.parse import urlencode

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.examples import few

from .conftest import FORM, Caller

pytestmark = pytest.mark.django_db
LOAN, BORROWER = "/api/v1/forms/loan_out", "/api/v1/forms/borrower"
UNNAMED = {"key": "short", "kind": "range", "targets": ["collector_number"], "of": "length"}


@pytest.mark.parametrize(
    ("written", "day", "words"),
    [
        ("1 December 2026", "2026-12-01", "1 December 2026"),
        ("2026-12-01", "2026-12-01", "1 December 2026"),
        ("Dec 1, 2026", "2026-12-01", "1 December 2026"),
        (" ", None, ""),
    ],
)
def test_a_day_is_read_as_people_write_it(steward, written, day, words):
    read = steward.get(f"/api/v1/days?{urlencode({'written': written})}").json()
    assert read == {"day": day, "words": words, "fault": ""}


def test_a_day_that_cannot_be_read_says_how_to_write_it(steward):
    read = steward.get("/api/v1/days?written=1/12/2026").json()
    assert read["day"] is None
    assert "write the month as a word" in read["fault"]


@settings(max_examples=few(40), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.text(max_size=40))
def test_whatever_is_typed_for_a_day_is_a_day_or_says_how_to_write_one(steward, written):
    read = steward.get(f"/api/v1/days?{urlencode({'written': written})}").json()
    assert bool(read["day"]) == bool(read["words"])
    assert not (read["day"] and read["fault"])
    assert read["day"] or read["fault"] or not written.strip()


def test_an_unnamed_rule_is_called_by_its_sentence_everywhere(steward):
    body = {"rule": {**UNNAMED, "upper": {"value": "12"}}, "draw_key": True}
    view = steward.post(f"{FORM}/rules", body).json()
    key = view["rule"]["key"]
    assert view["called"] == "Collector’s number must have at most 12 characters"
    assert view["rule"]["name"] == ""
    changed = {"rule": {**view["rule"], "upper": {"value": "3,000"}}, "revision": 1}
    view = steward.send("PUT", f"{FORM}/rules/{key}", changed).json()
    called = "Collector’s number must have at most 3,000 characters"
    assert view["called"] == called
    assert called in steward.get(f"{FORM}/turns").json()["undo"]
    bench = steward.get(f"{FORM}/bench").json()
    assert called in [rule["name"] for rule in bench["rules"]]
    assert called in [hit["text"] for hit in steward.get("/api/v1/search?q=3,000").json()]
    taken = {"rules": [{"key": key, "revision": view["revision"]}]}
    assert steward.post(f"{FORM}/rule-removal", taken).status_code == 204
    assert steward.get(f"{FORM}/turns").json()["undo"] == f"removing the rule “{called}”"


def test_undo_says_all_that_was_changed_together(steward):
    answers = {"answers": {"choice": ["habitats"], "other": ["other"], "text": ["habitat_other"]}}
    steward.post(f"{FORM}/recipes/other_text", answers)
    told = "adding 2 rules"
    assert steward.get(f"{FORM}/turns").json()["undo"] == told
    assert steward.post(f"{FORM}/undo", {}).json()["what"] == told


def test_a_new_field_can_be_needed_at_once(steward):
    field = {"key": "new", "label": "Sheet size", "type": "text"}
    body = {"field": field, "draw_key": True, "needed": True}
    assert steward.post(f"{FORM}/fields", body).json()["mark"] == "required"
    assert "Sheet size is required" in [
        view["called"] for view in steward.get(FORM).json()["rules"]
    ]
    steward.post(f"{FORM}/undo", {})
    assert "sheet_size" not in [view["field"]["key"] for view in steward.get(FORM).json()["fields"]]


def test_the_same_rule_twice_is_told_whatever_it_is_called(steward):
    rule = {"key": "again", "name": "Another name", "kind": "range", "targets": ["latitude"],
            "lower": {"value": "-90"}, "upper": {"value": "90"}}  # fmt: skip
    advice = steward.post(f"{FORM}/rules/read", {"rule": rule}).json()["advice"]
    assert advice[0]["message"] == "The rule “Latitude lies on the globe” says the same already."
    other = {**rule, "upper": {"value": "89"}}
    assert steward.post(f"{FORM}/rules/read", {"rule": other}).json()["advice"] == []


def test_rule_on_a_derived_field_is_tried_with_its_sources(steward):
    rule = {"key": "long", "kind": "range", "targets": ["loan_days"], "upper": {"value": "10"}}
    body = {"rule": rule, "values": {}}
    assert steward.post(f"{LOAN}/bench/rule", body).json()["fields"] == [
        "lent_from",
        "lent_to",
        "loan_days",
    ]
    torn = {"rule": {"key": "torn", "kind": "mandatory", "targets": []}, "values": {}}
    answer = steward.post(f"{LOAN}/bench/rule", torn)
    assert (answer.status_code, answer.json()["fields"]) == (200, [])


def test_cases_are_shown_with_labels_days_and_names_of_records(steward):
    cases = steward.get(f"{LOAN}/cases").json()["cases"]
    entries = next(one["entries"] for one in cases if one["key"] == "crate_too_damp")
    assert entries["borrower"] == "Museum (record 1)"
    assert entries["lent_from"] == "1 July 2026"
    assert (entries["crate_needed"], entries["humidity"]) == ("yes", "75 %")


def test_a_mended_record_on_hold_says_what_stops_it_and_who_can_help(clerk):
    values = {"name": "Museum of Orrin", "country": "PT", "registration_number": "R-77"}
    held = clerk.post(f"{BORROWER}/records", {"values": values}).json()
    address = f"{BORROWER}/records/{held['number']}"
    corrected = {**values, "facilities_seen": "2 March 2026"}
    refused = clerk.send(
        "PUT", address, {"values": corrected, "revision": 1, "submit": True}
    ).json()
    assert "have a steward release it from hold" in refused["detail"]
    assert "Correct what is named" not in refused["detail"]
    lifted = Caller("approver")
    clerk.send("PUT", address, {"values": corrected, "revision": 1})
    lifted.post(f"{address}/lift-hold", {"revision": 2})
    judged = clerk.post(f"{BORROWER}/desk/judge", {"values": corrected, "number": held["number"]})
    assert judged.json()["save"]["on_hold"] is False


def test_a_refusal_names_the_field_at_which_a_reason_is_asked(clerk):
    values = {"piece": "QH-P-009321", "borrower": "1", "purpose": "research",
              "lent_from": "2026-01-10", "lent_to": "2027-01-10", "terms_accepted": True}  # fmt: skip
    refused = clerk.post(f"{LOAN}/records", {"values": values}).json()
    assert refused["detail"].startswith("Give a reason at Length of the loan, then try again.")
