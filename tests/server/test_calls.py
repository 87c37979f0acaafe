"""Calls to other systems: signed as Standard Webhooks says, tried again, and once by their mark."""

import base64
import hashlib
import hmac
import json
import socket
import threading
import time
from contextlib import suppress
from datetime import UTC, datetime
from http.server import BaseHTTPRequestHandler, HTTPServer

import pytest
from django.test import Client
from django.utils import timezone

from thistlequartz.server.webhooks import calling
from thistlequartz.server.webhooks.calling import call_due_now, signed
from thistlequartz.server.webhooks.models import ReceivedWebhookCall, Webhook, WebhookCall

from .conftest import save

pytestmark = pytest.mark.django_db


class Receiver(HTTPServer):
    """Another system, which answers as it is told and keeps what it was sent."""

    def __init__(self):
        super().__init__(("127.0.0.1", 0), _Handler)
        self.answers, self.heard, self.more = [], [], {}

    @property
    def address(self):
        return f"http://127.0.0.1:{self.server_port}"


class _Handler(BaseHTTPRequestHandler):
    def do_POST(self):
        body = self.rfile.read(int(self.headers["Content-Length"]))
        self.server.heard.append((dict(self.headers), body))
        self.send_response(self.server.answers.pop(0) if self.server.answers else 204)
        for name, value in self.server.more.items():
            self.send_header(name, value)
        self.end_headers()

    def log_message(self, *_):
        pass


@pytest.fixture
def receiver(settings):
    with Receiver() as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        settings.CALLS_TO = [server.address]
        yield server
        server.shutdown()


@pytest.fixture
def at(draft):
    return f"/api/v1/forms/{draft.key}"


