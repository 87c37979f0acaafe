"""What each role may do. Held here, on the server, and nowhere else."""

from enum import StrEnum
from typing import cast

from django.http import HttpRequest

from thistlequartz.server.problems import Refusal

from .models import Person, Role


class Right(StrEnum):
    """Something that not everybody may do."""

    READ = "read"
    EDIT_DRAFT = "edit_draft"
    RELEASE = "release"
    USE_BENCH = "use_bench"
    WRITE_RECORDS = "write_records"
    LIFT_HOLD = "lift_hold"


RIGHTS: dict[str, frozenset[Right]] = {
    Role.STEWARD: frozenset(Right),
    Role.CLERK: frozenset({Right.READ, Right.WRITE_RECORDS}),
    Role.APPROVER: frozenset({Right.READ, Right.USE_BENCH, Right.WRITE_RECORDS, Right.LIFT_HOLD}),
    Role.READER: frozenset({Right.READ}),
}

_WHAT = {
    Right.READ: "look at this",
    Right.EDIT_DRAFT: "change forms and rules",
    Right.RELEASE: "release a form",
    Right.USE_BENCH: "try a draft on the bench",
    Right.WRITE_RECORDS: "write records",
    Right.LIFT_HOLD: "take the hold off a record",
}


def person_with(request: HttpRequest, right: Right) -> Person:
    """The signed-in person, who has `right`; raises a Refusal (403) otherwise."""
    person = cast(Person, request.user)
    if right in RIGHTS.get(person.role, frozenset()):
        return person
    can = [role for role, rights in RIGHTS.items() if right in rights]
    raise Refusal(
        403,
        "no-right",
        f"Your role, {person.role}, may not {_WHAT[right]}.",
        f"Ask somebody who is a {' or a '.join(can)}.",
    )
