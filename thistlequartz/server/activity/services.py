"""Writing to the log of changes."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.inserting import as_column, insert
from thistlequartz.server.people.models import Person

from .acts import ACTS
from .chain import as_stored, hash_of
from .models import AuditChain, AuditEntry, UndoState


@transaction.atomic
def log(
    person: Person | None,
    act: str,
    form_key: str,
    subject: str,
    *,
    note: str = "",
    before: Any = None,
    after: Any = None,
    part: str = "",
    part_key: str = "",
    position: int | None = None,
    batch: str = "",
    at: datetime | None = None,
) -> None:
    """Log one change, made now or `at` some moment, in the transaction that makes it.

    Without a person the server made it. The head of the log is locked until the transaction ends.
    """
    told = HistoryEntry(
        person, act, subject, note, before, after, part, part_key, position, batch, at
    )
    end = _end_of(form_key)
    entry = _bound(told, end)
    entry.save()
    end.save()
    if part:
        UndoState.objects.create(entry=entry)


@dataclass(frozen=True, slots=True)
class HistoryEntry:
    """A change to be noted."""

    person: Person | None
    act: str
    subject: str
    note: str = ""
    before: Any = None
    after: Any = None
    part: str = ""
    part_key: str = ""
    position: int | None = None
    batch: str = ""
    at: datetime | None = None


@transaction.atomic
def log_many(form_key: str, acts: Iterable[HistoryEntry]) -> None:
    """Note changes to records in the order in which they were made."""
    end = _end_of(form_key)
    bound = (_bound(one, end) for one in acts)
    columns = [one for one in AuditEntry._meta.concrete_fields if not one.primary_key]
    names = [one.name for one in columns]
    insert(AuditEntry, names, ([as_column(row, one) for one in columns] for row in bound))
    end.save()


def _end_of(form_key: str) -> AuditChain:
    AuditChain.objects.get_or_create(form_key=form_key)
    return AuditChain.objects.select_for_update().get(form_key=form_key)


def _bound(one: HistoryEntry, end: AuditChain) -> AuditEntry:
    """An act at the end of a chain, which is moved on."""
    person = one.person
    if one.act not in ACTS:
        raise ValueError(tr("the history has no words for the act {act!r}", act=one.act))
    told = {
        "who": f"{person.shown_name} ({person.username})" if person else "",
        "act": one.act,
        "form_key": end.form_key,
        "subject": one.subject[:200],
        "note": one.note,
        "before": as_stored(one.before),
        "after": as_stored(one.after),
        "part": one.part,
        "part_key": one.part_key,
        "position": one.position,
        "batch": one.batch,
        "place": end.length + 1,
    }
    at = one.at or timezone.now()
    end.length += 1
    end.hash = hash_of(end.hash, at, told)
    return AuditEntry(person=person, at=at, hash=end.hash, **told)
