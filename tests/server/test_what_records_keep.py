"""What a stored record keeps beside its values: holds, reasons, proposals, keys, neighbours."""

import threading

import pytest
from django.core.management import call_command
from django.db import connections

from thistlequartz.server.records.models import Record

from .conftest import FORM, Caller

pytestmark = pytest.mark.django_db
BORROWERS, LOANS = "/api/v1/forms/borrower/records", "/api/v1/forms/loan_out/records"
BORROWER = {
    "name": "Museum of Tarnwick",
    "country": "PT",
    "facilities_seen": "2026-03-02",
    "registration_number": "R-1",
}


def loan(**values):
    return {
        "piece": "QH-P-009999",
        "borrower": "1",
        "purpose": "research",
        "lent_from": "2026-01-10",
        "lent_to": "2026-03-10",
        "terms_accepted": True,
        **values,
    }


def told(answer, moment="save"):
    """The messages of the violated rules in a refusal."""
    results = answer.json()["judgement"][moment]["results"]
    return [m["text"] for r in results if r["status"] == "violated" for m in r["messages"]]


def test_hold_outlives_the_correction_until_it_is_released(clerk):
    approver = Caller("approver")
    held = clerk.post(BORROWERS, {"values": {**BORROWER, "facilities_seen": ""}}).json()
    assert (held["on_hold"], held["outcome"]) == (True, "warned")
    address = f"{BORROWERS}/{held['number']}"
    early = approver.post(f"{address}/lift-hold", {"revision": 1})
    assert early.status_code == 409
    assert early.json()["errors"][0]["place"] == "values.facilities_seen"
    refused = clerk.send("PUT", address, {"values": BORROWER, "revision": 1, "submit": True})
    assert refused.status_code == 422
    assert "on hold" in refused.json()["judgement"]["submit"]["refusals"][0]
    corrected = clerk.send("PUT", address, {"values": BORROWER, "revision": 1}).json()
    assert (corrected["on_hold"], corrected["outcome"]) == (True, "clear")
    assert clerk.post(f"{address}/lift-hold", {"revision": 2}).status_code == 403
    assert approver.post(f"{address}/lift-hold", {"revision": 1}).status_code == 409, (
        "a stale version"
    )
    assert approver.post(f"{address}/lift-hold", {"revision": 2}).json()["on_hold"] is False
    # Who had it open meanwhile goes on: nothing of what was entered was touched.
    submitted = clerk.send("PUT", address, {"values": BORROWER, "revision": 2, "submit": True})
    assert submitted.json()["state"] == "submitted"


def test_a_record_on_hold_cannot_be_referred_to_where_that_is_barred(clerk):
    held = clerk.post(BORROWERS, {"values": {**BORROWER, "facilities_seen": ""}}).json()
    refused = clerk.post(LOANS, {"values": loan(borrower=str(held["number"]))})
    fault = refused.json()["judgement"]["save"]["fields"]["borrower"]["fault"]
    assert f"record {held['number']} is on hold" in fault
    gone = clerk.post(LOANS, {"values": loan(borrower="987654")})
    assert (
        "there is no record 987654"
        in gone.json()["judgement"]["save"]["fields"]["borrower"]["fault"]
    )
    listed = clerk.get(f"{BORROWERS}?on_hold=true&search={held['number']}").json()
    assert held["number"] in [record["number"] for record in listed["records"]]


def test_fields_of_the_borrower_are_read_by_the_loan_s_rules(clerk):
    abroad = clerk.post(BORROWERS, {"values": {**BORROWER, "country": "NO"}}).json()["number"]
    for borrower, violates in ((abroad, True), (clerk.post(BORROWERS, {"values": BORROWER | {"registration_number": "R-2"}}).json()["number"], False)):  # fmt: skip
        body = {"values": loan(borrower=str(borrower), purpose="teaching")}
        results = clerk.post("/api/v1/forms/loan_out/desk/judge", body).json()["save"]["results"]
        status = next(r["status"] for r in results if r["rule"] == "lent_within_treaty")
        assert (status == "violated") is violates


def test_unique_value_ignores_case_and_the_record_itself(clerk):
    values = {"accession_number": "QH-P-000123", "scientific_name": "Quillora obscura"}
    first = clerk.post(f"{FORM}/records", {"values": values}).json()
    again = clerk.post(f"{FORM}/records", {"values": {**values, "accession_number": "qh-p-000123"}})
    assert again.status_code == 422
    assert told(again) == [
        f"No two records may share Accession number. See record {first['number']}."
    ]
    address = f"{FORM}/records/{first['number']}"
    assert clerk.send("PUT", address, {"values": values, "revision": 1}).status_code == 200


@pytest.mark.django_db(transaction=True)
def test_of_two_racing_records_with_one_number_exactly_one_is_stored():
    call_command("load_demo", records=1)
    callers, statuses = [Caller("clerk"), Caller("steward")], []
    values = {"accession_number": "QH-P-000124", "scientific_name": "Quillora obscura"}
    start = threading.Barrier(2)

    def save(caller):
        start.wait()
        statuses.append(caller.post(f"{FORM}/records", {"values": values}).status_code)
        connections.close_all()

    threads = [threading.Thread(target=save, args=(caller,)) for caller in callers]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(statuses) in ([201, 409], [201, 422])
    assert Record.objects.filter(values__accession_number="QH-P-000124").count() == 1


