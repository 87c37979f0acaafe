"""The desk: for each form that can be filled in, how many records wait for whoever looks."""

from dataclasses import dataclass
from typing import Final

from django.db.models import Exists, OuterRef, QuerySet
from django.utils import timezone

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import in_force_at
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import Right, closed_forms, may
from thistlequartz.server.records.models import Record, State
from thistlequartz.server.releases.models import Release

COUNTED_TO: Final = 1_000
"""More is not counted: whoever has a thousand records to do begins with the first."""


@dataclass(frozen=True, slots=True)
class DeskTasks:
    """A form that is in use, and the records in it that wait for one person."""

    form: DraftForm
    may_write: bool
    mine: int
    """Which the person began and has not submitted."""
    held: int
    """Of these, and of those returned, which are on hold."""
    returned: int
    to_approve: int


def waiting_for(person: Person) -> list[DeskTasks]:
    """Every form that is in use, by name."""
    in_use = DraftForm.objects.exclude(key__in=closed_forms(person)).filter(
        Exists(Release.objects.filter(in_force_at(timezone.now()), form=OuterRef("pk")))
    )
    return [_waiting(person, form) for form in in_use.order_by("name")]


def _waiting(person: Person, form: DraftForm) -> DeskTasks:
    kept = Record.objects.filter(form=form, keeper=person)
    approves = may(person, Right.APPROVE, form.key)
    return DeskTasks(
        form,
        may(person, Right.WRITE_RECORDS, form.key),
        mine=_count(kept.filter(state=State.IN_PROGRESS)),
        held=_count(kept.filter(state__in=(State.IN_PROGRESS, State.RETURNED), on_hold=True)),
        returned=_count(kept.filter(state=State.RETURNED)),
        to_approve=_count(form.records.filter(state=State.SUBMITTED)) if approves else 0,
    )


def _count(records: QuerySet[Record]) -> int:
    return records.order_by()[:COUNTED_TO].count()
