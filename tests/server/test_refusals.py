"""Bad input and missing rights: a clear 4xx with the place and the remedy, and nothing changed."""

import json

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.demo.names import PASSWORD
from thistlequartz.server.forms.models import DraftCase, DraftForm, DraftRule
from thistlequartz.server.records.models import Record

from .conftest import FORM, Caller, demand

pytestmark = pytest.mark.django_db


def state():
    return (
        list(DraftForm.objects.values_list("revision", flat=True)),
        list(DraftRule.objects.values_list("revision", flat=True)),
        Record.objects.count(),
        list(DraftCase.objects.values_list("key", "revision")),
    )


MAY = {
    ("GET", "/api/v1/forms"): {"steward", "clerk", "approver", "reader"},
    ("GET", f"{FORM}/records"): {"steward", "clerk", "approver", "reader"},
    ("POST", f"{FORM}/bench"): {"steward", "approver"},
    ("POST", f"{FORM}/records"): {"steward", "clerk", "approver"},
    ("POST", f"{FORM}/rules"): {"steward"},
    ("POST", f"{FORM}/fields"): {"steward"},
    ("POST", f"{FORM}/releases"): {"steward"},
    ("PATCH", f"{FORM}/rules"): {"steward"},
    ("POST", f"{FORM}/rule-removal"): {"steward"},
    ("POST", f"{FORM}/undo"): {"steward"},
    ("POST", f"{FORM}/bench/rule"): {"steward"},
    ("POST", f"{FORM}/plan"): {"steward"},
    ("POST", "/api/v1/profiles"): {"steward"},
    ("GET", f"{FORM}/bench"): {"steward", "approver"},
    ("POST", f"{FORM}/bench/ways"): {"steward", "approver"},
    ("GET", f"{FORM}/cases"): {"steward", "approver"},
    ("GET", f"{FORM}/proof"): {"steward", "approver"},
    ("GET", f"{FORM}/case-file"): {"steward", "approver"},
    ("POST", f"{FORM}/cases"): {"steward"},
    ("POST", f"{FORM}/case-removal"): {"steward"},
    ("POST", f"{FORM}/case-file"): {"steward"},
    ("POST", f"{FORM}/cases/good_sheet/accept"): {"steward"},
}
BODIES = {
    "bench": {"values": {}},
    "ways": {"moment": "save", "request": {"values": {}}},
    "cases": {"name": "Tried", "request": {"values": {}}},
    "case-removal": {"cases": [{"key": "good_sheet", "revision": 1}]},
    "case-file": {"name": "cases.json", "text": "{}"},
    "accept": {"revision": 1, "why": "It is right."},
    "records": {"values": {}},
    "rules": {"rule": demand()},
    "rule-removal": {"rules": [{"key": "name_given", "revision": 1}]},
    "rule": {"rule": demand(), "values": {}},
    "plan": {"text": "Every plant has a name."},
    "profiles": {"text": "a,b"},
    "fields": {"field": {"type": "text", "key": "remarks", "label": "Remarks"}},
    "releases": {"note": "A note.", "knowing": ""},
}


@pytest.mark.parametrize(("method", "address"), MAY)
def test_each_role_may_do_what_it_is_for_and_no_more(anyone, method, address):
    role = anyone.get("/api/v1/session").json()["role"]
    before = state()
    body = BODIES.get(address.rsplit("/", 1)[-1], {})
    if method == "PATCH":
        body = {"rules": [{"key": "name_given", "revision": 1, "enabled": False}]}
    answer = anyone.get(address) if method == "GET" else anyone.send(method, address, body)
    if role in MAY[method, address]:
        assert answer.status_code != 403
    else:
        assert answer.status_code == 403
        assert f"Your role, {role}, may not" in answer.json()["title"]
        assert "Ask somebody who is a steward" in answer.json()["detail"]
        assert state() == before


def test_nobody_gets_in_without_signing_in_or_with_a_wrong_password(db):
    stranger = Caller()
    assert stranger.get("/api/v1/forms").status_code == 401
    wrong = stranger.post("/api/v1/session", {"name": "steward", "password": "guess"})
    assert (wrong.status_code, wrong.json()["title"]) == (
        422,
        "The name and the password do not go together.",
    )


def test_a_name_tried_too_often_must_wait(db):
    stranger = Caller()
    for _ in range(8):
        last = stranger.post("/api/v1/session", {"name": "reader", "password": "guess"})
    assert last.status_code == 429
    right = stranger.post("/api/v1/session", {"name": "reader", "password": PASSWORD})
    assert right.status_code == 429


def test_a_call_without_the_page_s_token_is_refused(steward):
    steward.token = "forged"
    before = state()
    assert steward.post(f"{FORM}/rules", {"rule": demand()}).status_code == 403
    assert state() == before
    stranger = Caller()
    stranger.token = ""
    body = {"name": "steward", "password": PASSWORD}
    assert stranger.post("/api/v1/session", body).status_code == 403


