"""How much of a body is read, before anybody has asked who sends it.

Waitress reads a call in whole before a thread begins with it. So its parser asks as soon as the
head of a call is there: is so much taken at this address, is whoever sends it signed in, is there
room for it beside all that is coming in, and does it come fast enough.
"""

import json
import re
import threading
import time
import weakref
from http.cookies import CookieError, SimpleCookie
from typing import Any, Final

from waitress.parser import HTTPRequestParser
from waitress.utilities import Error

from thistlequartz.core.translation import tr

LARGEST_BODY: Final = 2 * 1024 * 1024
"""Bytes at any address; what fewer a call may carry is said by the settings, in words."""
LARGEST_FILE: Final = 33 * 1024 * 1024
"""Bytes of a file of records, which only who is signed in may bring."""
ALL_TOGETHER: Final = 200 * 1024 * 1024
"""Bytes that come in at once, in one process."""
SMALL: Final = 64 * 1024
"""Bytes that are not counted."""
SLOWEST: Final = 4 * 1024
"""Bytes in a second, once a call has taken `PATIENCE`."""
PATIENCE: Final = 15.0
"""Seconds."""
_FILES: Final = re.compile(r"/api/v1/forms/[a-z0-9_]{1,80}/record-files/?")
_lock = threading.Lock()
_coming = 0


class _Refused(Error):
    """An answer to a call that is not read on, as a problem document (RFC 9457)."""

    def __init__(self, code: int, reason: str, title: str, detail: str) -> None:
        super().__init__(title)
        self.code, self.reason = code, reason
        self._told = {"type": "about:blank", "title": title, "status": code, "detail": detail}

    def to_response(self, ident: Any = None) -> Any:
        body = json.dumps(self._told).encode()
        headers = [("Content-Type", "application/problem+json"), ("Connection", "close")]
        return f"{self.code} {self.reason}", headers, body


def _too_large(most: int) -> Error:
    size = f"{most // (1024 * 1024)} MB"
    return _Refused(
        413,
        tr("Content Too Large"),
        tr("This call carries more than {size}.", size=size),
        tr("Send less at once."),
    )


def _signed_out() -> Error:
    title = tr("Files are taken from people who are signed in.")
    return _Refused(401, "Unauthorized", title, tr("Sign in, then bring the file again."))


def _busy() -> Error:
    title = tr("Too much is coming in just now.")
    return _Refused(
        503, tr("Service Unavailable"), title, tr("Try again in a moment; nothing was stored.")
    )


def _too_slow() -> Error:
    title = tr("This call came in too slowly, and was given up.")
    return _Refused(
        408, tr("Request Timeout"), title, tr("Send it again over a better connection.")
    )


class BoundedParser(HTTPRequestParser):
    """Waitress' parser, which stops reading where a bound is passed."""

    def __init__(self, adj: Any) -> None:
        super().__init__(adj)
        self._begun = time.monotonic()
        self._most = LARGEST_BODY

    def received(self, data: bytes) -> int:
        """Take some of the call in; gives how many bytes were used."""
        knew_head = self.headers_finished
        used: int = super().received(data)
        if self.completed:
            # What follows a call that is not answered is not looked at.
            return used if self.error is None else len(data)
        if self.headers_finished and not knew_head:
            self._refuse(self._after_head())
        elif self.body_bytes_received > self._most:
            self._refuse(_too_large(self._most))
        taken = time.monotonic() - self._begun
        came = self.header_bytes_received + self.body_bytes_received
        if taken > PATIENCE and came < SLOWEST * taken:
            self._refuse(_too_slow())
        return len(data) if self.completed else used

    def _refuse(self, error: Error | None) -> None:
        if error is not None:
            self.error, self.completed, self.connection_close = error, True, True

    def _after_head(self) -> Error | None:
        """Why the body is not read; None: it is."""
        head: Any = self  # its types are not those that it has
        brings_file = head.command == "POST" and _FILES.fullmatch(head.path)
        if brings_file:
            self._most = LARGEST_FILE
        if self.content_length > self._most:
            return _too_large(self._most)
        if brings_file and not _is_signed_in(self.headers.get("COOKIE", "")):
            return _signed_out()
        # How much comes in pieces is not said: then it is taken for as much as it may be.
        wanted = self._most if self.chunked else self.content_length
        return None if wanted <= SMALL or _makes_room(self, wanted) else _busy()


def _makes_room(parser: BoundedParser, wanted: int) -> bool:
    """Keep room for a body, as long as there is its parser."""
    global _coming  # noqa: PLW0603 - one for the process
    with _lock:
        if _coming + wanted > ALL_TOGETHER:
            return False
        _coming += wanted
    weakref.finalize(parser, _give_back, wanted)
    return True


def _give_back(size: int) -> None:
    global _coming  # noqa: PLW0603
    with _lock:
        _coming -= size


def _is_signed_in(cookies: str) -> bool:
    """Whether a cookie names a session that lasts; yes where the database cannot say, as the call
    itself will.
    """
    from django.conf import settings  # noqa: PLC0415 - set up by then
    from django.contrib.sessions.models import Session  # noqa: PLC0415
    from django.db import DatabaseError, connection  # noqa: PLC0415
    from django.utils import timezone  # noqa: PLC0415

    try:
        morsel = SimpleCookie(cookies).get(settings.SESSION_COOKIE_NAME)
    except CookieError:
        return False
    if morsel is None:
        return False
    lasting = Session.objects.filter(expire_date__gt=timezone.now())
    try:
        return lasting.filter(session_key=morsel.value[:40]).exists()
    except DatabaseError:
        return True
    finally:
        connection.close()  # asked for seldom, and by the thread that serves everybody
