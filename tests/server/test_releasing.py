"""A release and what is stored: prepared beforehand, resumed, never raced, refused with reasons."""

import pytest

from thistlequartz.server.jobs import tasks
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.people.models import Person
from thistlequartz.server.records import release_preparation as releasing
from thistlequartz.server.records.models import Record, RecordBook, UniqueKey
from thistlequartz.server.releases import services
from thistlequartz.server.releases.models import Release
from thistlequartz.server.releases.ports import ReleaseCheck, checks

from .conftest import BLOCK, Caller, save
from .test_what_records_keep import BORROWER, BORROWERS, LOANS, loan

pytestmark = pytest.mark.django_db


def one_of_a_kind(*targets, **parts):
    return {
        "kind": "unique",
        "key": "one_of_a_kind",
        "name": "One of a kind",
        "targets": list(targets),
        "severity": BLOCK,
        **parts,
    }


def address(draft):
    return f"/api/v1/forms/{draft.key}"


def claims(draft):
    return UniqueKey.objects.filter(record__form=draft).exclude(claim=None).count()


def test_what_is_stored_while_a_release_is_prepared_is_claimed_too(steward, clerk, draft):
    at = address(draft)
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})

    def meanwhile(draft, *_, **__):
        if draft.releases.count() == 1 and draft.records.count() == 8:
            save(clerk, at, mark="i")
            assert claims(draft) == 8, "by the release in force it claims nothing yet"

    checks["meanwhile"] = ReleaseCheck(meanwhile, lambda *_, **__: None)
    try:
        made = steward.release(at, "Marks are unique.")
    finally:
        del checks["meanwhile"]
    assert made.status_code == 201
    assert claims(draft) == 9
    taken = clerk.post(f"{at}/records", {"values": {"mark": "I"}})
    assert taken.status_code == 422, "without regard to case"


def test_a_preparation_that_was_interrupted_goes_on_where_it_was(draft, steward, monkeypatch):
    at = address(draft)
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})
    monkeypatch.setattr(releasing, "RECORDS_AT_ONCE", 3)
    whole, prepared = releasing._prepare, []

    def until_it_breaks(records, *rest, **how):
        if len(prepared) == 2:
            raise ConnectionError
        prepared.append(len(records))
        return whole(records, *rest, **how)

    monkeypatch.setattr(releasing, "_prepare", until_it_breaks)
    person = Person.objects.get(username="steward")
    with pytest.raises(ConnectionError):
        services.release_form(person, draft.key, services.ReleaseRequest("Marks are unique."))
    assert (draft.releases.count(), claims(draft)) == (1, 6)
    monkeypatch.setattr(
        releasing,
        "_prepare",
        lambda *given, **how: prepared.append(len(given[0])) or whole(*given, **how),
    )
    services.release_form(person, draft.key, services.ReleaseRequest("Marks are unique."))
    assert prepared == [3, 3, 2, 0]
    assert claims(draft) == 8


def test_release_with_duplicate_records_is_refused_and_correctable(steward, clerk, draft):
    at = address(draft)
    twin = save(clerk, at, mark="A")
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})
    refused = steward.release(at, "Marks are unique.")
    assert refused.status_code == 409
    assert refused.json()["errors"][0]["message"] == f"Records 1 and {twin} hold the same values."
    assert draft.releases.count() == 1
    corrected = {"values": {"mark": "z"}, "revision": 1}
    assert clerk.send("PUT", f"{at}/records/{twin}", corrected).status_code == 200
    assert steward.release(at, "Marks are unique.").status_code == 201
    assert claims(draft) == 9


def test_uniqueness_folds_texts_and_never_codes(steward, clerk, draft):
    at = address(draft)
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("note", "grade")})
    assert steward.release(at, "Note and grade.").status_code == 201
    save(clerk, at, note="Straße", grade="a")
    save(clerk, at, note="straße", grade="A")
    taken = clerk.post(f"{at}/records", {"values": {"note": "STRASSE", "grade": "a"}})
    assert taken.status_code == 422


