"""The demo's people, one for each role and two stewards. They are invented."""

from thistlequartz.server.people.models import Person, Role

from .names import NAMES, PASSWORD

_SHOWN_NAMES = (
    "Odile Farrowby",
    "Ingram Solway",
    "Tamsin Oke",
    "Ruben Halloway",
    "Ines Brackley",
)
_ROLES = (Role.STEWARD, Role.STEWARD, Role.CLERK, Role.APPROVER, Role.READER)


def make_accounts() -> dict[str, Person]:
    """The demo's accounts by name; those already there are left as they are."""
    people = {}
    for name, shown_name, role in zip(NAMES, _SHOWN_NAMES, _ROLES, strict=True):
        person, new = Person.objects.get_or_create(
            username=name,
            defaults={"shown_name": shown_name, "role": role, "email": address_of(shown_name)},
        )
        if new:
            # The first of them looks after the accounts as well.
            person.manages_people = name == NAMES[0]
            person.set_password(PASSWORD)
            person.save()
        people[name] = person
    return people


def address_of(shown_name: str) -> str:
    """Where messages to somebody go: a made-up address."""
    return f"{shown_name.lower().replace(' ', '.')}@example.org"
