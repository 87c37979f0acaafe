"""Findings of a draft: looked for in the background, fixed and undone, dismissed and returning."""

import pytest

from thistlequartz.core.findings import TITLES
from thistlequartz.server.findings import services
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs import tasks
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.solving import apart

from .conftest import BLOCK, SMALL_THING

pytestmark = pytest.mark.django_db
AT = "/api/v1/forms/loan_out"


@pytest.fixture(autouse=True, scope="module")
def no_process_left():
    yield
    apart().end()


def looked(steward, at=AT):
    told = steward.post(f"{at}/findings", {})
    assert told.status_code == 202
    key = at.rpartition("/")[2]
    for job in Job.objects.filter(kind="findings", state="waiting", form__key=key):
        tasks.work.call(job.pk)
    return steward.get(f"{at}/findings").json()


def found(view, code):
    return [one for one in view["found"] if one["code"] == code and one["aside"] is None]


def test_mistakes_of_the_drafts_are_found_with_example_records(steward, clerk):
    """As they stand beside each of them in the demo."""
    wanted = {
        "loan_out": {"F06", "F10", "F12", "F15"},
        "plant_accession": {"F08", "F12", "F15", "F17"},
        "mineral_accession": {"F06", "F16", "F29"},
        "borrower": {"F01", "F08"},
    }
    assert clerk.get(f"{AT}/findings").status_code == 403
    for key, codes in wanted.items():
        view = looked(steward, f"/api/v1/forms/{key}")
        assert {one["code"] for one in view["found"]} == codes
        assert (view["stale"], view["undecided"]) == (False, [])
        assert all(one["says"].endswith(".") for one in view["found"])
    view = looked(steward)
    (gap,) = found(view, "F10")
    assert "between € 20,000 and € 50,000" in gap["says"]
    assert gap["witness"]["entries"]
    kept = steward.post(f"{AT}/drafted-cases", {"cases": [gap["witness"]["case"]]})
    assert kept.status_code == 201, "its record can be kept as a case"


def test_what_is_mended_is_gone_and_can_be_undone(steward):
    (says,) = found(looked(steward), "F15")
    assert says["fix"] == (
        "“Long loans are explained” says: This loan lasts longer than 90 days: say why it should."
    )
    assert steward.post(f"{AT}/findings/{says['fingerprint']}/fix", {}).status_code == 204
    stale = steward.post(f"{AT}/findings/{says['fingerprint']}/fix", {})
    assert stale.status_code == 409, "it was found of the draft as it was"
    assert found(looked(steward), "F15") == []
    assert steward.post(f"{AT}/undo", {}).status_code == 200
    again = looked(steward)
    assert len(found(again, "F15")) == 1
    (by_hand,) = found(again, "F06")
    refused = steward.post(f"{AT}/findings/{by_hand['fingerprint']}/fix", {})
    assert refused.status_code == 409
    assert "by hand" in refused.json()["detail"]


def test_what_is_set_aside_returns_when_what_it_rests_on_changes(steward, clerk):
    (gap,) = found(looked(steward), "F10")
    at = f"{AT}/findings/{gap['fingerprint']}/aside"
    assert clerk.send("PUT", at, {"reason": "It is meant."}).status_code == 403
    assert steward.send("PUT", at, {"reason": " "}).status_code == 422
    view = steward.send("PUT", at, {"reason": "Nothing is lent at such a value."}).json()
    (aside,) = [one["aside"] for one in view["found"] if one["fingerprint"] == gap["fingerprint"]]
    assert (aside["reason"], aside["by"]) == ("Nothing is lent at such a value.", "Odile Farrowby")
    other = {"kind": "mandatory", "key": "piece_named", "targets": ["piece"], "severity": BLOCK}
    assert steward.post(f"{AT}/rules", {"rule": other}).status_code == 201
    assert found(looked(steward), "F10") == [], "another rule is nothing to it"
    rule = next(
        one for one in steward.get(AT).json()["rules"] if one["rule"]["key"] == "premium_large"
    )
    body = {
        "rule": {**rule["rule"], "when": "insured_value >= 60000"},
        "revision": rule["revision"],
    }
    assert steward.send("PUT", f"{AT}/rules/premium_large", body).status_code == 200
    (returned,) = found(looked(steward), "F10")
    assert "€ 60,000" in returned["says"]
    assert steward.send("DELETE", at, None).status_code == 200
    assert steward.send("DELETE", at, None).status_code == 404


