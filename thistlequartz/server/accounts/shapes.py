"""What is sent and taken of accounts."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from thistlequartz.core.enumerations import Role
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import form_roles
from thistlequartz.server.people.shapes import Password

FormRoleName = Role | Literal["none"]
ShownName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]
Address = Annotated[str, StringConstraints(strip_whitespace=True, max_length=254)]
MOST_FORMS = 500


class AccountView(BaseModel):
    """An account, as those see it who look after them."""

    name: str
    shown_name: str
    email: str
    role: Role
    manages_people: bool
    open: bool
    """Whether somebody can sign in to it."""
    must_change_password: bool
    last_seen_at: datetime | None
    form_roles: dict[str, FormRoleName]


class AccountChange(BaseModel):
    """What an account shall be."""

    model_config = ConfigDict(extra="forbid")
    shown_name: ShownName
    email: Address = ""
    role: Role
    manages_people: bool = False
    open: bool = True
    form_roles: Annotated[dict[str, FormRoleName], Field(max_length=MOST_FORMS)] = {}


class NewAccount(BaseModel):
    """An account to be made; whoever gets it chooses a password of their own when they sign in."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[
        str, StringConstraints(strip_whitespace=True, pattern=r"^[\w.@+-]{2,60}$", max_length=60)
    ]
    shown_name: ShownName
    email: Address = ""
    role: Role
    manages_people: bool = False
    password: Password


class NewPassword(BaseModel):
    """A password set for somebody else."""

    model_config = ConfigDict(extra="forbid")
    password: Password


class OwnPassword(BaseModel):
    """One's own password, and what it shall be."""

    model_config = ConfigDict(extra="forbid")
    old: Password
    password: Password


def account_view(person: Person) -> AccountView:
    """An account, for those who look after them."""
    return AccountView(
        name=person.username,
        shown_name=person.shown_name or person.username,
        email=person.email,
        role=person.role,
        manages_people=person.manages_people,
        open=person.is_active,
        must_change_password=person.must_change_password,
        last_seen_at=person.last_seen_at,
        form_roles=dict(form_roles(person)),
    )
