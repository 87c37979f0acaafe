"""From a rule in the draft to a record that is warned and refused, and back."""

import threading

import pytest
from django.core.management import call_command
from django.db import connections

from thistlequartz.server.activity.models import AuditEntry
from thistlequartz.server.records.models import Record

from .conftest import FORM, Caller, demand

pytestmark = pytest.mark.django_db


def plant(**values):
    return {
        "accession_number": "QH-P-000001",
        "scientific_name": "Brindlea montana",
        **values,
    }


def test_a_rule_is_tried_released_and_then_holds_at_the_desk(steward, clerk):
    added = steward.post(f"{FORM}/rules", {"rule": demand(), "draw_key": True})
    assert added.status_code == 201
    words = "".join(segment["text"] for segment in added.json()["sentence"])
    assert words == "When Type status is Holotype, Determined by is required."
    holotype = plant(type_status="holotype")
    tried = steward.post(f"{FORM}/bench", {"values": holotype}).json()
    assert (tried["save"]["outcome"], tried["submit"]["outcome"]) == ("warned", "blocked")
    before = clerk.post(f"{FORM}/desk/judge", {"values": holotype}).json()
    assert before["submit"]["outcome"] == "clear", "the draft must not reach the desk by itself"

    assert steward.release(FORM, "Holotypes.").status_code == 201
    saved = clerk.post(f"{FORM}/records", {"values": holotype})
    assert saved.status_code == 201
    record = saved.json()
    assert record["outcome"] == "warned"
    assert record["violations"] == ["Holotypes name their determiner"]
    address = f"{FORM}/records/{record['number']}"
    refused = clerk.send("PUT", address, {"values": holotype, "revision": 1, "submit": True})
    assert refused.status_code == 422
    assert refused.json()["judgement"]["submit"]["may_pass"] is False
    assert clerk.get(address).json() == record, "a refusal changes nothing"
    corrected = {
        "values": holotype | {"determined_by": "A. Vennick"},
        "revision": 1,
        "submit": True,
    }
    submitted = clerk.send("PUT", address, corrected).json()
    assert (submitted["state"], submitted["outcome"]) == ("submitted", "clear")
    again = clerk.send("PUT", address, corrected | {"revision": 2})
    assert (again.status_code, again.json()["type"].split(":")[-1]) == (409, "submitted-already")


def test_submitting_is_refused_by_a_block_on_saving(steward, clerk):
    rule = demand(severity={"entry": "none", "save": "block", "submit": "none"})
    steward.post(f"{FORM}/rules", {"rule": rule})
    steward.release(FORM, "Holotypes.")
    count = Record.objects.count()
    body = {"values": plant(type_status="holotype"), "submit": True}
    assert clerk.post(f"{FORM}/records", body).status_code == 422
    assert Record.objects.count() == count


def test_a_rule_for_new_records_by_clerks_leaves_the_others_alone(steward, clerk):
    scope = {"events": ["create"], "roles": ["clerk"], "entry_points": []}
    block = {"entry": "none", "save": "block", "submit": "block"}
    steward.post(f"{FORM}/rules", {"rule": demand(scope=scope, severity=block)})
    steward.release(FORM, "Holotypes of clerks.")
    holotype = {"values": plant(type_status="holotype")}
    assert clerk.post(f"{FORM}/records", holotype).status_code == 422
    stored = steward.post(f"{FORM}/records", holotype).json()
    address = f"{FORM}/records/{stored['number']}"
    assert clerk.send("PUT", address, {**holotype, "revision": 1}).status_code == 200
    new = clerk.post(f"{FORM}/desk/judge", holotype).json()
    changed = clerk.post(f"{FORM}/desk/judge", {**holotype, "number": stored["number"]}).json()
    assert (new["save"]["outcome"], changed["save"]["outcome"]) == ("blocked", "clear")
    tried = steward.post(f"{FORM}/bench", holotype).json()
    assert tried["save"]["outcome"] == "blocked", "the bench answers as a clerk will be answered"


