"""What becomes of a submitted record: approved, sent back, taken back; and what waits for whom."""

import pytest

from thistlequartz.server.activity.models import Activity

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
    chosen = [{"number": one["number"], "version": one["version"]} for one in records]
    return caller.post(f"{FORM}/decisions", {"act": act, "records": chosen, **more})


def waiting(caller):
    return next(one for one in caller.get("/api/desk").json() if one["key"] == "plant_accession")


def test_sent_back_with_a_remark_mended_submitted_and_approved(clerk, approver):
    before = waiting(clerk), waiting(approver)
    record = submitted(clerk)
    address = f"{FORM}/records/{record['number']}"
    assert waiting(approver)["to_approve"] == before[1]["to_approve"] + 1
    blank = decide(approver, "send_back", record, remark="  ").json()[0]
    assert (blank["done"], blank["why_not"][:6]) == (False, "A reco")
    assert decide(approver, "send_back", record, remark="Name the collector.").json()[0]["done"]
    back = clerk.get(address).json()
    assert (back["state"], back["remark"], back["keeper"]) == (
        "sent_back",
        "Name the collector.",
        "Tamsin Oke",
    )
    assert waiting(clerk)["sent_back"] == before[0]["sent_back"] + 1
    mended = {"values": {**PLANT, "collector": "M. Quist"}, "version": back["version"]}
    saved = clerk.send("PUT", address, mended).json()
    assert saved["state"] == "sent_back", "saving alone answers no remark"
    body = {**mended, "version": saved["version"], "submit": True}
    again = clerk.send("PUT", address, body).json()
    assert decide(approver, "approve", again).json()[0]["done"]
    approved = clerk.get(address).json()
    assert (approved["state"], approved["decided_by"]) == ("approved", "Ruben Halloway")
    refused = clerk.send("PUT", address, {**mended, "version": approved["version"]})
    assert (refused.status_code, refused.json()["type"].split(":")[-1]) == (409, "approved-already")
    acts = Activity.objects.filter(subject=f"Record {record['number']}").values_list("act", "note")
    assert list(acts)[:4] == [
        ("approve record", ""),
        ("submit record", ""),
        ("save record", ""),
        ("send record back", "Name the collector. To Tamsin Oke."),
    ]


def test_who_submitted_takes_it_back_and_nobody_else_does(clerk, steward):
    record = submitted(clerk)
    address = f"{FORM}/records/{record['number']}/take-back"
    body = {"version": record["version"]}
    assert record["may_take_back"]
    assert not steward.get(f"{FORM}/records/{record['number']}").json()["may_take_back"]
    refused = steward.post(address, body)
    assert (refused.status_code, refused.json()["title"]) == (
        403,
        f"Record {record['number']} was submitted by Tamsin Oke, who alone can take it back.",
    )
    assert clerk.post(address, {"version": record["version"] + 1}).status_code == 409
    assert clerk.post(address, body).json()["state"] == "saved"
    assert clerk.post(address, {"version": record["version"] + 1}).status_code == 409


def test_of_many_each_is_judged_by_itself_by_the_release_in_force(steward, clerk, approver):
    good = submitted(clerk, accession_number="QH-P-900002")
    bad = submitted(clerk, accession_number="QH-P-900003", type_status="holotype")
    open_one = clerk.post(
        f"{FORM}/records", {"values": {**PLANT, "accession_number": "QH-P-900004"}}
    ).json()
    steward.post(f"{FORM}/rules", {"rule": demand()})
    assert steward.post(f"{FORM}/releases", {"note": "Holotypes."}).status_code == 201
    gone = {"number": 999_999, "version": 1}
    older = {**good, "version": 0}
    done = decide(approver, "approve", older, good, bad, open_one, gone).json()
    assert [one["done"] for one in done] == [False, True, False, False, False]
    assert "was not approved: release 2 refuses it. " in done[2]["why_not"]
    assert "Determined by" in done[2]["why_not"]
    assert done[3]["why_not"].endswith("cannot be approved: it is being written.")
    assert done[4]["why_not"] == "There is no record 999999."
    kept = clerk.get(f"{FORM}/records/{bad['number']}").json()
    assert (kept["state"], kept["version"]) == ("submitted", bad["version"])
    to = decide(approver, "send_back", bad, remark="Who?", to="reader").json()[0]
    assert to["why_not"].startswith("A record cannot be sent back to reader.")
    assert decide(approver, "send_back", bad, remark="Who?", to="steward").json()[0]["done"]
    assert waiting(steward)["sent_back"] == 1


def test_who_may_approves_at_once_and_nobody_else(clerk, steward, approver):
    body = {"values": PLANT, "submit": True, "approve": True}
    for caller in (clerk, steward):
        assert caller.post(f"{FORM}/records", body).status_code == 403
        assert decide(caller, "approve", {"number": 1, "version": 1}).status_code == 403
    record = approver.post(f"{FORM}/records", body).json()
    assert (record["state"], record["decided_by"]) == ("approved", "Ruben Halloway")
    steward.post(f"{FORM}/rules", {"rule": demand()})
    assert steward.post(f"{FORM}/releases", {"note": "Holotypes."}).status_code == 201
    change = {"values": PLANT, "version": record["version"]}
    refused = clerk.send("PUT", f"{FORM}/records/{record['number']}", change)
    assert refused.status_code == 409, "a new release opens no approved record"
    assert decide(approver, "send_back", record, remark="The wrong sheet.").json()[0]["done"]
