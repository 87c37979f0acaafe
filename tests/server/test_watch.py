"""Watch counts what judging said of every try, also of those that were stopped."""

from collections import Counter
from datetime import date, timedelta
from itertools import pairwise

import pytest
from django.core.management import call_command
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.demo.past import past_of
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import Record
from thistlequartz.server.watch.models import AttemptCount, RuleCount
from thistlequartz.server.watch.reports import WatchQuery, holds_by_age

from .conftest import BLOCK

pytestmark = pytest.mark.django_db
SOFT = {"entry": "none", "save": "warn", "submit": "block"}
ASKED = {"entry": "none", "save": "warn", "submit": "warn"}


@pytest.fixture
def at(steward, draft):
    """The small form, released with a demand on its note and a bound on its mark."""
    address = f"/api/v1/forms/{draft.key}"
    noted = {"kind": "mandatory", "key": "noted", "name": "Noted", "targets": ["note"],
             "severity": SOFT}  # fmt: skip
    short = {"kind": "cross_field", "key": "short", "name": "Marks are short", "targets": ["mark"],
             "must": "string length(mark) < 4", "reason_required": True,
             "severity": ASKED}  # fmt: skip
    for rule in (noted, short):
        assert steward.post(f"{address}/rules", {"rule": rule}).status_code == 201
    assert steward.release(address, "Two rules.").status_code == 201
    return address


def watch(caller, at, **asked):
    query = "&".join(f"{name}={value}" for name, value in asked.items())
    return caller.get(f"{at}/watch?{query}").json()


def told(view, rule):
    return next(one["total"] for one in view["rules"] if one["rule"] == rule)


def test_tries_are_counted_stopped_ones_too_without_their_values(steward, clerk, at):
    before = watch(steward, at)
    (stored,) = [sum(one["tried"] for one in before["periods"])]
    assert clerk.post(f"{at}/records", {"values": {"mark": "a"}}).status_code == 201
    stopped = clerk.post(f"{at}/records", {"values": {"mark": "secret"}, "submit": True})
    assert stopped.status_code == 422
    after = watch(steward, at)
    assert sum(one["tried"] for one in after["periods"]) == stored + 2
    assert sum(one["stopped"] for one in after["periods"]) == 1
    counts = {"noted": 0, "warned": 1, "blocked": 1, "passed": 1, "waived": 0}
    assert told(after, "noted") == counts
    assert "secret" not in str(
        list(RuleCount.objects.values()) + list(AttemptCount.objects.values())
    )
    assert watch(steward, at, person="steward")["periods"][-1]["tried"] == 0
    assert watch(steward, at, release=1)["effect_of"] == 1
    assert clerk.get(f"{at}/watch").status_code == 403


def test_reasons_are_told_with_who_gave_them_and_where(steward, clerk, at):
    warned = clerk.post(f"{at}/records", {"values": {"mark": "very long", "note": "n"}})
    assert warned.status_code == 422, "a reason is asked for"
    results = warned.json()["judgement"]["save"]["results"]
    basis = next(one["basis"] for one in results if one["rule"] == "short")
    reasons = {"short": {"text": "It is on the label.", "basis": basis}}
    body = {"values": {"mark": "very long", "note": "n"}, "reasons": reasons}
    assert clerk.post(f"{at}/records", body).status_code == 201
    details = steward.get(f"{at}/watch/short").json()
    assert details["reasons"] == [{"text": "It is on the label.", "times": 1}]
    (who,) = details["by_person"]
    assert (who["name"], who["counts"]["warned"], who["counts"]["waived"]) == ("Tamsin Oke", 2, 1)
    assert [one["name"] for one in details["by_entry_point"]] == ["desk"]


def test_what_cannot_be_read_is_counted_too(steward, clerk, at):
    field = {"type": "whole_number", "key": "count_of", "label": "Count"}
    assert steward.post(f"{at}/fields", {"field": field}).status_code == 201
    assert steward.release(at, "A count.").status_code == 201
    values = {"mark": "a", "note": "n", "count_of": "many"}
    assert clerk.post(f"{at}/records", {"values": values}).status_code == 422
    assert told(watch(steward, at), "")["blocked"] == 1
    assert steward.get(f"{at}/watch/-").json()["by_moment"][0]["name"] == "save"