def test_values_are_stored_as_they_mean_not_as_they_were_typed(clerk):
    typed = plant(coordinate_uncertainty="20 000", gathered_on="3 May 2020", latitude="1.50")
    typed |= {"accessioned_on": "1 March 2026", "sensitive_locality": "no", "reason_withheld": "x"}
    number = clerk.post(f"{FORM}/records", {"values": typed}).json()["number"]
    stored = clerk.get(f"{FORM}/records/{number}").json()["values"]
    assert stored == plant(
        coordinate_uncertainty="20000",
        gathered_on="2020-05-03",
        latitude="1.5",
        accessioned_on="2026-03-01",
        gathering_season="spring",
        days_to_accession="2128",
        sensitive_locality=False,
    )


def test_two_who_change_the_same_record_are_told_and_nothing_is_lost(steward, clerk):
    number = clerk.post(f"{FORM}/records", {"values": plant()}).json()["number"]
    address = f"{FORM}/records/{number}"
    theirs = plant(determined_by="M. Quist")
    assert steward.send("PUT", address, {"values": theirs, "revision": 1}).status_code == 200
    late = clerk.send("PUT", address, {"values": plant(latitude="5"), "revision": 1})
    assert late.status_code == 409
    assert late.json()["title"] == "Odile Farrowby has changed this record since you opened it."
    assert (late.json()["revision"], late.json()["current"]) == (2, theirs)
    assert clerk.get(address).json()["values"] == theirs


def test_what_is_sent_again_after_a_lost_answer_is_stored_once(steward, clerk):
    body = {"values": plant(accession_number="QH-P-004711"), "idempotency_key": "a1b2"}
    first, again = (clerk.post(f"{FORM}/records", body) for _ in range(2))
    assert (again.status_code, again.json()) == (201, first.json())
    address = f"{FORM}/records/{first.json()['number']}"
    change = {"values": plant(determined_by="M. Quist"), "revision": 1, "idempotency_key": "c3d4"}
    saved, again = (clerk.send("PUT", address, change) for _ in range(2))
    assert again.json() == saved.json()
    assert saved.json()["revision"] == 2
    assert steward.send("PUT", address, change).status_code == 409, "another person's is another"
    assert clerk.send("PUT", address, {**change, "idempotency_key": "e5f6"}).status_code == 409


