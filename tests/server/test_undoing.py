"""Undo gives the earlier document exactly, order included, and is never refused to who works alone."""

import random

import pytest

from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import form_document, get_draft
from thistlequartz.server.people.models import Person

from .conftest import BLOCK, SMALL_THING

pytestmark = pytest.mark.django_db
ACTS = 60


def state():
    draft = get_draft("small_thing")
    cases = list(draft.case_rows.values_list("key", "document"))
    lines = list(draft.plan_rows.values_list("key", "document"))
    return form_document(draft).model_dump(mode="json"), cases, lines


class Walk:
    """A steward at work, drawn at random."""

    def __init__(self, steward, seed):
        self.steward, self.rng, self.made = steward, random.Random(seed), 0

    def act(self):
        """One act; its answer."""
        self.made += 1
        draft = get_draft("small_thing")
        rules = {one.key: one.revision for one in draft.rule_rows.all()}
        fields = {one.key: one for one in draft.field_rows.all()}
        name = f"x{self.made}"
        rule = {"kind": "mandatory", "key": name, "name": name, "targets": ["note"]}
        ways = [
            lambda: self.post("rules", {"rule": rule, "position": self.rng.randint(0, 9)}),
            lambda: self.post("rules", {"rule": rule}),
            lambda: self.post(
                "fields",
                {"field": {"type": "text", "key": name, "label": name},
                 "position": self.rng.randint(0, 5)},
            ),
            lambda: self.post("cases", {"name": name, "request": {"values": {"mark": "a"}}}),
            lambda: self.post("plan", {"text": name}),
        ]  # fmt: skip
        if rules:
            some = self.rng.sample(sorted(rules), self.rng.randint(1, min(3, len(rules))))
            removed = {"rules": [{"key": key, "revision": rules[key]} for key in some]}
            order = self.rng.sample(sorted(rules), len(rules))
            first = some[0]
            changed = {"kind": "mandatory", "key": first, "name": name, "targets": ["mark"]}
            ways += [
                lambda: self.post("rule-removal", removed),
                lambda: self.steward.send("PUT", f"{SMALL_THING}/rule-order", {"keys": order}),
                lambda: self.steward.send(
                    "PUT",
                    f"{SMALL_THING}/rules/{first}",
                    {"rule": changed, "revision": rules[first]},
                ),
            ]
        mark = fields["mark"]
        renamed = {**mark.document, "label": name}
        ways.append(
            lambda: self.steward.send(
                "PUT", f"{SMALL_THING}/fields/mark", {"field": renamed, "revision": mark.revision}
            )
        )
        return self.rng.choice(ways)()

    def post(self, at, body):
        return self.steward.post(f"{SMALL_THING}/{at}", body)


@pytest.mark.parametrize("seed", range(3))
def test_undo_and_redo_give_the_documents_of_before(steward, draft, seed):
    walk, states, done = Walk(steward, seed), [state()], 0
    for _ in range(ACTS):
        answer = walk.act()
        assert answer.status_code < 500, answer.content
        if answer.status_code < 300 and state() != states[-1]:
            states.append(state())
            done += 1
    assert done > ACTS / 3
    for earlier in reversed(states[:-1]):
        undone = steward.post(f"{SMALL_THING}/undo", {})
        assert undone.status_code == 200, undone.content
        assert state() == earlier
    for later in states[1:]:
        assert steward.post(f"{SMALL_THING}/redo", {}).status_code == 200
        assert state() == later


def test_a_position_is_a_place(steward, draft):
    for key, position in (("one", None), ("two", None), ("three", 0), ("four", 1)):
        rule = {"kind": "mandatory", "key": key, "name": key, "targets": ["note"]}
        body = {"rule": rule} if position is None else {"rule": rule, "position": position}
        assert steward.post(f"{SMALL_THING}/rules", body).status_code == 201
    keys = [one["rule"]["key"] for one in steward.get(SMALL_THING).json()["rules"]]
    assert keys == ["three", "four", "one", "two"]


def in_format_1(rule):
    """A rule as the version before December 2026 wrote it."""
    earlier = {
        "enabled": "on",
        "confirmation": "acknowledged",
        "reason_required": "reason_demanded",
    }
    old = {earlier.get(name, name): value for name, value in rule.items()}
    severity = {at: "off" if hard == "none" else hard for at, hard in rule["severity"].items()}
    return {**old, "severity": severity}


def test_act_of_format_1_is_told_and_undone(steward, draft):
    rule = {"kind": "mandatory", "key": "marked", "targets": ["mark"], "severity": BLOCK}
    now = steward.post(f"{SMALL_THING}/rules", {"rule": rule}).json()["rule"]
    before = {**now, "severity": {"entry": "none", "save": "warn", "submit": "none"}}
    log(
        Person.objects.get(username="steward"),
        "change rule",
        "small_thing",
        "Marked",
        before=in_format_1(before),
        after=in_format_1(now),
        part="rule",
        part_key="marked",
        batch="earlier",
    )
    (act, *_) = steward.get(f"{SMALL_THING}/history").json()["acts"]
    assert [(one["before"], one["after"]) for one in act["details"]] == [
        ("warns", "blocks"), ("says nothing", "blocks")
    ]  # fmt: skip
    assert steward.post(f"{SMALL_THING}/undo", {}).status_code == 200
    (view,) = [
        one for one in steward.get(SMALL_THING).json()["rules"] if one["rule"]["key"] == "marked"
    ]
    assert view["rule"]["severity"] == before["severity"]
