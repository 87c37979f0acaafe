"""Calling other systems when something becomes of a record: signed, and tried again.

A call is written in the transaction of the act it tells of. It is sent at least once, always with
the same `webhook-id`, by which its receiver knows one that arrives again. Signed as Standard
Webhooks 1.0 says (an open specification).
"""

import json
import socket
import threading
from collections.abc import Sequence
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from typing import Any, Final

import urllib3
from django.conf import settings
from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction
from django.utils import timezone
from standardwebhooks.webhooks import Webhook as Signer
from urllib3.connection import HTTPConnection, HTTPSConnection

from thistlequartz.core.translation import tr
from thistlequartz.server.inserting import create_many
from thistlequartz.server.jobs.retrying import DispatchState
from thistlequartz.server.records.events import Occasion, RecordEvent
from thistlequartz.server.web_addresses import origin_in

from .models import Webhook, WebhookCall

ANSWERED_WITHIN: Final = 5
"""Seconds."""
LOST_AFTER: Final = timedelta(seconds=30)
"""After so long a call under way is tried again: whoever made it is gone."""
AT_ONCE: Final = 20
"""Calls made before something else has its turn."""
LONGEST_ANSWER: Final = 500
"""Bytes of what a receiver says that are kept."""


class _Bounded:
    """A connection that is cut when its answer has not come in whole within the time it has:
    timeouts count from one byte to the next.
    """

    _timer: threading.Timer | None = None

    def getresponse(self) -> Any:
        """The answer, as far as its head."""
        self._timer = threading.Timer(ANSWERED_WITHIN, self._cut)
        self._timer.daemon = True
        self._timer.start()
        return super().getresponse()  # type: ignore[misc]

    def close(self) -> None:
        """End it."""
        if self._timer is not None:
            self._timer.cancel()
        super().close()  # type: ignore[misc]

    def _cut(self) -> None:
        line = getattr(self, "sock", None)
        if line is not None:
            with suppress(OSError):
                line.shutdown(socket.SHUT_RDWR)


class _Plain(_Bounded, HTTPConnection):
    pass


class _Secure(_Bounded, HTTPSConnection):
    pass


def _pool() -> urllib3.PoolManager:
    pool = urllib3.PoolManager(retries=False, timeout=ANSWERED_WITHIN, maxsize=4)
    http, https = urllib3.HTTPConnectionPool, urllib3.HTTPSConnectionPool
    pool.pool_classes_by_scheme = {
        "http": type("_Http", (http,), {"ConnectionCls": _Plain}),
        "https": type("_Https", (https,), {"ConnectionCls": _Secure}),
    }
    return pool


_POOL = _pool()


def write_calls(sender: Any, happenings: Sequence[RecordEvent], **_: Any) -> None:
    """Write what other systems are to be told of records that were just stored."""
    form = happenings[0].desk.draft
    targets = list(Webhook.objects.filter(form=form, enabled=True))
    now = timezone.now()
    calls = (
        WebhookCall(
            target=target,
            number=one.record.number,
            occasion=occasion,
            body=json.dumps(_told(one, occasion, now), cls=DjangoJSONEncoder, ensure_ascii=False),
        )
        for one in happenings
        for occasion in one.occasions
        for target in targets
        if occasion in target.occasions
    )
    create_many(WebhookCall, calls)


def _told(one: RecordEvent, occasion: Occasion, at: datetime) -> dict[str, Any]:
    record = one.record
    return {
        "type": f"record.{occasion}",
        "timestamp": at.astimezone(UTC),
        "data": {
            "form": one.desk.draft.key,
            "release": one.desk.release.number,
            "number": record.number,
            "revision": record.revision,
            "state": record.state,
            "on_hold": record.on_hold,
            "outcome": record.outcome,
            "entry_point": one.entry_point,
            "values": record.values,
        },
    }