@pytest.mark.django_db(transaction=True)
def test_of_two_racing_saves_exactly_one_wins():
    call_command("load_demo", records=1)
    callers = [Caller("clerk"), Caller("steward")]
    number = callers[0].post(f"{FORM}/records", {"values": plant()}).json()["number"]
    start, statuses = threading.Barrier(2), []

    def save(caller: Caller, who: str) -> None:
        start.wait()
        body = {"values": plant(determined_by=who), "revision": 1}
        statuses.append(caller.send("PUT", f"{FORM}/records/{number}", body).status_code)
        connections.close_all()

    threads = [threading.Thread(target=save, args=(c, str(n))) for n, c in enumerate(callers)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(statuses) == [200, 409]


def test_a_rule_changed_meanwhile_is_not_overwritten(steward):
    rule = next(v for v in steward.get(FORM).json()["rules"] if v["rule"]["key"] == "name_given")
    address = f"{FORM}/rules/name_given"
    step = {"key": "name_given", "revision": rule["revision"], "severity": {"save": "block"}}
    stepped = steward.send("PATCH", f"{FORM}/rules", {"rules": [step]})
    assert stepped.json() == [{"key": "name_given", "revision": 2}]
    stale = steward.send("PUT", address, {"rule": demand(), "revision": rule["revision"]})
    assert (stale.status_code, stale.json()["current"]["severity"]["save"]) == (409, "block")


def test_a_rule_taken_out_can_be_put_back_in_its_place(steward):
    views = steward.get(FORM).json()["rules"]
    third = views[2]
    gone = {"rules": [{"key": third["rule"]["key"], "revision": 1}]}
    assert steward.post(f"{FORM}/rule-removal", gone).status_code == 204
    assert len(steward.get(FORM).json()["rules"]) == len(views) - 1
    back = {"rule": third["rule"], "position": third["position"]}
    assert steward.post(f"{FORM}/rules", back).status_code == 201
    assert [v["rule"] for v in steward.get(FORM).json()["rules"]] == [v["rule"] for v in views]


def test_restored_rule_is_not_overwritten_by_an_earlier_editor(steward):
    added = steward.post(f"{FORM}/rules", {"rule": demand()}).json()
    opened = {"rule": demand(name="From before"), "revision": added["revision"]}
    address = f"{FORM}/rules/{added['rule']['key']}"
    theirs = {"rule": demand(name="Theirs"), "revision": added["revision"]}
    changed = steward.send("PUT", address, theirs).json()
    gone = {"rules": [{"key": changed["rule"]["key"], "revision": changed["revision"]}]}
    assert steward.post(f"{FORM}/rule-removal", gone).status_code == 204
    assert steward.post(f"{FORM}/undo", {}).status_code == 200
    late = steward.send("PUT", address, opened)
    assert (late.status_code, late.json()["current"]["name"]) == (409, "Theirs")


def test_a_field_that_rules_name_is_kept_and_the_rules_are_named(steward):
    refused = steward.send("DELETE", f"{FORM}/fields/latitude?revision=1", b"")
    assert refused.status_code == 409
    assert {error["place"].split(".")[1] for error in refused.json()["errors"][:-1]} == {
        "latitude_on_earth",
        "coordinates_complete",
        "point_complete",
    }
    assert "its value would have no field" in refused.json()["errors"][-1]["message"]
    text = {"type": "text", "key": "latitude", "label": "Latitude"}
    changed = steward.send("PUT", f"{FORM}/fields/latitude", {"field": text, "revision": 1})
    told = [error["message"] for error in changed.json()["errors"]]
    assert any("has no order" in one for one in told)
    new = {"field": {"type": "text", "key": "remarks", "label": "Remarks"}}
    assert steward.post(f"{FORM}/fields", new).status_code == 201
    assert steward.send("DELETE", f"{FORM}/fields/remarks?revision=1", b"").status_code == 204
    assert steward.get(FORM).json()["revision"] == 3


def test_fields_are_ordered_all_at_once_or_not_at_all(steward):
    before = [view["field"]["key"] for view in steward.get(FORM).json()["fields"]]
    wanted = [*before[1:], before[0]]
    ordered = steward.send("PUT", f"{FORM}/field-order", {"keys": wanted})
    assert [view["field"]["key"] for view in ordered.json()["fields"]] == wanted
    for keys in (before[1:], [*before, "gone"], [before[0], *before[:-1]]):
        refused = steward.send("PUT", f"{FORM}/field-order", {"keys": keys})
        assert refused.status_code == 409
    assert [view["field"]["key"] for view in steward.get(FORM).json()["fields"]] == wanted
    latitude = next(v for v in ordered.json()["fields"] if v["field"]["key"] == "latitude")
    assert latitude["touched_by"] == ["latitude_on_earth", "coordinates_complete", "point_complete"]


def test_a_form_is_begun_and_asks_for_nothing_until_it_has_fields(steward, clerk):
    begun = steward.post("/api/v1/forms", {"name": "Field trip", "purpose": "Plans."}).json()
    assert (begun["key"], begun["fields"], begun["release"]) == ("field_trip", [], None)
    again = steward.post("/api/v1/forms", {"name": "Field, trip!"}).json()
    assert again["key"] == "field_trip_2"
    assert steward.post("/api/v1/forms", {"name": "123"}).json()["key"] == "form_123"
    early = clerk.post("/api/v1/forms/field_trip/records", {"values": {}})
    assert early.json()["title"] == "No release of Field trip is in force yet."
    field = {"type": "text", "key": "borrower", "label": "Borrower"}
    steward.post("/api/v1/forms/field_trip/fields", {"field": field})
    steward.release("/api/v1/forms/field_trip", "First.")
    stored = clerk.post("/api/v1/forms/field_trip/records", {"values": {"borrower": "B"}}).json()
    assert (stored["number"], stored["outcome"], stored["title"]) == (1, "clear", "B")


def test_every_change_is_in_the_log_with_who_and_what(steward):
    steward.post(f"{FORM}/rules", {"rule": demand()})
    entry = AuditEntry.objects.first()
    assert (entry.person.username, entry.act) == ("steward", "add rule")
    assert entry.after["when"] == 'type_status = "holotype"'
