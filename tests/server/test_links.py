"""Links: a form without an account, by the same rules, for a while, and closed to all else.

The puzzle is solved here by the search that its own description asks for (SHA-256 of salt and
number), and its header rules are those of CSP Level 3 (frame-ancestors) and RFC 7034.
"""

import base64
import hashlib
import json
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from thistlequartz.server.jobs import tasks
from thistlequartz.server.links.models import FormLink, LinkUse, SolvedPuzzle
from thistlequartz.server.people.guests import GUEST
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.models import Record

from .conftest import BLOCK, SMALL_THING, Caller, released_with

pytestmark = pytest.mark.django_db
RULES = (
    {"kind": "mandatory", "key": "graded", "targets": ["grade"],
     "severity": {"entry": "none", "save": "warn", "submit": "block"}},
    {"kind": "mandatory", "key": "noted", "targets": ["note"], "name": "Links note",
     "scope": {"entry_points": ["link"]}, "severity": BLOCK},
    {"kind": "cross_field", "key": "clerks", "targets": ["note"], "must": 'note != "x"',
     "scope": {"roles": ["clerk"]}, "severity": BLOCK},
)  # fmt: skip
GOOD = {"mark": "New", "note": "x", "grade": "a"}


@pytest.fixture(scope="module")
def at(for_the_file):
    released_with(*RULES)
    return SMALL_THING


def made(steward, at, **parts):
    entry = {"name": "Open day", "puzzle": False, "origins": [], "endings": [], **parts}
    answer = steward.post(f"{at}/links", entry)
    assert answer.status_code == 201, answer.content
    return answer.json()


class Visitor:
    """Somebody with a link, and nothing else."""

    def __init__(self, key):
        self.key = key
        self.at = f"/api/v1/links/{key}"
        self.client = Client(enforce_csrf_checks=True, raise_request_exception=False)

    def call(self, path="", body=None):
        answer = (
            self.client.get(f"{self.at}{path}")
            if body is None
            else self.client.post(f"{self.at}{path}", json.dumps(body), "application/json")
        )
        return answer.status_code, answer.json()

    def submit(self, values, **more):
        return self.call("/records", {"values": values, **more})

    def solution(self):
        code, puzzle = self.call("/puzzle")
        assert code == 200
        for number in range(puzzle["maxNumber"] + 1):
            tried = f"{puzzle['salt']}{number}".encode()
            if hashlib.sha256(tried).hexdigest() == puzzle["challenge"]:
                told = {**puzzle, "number": number}
                return base64.b64encode(json.dumps(told).encode()).decode()
        raise AssertionError


def test_form_of_a_link_is_filled_in_by_the_rules_of_links(steward, at, draft):
    visitor = Visitor(made(steward, at)["key"])
    code, form = visitor.call()
    assert (code, form["name"], [one["key"] for one in form["fields"]]) == (
        200, "Small thing", ["mark", "note", "grade"],
    )  # fmt: skip
    code, told = visitor.call("/judge", {"values": {"mark": "New"}})
    violated = {one["rule"] for one in told["submit"]["results"] if one["status"] == "violated"}
    assert violated == {"graded", "noted"}
    code, problem = visitor.submit({"mark": "New"})
    assert (code, problem["type"]) == (422, "urn:thistlequartz:problem:blocked")
    code, said = visitor.submit(GOOD)
    assert (code, said["next_page"]) == (201, "")
    record = Record.objects.get(form=draft, values__mark="New")
    assert (record.state, record.submitted_by.username) == ("submitted", GUEST)
    assert visitor.client.cookies == {}
    acts = steward.get(f"{at}/history").json()["acts"]
    assert any("Somebody with a link" in str(one) for one in acts)


def test_nobody_is_the_one_who_comes_by_a_link(steward, at):
    Visitor(made(steward, at)["key"]).submit(GOOD)
    assert GUEST not in [one["name"] for one in steward.get("/api/v1/people").json()]
    assert GUEST not in [one["name"] for one in steward.get("/api/v1/colleagues").json()]
    assert (
        steward.post(f"/api/v1/people/{GUEST}/password", {"password": "long enough 77"}).status_code
        == 404
    )
    assert Caller().post("/api/v1/session", {"name": GUEST, "password": ""}).status_code == 422


