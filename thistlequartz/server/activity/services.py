"""Writing to the log of changes."""

from typing import Any

from thistlequartz.server.people.models import Person

from .models import Activity


def log(
    person: Person,
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
    """Note one change. Call it inside the transaction that makes the change."""
    Activity.objects.create(
        person=person,
        act=act,
        form_key=form_key,
        subject=subject[:200],
        note=note,
        before=before,
        after=after,
        part=part,
        part_key=part_key,
        position=position,
        batch=batch,
    )
