"""What is known before releasing, what stored records say to it, and coming into force later."""

from datetime import UTC, datetime, timedelta

import pytest
from django.core.management import call_command
from django.utils import timezone

from thistlequartz.core.judging import compile_ruleset
from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released_documents import release_document
from thistlequartz.server.impact import rule_preview
from thistlequartz.server.impact import shares as impact_shares
from thistlequartz.server.jobs import tasks
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.draft_lookup import DraftLookup
from thistlequartz.server.records.models import Record
from thistlequartz.server.releases.coming import bring_due_into_force
from thistlequartz.server.releases.concerns import concern, known_fingerprint, refuse_unknowing
from thistlequartz.server.releases.models import Release

from .conftest import BLOCK, FORM, Caller, save
from .test_releasing import one_of_a_kind

pytestmark = pytest.mark.django_db
NOTED = {
    "kind": "mandatory",
    "key": "noted",
    "name": "Noted",
    "targets": ["note"],
    "severity": {"entry": "none", "save": "warn", "submit": "block"},
}


def test_impact_of_the_draft_is_stale_after_an_edit(steward, clerk, draft, monkeypatch):
    at = f"/api/v1/forms/{draft.key}"
    assert clerk.get(f"{at}/impact").json() == {
        "job": None,
        "impact": None,
        "stale": False,
        "saved_since": 0,
    }
    assert clerk.post(f"{at}/impact", {}).status_code == 403
    noted = save(clerk, at, mark="n", note="There is one.")
    rule = {"kind": "mandatory", "key": "noted", "name": "Noted", "targets": ["note"],
            "severity": {"entry": "none", "save": "warn", "submit": "block"}}  # fmt: skip
    assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    job = steward.post(f"{at}/impact", {})
    assert job.status_code == 202
    tasks.work.call(job.json()["id"])
    told = steward.get(f"{at}/impact").json()
    impact, others = told["impact"], Record.objects.filter(form=draft).exclude(number=noted)
    assert (told["stale"], impact["records"]) == (False, others.count() + 1)
    numbers = sorted(others.values_list("number", flat=True))
    assert impact["newly_refused"]["submit"] == {"count": len(numbers), "numbers": numbers}
    assert impact["newly_refused"]["save"]["count"] == 0
    assert impact["newly_warned"]["save"]["numbers"] == numbers
    assert impact["rules"]["noted"]["stops"] == {"save": 0, "submit": len(numbers)}
    softer = {**rule, "severity": {"entry": "none", "save": "warn", "submit": "warn"}}
    revision = steward.get(f"{at}").json()["rules"][0]["revision"]
    changed = steward.send("PUT", f"{at}/rules/noted", {"rule": softer, "revision": revision})
    assert changed.status_code == 200, changed.content
    assert steward.get(f"{at}/impact").json()["stale"]
    Job.objects.filter(kind="impact").update(result={"records": 3})
    kept = steward.get(f"{at}/impact")
    assert (kept.status_code, kept.json()["impact"]) == (200, None), "kept by another version"


def test_what_is_acknowledged_is_what_was_named():
    says = "1 of 2 cases fails."
    (one, other) = ([concern("cases", "block", says, [(key, key)])] for key in ("one", "other"))
    refuse_unknowing(one, "document", known_fingerprint(one, "document"))
    with pytest.raises(Refusal) as refused:
        refuse_unknowing(other, "document", known_fingerprint(one, "document"))
    assert [item.message for item in refused.value.errors] == [says]


