"""Accounts made, changed and closed by somebody with the right, and passwords."""

from collections.abc import Mapping

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models.functions import Lower
from django.http import Http404

from thistlequartz.core.translation import tr
from thistlequartz.server.people.addresses import refuse_unfit_address
from thistlequartz.server.people.guests import GUEST
from thistlequartz.server.people.models import FormRole, Person
from thistlequartz.server.people.presence import end_sessions
from thistlequartz.server.problems import ProblemItem, Refusal


def get_person(name: str) -> Person:
    """Somebody by the name of the account; raises Http404."""
    person = Person.objects.exclude(username=GUEST).filter(username=name).first()
    if person is None:
        raise Http404(name)
    return person


@transaction.atomic
def make_account(
    name: str, shown_name: str, role: str, password: str, *, email: str, manages_people: bool
) -> Person:
    """Make an account, with a password that is changed at the first sign-in."""
    refuse_unfit_address(email)
    alike = Person.objects.annotate(folded=Lower("username")).filter(folded=name.lower())
    if alike.exists():
        raise Refusal(
            409,
            "name-taken",
            tr("There is an account of the name {name} already.", name=name),
            tr("Give it another name; the one that is there stays as it is."),
            [ProblemItem(place="name", message=tr("This name is taken."))],
        )
    person = Person(
        username=name,
        shown_name=shown_name,
        email=email,
        role=role,
        manages_people=manages_people,
        must_change_password=True,
    )
    check_password(password, person)
    person.set_password(password)
    person.save()
    return person


@transaction.atomic
def change_account(
    person: Person,
    *,
    shown_name: str,
    email: str,
    role: str,
    manages_people: bool,
    open_: bool,
    form_roles: Mapping[str, str],
) -> None:
    """Change an account, or close it: then its sessions end at once."""
    refuse_unfit_address(email)
    keeps = manages_people and open_
    others = Person.objects.select_for_update().filter(manages_people=True, is_active=True)
    if person.manages_people and not keeps and not others.exclude(pk=person.pk).exists():
        raise Refusal(
            409,
            "last-one",
            tr(
                "{shown_name} is the last who looks after the accounts.",
                shown_name=person.shown_name,
            ),
            tr("Give that right to somebody else first."),
        )
    person.shown_name, person.email, person.role = shown_name, email, role
    person.manages_people, person.is_active = manages_people, open_
    person.save()
    person.form_roles.all().delete()
    FormRole.objects.bulk_create(
        FormRole(person=person, form_key=key, role=given) for key, given in form_roles.items()
    )
    if not open_:
        end_sessions(person)


def set_password(
    person: Person, password: str, *, by_another: bool, but: str | None = None
) -> None:
    """Give somebody a password; their sessions end, except the one in which it was asked for."""
    check_password(password, person)
    person.set_password(password)
    person.must_change_password = by_another
    person.save(update_fields=["password", "must_change_password"])
    end_sessions(person, but=but)


def check_password(password: str, person: Person) -> None:
    """Raise a Refusal (422) that names each rule a password does not keep."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise Refusal(
            422,
            "weak-password",
            tr("This password cannot be used."),
            tr("Choose one as told below."),
            [ProblemItem(place="password", message=message) for message in error.messages],
        ) from None
