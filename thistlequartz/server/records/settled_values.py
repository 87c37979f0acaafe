"""A stored record as conditions see it that are asked outside the rules: who is told of it, say."""

from collections.abc import Mapping
from typing import Any

from django.utils import timezone

from thistlequartz.core.judging import Circumstances, CompiledForm
from thistlequartz.core.judging.settled import Settled
from thistlequartz.core.ruleset import EntryPoint, Event

from .lookup import DatabaseLookup
from .models import Record


def settled_now(
    record: Record,
    compiled: CompiledForm,
    *,
    role: str | None = None,
    door: EntryPoint = "desk",
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
    at = Circumstances(compiled.today_at(now), now, event, door, None, role)
    return compiled.settled(read, at)