def test_what_comes_by_a_link_is_returned_to_somebody_who_is_here(steward, at, draft):
    Visitor(made(steward, at)["key"]).submit(GOOD)
    record = Record.objects.get(form=draft, values__mark="New")
    approver = Caller("approver")
    body = {"act": "return", "remark": "Which?",
            "records": [{"number": record.number, "revision": record.revision}]}  # fmt: skip
    (done,) = approver.post(f"{at}/decisions", body).json()
    assert not done["done"]
    assert "Somebody with a link" in done["why_not"]
    (done,) = approver.post(f"{at}/decisions", {**body, "to": "clerk"}).json()
    assert done["done"]


def test_the_answer_is_the_first_whose_condition_is_met_with_its_values(steward, at):
    link = made(steward, at, endings=[
        {"condition": 'grade = "A"', "text": "{mark} is great.", "next_page": "https://example.org/a"},
        {"condition": 'note = "x"', "text": "Thank you for {mark}, a {grade}."},
        {"text": "Otherwise."},
    ])  # fmt: skip
    visitor = Visitor(link["key"])
    assert visitor.submit(GOOD)[1] == {"text": "Thank you for New, a Small a.", "next_page": ""}
    said = visitor.submit({**GOOD, "grade": "A"})[1]
    assert said == {"text": "New is great.", "next_page": "https://example.org/a"}
    assert visitor.submit({**GOOD, "note": "y"})[1]["text"] == "Otherwise."


def test_the_puzzle_is_solved_once_for_its_own_link_and_in_time(steward, at, draft):
    visitor = Visitor(made(steward, at, puzzle=True)["key"])
    before = Record.objects.count()
    deep = base64.b64encode(b"[" * 1_490).decode()
    for solution in ("", "x", "bm90aGluZw==", base64.b64encode(b"[1]").decode(), "é", deep):
        assert visitor.submit(GOOD, solution=solution)[0] == 422
    other = Visitor(made(steward, at, puzzle=True)["key"]).solution()
    assert visitor.submit(GOOD, solution=other)[0] == 422
    solution = visitor.solution()
    assert visitor.submit({"mark": "x"}, solution=solution)[0] == 422  # by a rule: it counts still
    assert visitor.submit(GOOD, solution=solution)[0] == 201
    written_otherwise = json.dumps({**json.loads(base64.b64decode(solution)), "more": 1}, indent=1)
    otherwise = base64.b64encode(written_otherwise.encode()).decode()
    assert visitor.submit(GOOD, solution=otherwise)[0] == 422
    code, problem = visitor.submit(GOOD, solution=solution)
    assert (code, problem["title"]) == (422, "This solution of the puzzle has been used before.")
    assert Record.objects.count() == before + 1
    assert SolvedPuzzle.objects.count() == 1


def test_a_solution_too_old_does_not_count(steward, at, monkeypatch):
    monkeypatch.setattr("thistlequartz.server.links.puzzles.COUNTS_FOR", timedelta(seconds=-1))
    visitor = Visitor(made(steward, at, puzzle=True)["key"])
    assert visitor.submit(GOOD, solution=visitor.solution())[0] == 422


def test_a_link_closes_by_its_day_its_number_and_by_hand(steward, at):
    few = made(steward, at, most=1)
    visitor = Visitor(few["key"])
    assert visitor.submit(GOOD, idempotency_key="once")[0] == 201
    assert (
        visitor.submit(GOOD, idempotency_key="once")[0] == 201
    )  # it has arrived, and is not stored twice
    assert Record.objects.filter(values__mark="New").count() == 1
    code, problem = visitor.submit(GOOD)
    assert (code, problem["title"]) == (410, "As many answers as were wanted have come in.")
    today = made(steward, at, last_day=str(timezone.now().date() - timedelta(days=2)))
    assert Visitor(today["key"]).call()[0] == 410
    one = made(steward, at)
    assert steward.send("DELETE", f"{at}/links/{one['id']}", {}).status_code == 204
    assert Visitor(one["key"]).call("/judge", {"values": {}})[0] == 410
    assert Visitor("no-such-link").call()[0] == 404


