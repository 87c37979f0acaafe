"""Signing in and out, and who is here."""

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.server.problems import ProblemDetails, Refusal

from .rights import RIGHTS, Right

router = Router()


class SignIn(BaseModel):
    """A name and a password."""

    model_config = ConfigDict(extra="forbid")
    name: str = Field(max_length=150)
    password: str = Field(max_length=500)


class Visitor(BaseModel):
    """Who is here. Without a name nobody is signed in."""

    name: str | None
    shown_name: str | None
    role: str | None
    rights: list[Right]
    token: str
    """To be sent as X-CSRFToken with every call that changes something."""


def _visitor(request: HttpRequest) -> Visitor:
    token = get_token(request)
    if not request.user.is_authenticated:
        return Visitor(name=None, shown_name=None, role=None, rights=[], token=token)
    person = request.user
    return Visitor(
        name=person.username,
        shown_name=person.shown_name or person.username,
        role=person.role,
        rights=sorted(RIGHTS.get(person.role, ())),
        token=token,
    )


@router.get("/session", auth=None, response=Visitor)
def who_is_here(request: HttpRequest) -> Visitor:
    """Who is signed in, with the token for calls that change something."""
    return _visitor(request)


@router.post("/session", auth=None, response={200: Visitor, 422: ProblemDetails})
def sign_in(request: HttpRequest, body: SignIn) -> Visitor:
    """Sign in with a name and a password."""
    if check_csrf(request):
        raise Refusal(
            403,
            "no-token",
            "This call did not carry the page's own token.",
            "Reload the page and try again.",
        )
    person = authenticate(request, username=body.name, password=body.password)
    if person is None:
        if AxesProxyHandler.is_locked(request, {"username": body.name}):
            raise Refusal(
                429,
                "too-many-tries",
                "This name was tried too often.",
                "Wait six minutes, then try again.",
            )
        raise Refusal(
            422,
            "wrong-name-or-password",
            "The name and the password do not go together.",
            "Check both, capitals included, and try again.",
        )
    login(request, person)
    return _visitor(request)


@router.delete("/session", response=Visitor)
def sign_out(request: HttpRequest) -> Visitor:
    """Sign out."""
    logout(request)
    return _visitor(request)
