"""A stored record for conditions outside the rules, such as who receives a message."""

from collections.abc import Mapping
from typing import Any

from django.utils import timezone

from thistlequartz.core.judging import Circumstances, CompiledForm, Settled
from thistlequartz.core.ruleset import EntryPoint, Event

from .lookup import DatabaseLookup
from .models import Record


def settled_now(
    record: Record,
    compiled: CompiledForm,
    *,
    role: str | None = None,
    entry_point: EntryPoint = "desk",
    before: Mapping[str, Any] | None = None,
) -> Settled:
    """The states and values of its fields, now; `before` is what it held, unless it is new."""
    now = timezone.now()
    read = compiled.read(
        compiled.as_entered(record.values),
        stored=before,
        lookup=DatabaseLookup(compiled.form.key, record.pk),
    )
    event: Event = "create" if before is None else "update"
    at = Circumstances(compiled.today_at(now), now, event, entry_point, None, role)
    return compiled.settled(read, at)