def call_due_now(sender: Any = None, **_: Any) -> None:
    """Make the calls that are due by now. A receiver that fails is left alone for this turn."""
    failing: set[int] = set()
    for _turn in range(AT_ONCE):
        call = _taken(failing)
        if call is None:
            return
        why = _refused(call)
        now = timezone.now()
        if why is None:
            call.has_been_sent(now)
        else:
            failing.add(call.target_id)
            call.has_failed(why, now)
        call.save()


@transaction.atomic
def _taken(failing: set[int]) -> WebhookCall | None:
    """The next call, marked as under way."""
    now = timezone.now()
    due = WebhookCall.objects.filter(
        state=DispatchState.WAITING, next_at__lte=now, target__enabled=True
    ).exclude(target__in=failing)
    call = due.select_for_update(skip_locked=True).order_by("next_at", "id").first()
    if call is not None:
        call.attempts += 1
        call.next_at = now + LOST_AFTER
        call.save(update_fields=["attempts", "next_at"])
    return call


def _refused(call: WebhookCall) -> str | None:
    """Make a call. None: it was taken; else why it was not."""
    target = call.target
    address = address_of(target)
    if not may_be_called(address):
        return not_allowed(address)
    try:
        answer = _POOL.request(
            "POST",
            address,
            body=call.body.encode(),
            headers=signed(target.secret, call.webhook_id, call.body, timezone.now()),
            redirect=False,
            preload_content=False,
        )
        said = answer.read1(LONGEST_ANSWER, decode_content=False)
        answer.close()
    except urllib3.exceptions.HTTPError as error:
        return tr("It could not be reached: {text}", text=_plain(error))
    except (OSError, ValueError) as error:  # an answer that is none, or an address that is none
        return tr("Its answer could not be read: {error}", error=error)
    call.answer_status = answer.status
    call.answer = said.decode(errors="replace")
    if 200 <= answer.status < 300:
        return None
    if 300 <= answer.status < 400:
        return tr(
            "It answered {status}, and sent the call elsewhere: that is not followed.",
            status=answer.status,
        )
    return tr("It answered {status}.", status=answer.status)


def _plain(error: Exception) -> str:
    """What went wrong, without the names of what went wrong inside."""
    nobody = urllib3.exceptions.NewConnectionError  # also a kind of timeout, whatever it was
    if isinstance(error, urllib3.exceptions.TimeoutError) and not isinstance(error, nobody):
        return tr("no answer within {answered_within} seconds.", answered_within=ANSWERED_WITHIN)
    if isinstance(error, urllib3.exceptions.ProtocolError):
        return tr(
            "no whole answer within {answered_within} seconds, or the line was cut.",
            answered_within=ANSWERED_WITHIN,
        )
    return tr("nobody answers there.")


def signed(secret: str, webhook_id: str, body: str, at: datetime) -> dict[str, str]:
    """The headers of a call."""
    signature = Signer(secret).sign(webhook_id, at, body)
    return {
        "Content-Type": "application/json",
        "User-Agent": "Thistlequartz",
        "webhook-id": webhook_id,
        "webhook-timestamp": str(int(at.timestamp())),
        "webhook-signature": signature,
    }


def address_of(target: Webhook) -> str:
    """Where a receiver is called; one without an address is the stand-in."""
    return target.address or f"{settings.ADDRESS.rstrip('/')}/stand-in/{target.pk}"


def may_be_called(address: str) -> bool:
    """Whether calls may go there: to this product itself, and where whoever runs it allows."""
    allowed = {origin_in(one) for one in (settings.ADDRESS, *settings.CALLS_TO) if one}
    return origin_in(address) in allowed


def not_allowed(address: str) -> str:
    """Why calls do not go there, and what would let them."""
    return tr(
        "Calls do not go to {origin_in}. Whoever runs this can allow it by THISTLEQUARTZ_CALLS_TO.",
        origin_in=origin_in(address),
    )
