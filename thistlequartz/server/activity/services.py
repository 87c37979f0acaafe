"""Writing to the log of changes."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from thistlequartz.server.people.models import Person

from .chain import as_stored, hash_of
from .models import Activity, Chain, Turn


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
) -> None:
    """Note one change; without a person, the server made it by itself. Call it inside the
    transaction that makes the change: the end of the chain is nobody else's until that ends.
    """
    Chain.objects.get_or_create(form_key=form_key)
    end = Chain.objects.select_for_update().get(form_key=form_key)
    told = {
        "who": f"{person.shown_name} ({person.username})" if person else "",
        "act": act,
        "form_key": form_key,
        "subject": subject[:200],
        "note": note,
        "before": as_stored(before),
        "after": as_stored(after),
        "part": part,
        "part_key": part_key,
        "position": position,
        "batch": batch,
        "place": end.length + 1,
    }
    at = timezone.now()
    end.length += 1
    end.hash = hash_of(end.hash, at, told)
    activity = Activity.objects.create(person=person, at=at, hash=end.hash, **told)
    end.save()
    if part:
        Turn.objects.create(activity=activity)