def test_a_release_over_many_records_is_made_in_the_background(
    steward, clerk, draft, monkeypatch, settings
):
    settings.TASKS = {"default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend"}}
    monkeypatch.setattr(services, "AT_ONCE", 3)
    monkeypatch.setattr(releasing, "INDEXED_AT_ONCE", 3)
    at = address(draft)
    twin = save(clerk, at, mark="A")
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("mark")})
    begun = steward.release(at, "Marks are unique.")
    assert begun.status_code == 202
    assert steward.get(f"{at}/release-work").json()["state"] == "waiting"
    tasks.work.func(begun.json()["id"])
    refused = steward.get(f"{at}/release-work").json()
    assert refused["state"] == "failed"
    assert refused["errors"][0]["message"] == f"Records 1 and {twin} hold the same values."
    corrected = {"values": {"mark": "z"}, "revision": 1}
    clerk.send("PUT", f"{at}/records/{twin}", corrected)
    again = steward.release(at, "Marks are unique.").json()
    tasks.work.func(again["id"])
    assert steward.get(f"{at}/release-work").json() is None
    newest = Release.objects.filter(form=draft).first()
    assert (newest.number, newest.note, newest.released_by.username) == (
        2,
        "Marks are unique.",
        "steward",
    )
    assert Record.objects.filter(form=draft, keys_fingerprint="").count() == 0
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("note", key="notes", name="Notes")})
    third = steward.release(at, "Notes, too.").json()
    steward.post(f"{at}/rules", {"rule": one_of_a_kind("grade", key="grades", name="Grades")})
    tasks.work.func(third["id"])
    assert "changed since" in steward.get(f"{at}/release-work").json()["trouble"]
    fourth = steward.release(at, "Grades, too.").json()
    tasks.work.func(fourth["id"])
    after = Job.objects.filter(kind="after_release").first()
    tasks.work.func(after.pk)
    generations = set(
        UniqueKey.objects.filter(record__form=draft).values_list("keys_fingerprint", flat=True)
    )
    assert len(generations) == 1, "keys of what is no longer in force are forgotten"


def test_what_a_release_changed_is_told_and_an_earlier_one_comes_back(steward, clerk, draft):
    at = f"/api/v1/forms/{draft.key}"
    rule = {"kind": "mandatory", "key": "noted", "name": "Noted", "targets": ["note"],
            "severity": BLOCK}  # fmt: skip
    assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    (told,) = steward.get(f"{at}/changes?before=1").json()
    assert (told["act"], told["name"], told["says"]) == ("added", "Noted", "Note is required.")
    assert steward.release(at, "Notes are required.").status_code == 201
    assert clerk.get(f"{at}/changes?before=1&after=2").json() == [told]
    (gone,) = clerk.get(f"{at}/changes?before=2&after=1").json()
    assert (gone["act"], gone["name"]) == ("removed", "Noted")
    assert clerk.get(f"{at}/changes?before=7").status_code == 404
    refused = clerk.post(f"{at}/records", {"values": {"mark": "z"}})
    assert refused.status_code == 422
    assert clerk.release(at, "Too early.", again=1).status_code == 403
    assert steward.release(at, "Too early.", again=1).json()["number"] == 3
    assert clerk.post(f"{at}/records", {"values": {"mark": "z"}}).status_code == 201
    assert clerk.get(f"{at}/changes?before=1&after=3").json() == []
    assert steward.get(at).json()["draft_changed"], "the draft stays as it was"
    same = steward.release(at, "Once more.", again=1)
    assert (same.status_code, same.json()["type"].split(":")[-1]) == (409, "nothing-new")


def test_numbers_come_from_a_counter_and_go_on_after_it(clerk, draft):
    RecordBook.objects.filter(form=draft).update(last_number=41)
    assert save(clerk, address(draft), mark="x") == 42


def test_a_form_is_removed_with_its_name_typed_and_stays_in_the_history(steward, clerk, draft):
    at, body = address(draft), {"name": "small thing"}
    refused = steward.post(f"{at}/removal", body)
    assert (refused.status_code, refused.json()["errors"][0]["remedy"]) == (422, "“Small thing”")
    assert clerk.post(f"{at}/removal", {"name": "Small thing"}).status_code == 403
    assert steward.post(f"{at}/removal", {"name": "Small thing"}).status_code == 204
    assert steward.get(at).status_code == 404
    assert not Record.objects.filter(form_id=draft.pk).exists()
    made = steward.post("/api/v1/forms", {"name": "Small thing", "purpose": "Anew."}).json()
    acts = steward.get(f"/api/v1/forms/{made['key']}/history").json()["acts"]
    assert ("remove form", "Small thing") in [(act["act"], act["subject"]) for act in acts]
    assert steward.post(f"/api/v1/forms/{made['key']}/removal", {}).status_code == 204


def test_a_form_that_others_lean_on_stays(steward):
    refused = steward.post("/api/v1/forms/borrower/removal", {"name": "Borrower"})
    assert refused.status_code == 409
    assert any(one["place"].startswith("loan_out.") for one in refused.json()["errors"])


def test_lifting_a_hold_that_is_not_there_is_told(draft):
    lifted = Caller("approver").post(f"{address(draft)}/records/1/lift-hold", {"revision": 1})
    assert lifted.status_code == 409
    assert "is not on hold" in lifted.json()["title"]


def test_a_proposal_that_was_not_offered_is_not_recorded(steward, clerk):
    at = "/api/v1/forms/loan_out"
    rules = [one["rule"] for one in steward.get(at).json()["rules"]]
    every = [rule["key"] for rule in rules if rule["kind"] == "propose"]
    clerk.post(BORROWERS, {"values": BORROWER})
    judged = clerk.post(f"{at}/desk/judge", {"values": loan()}).json()
    offered = {one["rule"] for one in judged["save"]["proposals"]}
    assert set(every) > offered
    record = clerk.post(LOANS, {"values": loan(), "proposals_applied": every}).json()
    assert set(record["proposals_applied"]) <= offered
