"""The service API: tokens, the same verdict as at the desk, each call done once."""

import json
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from thistlequartz.server.people.models import Person
from thistlequartz.server.records.models import Record
from thistlequartz.server.service.models import ApiToken
from thistlequartz.server.service.tokens import make_token
from thistlequartz.server.watch.models import AttemptCount

from .conftest import BLOCK, SMALL_THING, Caller, released_with, save

pytestmark = pytest.mark.django_db
EVERYTHING = ["read", "judge", "save", "submit"]


class System:
    """Another system, with a token."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.client = Client(enforce_csrf_checks=True, raise_request_exception=False)

    def call(self, method, path, body=None, **headers):
        answer = self.client.generic(
            method,
            f"/service/v1{path}",
            "" if body is None else json.dumps(body),
            content_type="application/json",
            headers={"Authorization": f"Bearer {self.text}", **headers},
        )
        return answer.status_code, json.loads(answer.content) if answer.content else None


def token(steward, draft, acts=EVERYTHING, **more):
    body = {"name": "Field tablets", "acts": list(acts), **more}
    answer = steward.post(f"/api/v1/forms/{draft.key}/tokens", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


KEPT_SHUT = ("loud", "fixed", "hidden")


@pytest.fixture(scope="module")
def at(for_the_file):
    rules = (
        {"kind": "unique", "key": "one", "targets": ["mark"], "severity": BLOCK},
        {"kind": "mandatory", "key": "graded", "targets": ["grade"],
         "severity": {"entry": "none", "save": "warn", "submit": "block"}},
        {"kind": "cross_field", "key": "short", "name": "Notes are short", "targets": ["note"],
         "must": "string length(note) < 9", "reason_required": True,
         "severity": {"entry": "none", "save": "warn", "submit": "warn"}},
        {"kind": "mandatory", "key": "noted", "name": "Services note", "targets": ["note"],
         "scope": {"entry_points": ["service"]}, "severity": BLOCK},
    )  # fmt: skip
    fields = [{"type": "text", "key": key, "label": key.capitalize()} for key in KEPT_SHUT]
    shut = (
        {
            "kind": "derive",
            "key": "d",
            "targets": ["loud"],
            "value": "upper case(mark)",
            "when": 'starts with(mark, "i")',
        },
        {"kind": "lock", "key": "l", "targets": ["fixed"]},
        {"kind": "open", "key": "o", "targets": ["hidden"], "when": 'mark = "open"'},
    )
    released_with(*rules, *shut, fields=fields)
    return SMALL_THING.removeprefix("/api/v1")


@pytest.fixture
def system(steward, draft, at):
    return System(token(steward, draft)["text"])


def test_records_are_judged_saved_changed_and_got_as_at_the_desk(system, at, draft):
    code, verdicts = system.call("POST", f"{at}/judge", {"values": {"mark": "a", "note": "x"}})
    assert code == 200
    assert (verdicts["save"]["may_pass"], verdicts["submit"]["may_pass"]) == (False, False)
    violated = {one["rule"]: one for one in verdicts["submit"]["violated"]}
    assert violated.keys() == {"one", "graded"}
    assert violated["graded"]["fields"] == ["grade"]
    code, problem = system.call("POST", f"{at}/records", {"values": {"mark": "a"}})
    assert (code, problem["type"]) == (422, "urn:thistlequartz:problem:blocked")
    told = {(one["place"], one["rule"]) for one in problem["errors"]}
    assert told == {("values.mark", "one"), ("values.note", "noted")}, "rules of its entry point"
    assert "judgement" not in problem

    code, made = system.call("POST", f"{at}/records", {"values": {"mark": "n", "note": "x"}})
    assert (code, made["state"], made["outcome"]) == (201, "in_progress", "warned")
    one = f"{at}/records/{made['number']}"
    assert system.call("GET", one) == (200, made)
    code, changed = system.call("PATCH", one, {"values": {"grade": "a"}})
    assert (code, changed["values"]) == (200, {"mark": "n", "note": "x", "grade": "a"})
    code, problem = system.call("PATCH", one, {"values": {"note": "much too long"}})
    assert (code, problem["errors"][0]["rule"]) == (422, "short")
    assert problem["errors"][0]["remedy"] == "Give a reason at reasons.short."
    reasons = {"short": {"text": "It says so on the label."}}
    body = {"values": {"note": "much too long"}, "reasons": reasons, "revision": 1}
    code, problem = system.call("PATCH", one, body)
    assert (code, problem["type"]) == (409, "urn:thistlequartz:problem:changed-meanwhile")
    code, changed = system.call("PATCH", one, {**body, "revision": 2})
    assert (code, changed["revision"]) == (200, 3)
    whole = {"values": {**changed["values"]}, "reasons": reasons, "revision": 3, "submit": True}
    code, submitted = system.call("PUT", one, whole)
    assert (code, submitted["state"], submitted["values"]) == (200, "submitted", changed["values"])
    assert system.call("PATCH", one, {"values": {}})[0] == 409
    tried = AttemptCount.objects.get(form=draft, entry_point="service", moment="save")
    assert (tried.tried, tried.stopped) == (5, 2)
    listed = system.call("GET", f"{at}/records?limit=4")[1]
    assert [one["number"] for one in listed["records"]] == [1, 2, 3, 4]
    rest = system.call("GET", f"{at}/records?after={listed['after']}&state=submitted")[1]
    assert [one["number"] for one in rest["records"]] == [made["number"]]
    forms = system.call("GET", "/forms")[1]
    assert [(one["key"], len(one["fields"])) for one in forms] == [(draft.key, 6)]


def test_a_call_with_a_key_is_done_once(system, at, draft):
    body = {"values": {"mark": "n", "note": "x"}}
    key = {"Idempotency-Key": "4711"}
    first = system.call("POST", f"{at}/records", body, **key)
    assert first[0] == 201
    assert system.call("POST", f"{at}/records", body, **key) == first
    assert Record.objects.filter(form=draft, values__mark="n").count() == 1
    other = {"values": {"mark": "o", "note": "x"}}
    code, problem = system.call("POST", f"{at}/records", other, **key)
    assert (code, problem["type"]) == (422, "urn:thistlequartz:problem:key-used-otherwise")
    refused = {"Idempotency-Key": "4712"}
    assert system.call("POST", f"{at}/records", {"values": {"mark": "n"}}, **refused)[0] == 422
    assert system.call("POST", f"{at}/records", other, **refused)[0] == 201, "nothing was done"
    assert AttemptCount.objects.get(form=draft, entry_point="service").stopped == 1
    long = {"Idempotency-Key": "x" * 101}
    assert system.call("POST", f"{at}/records", other, **long)[0] == 422


def test_what_does_not_count_is_told_when_judged_and_when_stored(system, at, draft):
    values = {"mark": "i1", "note": "x", "loud": "else", "fixed": "f", "hidden": "h"}
    code, verdicts = system.call("POST", f"{at}/judge", {"values": values})
    assert (code, verdicts["ignored"].keys()) == (200, set(KEPT_SHUT))
    assert verdicts["ignored"]["loud"].startswith("Loud is computed here")
    code, record = system.call("POST", f"{at}/records", {"values": values})
    assert (code, record["ignored"].keys()) == (201, set(KEPT_SHUT))
    assert (record["values"]["loud"], record["values"].get("fixed")) == ("I1", None)
    number = record["number"]
    again = {"values": {"loud": "I1", "note": " y "}}
    code, changed = system.call("PATCH", f"{at}/records/{number}", again)
    assert (code, changed["ignored"]) == (200, {})
    assert "ignored" not in {*system.call("GET", f"{at}/records/{number}")[1]["values"]}
    code, problem = system.call("POST", f"{at}/judge", {"values": {"nowhere": "x"}})
    assert code == 422
    assert problem["errors"][0]["place"] == "values.nowhere"


def test_several_are_stored_each_by_itself(system, at, draft, clerk):
    number = Record.objects.get(form=draft, values__mark="b").number
    sent = [
        {"values": {"mark": "n", "note": "x"}},
        {"values": {"mark": "n", "note": "x"}},
        {"number": number, "values": {"note": "changed"}},
        {"number": 999_999, "values": {"note": "x"}},
        {"values": {"marc": "y"}},
    ]
    code, answer = system.call("POST", f"{at}/several-records", {"records": sent})
    assert code == 200
    done = answer["done"]
    assert [bool(one["record"]) for one in done] == [True, False, True, False, False]
    assert done[1]["problem"]["errors"][0]["rule"] == "one"
    assert done[2]["record"]["values"] == {"mark": "b", "note": "changed"}
    assert done[3]["problem"]["status"] == 404
    body = {"records": [sent[0] | {"values": {"mark": "p", "note": "x"}}, sent[1]]}
    key = {"Idempotency-Key": "several"}
    first = system.call("POST", f"{at}/several-records", body, **key)
    assert [bool(one["record"]) for one in first[1]["done"]] == [True, False]
    again = system.call("POST", f"{at}/several-records", body, **key)
    assert again[1]["done"][0] == first[1]["done"][0]
    assert Record.objects.filter(form=draft, values__mark="p").count() == 1
    assert "Did you mean “mark”?" in done[4]["problem"]["errors"][0]["remedy"]


@pytest.mark.parametrize("text", ["", "tq_nonsense", "x" * 5_000, "Bearer"])
def test_without_a_token_that_counts_nothing_is_told(system, at, text):
    code, problem = System(text).call("GET", f"{at}/records")
    assert (code, problem["type"]) == (401, "urn:thistlequartz:problem:no-token")
    assert System(system.text).call("GET", f"{at}/records")[0] == 200


def test_a_token_reaches_its_forms_and_acts_until_it_ends(steward, clerk, draft, at):
    made = token(steward, draft, ["read"])
    system = System(made["text"])
    assert system.call("GET", f"{at}/records")[0] == 200
    code, problem = system.call("POST", f"{at}/records", {"values": {"mark": "n"}})
    assert (code, problem["type"]) == (403, "urn:thistlequartz:problem:not-with-this-token")
    assert system.call("POST", f"{at}/judge", {"values": {}})[0] == 403
    assert system.call("GET", "/forms/loan_out/records")[0] == 404
    listed = steward.get(f"/api/v1/forms/{draft.key}/tokens").json()
    assert [one["begins"] for one in listed] == [made["text"][:8]]
    assert listed[0]["last_used_at"] is not None
    kept = ApiToken.objects.get()
    assert made["text"] not in json.dumps([kept.hash, kept.begins, kept.name])
    assert clerk.get(f"/api/v1/forms/{draft.key}/tokens").status_code == 403
    ApiToken.objects.update(ends_at=timezone.now() - timedelta(seconds=1))
    assert system.call("GET", f"{at}/records")[0] == 401
    ApiToken.objects.update(ends_at=None)
    Person.objects.filter(username="steward").update(is_active=False)
    assert system.call("GET", f"{at}/records")[0] == 401, "whoever made it has left"
    Person.objects.filter(username="steward").update(is_active=True, role="reader")
    assert system.call("GET", f"{at}/records")[0] == 200
    writer = System(_made_by(draft, ["save"]))
    code, problem = writer.call("POST", f"{at}/records", {"values": {"mark": "n"}})
    assert (code, problem["type"]) == (403, "urn:thistlequartz:problem:no-right")
    Person.objects.filter(username="steward").update(role="steward")
    again = Caller("steward")
    assert (
        again.send("DELETE", f"/api/v1/forms/{draft.key}/tokens/{kept.pk}", {}).status_code == 204
    )
    assert system.call("GET", f"{at}/records")[0] == 401
    acts = again.get(f"/api/v1/forms/{draft.key}/history").json()
    assert {"make token", "end token"} <= {one["act"] for one in acts["acts"]}


def _made_by(draft, acts):
    """A token of the steward's, made before they lost the right to it."""
    from thistlequartz.server.service.tokens import make_token  # noqa: PLC0415

    Person.objects.filter(username="steward").update(role="steward")
    person = Person.objects.get(username="steward")
    text = make_token(person, "Older", [draft.key], acts, None)[1]
    Person.objects.filter(username="steward").update(role="reader")
    return text


