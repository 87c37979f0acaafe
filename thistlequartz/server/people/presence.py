"""Who is signed in where, and was seen when."""

import contextlib
import time
from collections.abc import Callable
from typing import Final

from django.contrib.auth.signals import user_logged_out
from django.contrib.sessions.models import Session
from django.db import Error
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from .models import Person, SignedIn

NOTED_EVERY: Final = 60
"""Seconds; within them somebody who goes on working is not noted again."""
_REMEMBERED: Final = 10_000

_noted: dict[str, float] = {}
"""When each session was noted last, by this process."""


class Presence:
    """Middleware that notes when each session was seen, a minute exactly."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and note who asked."""
        response = self._answer(request)
        if request.path.startswith("/api/v1/") and response.status_code < 500:
            # Whatever was asked has been answered: that stands, also if this cannot be noted.
            with contextlib.suppress(Error):
                _note(request)
        return response


def _note(request: HttpRequest) -> None:
    key = request.session.session_key
    if not key or not request.user.is_authenticated:
        return
    now = time.monotonic()
    if now - _noted.get(key, -NOTED_EVERY) < NOTED_EVERY:
        return
    if len(_noted) >= _REMEMBERED:
        _noted.clear()
    person, seen = request.user, timezone.now()
    browser = request.headers.get("User-Agent", "")[:200]
    SignedIn.objects.update_or_create(
        session_key=key,
        defaults={"person": person, "seen_at": seen},
        create_defaults={"person": person, "seen_at": seen, "browser": browser},
    )
    Person.objects.filter(pk=person.pk).update(last_seen_at=seen)
    _noted[key] = now


def sessions_of(person: Person) -> list[SignedIn]:
    """Where somebody is signed in now; what has run out is forgotten."""
    rows = list(person.sign_ins.all())
    alive = set(
        Session.objects.filter(
            session_key__in=[row.session_key for row in rows], expire_date__gt=timezone.now()
        ).values_list("session_key", flat=True)
    )
    gone = [row.pk for row in rows if row.session_key not in alive]
    SignedIn.objects.filter(pk__in=gone).delete()
    return [row for row in rows if row.session_key in alive]


def end_sessions(person: Person, *, but: str | None = None, only: int | None = None) -> int:
    """End the sessions of somebody, or one of them by its number; how many were ended."""
    rows = person.sign_ins.exclude(session_key=but) if but else person.sign_ins.all()
    if only is not None:
        rows = rows.filter(pk=only)
    keys = list(rows.values_list("session_key", flat=True))
    Session.objects.filter(session_key__in=keys).delete()
    rows.delete()
    for key in keys:
        _noted.pop(key, None)
    return len(keys)


def _forget(request: HttpRequest, **_: object) -> None:
    SignedIn.objects.filter(session_key=request.session.session_key).delete()


user_logged_out.connect(_forget)
