"""The accounts, for those who look after them, and one's own password."""

from typing import cast

from django.contrib.auth import login
from django.db import transaction
from django.http import HttpRequest, StreamingHttpResponse
from django.middleware.csrf import get_token
from ninja import Query, Router, Status

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.export import history_file
from thistlequartz.server.activity.services import log
from thistlequartz.server.activity.shapes import (
    HistoryFilter,
    HistoryPage,
    HistoryPageFilter,
    acts_page,
)
from thistlequartz.server.people.guests import GUEST
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.presence import end_sessions
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.people.shapes import SessionView, Visitor, sessions_view, visitor_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.throttling import Throttle

from .services import change_account, get_person, make_account, set_password
from .shapes import (
    AccountChange,
    AccountView,
    NewAccount,
    NewPassword,
    OwnPassword,
    account_view,
)

router = Router()
PASSWORDS = Throttle(10, 60)
"""By person: each try costs the work of a password."""


@router.post("/session/password", response={200: Visitor})
@transaction.atomic
def choose_password(request: HttpRequest, body: OwnPassword) -> Visitor:
    """Change one's own password; one's other sessions end."""
    person = cast(Person, request.user)
    PASSWORDS.count(person.username)
    if not person.check_password(body.old):
        raise Refusal(
            422,
            "wrong-password",
            tr("This is not your password as it is now."),
            tr("Write the one with which you signed in, then the new one."),
            [ProblemItem(place="old", message=tr("It does not fit this account."))],
        )
    key = request.session.session_key
    set_password(person, body.password, by_another=False, but=key)
    # The session carries a mark of the password: it is made anew, and goes on.
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    log(person, "change password", "", person.shown_name)
    return visitor_of(person, get_token(request))


@router.get("/people", response={200: list[AccountView]})
def list_accounts(request: HttpRequest) -> list[AccountView]:
    """Every account, by name; those that are closed too."""
    person_with(request, Right.MANAGE_PEOPLE)
    people = Person.objects.exclude(username=GUEST).order_by("shown_name", "username")
    return [account_view(person) for person in people.prefetch_related("form_roles")]


@router.get("/people-log", response={200: HistoryPage})
def list_acts(request: HttpRequest, asked: Query[HistoryPageFilter]) -> HistoryPage:
    """Who changed which account, when; the newest first."""
    return acts_page("", asked, person_with(request, Right.MANAGE_PEOPLE).style)


@router.get("/people-log-file", response={200: str})
def export_acts(request: HttpRequest, asked: Query[HistoryFilter]) -> StreamingHttpResponse:
    """The same as a CSV file, with their hashes."""
    return history_file("", asked, person_with(request, Right.MANAGE_PEOPLE).style)


@router.post("/people", response={201: AccountView})
@transaction.atomic
def add_account(request: HttpRequest, body: NewAccount) -> Status[AccountView]:
    """Make an account."""
    by = person_with(request, Right.MANAGE_PEOPLE)
    made = make_account(
        body.name,
        body.shown_name,
        body.role,
        body.password,
        email=body.email,
        manages_people=body.manages_people,
    )
    view = account_view(made)
    log(by, "make account", "", made.shown_name, after=view.model_dump(mode="json"))
    return Status(201, view)


@router.put("/people/{name}", response={200: AccountView})
@transaction.atomic
def put_account(request: HttpRequest, name: str, body: AccountChange) -> AccountView:
    """Change an account, or close or reopen it."""
    by = person_with(request, Right.MANAGE_PEOPLE)
    person = get_person(name)
    before = account_view(person).model_dump(mode="json")
    change_account(
        person,
        shown_name=body.shown_name,
        email=body.email,
        role=body.role,
        manages_people=body.manages_people,
        open_=body.open,
        form_roles=body.form_roles,
    )
    view = account_view(get_person(name))
    after = view.model_dump(mode="json")
    log(by, "change account", "", person.shown_name, before=before, after=after)
    return view


@router.post("/people/{name}/password", response={204: None})
@transaction.atomic
def reset_password(request: HttpRequest, name: str, body: NewPassword) -> Status[None]:
    """Set a password for somebody, who chooses another at the next sign-in; their sessions end."""
    by = person_with(request, Right.MANAGE_PEOPLE)
    person = get_person(name)
    set_password(person, body.password, by_another=True)
    log(by, "reset password", "", person.shown_name)
    return Status(204, None)


@router.get("/people/{name}/sessions", response={200: list[SessionView]})
def list_sessions(request: HttpRequest, name: str) -> list[SessionView]:
    """Where somebody is signed in."""
    person_with(request, Right.MANAGE_PEOPLE)
    return sessions_view(request, get_person(name))


@router.delete("/people/{name}/sessions", response={204: None})
@transaction.atomic
def end_their_sessions(request: HttpRequest, name: str) -> Status[None]:
    """Sign somebody out everywhere."""
    by = person_with(request, Right.MANAGE_PEOPLE)
    person = get_person(name)
    end_sessions(person, but=request.session.session_key if person == by else None)
    log(by, "end sessions", "", person.shown_name)
    return Status(204, None)