def test_tokens_that_cannot_be_made_say_why(steward, draft, at):
    where = f"/api/v1/forms/{draft.key}/tokens"
    for body, place in (
        ({"name": " ", "acts": ["read"]}, "name"),
        ({"name": "x", "acts": []}, "acts"),
        ({"name": "x", "acts": ["fly"]}, "acts.0"),
        ({"name": "x", "acts": ["read"], "last_day": "2020-01-01"}, "ends_at"),
    ):
        answer = steward.post(where, body)
        assert answer.status_code == 422
        assert place in [one["place"] for one in answer.json()["errors"]]
    body = {"name": "x", "acts": ["read"], "forms": ["nonsense"]}
    assert steward.post(where, body).status_code == 404


def test_a_comma_for_people_is_a_point_for_systems(steward, draft, at):
    field = {"type": "decimal", "key": "mass", "label": "Mass", "decimal_mark": "comma", "scale": 3}
    address = f"/api/v1/forms/{draft.key}"
    assert steward.post(f"{address}/fields", {"field": field}).status_code == 201
    assert steward.release(address, "Masses.").status_code == 201
    system = System(token(steward, draft)["text"])
    sent = {"mark": "n", "note": "x", "mass": "1.125"}
    code, made = system.call("POST", f"{at}/records", {"values": sent})
    assert (code, made["values"]) == (201, sent)
    body = {"values": made["values"], "revision": 1}
    code, again = system.call("PUT", f"{at}/records/{made['number']}", body)
    assert (code, again["values"]) == (200, sent)
    for wrong in ("1.1255", "1,125", "heavy"):
        body = {"values": {**sent, "mark": "o", "mass": wrong}}
        code, problem = system.call("POST", f"{at}/records", body)
        assert (code, problem["type"]) == (422, "urn:thistlequartz:problem:unreadable-values")
        assert [one["place"] for one in problem["errors"]] == ["values.mass"]
    assert save(steward, address, mark="p") > made["number"]


def test_a_token_to_save_does_not_read(steward, clerk, draft):
    """What is stored comes back as far as it was sent, and no more."""
    number = save(clerk, f"/api/v1/forms/{draft.key}", mark="zz", note="note")
    person = Person.objects.get(username="steward")
    for acts, notes in ((["save"], None), (["save", "read"], "note")):
        token = make_token(person, "x", [draft.key], acts, None)[1]
        answer = Client().patch(
            f"/service/v1/forms/{draft.key}/records/{number}",
            json.dumps({"values": {"mark": "zz"}}),
            "application/json",
            headers={"Authorization": f"Bearer {token}"},
        )
        assert answer.status_code == 200, answer.content
        assert answer.json()["values"].get("note") == notes