def test_what_is_sent_again_after_a_lost_connection_is_stored_once(steward, at, draft):
    visitor = Visitor(made(steward, at)["key"])
    said = [visitor.submit(GOOD, idempotency_key="mark-1") for _ in range(2)]
    assert said[0] == said[1]
    assert Record.objects.filter(form=draft, values__mark="New").count() == 1
    assert FormLink.objects.get(key=visitor.key).taken == 1


def test_a_link_used_too_often_in_a_minute_says_so_and_others_go_on(steward, at):
    link = FormLink.objects.get(pk=made(steward, at)["id"])
    visitor = Visitor(link.key)
    assert visitor.submit({})[0] == 422
    LinkUse.objects.filter(use="submit", who="").update(count=10_000)
    code, problem = visitor.submit(GOOD)
    assert (code, problem["type"]) == (429, "urn:thistlequartz:problem:too-often")
    assert visitor.call("/judge", {"values": {}})[0] == 200
    assert Visitor(made(steward, at)["key"]).submit(GOOD)[0] == 201


def test_only_named_origins_may_show_the_form_inside_their_pages(steward, at):
    named = made(steward, at, origins=["https://www.example.org/", "http://127.0.0.1:8123"])
    closed = made(steward, at)
    anybody = Client()
    answer = anybody.get(f"/embed/{named['key']}")
    policy = dict(one.strip().split(" ", 1) for one in answer["Content-Security-Policy"].split(";"))
    assert policy["frame-ancestors"] == "https://www.example.org http://127.0.0.1:8123"
    assert policy["default-src"] == "'self'"
    assert "X-Frame-Options" not in answer
    for address in (f"/fill/{named['key']}", f"/embed/{closed['key']}", "/embed/none", "/forms"):
        answer = anybody.get(address)
        assert "frame-ancestors 'none'" in answer["Content-Security-Policy"]
        assert answer["X-Frame-Options"] == "DENY"


@pytest.mark.parametrize(
    ("parts", "place"),
    [
        ({"origins": ["*"]}, "origins.0"),
        ({"origins": ["https://example.org/page"]}, "origins.0"),
        ({"origins": ["https://example.org; script-src *"]}, "origins.0"),
        ({"origins": ["https://a b.example"]}, "origins.0"),
        ({"endings": [{"text": "", "next_page": ""}]}, "endings.0.text"),
        ({"endings": [{"next_page": "javascript:alert(1)"}]}, "endings.0.next_page"),
        ({"endings": [{"text": "{marc}"}]}, "endings.0.text"),
        ({"endings": [{"text": "x", "condition": "gone = 1"}]}, "endings.0.condition"),
        ({"layout": "none"}, "layout"),
        ({"name": " "}, "name"),
    ],
)
def test_a_link_that_cannot_be_made_is_refused_with_its_place(steward, at, parts, place):
    entry = {"name": "x", "puzzle": False, "origins": [], "endings": [], **parts}
    answer = steward.post(f"{at}/links", entry)
    assert answer.status_code == 422
    assert place in [one["place"] for one in answer.json()["errors"]]


def test_only_who_may_release_makes_links(clerk, at):
    entry = {"name": "x", "origins": [], "endings": []}
    assert clerk.post(f"{at}/links", entry).status_code == 403
    assert clerk.get(f"{at}/links").status_code == 403


def test_a_layout_decides_what_a_link_shows(steward, at, draft):
    view = steward.get(at).json()
    setup = {
        **view["setup"],
        "layouts": [{"key": "short", "label": "Short"}, {"key": "long", "label": "Long"}],
    }
    sent = {
        "name": view["name"], "purpose": view["purpose"], "revision": setup["revision"],
        **{key: setup[key] for key in ("zone", "derived_from", "sections", "layouts", "compounds", "starters")},
        "conditions": [],
    }  # fmt: skip
    sent["starters"] = []
    answer = steward.send("PUT", f"{at}/setup", sent)
    assert answer.status_code == 200, answer.content
    mark = next(one for one in answer.json()["fields"] if one["field"]["key"] == "mark")
    field = {**mark["field"], "layouts": ["long"]}
    body = {"field": field, "revision": mark["revision"]}
    assert steward.send("PUT", f"{at}/fields/mark", body).status_code == 200
    assert steward.release(at, "Layouts.").status_code == 201
    visitor = Visitor(made(steward, at, layout="short")["key"])
    told = visitor.call("/judge", {"values": {}})[1]
    assert told["entry"]["fields"]["mark"]["display"] == "hidden"
    assert Person.objects.filter(username=GUEST).count() <= 1


