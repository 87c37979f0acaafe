"""Rights of each role, in every form or in one. Decided here and nowhere else."""

from collections.abc import Iterable, Mapping
from enum import StrEnum
from typing import cast

from django.http import Http404, HttpRequest

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import ProblemItem, Refusal

from .models import NO_ROLE, FormRole, Person, Role


class Right(StrEnum):
    """Something that not everybody may do."""

    READ = "read"
    EDIT_DRAFT = "edit_draft"
    RELEASE = "release"
    USE_BENCH = "use_bench"
    WRITE_RECORDS = "write_records"
    LIFT_HOLD = "lift_hold"
    APPROVE = "approve"
    WATCH = "watch"
    MANAGE_PEOPLE = "manage_people"


RIGHTS: dict[str, frozenset[Right]] = {
    Role.STEWARD: frozenset(
        {
            Right.READ,
            Right.EDIT_DRAFT,
            Right.RELEASE,
            Right.USE_BENCH,
            Right.WRITE_RECORDS,
            Right.LIFT_HOLD,
            Right.WATCH,
        }
    ),
    Role.CLERK: frozenset({Right.READ, Right.WRITE_RECORDS}),
    Role.APPROVER: frozenset(
        {Right.READ, Right.USE_BENCH, Right.WRITE_RECORDS, Right.LIFT_HOLD, Right.APPROVE}
    ),
    Role.READER: frozenset({Right.READ, Right.WATCH}),
}

_WHAT = {
    Right.READ: tr("look at this"),
    Right.EDIT_DRAFT: tr("change forms and rules"),
    Right.RELEASE: tr("release a form"),
    Right.USE_BENCH: tr("try a draft on the bench"),
    Right.WRITE_RECORDS: tr("write records"),
    Right.LIFT_HOLD: tr("release a record from hold"),
    Right.APPROVE: tr("approve records or return them"),
    Right.WATCH: tr("see how the rules fare at work"),
    Right.MANAGE_PEOPLE: tr("make and change accounts"),
}
_FORM = "form_key"
"""How addresses name the form that they are about."""


def form_roles(person: Person) -> Mapping[str, str]:
    """What somebody is in single forms, by their keys; asked for once."""
    known: dict[str, str] | None = getattr(person, "_known_form_roles", None)
    if known is None:
        known = {one.form_key: one.role for one in person.form_roles.all()}
        person._known_form_roles = known  # type: ignore[attr-defined]
    return known


def role_of(person: Person, form_key: str | None = None) -> str:
    """What somebody is: in a form, or in all that say nothing else."""
    return form_roles(person).get(form_key, person.role) if form_key else person.role


def storing_roles(form_key: str) -> dict[int, str]:
    """Return the roles of all people who may store records of a form, by primary key."""
    single = dict(FormRole.objects.filter(form_key=form_key).values_list("person_id", "role"))
    roles = ((pk, single.get(pk, role)) for pk, role in Person.objects.values_list("pk", "role"))
    return {pk: role for pk, role in roles if Right.WRITE_RECORDS in RIGHTS.get(role, ())}


def may(person: Person, right: Right, form_key: str | None = None) -> bool:
    """Whether somebody has a right, in a form or in all that say nothing else."""
    if right is Right.MANAGE_PEOPLE:
        return person.manages_people
    return right in RIGHTS.get(role_of(person, form_key), frozenset())


def may_anywhere(person: Person, right: Right) -> bool:
    """Whether somebody has a right in any form."""
    roles = (person.role, *form_roles(person).values())
    return any(right in RIGHTS.get(role, frozenset()) for role in roles)


def closed_forms(person: Person) -> list[str]:
    """The keys of forms that somebody does not see."""
    return [key for key, role in form_roles(person).items() if role == NO_ROLE]


def refuse_closed_forms(person: Person, keys: Iterable[str]) -> None:
    """Raise a Refusal (422) where one of these forms is closed to somebody.

    It reads as if the form did not exist.
    """
    closed = sorted({*keys} & {*closed_forms(person)})
    if closed:
        said = tr("There is no form “{closed}” that you may look at.", closed=closed[0])
        raise Refusal(
            422,
            "no-such-form",
            said,
            tr("Name a form that you may look at, or ask somebody who looks after the accounts."),
            [ProblemItem(place="form", message=said)],
        )


def person_with(request: HttpRequest, right: Right, about: str | None = None) -> Person:
    """The signed-in person, who has `right` in the form `about`, or that the address names.

    Raises a Refusal (403), or Http404 where the person does not see the form.
    """
    person = cast(Person, request.user)
    named = request.resolver_match.kwargs.get(_FORM) if request.resolver_match else None
    form_key = about or named
    if person.must_change_password:
        raise Refusal(
            403,
            "password-first",
            tr("Your password was set by somebody else."),
            tr("Choose one of your own first; then go on."),
        )
    if form_key in closed_forms(person):
        raise Http404(form_key)
    if may(person, right, form_key):
        return person
    if right is Right.MANAGE_PEOPLE:
        raise Refusal(
            403,
            "no-right",
            tr("You may not {act}.", act=_WHAT[right]),
            tr("Ask somebody who looks after the accounts."),
        )
    can = [role for role, rights in RIGHTS.items() if right in rights]
    raise Refusal(
        403,
        "no-right",
        tr(
            "Your role, {role}, may not {act}.",
            role=role_of(person, form_key),
            act=_WHAT[right],
        ),
        tr("Ask somebody who is a {roles}.", roles=tr(" or a ").join(can)),
    )
