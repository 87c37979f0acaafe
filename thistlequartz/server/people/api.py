"""Signing in and out, who is here, and where."""

from typing import cast

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout
from django.http import Http404, HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Status
from ninja.utils import check_csrf

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import Refusal
from thistlequartz.server.throttling import Throttle

from .models import Person
from .presence import end_sessions
from .rights import Right, may_anywhere, person_with
from .shapes import (
    Colleague,
    SessionView,
    Settings,
    SignIn,
    Visitor,
    sessions_view,
    visitor_of,
)

router = Router()
SIGN_INS = Throttle(120, 60)
"""By address: each try costs the work of a password, whatever name it is for."""


def _visitor(request: HttpRequest) -> Visitor:
    token = get_token(request)
    if not request.user.is_authenticated:
        return Visitor(name=None, shown_name=None, role=None, rights=[], token=token)
    return visitor_of(request.user, token)


@router.get("/session", auth=None, response=Visitor)
def who_is_here(request: HttpRequest) -> Visitor:
    """Who is signed in, with the token for calls that change something."""
    return _visitor(request)


@router.post("/session", auth=None, response={200: Visitor})
def sign_in(request: HttpRequest, body: SignIn) -> Visitor:
    """Sign in with a name and a password."""
    if check_csrf(request):
        raise Refusal(
            403,
            "no-token",
            tr("This call did not carry the page's own token."),
            tr("Reload the page and try again."),
        )
    SIGN_INS.count(request.META.get("REMOTE_ADDR", ""))
    person = authenticate(request, username=body.name, password=body.password)
    if person is None:
        if AxesProxyHandler.is_locked(request, {"username": body.name}):
            raise Refusal(
                429,
                "too-many-tries",
                tr("This name was tried too often."),
                tr("Wait six minutes, then try again."),
            )
        raise Refusal(
            422,
            "wrong-name-or-password",
            tr("The name and the password do not go together."),
            tr("Check both, capitals included, and try again."),
        )
    login(request, person)
    return _visitor(request)


@router.delete("/session", response=Visitor)
def sign_out(request: HttpRequest) -> Visitor:
    """Sign out."""
    logout(request)
    return _visitor(request)


@router.put("/session/settings", response=Visitor)
def choose_settings(request: HttpRequest, body: Settings) -> Visitor:
    """Choose how one's own screens look, and how days and numbers are written."""
    person = cast(Person, request.user)
    person.theme, person.dates, person.numbers = body.theme, body.dates, body.numbers
    person.save(update_fields=["theme", "dates", "numbers"])
    return _visitor(request)


@router.get("/session/list", response=list[SessionView])
def my_sessions(request: HttpRequest) -> list[SessionView]:
    """Where who asks is signed in."""
    return sessions_view(request, cast(Person, request.user))


@router.delete("/session/list/{number}", response={204: None})
def end_my_session(request: HttpRequest, number: int) -> Status[None]:
    """End one of one's own sessions from afar."""
    if not end_sessions(cast(Person, request.user), only=number):
        raise Http404(number)
    return Status(204, None)


@router.get("/colleagues", response=list[Colleague])
def list_colleagues(request: HttpRequest) -> list[Colleague]:
    """Everybody who is here, by name."""
    person_with(request, Right.READ)
    people = Person.objects.filter(is_active=True).prefetch_related("form_roles")
    return [
        Colleague(
            name=person.username,
            shown_name=person.shown_name or person.username,
            may_write=may_anywhere(person, Right.WRITE_RECORDS),
        )
        for person in people.order_by("shown_name", "username")
    ]
