"""The history: found, told in words, exported, only ever added to, and checked by its chain."""

import ast
import csv
import gc
import hashlib
import json
from io import StringIO
from pathlib import Path

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext

from thistlequartz.core.values import WritingStyle
from thistlequartz.server import activity
from thistlequartz.server.activity.acts import ACTS
from thistlequartz.server.activity.chain import check_chains
from thistlequartz.server.activity.descriptions import NameCache
from thistlequartz.server.activity.descriptions import told as told_in_words
from thistlequartz.server.activity.export import history_lines
from thistlequartz.server.activity.models import AuditEntry, Unchangeable
from thistlequartz.server.activity.search import HistoryQuery
from thistlequartz.server.activity.search import acts as acts_found
from thistlequartz.server.activity.services import log
from thistlequartz.server.long_answers import MOST_AT_ONCE

from .conftest import FORM, Caller, save

pytestmark = pytest.mark.django_db
RULE = {
    "kind": "range",
    "key": "marks",
    "name": "Marks are short",
    "targets": ["mark"],
    "upper": {"value": "9"},
    "severity": {"save": "warn"},
}


@pytest.fixture
def at(draft):
    return f"/api/v1/forms/{draft.key}"


def acts(caller, at, **asked):
    query = "&".join(f"{name}={value}" for name, value in asked.items())
    return caller.get(f"{at}/history?{query}").json()["acts"]


def test_acts_are_found_by_who_what_when_and_words(steward, clerk, at):
    assert {one["person"] for one in acts(steward, at)} == {"Odile Farrowby", "Tamsin Oke"}
    mine = acts(steward, at, person="clerk")
    assert {one["act"] for one in mine} == {"save record"}
    assert len(acts(steward, at, act="add field")) == 3
    (grade,) = acts(steward, at, act="add field", text="Gra")
    assert grade["subject"] == "Grade"
    assert acts(steward, at, until="2020-01-01") == []
    assert len(acts(steward, at, since="2020-01-01")) == len(acts(steward, at))
    assert steward.get(f"{at}/history?since=soon").status_code == 422
    page = steward.get(f"{at}/history").json()
    assert page["length"] == AuditEntry.objects.filter(form_key=at.rpartition("/")[2]).count()
    oldest = page["acts"][-1]["id"]
    assert steward.get(f"{at}/history?before={oldest}").json()["acts"] == []


def test_what_an_act_changed_stands_in_words(steward, clerk, at):
    noted = {"kind": "mandatory", "key": "noted", "name": "Noted", "targets": ["note"],
             "severity": {"save": "warn"}}  # fmt: skip
    steward.post(f"{at}/rules", {"rule": noted})
    harder = {"rule": {**noted, "severity": {"save": "block"}, "targets": ["mark"]}, "revision": 1}
    assert steward.send("PUT", f"{at}/rules/noted", harder).status_code == 200
    change, added = acts(steward, at)[:2]
    assert {"what": "on saving", "before": "warns", "after": "blocks"} in change["details"]
    said = {"what": "what it says", "before": "Note is required.", "after": "Mark is required."}
    assert said in change["details"]
    assert {"what": "what it says", "before": "", "after": "Note is required."} in added["details"]
    number = save(clerk, at, mark="old")
    body = {"values": {"mark": "new", "grade": "a"}, "revision": 1}
    assert clerk.send("PUT", f"{at}/records/{number}", body).status_code == 200
    (changed, *_) = acts(steward, at, act="save record")
    assert changed["details"] == [
        {"what": "Mark", "before": "old", "after": "new"},
        {"what": "Grade", "before": "", "after": "Small a"},
    ]


def test_every_sort_of_act_on_the_demos_forms_can_be_told(steward):
    """Orders of rules and fields, plan lines, shared lists, settings and cases among them."""
    view = steward.get(FORM).json()
    fields = [one["field"]["key"] for one in view["fields"]][::-1]
    rules = [one["rule"]["key"] for one in view["rules"]][::-1]
    line = {"text": "Every plant has a name.", "rules": [], "cases": []}
    cases = steward.get(f"{FORM}/cases").json()["cases"]
    case = {"case": {**cases[0]["case"], "why": "Otherwise."}, "revision": cases[0]["revision"]}
    sent = (
        ("PUT", "field-order", {"keys": fields}),
        ("PUT", "rule-order", {"keys": rules}),
        ("POST", "plan", line),
        ("PUT", f"cases/{cases[0]['key']}", case),
        ("POST", "undo", {}),
        ("POST", "redo", {}),
    )
    for method, address, body in sent:
        answer = steward.send(method, f"{FORM}/{address}", body)
        assert answer.status_code < 300, (address, answer.content)
    told = {one["act"]: one for one in acts(steward, FORM)}
    assert told["order fields"]["details"][0]["what"] == "order"
    assert told["order rules"]["details"][0]["after"].startswith(view["rules"][-1]["called"][:5])
    assert {"what": "why it is there", "before": "nothing", "after": "Otherwise."} in [
        {**one, "before": "nothing"} for one in told["change case"]["details"]
    ]
    known = NameCache()
    for act in AuditEntry.objects.all():
        assert told_in_words(act, WritingStyle(), known) is not None