def target(steward, at, address="", occasions=("saved",)):
    body = {"name": "The other house", "address": address, "occasions": list(occasions)}
    answer = steward.post(f"{at}/call-targets", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def expected(secret, headers, body):
    """By the text of the specification: HMAC-SHA256 of `id.timestamp.body`, in base64."""
    key = base64.b64decode(secret.removeprefix("whsec_"))
    said = f"{headers['webhook-id']}.{headers['webhook-timestamp']}.".encode() + body
    return "v1," + base64.b64encode(hmac.new(key, said, hashlib.sha256).digest()).decode()


def test_signatures_are_those_of_the_specification():
    """The worked example that goes with Standard Webhooks (from memory)."""
    body = '{"test": 2432232314}'
    at = datetime.fromtimestamp(1614265330, UTC)
    headers = signed(
        "whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw", "msg_p5jXN8AQM9LWM0D4loKWxJek", body, at
    )
    assert headers["webhook-signature"] == "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE="


def test_another_system_is_called_with_what_was_stored(steward, clerk, at, receiver):
    made = target(steward, at, f"{receiver.address}/hook", ["saved", "submitted"])
    number = save(clerk, at, mark="Ä", note="n")
    call_due_now()
    ((headers, body),) = receiver.heard
    assert headers["webhook-signature"] == expected(made["secret"], headers, body)
    told = json.loads(body)
    assert told["type"] == "record.saved"
    assert told["data"]["number"] == number
    assert told["data"]["values"] == {"mark": "Ä", "note": "n"}
    call_due_now()
    assert len(receiver.heard) == 1
    (call,) = steward.get(f"{at}/calls").json()
    assert (call["state"], call["answer_status"], call["receiver"]) == (
        "sent",
        204,
        "The other house",
    )
    assert made["secret"] not in steward.get(f"{at}/call-targets").content.decode()


def test_failed_call_is_retried_with_the_same_id_and_growing_waits(steward, clerk, at, receiver):
    target(steward, at, receiver.address)
    save(clerk, at, mark="m")
    receiver.answers = [500, 302, 404]
    receiver.more = {"Location": f"{receiver.address}/elsewhere"}
    waits = []
    for _ in range(4):
        WebhookCall.objects.update(next_at=timezone.now())
        call_due_now()
        call_due_now()  # not due yet
        waits.append(WebhookCall.objects.get().next_at - timezone.now())
    assert waits[:3] == sorted(waits[:3])
    assert len(receiver.heard) == 4
    assert len({headers["webhook-id"] for headers, _ in receiver.heard}) == 1
    assert len({body for _, body in receiver.heard}) == 1
    (call,) = steward.get(f"{at}/calls").json()
    assert (call["state"], call["attempts"]) == ("sent", 4)
    again = steward.post(f"{at}/calls/{call['id']}/again", {}).json()
    assert (again["state"], again["attempts"]) == ("waiting", 0)
    call_due_now()
    assert len(receiver.heard) == 5


def test_nobody_there_is_said_and_given_up_after_a_day(steward, clerk, at, settings):
    settings.CALLS_TO = ["http://127.0.0.1:9"]
    target(steward, at, "http://127.0.0.1:9/")
    save(clerk, at, mark="m")
    while (call := WebhookCall.objects.get()).state == "waiting":
        WebhookCall.objects.update(next_at=timezone.now())
        call_due_now()
    assert call.state == "failed"
    assert call.attempts == 7
    assert "nobody answers there" in call.trouble


def test_one_receiver_that_is_away_keeps_no_other_waiting(steward, clerk, at, receiver, settings):
    settings.CALLS_TO = [*settings.CALLS_TO, "http://127.0.0.1:9"]
    target(steward, at, "http://127.0.0.1:9/")
    target(steward, at, receiver.address)
    for mark in "xyz":
        save(clerk, at, mark=mark)
    call_due_now()
    assert len(receiver.heard) == 3


@pytest.mark.parametrize(
    ("address", "said"),
    [
        ("http://192.0.2.1/", "Calls do not go to http://192.0.2.1"),
        ("file:///etc/passwd", "is no address of the web"),
        ("http://a:b@127.0.0.1/", "is no address of the web"),
        ("http://127.0.0.1:99999/", "is no address of the web"),
        ("nowhere", "is no address of the web"),
    ],
)
def test_calls_go_nowhere_but_where_they_are_allowed(steward, at, receiver, address, said):
    body = {"name": "x", "address": address, "occasions": ["saved"]}
    answer = steward.post(f"{at}/call-targets", body)
    assert answer.status_code == 422
    assert said in answer.json()["errors"][0]["message"]


def test_what_was_allowed_before_is_not_called_once_it_is_not(
    steward, clerk, at, receiver, settings
):
    target(steward, at, receiver.address)
    save(clerk, at, mark="m")
    settings.CALLS_TO = []
    call_due_now()
    assert receiver.heard == []
    assert "THISTLEQUARTZ_CALLS_TO" in WebhookCall.objects.get().trouble


def test_the_stand_in_takes_what_is_signed_and_refuses_the_rest(steward, clerk, at):
    made = target(steward, at)
    one = Webhook.objects.get(pk=made["target"]["id"])
    anybody = Client()

    def sent(body, **changed):
        headers = {**signed(made["secret"], "msg_1", body, timezone.now()), **changed}
        address = f"/stand-in/{one.pk}"
        return anybody.post(address, body, content_type="application/json", headers=headers)

    assert sent("{}").status_code == 204
    assert sent("{}", **{"webhook-signature": "v1,AAAA"}).status_code == 401
    assert sent("{}", **{"webhook-signature": "x"}).status_code == 401
    for moment in ("1", "nan", "inf", "9" * 400, "x", ""):
        assert sent("{}", **{"webhook-timestamp": moment}).status_code == 401
    assert sent("\udcff\x00".encode("utf-8", "replace")).status_code in (204, 401)
    assert anybody.post("/stand-in/999999999").status_code == 404
    assert anybody.get(f"/stand-in/{one.pk}").status_code == 405
    change = {"enabled": True, "fails": 1}
    assert steward.send("PUT", f"{at}/call-targets/{one.pk}", change).json()["fails"] == 1
    assert [sent("{}").status_code for _ in range(2)] == [503, 204]
    received = steward.get(f"{at}/call-targets/{one.pk}/received").json()
    assert [call["taken"] for call in received] == [True, False, True]
    assert ReceivedWebhookCall.objects.count() == 3


def test_only_who_may_release_names_receivers_and_sees_calls(clerk, at):
    assert clerk.get(f"{at}/call-targets").status_code == 403
    assert clerk.get(f"{at}/calls").status_code == 403
    body = {"name": "x", "occasions": ["saved"]}
    assert clerk.post(f"{at}/call-targets", body).status_code == 403


def test_a_receiver_that_drips_is_cut_off(steward, clerk, at, settings, monkeypatch):
    """Its head comes byte by byte: a timeout from one byte to the next never ends that."""
    monkeypatch.setattr(calling, "ANSWERED_WITHIN", 0.4)
    listener = socket.create_server(("127.0.0.1", 0))

    def drip():
        line, _ = listener.accept()
        with suppress(OSError):
            for _ in range(100):
                line.sendall(b"H")
                time.sleep(0.05)

    threading.Thread(target=drip, daemon=True).start()
    settings.CALLS_TO = [f"http://127.0.0.1:{listener.getsockname()[1]}"]
    target(steward, at, settings.CALLS_TO[0])
    save(clerk, at, mark="a", note="n")
    begun = time.monotonic()
    call_due_now()
    assert time.monotonic() - begun < 3
    (call,) = WebhookCall.objects.all()
    assert (call.state, call.attempts) == ("waiting", 1)
    assert call.trouble
    listener.close()
