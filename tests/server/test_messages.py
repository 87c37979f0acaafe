"""Messages: written with the act, sent once, guarded, and read as each receiver reads them.

What goes out is read back by Python's own readers of mail (RFC 5322) and of HTML.
"""

import email
import email.policy
from collections import Counter
from html.parser import HTMLParser

import pytest
from django.core.mail.backends.base import BaseEmailBackend
from django.db import transaction
from django.utils import timezone

from thistlequartz.server.jobs import tasks
from thistlequartz.server.messages.models import Mail, OutgoingMessage, Template
from thistlequartz.server.messages.sending import send_due_now
from thistlequartz.server.messages.waiting import MOST_AT_ONCE
from thistlequartz.server.people.addresses import address_fault
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.models import Record

from .conftest import BLOCK, Caller, save

pytestmark = pytest.mark.django_db
SAID = {"name": "Submitted", "message": {
    "occasions": ["submitted"], "to": [{"who": "role", "role": "approver"}],
    "subject": "{form}: {record} was {act}", "text": "{mark} by {person}.\n\n{answers}",
}}  # fmt: skip


def message(name="Submitted", **parts):
    return {"name": name, "message": {**SAID["message"], **parts}}


@pytest.fixture(autouse=True)
def mail_as_in_earnest(db, settings):
    """Tests would have their mail kept in memory; and what the demo tells is not looked at."""
    OutgoingMessage.objects.all().delete()
    settings.EMAIL_BACKEND = "thistlequartz.server.messages.mailing.OutboxBackend"


@pytest.fixture
def at(draft):
    return f"/api/v1/forms/{draft.key}"


def submit(caller, at, **values):
    answer = caller.post(f"{at}/records", {"values": values, "submit": True})
    assert answer.status_code == 201, answer.content
    return answer.json()["number"]