RULES, BENCH, RECORDS = f"{FORM}/rules", f"{FORM}/bench", f"{FORM}/records"
DEEP = b'{"values":' + b"[" * 100_000 + b"]" * 100_000 + b"}"
DEPTH = {"type": "whole_number", "key": "depth", "label": "Depth"}
BAD = [
    (BENCH, {"values": {"latitud": "5"}}, 422, "values.latitud", "“latitude”"),
    (BENCH, {"values": {"latitude": [1]}}, 422, "values.latitude", ""),
    (BENCH, {"values": []}, 422, "values", "between { and }"),
    (BENCH, {"valves": {}}, 422, "values", "Add it"),
    (BENCH, b'{"values": {', 400, "", "column"),
    (BENCH, b'{"values": {"latitude": NaN}}', 400, "", "NaN"),
    (BENCH, b'{"values": {}, "values": {}}', 400, "", "twice"),
    (BENCH, b"\xff\xfe", 400, "", "UTF-8"),
    (BENCH, b"", 422, "", "Add it"),
    (BENCH, DEEP, 400, "", "inside one another"),
    (BENCH, {"values": {"reason_withheld": "x" * 1_000_001}}, 413, "", "1 MB"),
    (RECORDS, {"values": {"zzz": "red"}}, 422, "values.zzz", "Remove it"),
    (RULES, {"rule": demand(targets=["gone"])}, 422, "targets.0", "Choose a field"),
    (RULES, {"rule": demand(targets=["determined_buy"])}, 422, "targets.0", "“determined_by”"),
    (RULES, {"rule": demand(when='type_status = "holo"')}, 422, "when", "“holotype”"),
    (RULES, {"rule": demand(when="type_status =")}, 422, "when", "Expected here"),
    (RULES, {"rule": demand(kind="colour")}, 422, "rule", "Use 'mandatory'"),
    (RULES, {"rule": demand(shade="dark")}, 422, "rule.mandatory.shade", "Remove it"),
    (RULES, {"rule": demand(key="name_given")}, 409, "key", "another key"),
    (RULES, {"rule": demand(name="\ud800")}, 400, "rule.name", "half a character"),
    (RULES, {"rule": demand(why="a\x00b")}, 400, "rule.why", "NUL"),
    (BENCH, {"values": {"reason_withheld": "\ud800"}}, 400, "values.reason_withheld", "half"),
    (BENCH, b'{"values": {"latitude": 1e400}}', 400, "", "beyond"),
    (BENCH, b'{"values": {"latitude": ' + b"9" * 5_000 + b"}}", 400, "", "digits"),
    (f"{BENCH}?releese=1", {"values": {}}, 422, "releese", "Remove it"),
    (BENCH, {"values": {}, "off": ["no_such_rule"]}, 422, "off.no_such_rule", "Remove it"),
    (BENCH, {"values": {}, "touched": ["latitud"]}, 422, "touched.latitud", "“latitude”"),
    (BENCH, {"values": {}, "event": "update", "stored": {"zz": 1}}, 422, "stored.zz", "Remove"),
    (BENCH, {"values": {}, "reasons": {"zz": {"text": "x"}}}, 422, "reasons.zz", "Remove it"),
    (BENCH, {"values": {}, "proposals_applied": ["zz"]}, 422, "proposals_applied.zz", "Remove it"),
    (BENCH, {"values": {}, "layout": "zz"}, 422, "layout", "Choose"),
    (BENCH, {"values": {}, "case": "zz"}, 404, "", ""),
    (
        f"{BENCH}/map",
        {"request": {"values": {}}, "across": "latitude", "up": "latitude"},
        422,
        "up",
        "another",
    ),
    (RECORDS, {"values": {}, "reasons": {"zz": {"text": "x"}}}, 422, "reasons.zz", "Remove it"),
    (
        RULES,
        {"rule": demand(severity={"save": "shout"})},
        422,
        "rule.mandatory.severity.save",
        "Use",
    ),
    (f"{FORM}/releases", {"note": "x", "knowing": ""}, 422, "note", "3"),
    (
        "/api/v1/forms",
        {"name": "X", "fields": [DEPTH], "rules": [demand(targets=["gone"])]},
        422,
        "rules.holotypes.targets.0",
        "Choose a field",
    ),
    ("/api/v1/forms", {"name": "X", "fields": [DEPTH, DEPTH]}, 422, "", "Correct"),
    (
        "/api/v1/forms",
        {
            "name": "X",
            "fields": [DEPTH],
            "rules": [demand(targets=["depth"], when='depth = "deep"')],
        },
        422,
        "rules.holotypes.when",
        "without quotation marks",
    ),
    ("/api/v1/forms/gone/bench", {"values": {}}, 404, "", "list"),
    ("/api/v1/nowhere", {}, 404, "", "openapi"),
]


@pytest.mark.parametrize(("address", "body", "status", "place", "remedy"), BAD)
def test_bad_input_is_told_with_its_place_and_remedy(steward, address, body, status, place, remedy):
    before = state()
    answer = steward.post(address, body)
    assert answer.status_code == status, answer.content[:300]
    assert answer["content-type"] == "application/problem+json"
    told = answer.json()
    assert told["status"] == status
    error = (told["errors"] or [{"place": "", "message": "", "remedy": ""}])[0]
    assert error["place"].startswith(place)
    assert remedy in f"{told['detail']} {error['message']} {error['remedy']}"
    assert state() == before


ANYTHING = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats(allow_nan=False) | st.text(),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3),
)
ADDRESSES = st.sampled_from(
    [
        *(BENCH, RECORDS, RULES, f"{RULES}/read", f"{FORM}/rule-copies/read", f"{FORM}/fields"),
        *(f"{FORM}/plan", f"{BENCH}/rule", f"{FORM}/recipes/other_text/read", "/api/v1/profiles"),
        *(f"{FORM}/{one}" for one in ("cases", "case-file", "drafted-cases", "case-removal")),
        *(f"{BENCH}/{one}" for one in ("band", "map", "ways", "trace", "changes")),
    ]
)


@settings(max_examples=few(100), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    ADDRESSES,
    ANYTHING,
    st.sampled_from(
        ["values", "rule", "field", "clauses", "answers", "text", "attempt", "cases", ""]
    ),
)
def test_whatever_is_sent_nothing_is_ever_a_server_error(steward, address, body, name):
    sent = json.dumps({name: body} if name else body).encode()
    assert steward.post(address, sent).status_code < 500