def test_what_is_known_is_looked_at_and_kept_with_the_release(steward, clerk, draft):
    at = f"/api/v1/forms/{draft.key}"
    assert steward.post(f"{at}/rules", {"rule": NOTED}).status_code == 201
    assert clerk.get(f"{at}/releasing").status_code == 403
    before = steward.get(f"{at}/releasing").json()
    said = {one["says"]: one["level"] for one in before["known"] if one["about"] != "findings"}
    assert said == {
        "1 part of the form changes from release 1.": "note",
        "The impact on stored records was not worked out.": "warn",
        "No cases are kept: nothing proves what the rules do.": "note",
        "The check lacks a passing or a failing example.": "note",
    }
    tasks.work.call(steward.post(f"{at}/impact", {}).json()["id"])
    body = {"note": "Notes are required.", "knowing": before["fingerprint"]}
    refused = steward.post(f"{at}/releases", body)
    assert (refused.status_code, refused.json()["type"].split(":")[-1]) == (409, "known-otherwise")
    assert steward.release(at, "Notes are required.").status_code == 201
    newest = steward.get(f"{at}/releases").json()[0]
    kept = {one["says"]: one for one in newest["known"]}
    stopped = kept["8 stored records could no longer be submitted as they are."]
    assert stopped["items"][0]["name"] == "Record 1"
    assert newest["standing"] == "in_force"


def test_what_turns_out_well_meanwhile_stops_nobody_and_another_draft_does(steward, draft):
    at = f"/api/v1/forms/{draft.key}"
    noted = {**NOTED, "severity": {"entry": "note", "save": "none", "submit": "none"}}
    assert steward.post(f"{at}/rules", {"rule": noted}).status_code == 201
    seen = steward.get(f"{at}/releasing").json()
    assert [one["level"] for one in seen["known"] if one["about"] == "records"] == ["warn"]
    revision = steward.get(at).json()["rules"][0]["revision"]
    reworded = {"rule": {**noted, "why": "Asked for by the office."}, "revision": revision}
    assert steward.send("PUT", f"{at}/rules/{noted['key']}", reworded).status_code == 200
    body = {"note": "A hint.", "knowing": seen["fingerprint"]}
    refused = steward.post(f"{at}/releases", body).json()
    assert refused["type"].endswith("known-otherwise"), "what changes reads the same; it is not"
    body["knowing"] = steward.get(f"{at}/releasing").json()["fingerprint"]
    tasks.work.call(steward.post(f"{at}/impact", {}).json()["id"])
    now = steward.get(f"{at}/releasing").json()
    assert [one["level"] for one in now["known"] if one["about"] == "records"] == ["clear"]
    assert steward.post(f"{at}/releases", body).status_code == 201


def test_scheduled_release_does_not_judge_before_its_moment(steward, clerk, draft):
    at = f"/api/v1/forms/{draft.key}"
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})
    soon = (timezone.now() + timedelta(days=1)).isoformat()
    made = steward.release(at, "From tomorrow.", since=soon)
    assert (made.status_code, made.json()["standing"]) == (201, "scheduled")
    assert steward.get(at).json()["waiting"]["number"] == 2
    assert not steward.get(at).json()["draft_changed"]
    save(clerk, at, mark="a")  # by release 1, which is still in force
    steward.post(f"{at}/rules", {"rule": NOTED})
    other = steward.release(at, "At once.")
    assert (other.status_code, other.json()["type"].split(":")[-1]) == (409, "one-waits")
    Release.objects.filter(form=draft, number=2).update(in_force_from=timezone.now())
    refused = clerk.post(f"{at}/records", {"values": {"mark": "a"}})
    assert refused.status_code == 422, "the first who saves brings it into force"
    bring_due_into_force(sender=None)
    assert Release.objects.get(form=draft, number=2).brought_at is not None
    assert save(clerk, at, mark="new")
    twice = Record.objects.filter(form=draft, values__mark="a").first()
    body = {"values": {"mark": "a", "note": "Still."}, "revision": twice.revision}
    again = clerk.send("PUT", f"{at}/records/{twice.number}", body)
    assert again.status_code == 422, "two that were stored before stay, and are told of each other"
    acts = [one["act"] for one in steward.get(f"{at}/history").json()["acts"]]
    assert "come into force" in acts


def test_the_worker_brings_what_is_due_into_force(steward, draft):
    at = f"/api/v1/forms/{draft.key}"
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})
    steward.release(at, "In a while.", since=(timezone.now() + timedelta(minutes=5)).isoformat())
    bring_due_into_force(sender=None)
    two = Release.objects.get(form=draft, number=2)
    assert two.brought_at is None
    assert not Record.objects.filter(form=draft, keys_fingerprint="").exists(), "prepared ahead"
    Release.objects.filter(pk=two.pk).update(in_force_from=timezone.now())
    bring_due_into_force(sender=None)
    two.refresh_from_db()
    assert two.brought_at is not None