def add(steward, at, body):
    answer = steward.post(f"{at}/messages", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def told(at):
    return [(one.occasion, one.number, one.state) for one in OutgoingMessage.objects.order_by("id")]


def sent():
    send_due_now()
    return [
        email.message_from_bytes(bytes(one.raw), policy=email.policy.default)
        for one in Mail.objects.order_by("id")
    ]


def test_each_receiver_reads_a_message_as_it_went_out(steward, clerk, at):
    add(steward, at, message(copies=[{"who": "submitter"}], reply_to="registrar@example.org"))
    number = submit(clerk, at, mark="Fern", note="two\nlines", grade="a")
    assert told(at) == [("submitted", number, "waiting")]
    (mail,) = sent()
    assert mail["To"] == "Ruben Halloway <ruben.halloway@example.org>"
    assert mail["Cc"] == "Tamsin Oke <tamsin.oke@example.org>"
    assert mail["Reply-To"] == "registrar@example.org"
    subject = f"Small thing: {number} (Fern · two lines) was submitted"
    assert mail["Subject"].strip() == subject
    text = mail.get_body(("plain",)).get_content()
    assert "Fern by Tamsin Oke." in text
    assert "Grade: Small a" in text
    for caller in (Caller("approver"), clerk):
        (line,) = caller.get("/api/v1/box").json()["mails"]
        letter = caller.get(f"/api/v1/box/{line['id']}").json()
        assert {"name": "Subject", "line": subject} in letter["headers"]
    assert Caller("reader").get("/api/v1/box").json()["mails"] == []
    assert Caller("reader").get(f"/api/v1/box/{line['id']}").status_code == 404
    whole = steward.get(f"{at}/outbox").json()["messages"][0]
    assert (whole["state"], whole["to"]) == ("sent", ["Ruben Halloway"])
    send_due_now()
    assert Mail.objects.count() == 1


class Page(HTMLParser):
    """The tags of a page, and what stands between them."""

    def __init__(self, page):
        super().__init__()
        self.tags, self.text = [], ""
        self.feed(page)

    def handle_starttag(self, tag, attrs):
        self.tags.append(tag)

    def handle_data(self, data):
        self.text += data


def test_what_was_entered_is_no_tag_no_header_and_no_place(steward, clerk, at):
    add(steward, at, message(subject="{mark}", text="{{note}} <b>{note}</b>\n{answers}"))
    wicked = "<script>alert(1)</script>{mark}\r\nBcc: all@example.org"
    submit(clerk, at, mark="a\nBcc: all@example.org", note=wicked)
    (mail,) = sent()
    assert mail["Bcc"] is None
    assert mail["Subject"] == "a Bcc: all@example.org"
    page = Page(mail.get_body(("html",)).get_content())
    assert set(page.tags) <= {"br", "table", "tr", "th", "td"}
    assert "<script>alert(1)</script>{mark}" in page.text
    assert page.text.startswith("{note} <b>")


def test_message_is_sent_by_condition_occasion_and_entry_point(steward, clerk, at):
    add(steward, at, message("All", occasions=["saved", "submitted", "approved", "returned"],
                             condition='grade = "a"'))  # fmt: skip
    add(steward, at, message("Changed", occasions=["saved"], condition="changed.note"))
    number = save(clerk, at, mark="one", grade="a")
    save(clerk, at, mark="two", grade="A")
    body = {"values": {"mark": "one", "grade": "a", "note": "x"}, "revision": 1, "submit": False}
    assert clerk.send("PUT", f"{at}/records/{number}", body).status_code == 200
    names = [(one.template.name, one.number) for one in OutgoingMessage.objects.order_by("id")]
    assert sorted(names[1:]) == [("All", number), ("Changed", number)]
    assert names[0] == ("All", number)
    submitted = submit(clerk, at, mark="three", grade="a")
    approver = Caller("approver")
    for act, more in (("approve", {}), ("return", {"remark": "Look again."})):
        record = Record.objects.get(form__key=at.split("/")[-1], number=submitted)
        body = {"act": act, "records": [{"number": submitted, "revision": record.revision}], **more}
        assert approver.post(f"{at}/decisions", body).json()[0]["done"]
    occasions = [
        one.occasion for one in OutgoingMessage.objects.filter(number=submitted).order_by("id")
    ]
    assert occasions == ["submitted", "approved", "returned"]


def test_a_hold_is_told_once(steward, clerk, at):
    add(steward, at, message(occasions=["held"]))
    rule = {"kind": "mandatory", "key": "graded", "targets": ["grade"], "hold": True,
            "severity": {"entry": "none", "save": "warn", "submit": "block"}}  # fmt: skip
    assert steward.post(f"{at}/rules", {"rule": rule}).status_code == 201
    assert steward.release(at, "Holds.").status_code == 201
    number = save(clerk, at, mark="x")
    body = {"values": {"mark": "y"}, "revision": 1, "submit": False}
    assert clerk.send("PUT", f"{at}/records/{number}", body).status_code == 200
    assert told(at) == [("held", number, "waiting")]


def test_more_messages_than_may_go_out_at_once_are_kept_with_the_reason(steward, clerk, at):
    first = Template.objects.get(pk=add(steward, at, message())["id"])
    Template.objects.bulk_create(
        Template(form=first.form, name=f"Copy {n}", document=first.document)
        for n in range(MOST_AT_ONCE + 9)
    )
    submit(clerk, at, mark="x", grade="a")
    states = Counter(state for _, _, state in told(at))
    assert states == {"waiting": MOST_AT_ONCE, "failed": 10}
    last = OutgoingMessage.objects.order_by("id").last()
    assert "no more than 50 messages" in last.trouble


def test_what_is_not_stored_is_not_told(steward, clerk, at):
    add(steward, at, message(occasions=["saved", "submitted"]))
    rule = {"kind": "mandatory", "key": "graded", "targets": ["grade"], "severity": BLOCK}
    steward.post(f"{at}/rules", {"rule": rule})
    steward.release(at, "Blocks.")
    answer = clerk.post(f"{at}/records", {"values": {"mark": "x"}, "submit": True})
    assert answer.status_code == 422
    assert told(at) == []


def test_whom_nothing_can_be_sent_to_is_said(steward, clerk, at):
    add(steward, at, message(to=[{"who": "field", "field": "note"}, {"who": "submitter"}]))
    Person.objects.filter(username="clerk").update(email="")
    for note in ("", "someone at example.org", "a@example.org, b@example.org"):
        submit(clerk, at, mark="m", note=note)
    submit(clerk, at, mark="m", note="someone@example.org")
    rows = list(OutgoingMessage.objects.order_by("id"))
    assert [one.state for one in rows] == ["failed", "failed", "failed", "waiting"]
    assert "Note is blank" in rows[0].trouble
    assert "has no address in it" in rows[1].trouble
    assert all("Tamsin Oke has no e-mail address." in one.trouble for one in rows)
    assert [address for _, address in rows[3].to] == ["someone@example.org"]
    failed = steward.get(f"{at}/outbox?state=failed").json()["messages"]
    assert len(failed) == 3
    again = steward.post(f"{at}/outbox/{failed[0]['id']}/again", {})
    assert again.json()["title"] == "There was nobody to send this message to."


class Down(BaseEmailBackend):
    """A mail system that is not there."""

    def send_messages(self, email_messages):
        raise ConnectionRefusedError("the mail system is away")


def test_what_fails_is_tried_again_after_growing_waits_and_by_hand(steward, clerk, at, settings):
    add(steward, at, message())
    submit(clerk, at, mark="m")
    backend, settings.EMAIL_BACKEND = settings.EMAIL_BACKEND, f"{__name__}.Down"
    waits = []
    while (row := OutgoingMessage.objects.get()).state == "waiting":
        OutgoingMessage.objects.update(next_at=timezone.now())
        send_due_now()
        row = OutgoingMessage.objects.get()
        waits.append(row.next_at - timezone.now())
    assert row.state == "failed"
    assert "the mail system is away" in row.trouble
    assert waits[:-1] == sorted(waits[:-1])
    assert len(waits) > 4
    settings.EMAIL_BACKEND = backend
    again = steward.post(f"{at}/outbox/{row.pk}/again", {})
    assert again.json()["state"] == "waiting"
    assert len(sent()) == 1


def test_what_was_marked_in_a_transaction_given_up_is_sent_once(steward, clerk, at):
    add(steward, at, message())
    submit(clerk, at, mark="m")
    with transaction.atomic():
        send_due_now()
        transaction.set_rollback(True)
    assert (Mail.objects.count(), OutgoingMessage.objects.get().state) == (0, "waiting")
    assert len(sent()) == 1


@pytest.mark.parametrize(
    ("parts", "place"),
    [
        ({"subject": "Line\nBcc: all@example.org"}, "subject"),
        ({"subject": "{answers}"}, "subject"),
        ({"text": "{marc}"}, "text"),
        ({"reply_to": "nobody at all"}, "reply_to"),
        ({"to": []}, "to"),
        ({"to": [{"who": "person", "name": "nobody"}]}, "to.0"),
        ({"copies": [{"who": "field", "field": "grade"}]}, "copies.0"),
        ({"condition": "grade ="}, "condition"),
        ({"condition": "gone = 1"}, "condition"),
        ({"occasions": []}, "occasions"),
    ],
)
def test_a_message_that_cannot_go_out_is_refused_with_its_place(steward, at, parts, place):
    answer = steward.post(f"{at}/messages", message(**parts))
    assert answer.status_code == 422
    assert place in [one["place"] for one in answer.json()["errors"]]
    switched_off = {**message(**parts), "enabled": False}
    assert steward.post(f"{at}/messages", switched_off).status_code == 201
    assert steward.get(f"{at}/messages").status_code == 200


def test_message_preview_uses_a_stored_record_or_the_bench(steward, at):
    asked = {**message(condition='grade = "a"'), "number": 1}
    shown = steward.post(f"{at}/messages/preview", asked).json()
    assert shown["met"] is False
    assert {"name": "To", "line": "Ruben Halloway <ruben.halloway@example.org>"} in shown["letter"][
        "headers"
    ]
    tried = {**message(condition='grade = "a"'), "values": {"mark": "T", "grade": "a"}}
    shown = steward.post(f"{at}/messages/preview", tried).json()
    assert shown["met"] is True
    assert "Mark: T" in shown["letter"]["text"]
    assert OutgoingMessage.objects.count() == 0


def test_messages_are_edited_by_stewards_without_lost_updates(steward, clerk, at):
    made = add(steward, at, message())
    assert clerk.post(f"{at}/messages", message("Mine")).status_code == 403
    assert clerk.get(f"{at}/outbox").status_code == 403
    changed = {**message(text="Other."), "revision": 1}
    assert steward.send("PUT", f"{at}/messages/{made['id']}", changed).json()["revision"] == 2
    answer = steward.send("PUT", f"{at}/messages/{made['id']}", changed)
    assert (answer.status_code, answer.json()["revision"]) == (409, 2)
    assert steward.post(f"{at}/messages", message()).json()["status"] == 409
    gone = steward.send("DELETE", f"{at}/messages/{made['id']}?revision=2", {})
    assert gone.status_code == 204


def test_what_a_new_release_cannot_read_is_said_and_stops_nobody(steward, clerk, at):
    add(steward, at, message(condition='note = "x"'))
    field = steward.get(f"{at}").json()["fields"]
    note = next(one for one in field if one["field"]["key"] == "note")
    gone = steward.send("DELETE", f"{at}/fields/note?revision={note['revision']}", {})
    assert gone.status_code in (200, 204), gone.content
    assert steward.release(at, "No notes.").status_code == 201
    submit(clerk, at, mark="m")
    row = OutgoingMessage.objects.get()
    assert row.state == "failed"
    assert "Its condition cannot be read by release" in row.trouble


def test_import_sends_no_message_unless_chosen(steward, clerk, at):
    add(steward, at, message("By hand", occasions=["saved"]))
    add(steward, at, message("By file", occasions=["saved"], entry_points=["import"]))
    file = clerk.send("POST", f"{at}/record-files?name=f.csv", b"mark\none\ntwo\n").json()
    run = clerk.post(f"{at}/record-files/{file['id']}/run", {"dry": False}).json()
    tasks.work.call(run["job"]["id"])
    assert [one.template.name for one in OutgoingMessage.objects.all()] == ["By file", "By file"]
    assert len({one.record_id for one in OutgoingMessage.objects.all()}) == 2


def test_what_is_only_tried_out_is_told_to_nobody(steward, clerk, at):
    add(steward, at, message(occasions=["saved"], entry_points=["import"]))
    file = clerk.send("POST", f"{at}/record-files?name=f.csv", b"mark\none\n").json()
    run = clerk.post(f"{at}/record-files/{file['id']}/run", {"dry": True}).json()
    tasks.work.call(run["job"]["id"])
    assert told(at) == []


def test_who_approves_on_submitting_tells_of_both(steward, at):
    add(steward, at, message(occasions=["submitted", "approved"], to=[{"who": "submitter"}]))
    body = {"values": {"mark": "m"}, "submit": True, "approve": True}
    number = Caller("approver").post(f"{at}/records", body).json()["number"]
    assert told(at) == [("submitted", number, "waiting"), ("approved", number, "waiting")]
    subjects = [one.subject for one in OutgoingMessage.objects.order_by("id")]
    assert subjects[1].endswith("was approved")


def test_message_reaches_each_permitted_address_once(steward, clerk, at):
    roles = [{"who": "role", "role": "steward"}, {"who": "person", "name": "deputy"}]
    add(steward, at, message(to=roles, copies=[{"who": "person", "name": "steward"}]))
    closed = {**account(steward, "deputy"), "form_roles": {at.split("/")[-1]: "none"}}
    assert steward.send("PUT", "/api/v1/people/deputy", closed).status_code == 200
    submit(clerk, at, mark="m")
    row = OutgoingMessage.objects.get()
    assert [name for name, _ in row.to] == ["Odile Farrowby"]
    assert row.copies == []
    assert row.trouble == "Ingram Solway does not see this form."


def account(steward, name):
    (found,) = [one for one in steward.get("/api/v1/people").json() if one["name"] == name]
    kept = ("shown_name", "email", "role", "manages_people", "open", "form_roles")
    return {key: found[key] for key in kept}


def test_an_account_takes_an_address_and_nothing_else(steward):
    kept = account(steward, "reader")
    for address in ("nobody", "a b@example.org", "a@example.org\nBcc: b@example.org"):
        answer = steward.send("PUT", "/api/v1/people/reader", {**kept, "email": address})
        assert answer.status_code == 422
        assert answer.json()["errors"][0]["place"] == "email"
    for address in ("", "ines@example.org"):
        answer = steward.send("PUT", "/api/v1/people/reader", {**kept, "email": address})
        assert answer.json()["email"] == address


def test_the_address_of_whom_a_record_refers_to_is_looked_up(steward, clerk):
    """In the demo the borrower of a loan is written to, by the address in the borrower’s record."""
    (template,) = [
        one for one in steward.get("/api/v1/forms/loan_out/messages").json()
        if one["name"] == "The borrower hears that it is agreed"
    ]  # fmt: skip
    for loan in Record.objects.filter(form__key="loan_out"):
        number = loan.values.get("borrower") or 0
        borrower = Record.objects.filter(form__key="borrower", number=number).first()
        address = borrower and borrower.values.get("email")
        if address and address_fault(address) is None:
            break
    asked = {"message": template["reading"]["message"], "number": loan.number}
    shown = steward.post("/api/v1/forms/loan_out/messages/preview", asked).json()
    headers = {one["name"]: one["line"] for one in shown["letter"]["headers"]}
    assert headers["To"] == address
    wrong = {**asked["message"], "to": [{"who": "field", "field": "borrower.kind"}]}
    answer = steward.post("/api/v1/forms/loan_out/messages/read", {"message": wrong}).json()
    assert [one["place"] for one in answer["problems"]] == ["to.0"]


def test_what_has_become_another_field_stops_nobody(steward, clerk, at):
    """An address looked up in a field that refers to nothing any more; a name of two lines."""
    field = {"type": "reference", "key": "whom", "label": "Whom", "form": "borrower"}
    assert steward.post(f"{at}/fields", {"field": field}).status_code == 201
    assert steward.release(at, "Whom.").status_code == 201
    add(steward, at, message(to=[{"who": "field", "field": "whom.email"}, {"who": "submitter"}]))
    view = next(one for one in steward.get(at).json()["fields"] if one["field"]["key"] == "whom")
    plain = {"type": "text", "key": "whom", "label": "Whom"}
    body = {"field": plain, "revision": view["revision"]}
    assert steward.send("PUT", f"{at}/fields/whom", body).status_code == 200
    assert steward.release(at, "As a text.").status_code == 201
    Person.objects.filter(username="clerk").update(shown_name="Tamsin\r\nBcc: all@example.org")
    submit(clerk, at, mark="m", whom="somebody")
    (mail,) = sent()
    assert mail["Bcc"] is None
    assert "tamsin.oke@example.org" in mail["To"]
    assert "is blank in record" in OutgoingMessage.objects.get().trouble


def test_what_is_on_the_bench_is_shown_as_it_would_be_stored(steward):
    """With what is derived: the length of a loan, from its first and its last day."""
    values = {"piece": "QH-P-1", "lent_from": "2026-06-01", "lent_to": "2026-06-11"}
    asked = {**message(subject="{loan_days}", text="{loan_days}"), "values": values}
    shown = steward.post("/api/v1/forms/loan_out/messages/preview", asked).json()
    assert shown["letter"]["text"] == "10 days"


def test_the_outbox_is_searched_filtered_and_read_page_by_page(steward, clerk, at):
    add(steward, at, message(subject="{mark}"))
    numbers = [submit(clerk, at, mark=f"m{number:02}") for number in range(52)]
    first = steward.get(f"{at}/outbox").json()
    assert (len(first["messages"]), first["more"]) == (50, True)
    rest = steward.get(f"{at}/outbox?offset=50").json()
    assert (len(rest["messages"]), rest["more"]) == (2, False)
    listed = [one["number"] for one in (*first["messages"], *rest["messages"])]
    assert listed == numbers[::-1]
    found = steward.get(f"{at}/outbox?search=m07").json()["messages"]
    assert [one["subject"] for one in found] == ["m07"]
    assert steward.get(f"{at}/outbox?state=sent").json()["messages"] == []
    assert steward.get(f"{at}/outbox?state=lost").status_code == 422
    whole = steward.get(f"{at}/outbox/{found[0]['id']}").json()
    assert whole["letter"]["headers"][-1] == {"name": "Subject", "line": "m07"}
    assert steward.get(f"{at}/outbox/999999999").status_code == 404


@pytest.mark.parametrize(
    "address",
    ["a\u0301b@example.org", "zoë@exämple.org", "=?utf-8?q?a?=@example.org", "a,b@example.org"],
)
def test_unwritable_mail_is_put_aside_and_the_rest_are_sent(steward, clerk, at, address):
    """Addresses that once stopped the outbox of every form, and all calls with it."""
    add(steward, at, message(occasions=["saved"]))
    save(clerk, at, mark="one", note="n")
    save(clerk, at, mark="two", note="n")
    first, second = OutgoingMessage.objects.order_by("id")
    first.to = [["Somebody", address]]
    first.save()
    mails = sent()
    first.refresh_from_db()
    second.refresh_from_db()
    assert second.state == "sent"
    assert first.state in ("sent", "failed"), first.trouble
    assert len(mails) == 1 + (first.state == "sent")