def test_every_act_that_is_logged_has_words_and_reads_as_a_sentence(steward, clerk, at):
    """The codes are read from the source: whatever logs an act names it there."""
    named = {"log", "put", "_put", "_decided", "_stored", "HistoryEntry"}
    codes = set()
    for path in Path(activity.__file__).parent.parent.rglob("*.py"):
        calls = [one for one in ast.walk(ast.parse(path.read_text())) if isinstance(one, ast.Call)]
        for call in calls:
            name = getattr(call.func, "id", getattr(call.func, "attr", ""))
            texts = [one.value for one in call.args if isinstance(one, ast.Constant)]
            if name in named:
                codes |= {one for one in texts if isinstance(one, str) and " " in one}
    assert {"add rule", "lift hold", "make token", "send record back"} <= codes
    assert codes <= set(ACTS)
    sentences = [one["sentence"] for one in acts(steward, at)]
    assert "Odile Farrowby added the field “Grade”." in sentences
    assert "Tamsin Oke saved record 1." in sentences
    assert all(one.endswith(".") for one in sentences)
    assert acts(steward, at, text="added the field") == acts(steward, at, act="add field")
    with pytest.raises(ValueError, match="no words for the act 'wave at'"):
        log(None, "wave at", at, "X")


def test_undoing_is_an_act_of_its_own_and_says_so_of_the_first(steward, at):
    steward.post(f"{at}/fields", {"field": {"type": "text", "key": "more", "label": "More"}})
    steward.post(f"{at}/undo", {})
    undone, added = acts(steward, at)[:2]
    assert (undone["act"], added["act"], added["taken_back"]) == ("undo", "add field", True)


def test_history_cannot_be_changed_and_tampering_is_found(steward, at):
    first = AuditEntry.objects.filter(form_key=at.rpartition("/")[2]).last()
    with pytest.raises(Unchangeable):
        first.save()
    with pytest.raises(Unchangeable):
        first.delete()
    with pytest.raises(Unchangeable):
        AuditEntry.objects.filter(pk=first.pk).update(subject="Nothing")
    with pytest.raises(Unchangeable):
        AuditEntry.objects.filter(pk=first.pk).delete()
    assert list(check_chains()) == []


@pytest.mark.parametrize(
    ("sql", "says"),
    [
        (
            "UPDATE activity_auditentry SET subject = 'Another' WHERE id = %s",
            "not as it was written",
        ),
        ("UPDATE activity_auditentry SET at = NOW() WHERE id = %s", "not as it was written"),
        ("DELETE FROM activity_auditentry WHERE id = %s", "missing"),
    ],
)
@pytest.mark.parametrize("place", [1, 2, -1])
def test_a_hand_in_the_database_is_found_by_the_command(steward, at, sql, says, place, capsys):
    key = at.rpartition("/")[2]
    chain = list(AuditEntry.objects.filter(form_key=key).order_by("place"))
    call_command("check_history")
    assert "The history is whole" in capsys.readouterr().out
    act = chain[place]
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM activity_undostate WHERE entry_id = %s", [act.pk])
        cursor.execute(sql, [act.pk])
    with pytest.raises(CommandError):
        call_command("check_history")
    told = capsys.readouterr().err
    assert says in told
    assert key in told


def test_the_file_lets_anybody_follow_the_chain(steward, at):
    """By hand: SHA-256 (FIPS 180-4, hashlib) over canonical JSON, each behind the one before."""
    answer = steward.get(f"{at}/history-file")
    text = b"".join(answer.streaming_content).decode().removeprefix("\N{ZERO WIDTH NO-BREAK SPACE}")
    rows = list(csv.DictReader(StringIO(text)))
    former = ""
    for row, act in zip(
        reversed(rows),
        AuditEntry.objects.filter(form_key=at.rpartition("/")[2]).order_by("place"),
        strict=True,
    ):
        told = [former, row["When (UTC)"], row["Who"], row["Act"], act.form_key, row["Of"],
                row["Why"], act.before, act.after, act.part, act.part_key, act.position,
                act.batch, int(row["Place"])]  # fmt: skip
        text = json.dumps(told, sort_keys=True, separators=(",", ":"))
        former = hashlib.sha256(text.encode()).hexdigest()
        assert former == row["Hash"]
    assert steward.get(f"{at}/history").json()["head_hash"] == former


def test_accounts_have_a_history_of_their_own(steward, clerk):
    body = {"shown_name": "Tamsin Oke", "role": "approver", "open": True}
    assert steward.send("PUT", "/api/v1/people/clerk", body).status_code == 200
    (newest, *_) = steward.get("/api/v1/people-log").json()["acts"]
    assert {"what": "role", "before": "clerk", "after": "approver"} in newest["details"]
    assert clerk.get("/api/v1/people-log-file").status_code == 403
    assert clerk.get(f"{FORM}/history-file").status_code == 200
    assert Caller("steward").get("/api/v1/people-log-file").status_code == 200


def test_a_long_history_asks_the_database_next_to_nothing_for_each_act(steward, at):
    """So that twenty thousand acts take seconds, and one thread of those that answer."""
    for place in range(12):
        field = {"type": "text", "key": f"more{place}", "label": f"More {place}"}
        assert steward.post(f"{at}/fields", {"field": field}).status_code == 201
    few, all_ = (HistoryQuery("small_thing", text=text) for text in ("More 1", ""))
    counts = []
    for asked in (few, all_):
        with CaptureQueriesContext(connection) as queries:
            lines = list(history_lines(acts_found(asked), WritingStyle()))
        counts.append((len(lines), len(queries)))
    assert counts[1][0] > counts[0][0] + 8
    assert counts[1][1] <= counts[0][1] + 4


def test_no_more_than_a_few_files_are_sent_at_once_and_room_is_given_back(steward, at):
    address = f"{at}/record-file"
    gc.collect()
    slow = [steward.client.get(address) for _ in range(MOST_AT_ONCE)]
    assert {one.status_code for one in slow} == {200}
    refused = steward.client.get(address)
    assert (refused.status_code, refused.json()["title"]) == (
        503, "Several files are being sent just now.",
    )  # fmt: skip
    b"".join(slow.pop().streaming_content)
    slow.append(steward.client.get(address))
    assert slow[-1].status_code == 200
    for one in slow:
        one.close()