def test_uses_are_counted_by_address_and_by_minute_and_no_address_is_kept(steward, at):
    visitor = Visitor(made(steward, at)["key"])
    for _ in range(3):
        assert visitor.call("/judge", {"values": {}})[0] == 200
    kept = list(LinkUse.objects.filter(use="judge"))
    assert [one.count for one in kept] == [3, 3]
    (mark,) = [one.who for one in kept if one.who]
    assert len(mark) == 32
    LinkUse.objects.filter(who=mark).update(count=10_000)
    assert visitor.call("/judge", {"values": {}})[0] == 429
    other = Client(REMOTE_ADDR="192.0.2.7")
    answer = other.post(f"{visitor.at}/judge", json.dumps({"values": {}}), "application/json")
    assert answer.status_code == 200
    # A minute later nothing of it counts, and after an hour nothing of it is there.
    LinkUse.objects.update(minute=timezone.now() - timedelta(hours=2))
    assert visitor.call("/judge", {"values": {}})[0] == 200
    assert LinkUse.objects.filter(minute__lt=timezone.now() - timedelta(hours=1)).count() == 0


def test_a_link_is_changed_and_keeps_its_address_and_what_came_by_it(steward, at):
    link = made(steward, at)
    visitor = Visitor(link["key"])
    assert visitor.submit(GOOD)[0] == 201
    entry = {"name": "Open week", "intro": "Come in.", "puzzle": False, "origins": [], "endings": [],
             "most": 5, "last_day": "9999-12-31"}  # fmt: skip
    where, entry = f"{at}/links/{link['id']}", {**entry, "revision": link["revision"]}
    changed = steward.send("PUT", where, entry).json()
    late = steward.send("PUT", where, entry)
    assert (late.status_code, late.json()["revision"]) == (409, changed["revision"])
    assert (changed["key"], changed["taken"]) == (link["key"], 1)
    assert visitor.call()[1]["intro"] == "Come in."
    (listed,) = steward.get(f"{at}/links").json()["links"]
    assert listed["entry"]["name"] == "Open week"
    assert listed["closed"] == ""
    assert steward.send("PUT", f"{at}/links/999999", entry).status_code == 404


def test_unreadable_message_condition_is_not_met_and_blocks_nothing(steward, at):
    ending = {"condition": 'later = "x"', "text": "Never."}
    field = {"type": "text", "key": "later", "label": "Later"}
    assert steward.post(f"{at}/fields", {"field": field}).status_code == 201
    link = made(steward, at, endings=[ending, {"text": "All the same."}])
    assert Visitor(link["key"]).submit(GOOD)[1]["text"] == "All the same."


def test_before_a_release_a_link_opens_nothing(steward):
    made_form = steward.post("/api/v1/forms", {"name": "Unreleased", "purpose": ""}).json()
    link = made(steward, f"/api/v1/forms/{made_form['key']}")
    code, problem = Visitor(link["key"]).call()
    assert (code, problem["type"]) == (409, "urn:thistlequartz:problem:not-released")


@pytest.mark.parametrize(
    "body",
    [b"", b"[]", b'{"values": []}', b'{"values": {"gone": 1}}', b'{"values": {}, "extra": 1}',
     b'{"values": {"mark": "\\ud800"}}', b'{"values": {"mark": 1e400}}', b'{"values": {}, "values": {}}'],
)  # fmt: skip
def test_what_is_no_form_is_refused_as_everywhere(steward, at, body):
    visitor = Visitor(made(steward, at)["key"])
    for path in ("/judge", "/records"):
        answer = visitor.client.post(f"{visitor.at}{path}", body, "application/json")
        assert answer.status_code in (400, 422), answer.content
        assert answer.headers["content-type"] == "application/problem+json"


