"""Whose edits make the proof of a form stale: those of what it names, and nobody else's."""

import pytest

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs import tasks
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.solving import apart

from .conftest import BLOCK

pytestmark = pytest.mark.django_db
LOAN = "/api/v1/forms/loan_out"
RULE = {"kind": "mandatory", "name": "One more", "severity": BLOCK}


@pytest.fixture(autouse=True, scope="module")
def no_process_left():
    yield
    apart().end()


def settle(kind="cases"):
    for job in Job.objects.filter(kind=kind, form__key="loan_out", state="waiting"):
        tasks.work.call(job.pk)


def known(steward):
    """Every answer that says whether it is of the draft as it is."""
    counts = steward.get(f"{LOAN}/case-counts").json()
    listed = {one["key"]: one for one in steward.get("/api/v1/forms").json()}["loan_out"]
    table = steward.get(f"{LOAN}/cases").json()["cases"]
    not_run = sum(one["state"] == "not_run" for one in table)
    assert counts["to_run"] == listed["cases_to_run"] == not_run, "every screen says the same"
    outlook = steward.get(f"{LOAN}/releasing").json()
    return {
        "cases": counts["to_run"] == 0,
        "findings": not steward.get(f"{LOAN}/findings").json()["stale"],
        "slips": steward.get(f"{LOAN}/slips").json()["up_to_date"],
        "impact": not steward.get(f"{LOAN}/impact").json()["stale"],
        "fingerprint": outlook["fingerprint"],
    }


@pytest.fixture
def proved(steward):
    """The loans with everything known of their draft."""
    steward.post(f"{LOAN}/findings", {})
    steward.post(f"{LOAN}/impact", {})
    steward.get(f"{LOAN}/case-counts")
    for kind in ("cases", "findings", "impact"):
        settle(kind)
    before = known(steward)
    assert before["cases"]
    assert before["findings"]
    assert before["impact"]
    return before


def add_rule(steward, form, field=None):
    field = field or steward.get(f"/api/v1/forms/{form}").json()["fields"][-1]["field"]["key"]
    rule = {**RULE, "key": "one_more", "targets": [field]}
    assert steward.post(f"/api/v1/forms/{form}/rules", {"rule": rule}).status_code == 201


def test_edits_elsewhere_leave_the_proof_of_a_form(steward, proved):
    add_rule(steward, "mineral_accession")
    add_rule(steward, "borrower")
    assert known(steward) == proved, "a draft that is not in force is not what loans refer to"
    assert steward.release("/api/v1/forms/mineral_accession", "Another form.").status_code == 201
    released = steward.release("/api/v1/forms/borrower", "A rule that no loan names.")
    assert released.status_code == 201, released.content
    assert known(steward) == proved


def test_what_a_form_names_makes_its_proof_stale_until_it_is_run_again(steward, proved):
    field = steward.get("/api/v1/forms/borrower").json()["fields"][0]
    renamed = {**field["field"], "label": "Another label"}
    body = {"field": renamed, "revision": field["revision"]}
    changed = steward.send("PUT", f"/api/v1/forms/borrower/fields/{renamed['key']}", body)
    assert changed.status_code == 200, changed.content
    assert known(steward) == proved
    assert steward.release("/api/v1/forms/borrower", "A field loans may read.").status_code == 201
    after = known(steward)
    assert not (after["cases"])
    assert not (after["findings"])
    assert not (after["impact"])
    settle("cases")
    settle("findings")
    again = known(steward)
    assert (again["cases"], again["findings"]) == (True, True), "run again as they were shown"


def test_a_change_taken_back_brings_its_proof_back(steward, proved):
    add_rule(steward, "loan_out", "purpose")
    assert not known(steward)["findings"]
    assert steward.post(f"{LOAN}/undo", {}).status_code == 200
    after = known(steward)
    assert (after["findings"], after["impact"]) == (True, True), "what is asked is the same"


def test_a_finding_is_set_aside_while_its_rules_are_as_they_were(steward, proved):
    first = steward.get(f"{LOAN}/findings").json()["found"][0]
    add_rule(steward, "loan_out", "purpose")
    aside = f"{LOAN}/findings/{first['fingerprint']}/aside"
    kept = steward.send("PUT", aside, {"reason": "It is meant."})
    assert kept.status_code == 200, kept.content
    (now,) = [one for one in kept.json()["found"] if one["fingerprint"] == first["fingerprint"]]
    assert now["aside"]["reason"] == "It is meant."


def test_a_concern_nobody_acknowledged_is_refused_by_name(steward, proved):
    before = steward.get(f"{LOAN}/releasing").json()["fingerprint"]
    rows = DraftForm.objects.get(key="loan_out").case_rows
    row = rows.first()
    row.state = "fails"
    row.save()
    body = {"note": "Knowing too little.", "knowing": before.split(".")[0]}
    refused = steward.post(f"{LOAN}/releases", body)
    assert refused.status_code == 409
    assert any("cases" in one["message"] for one in refused.json()["errors"])
