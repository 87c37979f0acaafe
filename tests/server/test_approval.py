"""What becomes of a submitted record: approved, returned, taken back; and what waits for whom."""

import threading

import pytest
from django.core.management import call_command
from django.db import connections

from thistlequartz.server.activity.models import AuditEntry

from .conftest import FORM, Caller, demand

pytestmark = pytest.mark.django_db
PLANT = {"accession_number": "QH-P-900001", "scientific_name": "Brindlea montana"}


@pytest.fixture
def approver(db: None) -> Caller:
    return Caller("approver")


def submitted(caller, **values):
    body = {"values": {**PLANT, **values}, "submit": True}
    answer = caller.post(f"{FORM}/records", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def decide(caller, act, *records, **more):
    chosen = [{"number": one["number"], "revision": one["revision"]} for one in records]
    return caller.post(f"{FORM}/decisions", {"act": act, "records": chosen, **more})


def waiting(caller):
    return next(one for one in caller.get("/api/v1/desk").json() if one["key"] == "plant_accession")


def test_returned_with_a_remark_mended_submitted_and_approved(clerk, approver):
    before = waiting(clerk), waiting(approver)
    record = submitted(clerk)
    address = f"{FORM}/records/{record['number']}"
    assert waiting(approver)["to_approve"] == before[1]["to_approve"] + 1
    blank = decide(approver, "return", record, remark="  ").json()[0]
    assert (blank["done"], blank["why_not"][:6]) == (False, "A reco")
    assert decide(approver, "return", record, remark="Name the collector.").json()[0]["done"]
    back = clerk.get(address).json()
    assert (back["state"], back["remark"], back["keeper"]) == (
        "returned",
        "Name the collector.",
        "Tamsin Oke",
    )
    assert waiting(clerk)["returned"] == before[0]["returned"] + 1
    corrected = {"values": {**PLANT, "collector": "M. Quist"}, "revision": back["revision"]}
    saved = clerk.send("PUT", address, corrected).json()
    assert saved["state"] == "returned", "saving alone answers no remark"
    body = {**corrected, "revision": saved["revision"], "submit": True}
    again = clerk.send("PUT", address, body).json()
    assert decide(approver, "approve", again).json()[0]["done"]
    approved = clerk.get(address).json()
    assert (approved["state"], approved["decided_by"]) == ("approved", "Ruben Halloway")
    refused = clerk.send("PUT", address, {**corrected, "revision": approved["revision"]})
    assert (refused.status_code, refused.json()["type"].split(":")[-1]) == (409, "approved-already")
    acts = AuditEntry.objects.filter(subject=f"Record {record['number']}").values_list(
        "act", "note"
    )
    assert list(acts)[:4] == [
        ("approve record", ""),
        ("submit record", ""),
        ("save record", ""),
        ("send record back", "Name the collector. To Tamsin Oke."),
    ]


@pytest.mark.django_db(transaction=True)
def test_of_two_who_decide_at_once_one_is_told_of_the_other():
    call_command("load_demo", records=1)
    clerk, first, second = Caller("clerk"), Caller("approver"), Caller("approver")

    def approve(record):
        return decide(first, "approve", record).json()[0]["done"]

    def approve_too(record):
        return decide(second, "approve", record).json()[0]["done"]

    def return_record(record):
        return decide(second, "return", record, remark="Once more.").json()[0]["done"]

    def take_back(record):
        body = {"revision": record["revision"]}
        status = clerk.post(f"{FORM}/records/{record['number']}/take-back", body).status_code
        assert status in (200, 409)
        return status == 200

    for place, (other, leaves) in enumerate(
        ((approve_too, "approved"), (return_record, "returned"), (take_back, "in_progress"))
    ):
        record = submitted(clerk, accession_number=f"QH-P-90010{place}")
        came = at_once(lambda one=record: approve(one), lambda one=record, do=other: do(one))
        assert sorted(came) == [False, True], other.__name__
        after = clerk.get(f"{FORM}/records/{record['number']}").json()
        assert after["state"] == ("approved" if came[0] else leaves)
        assert after["revision"] == record["revision"] + 1


def at_once(*acts):
    """What each of the acts answers, all begun at one moment."""
    start, came = threading.Barrier(len(acts)), {}

    def run(place):
        start.wait()
        came[place] = acts[place]()
        connections.close_all()

    threads = [threading.Thread(target=run, args=(place,)) for place in range(len(acts))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return [came[place] for place in range(len(acts))]


def test_who_submitted_takes_it_back_and_nobody_else_does(clerk, steward):
    record = submitted(clerk)
    address = f"{FORM}/records/{record['number']}/take-back"
    body = {"revision": record["revision"]}
    assert record["may_take_back"]
    assert not steward.get(f"{FORM}/records/{record['number']}").json()["may_take_back"]
    refused = steward.post(address, body)
    assert (refused.status_code, refused.json()["title"]) == (
        403,
        f"Record {record['number']} was submitted by Tamsin Oke, who alone can take it back.",
    )
    assert clerk.post(address, {"revision": record["revision"] + 1}).status_code == 409
    assert clerk.post(address, body).json()["state"] == "in_progress"
    assert clerk.post(address, {"revision": record["revision"] + 1}).status_code == 409


def test_of_many_each_is_judged_by_itself_by_the_release_in_force(steward, clerk, approver):
    good = submitted(clerk, accession_number="QH-P-900002")
    bad = submitted(clerk, accession_number="QH-P-900003", type_status="holotype")
    open_one = clerk.post(
        f"{FORM}/records", {"values": {**PLANT, "accession_number": "QH-P-900004"}}
    ).json()
    steward.post(f"{FORM}/rules", {"rule": demand()})
    assert steward.release(FORM, "Holotypes.").status_code == 201
    gone = {"number": 999_999, "revision": 1}
    older = {**good, "revision": 0}
    done = decide(approver, "approve", older, good, bad, open_one, gone).json()
    assert [one["done"] for one in done] == [False, True, False, False, False]
    assert "was not approved: release 2 refuses it. " in done[2]["why_not"]
    assert "Determined by" in done[2]["why_not"]
    assert done[3]["why_not"].endswith("cannot be approved: it is in progress.")
    assert done[4]["why_not"] == "There is no record 999999."
    kept = clerk.get(f"{FORM}/records/{bad['number']}").json()
    assert (kept["state"], kept["revision"]) == ("submitted", bad["revision"])
    to = decide(approver, "return", bad, remark="Who?", to="reader").json()[0]
    assert to["why_not"].startswith("A record cannot be returned to reader.")
    assert decide(approver, "return", bad, remark="Who?", to="steward").json()[0]["done"]
    assert waiting(steward)["returned"] == 1


def test_who_may_approves_at_once_and_nobody_else(clerk, steward, approver):
    body = {"values": PLANT, "submit": True, "approve": True}
    for caller in (clerk, steward):
        assert caller.post(f"{FORM}/records", body).status_code == 403
        assert decide(caller, "approve", {"number": 1, "revision": 1}).status_code == 403
    record = approver.post(f"{FORM}/records", body).json()
    assert (record["state"], record["decided_by"]) == ("approved", "Ruben Halloway")
    steward.post(f"{FORM}/rules", {"rule": demand()})
    assert steward.release(FORM, "Holotypes.").status_code == 201
    change = {"values": PLANT, "revision": record["revision"]}
    refused = clerk.send("PUT", f"{FORM}/records/{record['number']}", change)
    assert refused.status_code == 409, "a new release opens no approved record"
    assert decide(approver, "return", record, remark="The wrong sheet.").json()[0]["done"]


def test_two_versions_of_a_record_are_compared_by_what_they_mean(clerk, steward):
    first = clerk.post(f"{FORM}/records", {"values": {**PLANT, "country": "NO"}}).json()
    address = f"{FORM}/records/{first['number']}"
    theirs = {**first["values"], "country": "SE", "gathered_on": "2010-06-01"}
    steward.send("PUT", address, {"values": theirs, "revision": first["revision"]})
    mine = {**first["values"], "gathered_on": "1 June 2010", "collector": "M. Quist"}
    refused = clerk.send("PUT", address, {"values": mine, "revision": first["revision"]})
    assert refused.status_code == 409
    shown = clerk.post(f"{address}/differences", {"values": mine}).json()
    assert shown["revision"] == first["revision"] + 1
    found = {
        one["field"]: (one["mine"], one["theirs"], one["value"]) for one in shown["differences"]
    }
    assert found["country"] == ("Norway", "Sweden", "SE")
    assert found["collector"] == ("“M. Quist”", "blank", None)
    assert set(found) == {"country", "collector"}, "one day written in two ways is one day"
    odd = clerk.post(f"{address}/differences", {"values": {**mine, "gathered_on": "soon"}}).json()
    assert "soon" in [one["mine"] for one in odd["differences"]]