def test_a_piece_is_not_lent_twice_at_a_time(clerk):
    first = clerk.post(LOANS, {"values": loan()}).json()["number"]
    overlapping = clerk.post(LOANS, {"values": loan(lent_from="2026-03-10", lent_to="2026-04-01")})
    assert told(overlapping) == [
        f"This piece is out on another loan in these days: choose other days. See record {first}."
    ]
    after = clerk.post(LOANS, {"values": loan(lent_from="2026-03-11", lent_to="2026-04-01")})
    assert after.status_code == 201


def test_required_reason_is_stored_with_its_author_and_lapses(clerk):
    long = loan(lent_to="2026-08-10")
    assert clerk.post(LOANS, {"values": long}).status_code == 422
    reasons = {"loan_not_long": {"text": "The exhibition was prolonged."}}
    stored = clerk.post(LOANS, {"values": long, "reasons": reasons}).json()
    kept = stored["reasons"]["loan_not_long"]
    assert (kept["text"], kept["by"]) == ("The exhibition was prolonged.", "Tamsin Oke")
    address = f"{LOANS}/{stored['number']}"
    again = {"values": long, "revision": 1}
    assert clerk.send("PUT", address, again).status_code == 200, "it serves the next moment too"
    later = {"values": loan(lent_to="2026-09-10"), "revision": 2}
    refused = clerk.send("PUT", address, later)
    assert refused.status_code == 422
    results = refused.json()["judgement"]["save"]["results"]
    assert [r["waiver"] for r in results if r["rule"] == "loan_not_long"] == ["lapsed"]


def test_a_rate_comes_from_an_applied_proposal_and_never_from_the_caller(clerk):
    forged = loan(insured_value="1000", premium_rate="0.1", photographed=True)
    plain = clerk.post(LOANS, {"values": forged}).json()
    assert "premium_rate" not in plain["values"]
    body = {"values": loan(insured_value="30000", photographed=True, piece="QH-P-009998")}
    stored = clerk.post(
        LOANS, body | {"proposals_applied": ["premium_large", "premium_small"]}
    ).json()
    assert (stored["values"]["premium_rate"], stored["values"]["premium"]) == ("4", "1200")
    assert stored["proposals_applied"] == ["premium_large"], "the small one was never offered"
    body = {"values": stored["values"] | {"insured_value": "2000"}, "number": stored["number"],
            "proposals_applied": ["premium_large"]}  # fmt: skip
    judged = clerk.post("/api/v1/forms/loan_out/desk/judge", body).json()["save"]
    states = {one["rule"]: one["state"] for one in judged["proposals"]}
    assert states == {"premium_large": "overtaken", "premium_small": "offered"}


def test_a_second_entry_must_agree(clerk):
    values = {**BORROWER, "email": "a@example.org"}
    once = clerk.post(BORROWERS, {"values": values, "submit": True})
    assert "entered twice" in " ".join(told(once, "submit"))
    stored = clerk.post(BORROWERS, {"values": values | {"email.again": "A@example.org"}}).json()
    assert stored["values"]["email"] == "a@example.org"


def test_what_is_not_asked_is_dropped_and_named_before(clerk):
    asked = loan(crate_needed=True, crate_kind="humidity_held", humidity="45")
    stored = clerk.post(LOANS, {"values": asked}).json()
    assert stored["values"]["humidity"] == "45"
    changed = {**stored["values"], "crate_needed": False}
    body = {"values": changed, "number": stored["number"]}
    judged = clerk.post("/api/v1/forms/loan_out/desk/judge", body).json()["save"]
    assert judged["drops"] == ["crate_kind", "humidity"]
    assert judged["fields"]["humidity"]["display"] == "hidden"
    put = {"values": changed, "revision": 1}
    kept = clerk.send("PUT", f"{LOANS}/{stored['number']}", put).json()["values"]
    assert "humidity" not in kept
    assert "crate_kind" not in kept


def test_a_release_that_would_find_two_alike_names_them(steward, clerk):
    for number in ("000201", "000202"):
        values = {"accession_number": f"QH-P-{number}", "scientific_name": "Same name"}
        clerk.post(f"{FORM}/records", {"values": values})
    rule = {"kind": "unique", "key": "one_name", "name": "One name", "targets": ["scientific_name"],
            "severity": {"save": "block", "submit": "block"}}  # fmt: skip
    assert steward.post(f"{FORM}/rules", {"rule": rule}).status_code == 201
    refused = steward.release(FORM, "One name each.")
    assert refused.status_code == 409
    assert "hold the same values" in refused.json()["errors"][0]["message"]
    assert steward.get(FORM).json()["release"]["number"] == 1


def test_a_rule_that_does_not_apply_claims_nothing(steward, clerk):
    rule = {"kind": "unique", "key": "one_collector", "name": "One", "targets": ["collector_number"],
            "when": 'country = "PT"', "severity": {"save": "block", "submit": "block"}}  # fmt: skip
    clerk.post(f"{FORM}/records", {"values": sheet("000301", "FR")})
    steward.post(f"{FORM}/rules", {"rule": rule})
    assert steward.release(FORM, "Numbers once in Portugal.").status_code == 201
    answers = [
        clerk.post(f"{FORM}/records", {"values": sheet(number, country)}).status_code
        for number, country in (("000302", "FR"), ("000303", "NO"), ("000304", "PT"))
    ]
    assert answers == [201, 201, 422], "in Portugal the number is held by the others already"


def sheet(number, country):
    return {
        "accession_number": f"QH-P-{number}",
        "scientific_name": "Quillora obscura",
        "collector_number": "77-x",
        "country": country,
    }
