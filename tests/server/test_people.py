"""Accounts, roles in single forms, passwords and sessions."""

import re

import pytest

from thistlequartz.demo.names import PASSWORD
from thistlequartz.server.activity.models import AuditEntry

from .conftest import FORM, Caller

pytestmark = pytest.mark.django_db
NEW = {
    "name": "wren",
    "shown_name": "Wren Tallow",
    "role": "clerk",
    "password": "an-odd-grey-kettle",
}


def enter(name, password):
    caller = Caller()
    answer = caller.post("/api/v1/session", {"name": name, "password": password})
    if answer.status_code == 200:
        caller.token = answer.json()["token"]
    return caller, answer


def told(answer):
    return " ".join(one["message"] for one in answer.json()["errors"])


def test_an_account_is_made_chooses_its_own_password_and_is_closed(steward):
    assert steward.post("/api/v1/people", NEW).status_code == 201
    assert steward.post("/api/v1/people", {**NEW, "name": "WREN"}).status_code == 409
    wren, entered = enter("wren", NEW["password"])
    assert entered.json()["must_change_password"]
    assert wren.get("/api/v1/forms").json()["type"].endswith("password-first")
    change = {"old": "not this one", "password": "a-lamp-under-stairs"}
    assert wren.post("/api/v1/session/password", change).status_code == 422
    weak = wren.post("/api/v1/session/password", {"old": NEW["password"], "password": "wren"})
    assert "10 characters" in told(weak)
    assert "too similar" in told(weak)
    changed = wren.post("/api/v1/session/password", {**change, "old": NEW["password"]})
    assert changed.status_code == 200, changed.content
    wren.token = changed.json()["token"]
    assert wren.get("/api/v1/forms").status_code == 200, (
        "the session in which it was changed goes on"
    )
    account = {"shown_name": "Wren T.", "role": "approver", "open": False}
    assert steward.send("PUT", "/api/v1/people/wren", account).json()["open"] is False
    assert wren.get("/api/v1/forms").status_code == 401, "it ends at once"
    assert enter("wren", "a-lamp-under-stairs")[1].status_code == 422
    acts = list(AuditEntry.objects.filter(form_key="").values_list("act", flat=True))
    assert acts[:3] == ["change account", "change password", "make account"]
    newest = steward.get("/api/v1/people-log").json()["acts"]
    assert [(one["act"], one["person"]) for one in newest[:3]] == [
        ("change account", "Odile Farrowby"),
        ("change password", "Wren Tallow"),
        ("make account", "Odile Farrowby"),
    ]
    assert PASSWORD not in str(list(AuditEntry.objects.values_list("before", "after", "note")))


def test_a_password_set_by_another_ends_the_sessions_and_is_changed_first(steward, clerk):
    reset = {"password": "a-kettle-of-fishes"}
    assert (
        steward.post("/api/v1/people/clerk/password", {"password": "1234567890"}).status_code == 422
    )
    assert clerk.get("/api/v1/forms").status_code == 200
    assert steward.post("/api/v1/people/clerk/password", reset).status_code == 204
    assert clerk.get("/api/v1/forms").status_code == 401
    assert enter("clerk", reset["password"])[1].json()["must_change_password"]


def test_days_and_numbers_are_written_as_each_person_likes(clerk, steward):
    assert clerk.send("PUT", "/api/v1/session/settings", {"dates": "11/06/2026"}).status_code == 422
    liked = {"theme": "dark", "dates": "2026-06-11", "numbers": "1 234,5"}
    chosen = clerk.send("PUT", "/api/v1/session/settings", liked)
    assert chosen.json()["settings"] == liked
    assert clerk.get("/api/v1/session").json()["settings"] == liked

    def days(caller):
        page = caller.get(f"{FORM}/records?columns=gathered_on&where=gathered_on~filled").json()
        return [one["columns"]["gathered_on"] for one in page["records"]]

    def judged(caller):
        body = {"values": {"gathered_on": "11 June 2010"}}
        return caller.post(f"{FORM}/desk/judge", body).json()["save"]["words"]["gathered_on"]

    assert all(re.fullmatch(r"\d{4}-\d\d-\d\d", day) for day in days(clerk))
    assert all(re.fullmatch(r"\d+ [A-Z][a-z]+ \d{4}", day) for day in days(steward))
    assert (judged(clerk), judged(steward)) == ("2010-06-11", "11 June 2010")


def test_sessions_are_listed_and_ended_from_afar(steward, clerk):
    elsewhere = Caller("clerk")
    for caller in (clerk, elsewhere):
        caller.get("/api/v1/desk")
    here = clerk.get("/api/v1/session/list").json()
    assert [one["this_one"] for one in here].count(True) == 1
    other = next(one["id"] for one in here if not one["this_one"])
    assert clerk.send("DELETE", f"/api/v1/session/list/{other}", {}).status_code == 204
    assert clerk.send("DELETE", f"/api/v1/session/list/{other}", {}).status_code == 404
    assert elsewhere.get("/api/v1/desk").status_code == 401
    assert len(steward.get("/api/v1/people/clerk/sessions").json()) == 1
    assert steward.send("DELETE", "/api/v1/people/clerk/sessions", {}).status_code == 204
    assert clerk.get("/api/v1/desk").status_code == 401
    seen = {one["name"]: one["last_seen_at"] for one in steward.get("/api/v1/people").json()}
    assert seen["clerk"] is not None


def test_a_role_holds_in_one_form_only(steward, clerk):
    account = {"shown_name": "Tamsin Oke", "role": "clerk"}
    roles = {"loan_out": "none", "borrower": "reader", "plant_accession": "approver"}
    answer = steward.send("PUT", "/api/v1/people/clerk", {**account, "form_roles": roles})
    assert answer.json()["form_roles"] == roles
    visitor = clerk.get("/api/v1/session").json()
    assert "approve" in visitor["form_rights"]["plant_accession"]
    assert visitor["form_rights"]["loan_out"] == []
    assert clerk.get("/api/v1/forms/loan_out/records").status_code == 404
    assert "loan_out" not in {one["key"] for one in clerk.get("/api/v1/forms").json()}
    assert "loan_out" not in {one["key"] for one in clerk.get("/api/v1/desk").json()}
    assert "loan_out" not in {one["form"] for one in clerk.get("/api/v1/search?q=loan").json()}
    assert clerk.get("/api/v1/forms/borrower/records").status_code == 200
    refused = clerk.post("/api/v1/forms/borrower/records", {"values": {}})
    assert (refused.status_code, refused.json()["title"]) == (
        403,
        "Your role, reader, may not write records.",
    )
    body = {"values": {}, "submit": True, "approve": True}
    assert clerk.post(f"{FORM}/records", body).status_code == 422, "an approver here: judged"


def test_only_who_looks_after_accounts_sees_them_and_one_always_does(steward, clerk, anyone):
    if anyone.get("/api/v1/session").json()["name"] != "steward":
        for method, address in (
            ("GET", "/api/v1/people"),
            ("POST", "/api/v1/people"),
            ("PUT", "/api/v1/people/clerk"),
            ("GET", "/api/v1/people/clerk/sessions"),
        ):
            body = NEW if method == "POST" else {"shown_name": "X", "role": "steward"}
            answer = anyone.send(method, address, body)
            assert (answer.status_code, answer.json()["type"].split(":")[-1]) == (403, "no-right")
    last = {"shown_name": "Odile Farrowby", "role": "steward", "manages_people": False}
    assert steward.send("PUT", "/api/v1/people/steward", last).status_code == 409
    assert steward.send("PUT", "/api/v1/people/nobody", last).status_code == 404