def test_a_waiting_release_is_withdrawn_with_a_reason(steward, clerk, draft):
    at, why = f"/api/v1/forms/{draft.key}", {"why": "It was too early."}
    steward.post(f"{at}/rules", {"rule": NOTED})
    steward.release(at, "Next year.", since=(timezone.now() + timedelta(days=90)).isoformat())
    assert clerk.post(f"{at}/releases/2/withdraw", why).status_code == 403
    assert steward.post(f"{at}/releases/1/withdraw", why).status_code == 409
    withdrawn = steward.post(f"{at}/releases/2/withdraw", why).json()
    assert withdrawn["standing"] == "withdrawn"
    assert withdrawn["withdrawn"].endswith(": It was too early.")
    assert steward.get(at).json()["draft_changed"], "the draft is ahead of what is in force"
    assert steward.release(at, "At once.").json()["number"] == 3, "its number is not used again"


@pytest.mark.parametrize(
    ("since", "says"),
    [
        ("2020-01-01T08:00", "This moment is past."),
        ("1 May 2399, 08:00", "more than 10 years away"),
        ("9999-12-31T23:59:59", "more than 10 years away"),
        ("0001-01-01T00:00:00", "This moment is past."),
        # EU summer time begins on the last Sunday of March at 1:00 UTC (Directive 2000/84/EC).
        ("2027-03-28 01:30", "does not exist in Europe/Lisbon"),
        ("soon", "is not a date with a time"),
        ("", "There is no moment."),
    ],
)
def test_a_moment_that_cannot_be_is_told(steward, since, says):
    refused = steward.post(
        f"{FORM}/releases", {"note": "Some day.", "knowing": "", "since": since}
    ).json()
    assert refused["errors"][0]["place"] == "since"
    assert says in refused["errors"][0]["message"]


def test_the_clock_of_the_forms_zone_counts(steward, draft):
    at = f"/api/v1/forms/{draft.key}"
    zone = {"zone": "America/New_York"}
    DraftForm.objects.filter(pk=draft.pk).update(rest={**draft.rest, **zone})
    steward.post(f"{at}/rules", {"rule": NOTED})
    year = timezone.now().year + 1
    made = steward.release(at, "In July.", since=f"{year}-07-01T08:00").json()
    assert datetime.fromisoformat(made["in_force_from"]) == datetime(year, 7, 1, 12, tzinfo=UTC)


def test_impact_agrees_with_judging_each_record_by_the_database(steward):
    """Record by record, with rules that look at other records, on the demo's loans."""
    at, form = "/api/v1/forms/loan_out", DraftForm.objects.get(key="loan_out")
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("borrower")})
    tasks.work.call(steward.post(f"{at}/impact", {}).json()["id"])
    impact = steward.get(f"{at}/impact").json()["impact"]
    before = compile_ruleset(release_document(form.releases.first().pk), form="loan_out")
    after, lent_twice = compiled_draft(form), []
    for moment in ("save", "submit"):
        refused = [
            record.number
            for record in form.records.order_by("pk")
            if (judged(before, record, moment), judged(after, record, moment))
            in {(other, "blocked") for other in ("clear", "noted", "warned")}
        ]
        assert impact["newly_refused"][moment]["numbers"] == refused
        lent_twice = lent_twice or refused
    assert lent_twice, "some lend to the same borrower"
    assert impact["rules"]["one_of_a_kind"]["other_records"]


@pytest.mark.django_db(transaction=True)
def test_impact_of_two_processes_is_that_of_one(monkeypatch):
    call_command("load_demo", records=12)
    steward, at = Caller("steward"), "/api/v1/forms/loan_out"
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("borrower")})
    impacts = []
    for few, second in ((10_000, ""), (1, impact_shares.COMMAND), (1, "no_such_command")):
        monkeypatch.setattr(impact_shares, "FEW", few)
        monkeypatch.setattr(impact_shares, "COMMAND", second)
        job = steward.post(f"{at}/impact", {}).json()["id"]
        tasks.work.call(job)
        impacts.append(steward.get(f"{at}/impact").json()["impact"])
        Job.objects.all().delete()
    assert impacts[0] == impacts[1] == impacts[2]
    assert impacts[0]["records"] == Record.objects.filter(form__key="loan_out").count()
    assert impacts[0]["newly_refused"]["save"]["count"] > 0


