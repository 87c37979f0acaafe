"""What is sent and taken of people and their accounts."""

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest
from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.values import DateStyle, NumberStyle

from .models import Person
from .presence import sessions_of
from .rights import RIGHTS, Right, form_roles, may, role_of

Password = Annotated[str, Field(max_length=500)]


class SignIn(BaseModel):
    """A name and a password."""

    model_config = ConfigDict(extra="forbid")
    name: str = Field(max_length=150)
    password: Password


class Settings(BaseModel):
    """How somebody likes the screens: their colours, and how days and numbers are written."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)
    theme: Literal["system", "light", "dark"] = "system"
    dates: DateStyle = "11 June 2026"
    numbers: NumberStyle = "1,234.5"


class Visitor(BaseModel):
    """Who is here. Without a name nobody is signed in."""

    name: str | None
    shown_name: str | None
    role: str | None
    rights: list[Right]
    form_rights: dict[str, list[Right]] = {}
    """What may be done in single forms, where that differs."""
    must_change_password: bool = False
    settings: Settings = Settings()
    token: str
    """To be sent as X-CSRFToken with every call that changes something."""


class Colleague(BaseModel):
    """Somebody who can have to do with records."""

    name: str
    """The name of the account."""
    shown_name: str
    may_write: bool


class SessionView(BaseModel):
    """Where somebody is signed in."""

    id: int
    began_at: datetime
    seen_at: datetime
    browser: str
    this_one: bool


def visitor_of(person: Person, token: str) -> Visitor:
    """Somebody who is signed in, as their own screens know them."""
    return Visitor(
        name=person.username,
        shown_name=person.shown_name or person.username,
        role=person.role,
        rights=[right for right in Right if may(person, right)],
        form_rights={
            key: sorted(RIGHTS.get(role_of(person, key), ())) for key in form_roles(person)
        },
        must_change_password=person.must_change_password,
        settings=Settings.model_validate(person),
        token=token,
    )


def sessions_view(request: HttpRequest, person: Person) -> list[SessionView]:
    """Where somebody is signed in, as seen from one of those places."""
    return [
        SessionView(
            id=row.pk,
            began_at=row.began_at,
            seen_at=row.seen_at,
            browser=row.browser,
            this_one=row.session_key == request.session.session_key,
        )
        for row in sessions_of(person)
    ]