def test_a_rule_that_never_spoke_and_one_waved_through_are_named(steward, clerk, at):
    for mark in "abcdefghij":
        assert clerk.post(f"{at}/records", {"values": {"mark": mark}}).status_code == 201
    rules = {one["rule"]: one for one in watch(steward, at)["rules"]}
    assert rules["short"]["silent"]
    assert rules["noted"]["waved_through"]
    assert not rules["noted"]["silent"]


def test_what_a_release_changed_is_told_in_shares(steward, clerk, at):
    for mark in "abcd":
        clerk.post(f"{at}/records", {"values": {"mark": mark}})
    rule = {"kind": "mandatory", "key": "noted", "name": "Noted", "targets": ["note"],
            "severity": BLOCK, "when": "mark = \"z\""}  # fmt: skip
    revision = next(
        one["revision"] for one in steward.get(at).json()["rules"] if one["rule"]["key"] == "noted"
    )
    changed = steward.send("PUT", f"{at}/rules/noted", {"rule": rule, "revision": revision})
    assert changed.status_code == 200, changed.content
    assert steward.release(at, "Asked of z only.").status_code == 201
    for mark in "efgh":
        assert clerk.post(f"{at}/records", {"values": {"mark": mark}}).status_code == 201
    view = watch(steward, at)
    assert view["effect_of"] == 3
    (effect,) = [one for one in view["effects"] if one["rule"] == "noted"]
    assert (effect["before"], effect["tried_before"]) == (4, 4)
    assert (effect["after"], effect["tried_after"], effect["new"]) == (0, 4, False)


def test_holds_are_told_by_age(draft):
    now = timezone.now()
    for number, days in enumerate((0, 6, 7, 29, 30, 400), 1):
        since = now - timedelta(days=days, minutes=1)
        Record.objects.filter(form=draft, number=number).update(on_hold=True, held_since=since)
    assert holds_by_age(draft, now) == [(0, 7, 2), (7, 30, 2), (30, 90, 1), (90, None, 1)]


@settings(max_examples=few(40))
@given(st.dates(date(2020, 1, 1), date(2030, 1, 1)), st.integers(0, 400), st.integers(0, 400))
def test_every_day_is_in_one_of_the_periods(since, length, place):
    until = since + timedelta(days=length)
    watched = WatchQuery(DraftForm(), since, until)
    day = min(since + timedelta(days=place), until)
    periods = watched.periods()
    assert watched.period_of(day) in periods
    assert periods == sorted(set(periods))
    assert all((b - a).days == watched.step for a, b in pairwise(periods))


def test_days_that_do_not_fit_are_told(steward, at):
    refused = steward.get(f"{at}/watch?since=2026-05-01&until=2026-04-01")
    assert (refused.status_code, refused.json()["errors"][0]["place"]) == (422, "since")
    assert steward.get(f"{at}/watch?since=0001-01-01").status_code == 422
    assert steward.get(f"{at}/watch?until=0001-01-01").status_code == 200


def test_the_demo_has_a_past_that_is_the_same_for_the_same_seed(db):
    now = timezone.now()
    first, again = (list(past_of("mineral_accession", 7, 40, now)) for _ in range(2))
    assert first == again
    assert [one.at for one in first] == sorted(one.at for one in first)
    assert list(past_of("mineral_accession", 8, 40, now)) != first
    none = list(past_of("mineral_accession", 7, 40, now, faults=0))
    assert all(one.values == one.corrected for one in none)
    slips = Counter(one.values != one.corrected for one in past_of("loan_out", 7, 1_000, now))
    assert 0.35 < slips[True] / 1_000 < 0.45, "four of ten, as is said"


def test_demo_history_is_intact_and_counts_match_its_records(steward):
    call_command("check_history")
    for form in DraftForm.objects.all():
        passed = sum(one.tried - one.stopped for one in AttemptCount.objects.filter(form=form))
        assert passed == form.records.count()
    view = watch(steward, "/api/v1/forms/mineral_accession")
    assert [one["number"] for one in view["releases"]] == [1, 2]