def judged(form, record, moment):
    now = timezone.now()
    return form.judge(
        form.as_entered(record.values),
        moment=moment,
        today=form.today_at(now),
        now=now,
        event="update",
        role="clerk",
        stored=record.values,
        lookup=DraftLookup(record.form.key, form, record.pk),
    ).outcome


def test_a_rule_being_written_is_weighed_by_a_sample_and_then_exactly(
    steward, clerk, draft, monkeypatch
):
    at = f"/api/v1/forms/{draft.key}"
    save(clerk, at, mark="n", note="There is one.")

    def asked(**parts):
        return steward.post(f"{at}/bench/impact", {"rule": {**NOTED, **parts}}).json()

    exact = {"records": 9, "looked_at": 9, "exact": True, "working": False}
    none = {"save": 0, "submit": 0}
    found = {"newly": 8, "unfinished": False, "stops": none | {"submit": 8},
             "warns": none | {"save": 8}, "frees": none}  # fmt: skip
    assert asked() == exact | found
    monkeypatch.setattr(rule_preview, "SAMPLE", 3)
    sampled = asked()
    assert (sampled["looked_at"], sampled["exact"], sampled["working"]) == (3, False, True)
    job = Job.objects.filter(kind="rule_impact").first()
    tasks.work.call(job.pk)
    assert asked() == exact | found
    save(clerk, at, mark="o", note="There is one.")
    assert asked()["records"] == 9, "it was worked out just now"
    monkeypatch.setattr(rule_preview, "KEPT_FOR", timedelta(0))
    assert asked()["exact"] is False, "the records are others"
    assert asked(severity=BLOCK)["exact"] is False, "another rule is worked out anew"
    assert asked()["working"] is True, "what gave way to the other is worked out all the same"
    unfinished = asked(targets=[])
    assert (unfinished["unfinished"], unfinished["newly"]) == (True, 0)
    monkeypatch.setattr(rule_preview, "SAMPLE", 200)
    stopped = {**NOTED, "key": "beside", "name": "Beside", "severity": BLOCK}
    assert steward.post(f"{at}/rules", {"rule": stopped}).status_code == 201
    one_by_one = asked(severity=BLOCK)
    assert (one_by_one["newly"], one_by_one["stops"]["save"]) == (8, 8), "by each rule, as there"
    assert clerk.post(f"{at}/bench/impact", {"rule": NOTED}).status_code == 403


def test_a_draft_that_derives_a_unique_key_says_whom_it_refuses(steward, clerk, draft):
    """Other records count as the draft settles them, before it is in force and afterwards."""
    at = f"/api/v1/forms/{draft.key}"
    first, second = (save(clerk, at, mark=mark, note=mark) for mark in ("kk-1", "kk-2"))
    rules = (
        {"kind": "derive", "key": "short", "name": "Short", "targets": ["note"],
         "value": "if starts with(mark, \"kk\") then substring(mark, 1, 2) else mark"},
        {"kind": "unique", "key": "once", "name": "Once", "targets": ["note"], "severity": BLOCK},
    )  # fmt: skip
    for rule in rules:
        assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    tasks.work.call(steward.post(f"{at}/impact", {}).json()["id"])
    impact = steward.get(f"{at}/impact").json()["impact"]
    assert impact["newly_refused"]["save"]["numbers"] == [first, second]
    body = {"rule": {**rules[1], "key": "twice", "name": "Twice"}}
    preview = steward.post(f"{at}/bench/impact", body).json()
    assert preview["records"] == impact["records"]
    tried = {"values": {"mark": "kk-3"}, "event": "create"}
    told = steward.post(f"{at}/bench", tried).json()
    assert told["save"]["outcome"] == "blocked", told