def test_deleted_form_takes_links_calls_and_messages_with_it(steward, clerk, at, draft):
    """Files, links, messages, calls, and reasons given: nothing holds a record of it back."""
    mild = {"entry": "none", "save": "warn", "submit": "warn"}
    rule = {"kind": "cross_field", "key": "why", "targets": ["mark"], "must": 'mark != "odd"',
            "reason_required": True, "severity": mild}  # fmt: skip
    assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    assert steward.release(at, "Reasons.").status_code == 201
    told = {"name": "Told", "message": {
        "occasions": ["saved", "submitted"], "to": [{"who": "role", "role": "steward"}],
        "subject": "{record}", "text": "{answers}"}}  # fmt: skip
    assert steward.post(f"{at}/messages", told).status_code == 201
    target = {"name": "Stand-in", "occasions": ["saved", "submitted"]}
    assert steward.post(f"{at}/call-targets", target).status_code == 201
    assert Visitor(made(steward, at)["key"]).submit(GOOD)[0] == 201
    file = clerk.send("POST", f"{at}/record-files?name=f.csv", b"mark,grade\none,a\n").json()
    run = clerk.post(f"{at}/record-files/{file['id']}/run", {"dry": False}).json()
    tasks.work.call(run["job"]["id"])
    odd = {"values": {"mark": "odd"}, "reasons": {"why": {"text": "It is."}}}
    assert clerk.post(f"{at}/records", odd).status_code == 201
    assert Record.objects.filter(form=draft).count() == 11
    answer = steward.post(f"{at}/removal", {"name": draft.name})
    assert answer.status_code == 204, answer.content
    assert not FormLink.objects.filter(form__key=draft.key).exists()
    assert steward.get(at).status_code == 404


OTHERS = (
    {"kind": "unique", "key": "marks", "targets": ["mark"], "severity": BLOCK},
    {"kind": "elsewhere", "key": "alike", "targets": ["note"], "no_other": "other.note = note",
     "severity": BLOCK},
    {"kind": "mandatory", "key": "of_it", "targets": ["grade"], "when": 'source.mark = "a"',
     "severity": BLOCK},
)  # fmt: skip
SOURCE = {"key": "source", "label": "Source", "type": "reference", "form": "small_thing",
          "held_allowed": False}  # fmt: skip


def test_what_others_hold_is_looked_at_on_submitting_alone_and_never_told(steward, db, draft):
    """Not by their numbers, nor by which of them are on hold, nor by why a rule says what it says."""
    released_with(*OTHERS, fields=[SOURCE])
    held = Record.objects.filter(form=draft).order_by("number").last()
    held.on_hold = True
    held.save()
    visitor = Visitor(made(steward, SMALL_THING)["key"])
    taken = {"mark": "Taken", "note": "one of them", "grade": "a"}
    assert visitor.submit(taken)[0] == 201

    def told(values):
        code, verdicts = visitor.call("/judge", {"values": values, "touched": [*values]})
        assert code == 200
        assert {one["reason"] for one in verdicts["submit"]["results"]} <= {""}
        return [
            verdicts[moment]["fields"] | {"": verdicts[moment]["outcome"]} for moment in verdicts
        ]

    def bare(fields):
        return [{key: one for key, one in moment.items() if key != "source"} for moment in fields]

    fresh = {"mark": "Z", "note": "another", "grade": "a"}
    here, there = ({**fresh, "source": number} for number in (str(held.number), "998"))
    assert bare(told(here)) == bare(told(there))
    assert told({**taken, "note": "other"})[2][""] == "clear"
    said = set()
    for number in (str(held.number), "998"):
        code, problem = visitor.submit({**fresh, "source": number})
        assert code == 422
        said.add(json.dumps(problem["errors"]).replace(number, "N"))
    assert len(said) == 1, said
    code, problem = visitor.submit({**taken, "note": "other"})
    assert code == 422
    assert "ecord" not in json.dumps(problem["errors"]), problem["errors"]
    assert {one["reason"] for one in problem["judgement"]["submit"]["results"]} == {""}


def test_many_names_that_nobody_knows_cost_next_to_nothing(steward, at):
    visitor = Visitor(made(steward, at)["key"])
    names = {f"{place:06d}{'x' * 30}": "" for place in range(5_000)}
    code, problem = visitor.call("/judge", {"values": names})
    assert code == 422
    assert len(problem["errors"]) == 21
    assert "4980 more names" in problem["errors"][-1]["message"]