def test_a_rule_being_written_is_looked_at_in_the_background(steward):
    dead = {"kind": "mandatory", "key": "new", "targets": ["note"], "severity": BLOCK,
            "when": 'mark = "x" and mark = "y"'}  # fmt: skip
    looked(steward, SMALL_THING)
    at = f"{SMALL_THING}/rule-findings"
    assert steward.post(at, {"rule": dead}).json() == {"found": [], "working": True}
    other = {**dead, "when": 'mark = "x"'}
    assert steward.post(at, {"rule": other}).json()["working"]
    # The first gave way to the other: it is looked at again, not taken for flawless.
    assert steward.post(at, {"rule": dead}).json() == {"found": [], "working": True}
    for job in Job.objects.filter(kind="findings_of_rule"):
        tasks.work.call(job.pk)
    told = steward.post(at, {"rule": dead}).json()
    assert not told["working"]
    (one,) = told["found"]
    assert (one["code"], "can never apply" in one["says"]) == ("F01", True)
    unsaid = {**dead, "targets": []}
    assert steward.post(at, {"rule": unsaid}).json() == {"found": [], "working": False}


def test_rule_that_blocks_every_record_is_told_before_it_is_saved(steward):
    demand = {"kind": "mandatory", "key": "demand", "targets": ["note"], "severity": BLOCK}
    assert steward.post(f"{SMALL_THING}/rules", {"rule": demand}).status_code == 201
    blank = {"kind": "cross_field", "key": "new", "targets": ["note"], "must": "note = null",
             "severity": BLOCK}  # fmt: skip
    at = f"{SMALL_THING}/rule-findings"
    assert steward.post(at, {"rule": blank}).json()["working"]
    for job in Job.objects.filter(kind="findings_of_rule"):
        tasks.work.call(job.pk)
    (one,) = steward.post(at, {"rule": blank}).json()["found"]
    assert one["says"].startswith("No record can be saved, whatever is entered")


def test_cycle_names_the_link_to_cut_and_keeps_rule_sentences(steward):
    rules = [
        {"kind": "open", "key": "first", "targets": ["note"], "when": 'mark = "x"'},
        {"kind": "open", "key": "second", "targets": ["mark"], "when": 'note = "x"'},
    ]
    assert steward.post(f"{SMALL_THING}/rules", {"rule": rules[0]}).status_code == 201
    read = steward.post(f"{SMALL_THING}/rules/read", {"rule": rules[1]}).json()
    assert any("Cut it here" in one["remedy"] for one in read["problems"])
    stored = steward.post(f"{SMALL_THING}/rules", {"rule": rules[1], "unfinished": True})
    assert stored.status_code == 201
    assert "".join(one["text"] for one in stored.json()["sentence"]) == "".join(
        one["text"] for one in read["sentence"]
    )
    (told,) = found(looked(steward, SMALL_THING), "F39")
    assert "decide about one another in a circle" in told["says"]
    assert "let it no longer look at" in told["how"]


def test_releasing_says_what_is_found(steward):
    known = {
        one["says"]: one
        for one in steward.get(f"{AT}/releasing").json()["known"]
        if one["about"] == "findings"
    }
    assert list(known) == ["The search for findings is still running."]
    looked(steward)
    told = [
        one for one in steward.get(f"{AT}/releasing").json()["known"] if one["about"] == "findings"
    ]
    assert [(one["level"], one["says"]) for one in told] == [
        ("warn", "3 things are found wrong with the rules."),
        ("note", "One thing is doubtful about the rules."),
    ]


def test_search_that_kills_its_process_is_undecided_and_rest_go_on(monkeypatch, draft):
    draft = DraftForm.objects.get(key="borrower")
    monkeypatch.setattr("thistlequartz.workers.worker_process.ANSWER_WITHIN", 0.4)
    apart().end()  # a new process takes longer than that to begin
    job = services.bring_up_to_date(draft, None)
    tasks.work.call(job.pk)
    job.refresh_from_db()
    assert job.state == "done"
    undecided = job.result["undecided"]
    assert {one["why"] for one in undecided} == {"it took more time or memory than it may"}
    assert {one["code"] for one in undecided} == set(TITLES), "nor is it begun for each anew"
