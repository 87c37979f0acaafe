"""Finding acts in the history."""

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db.models import Q, QuerySet

from .acts import acts_saying
from .models import AuditEntry


@dataclass(frozen=True, slots=True)
class HistoryQuery:
    """Which acts are wanted; what is blank does not count."""

    form_key: str
    """Blank: those on accounts."""
    text: str = ""
    """In who did it, what it was, to what, or why."""
    act: str = ""
    person: str = ""
    """By the name that is signed in with."""
    since: date | None = None
    until: date | None = None
    """The last day, by the clock of the server's zone."""


def acts(asked: HistoryQuery) -> QuerySet[AuditEntry]:
    """The acts that are wanted, newest first."""
    found: QuerySet[AuditEntry] = AuditEntry.objects.filter(form_key=asked.form_key)
    if asked.act:
        found = found.filter(act=asked.act)
    if asked.person:
        found = found.filter(person__username=asked.person)
    if asked.since:
        found = found.filter(at__gte=_begin(asked.since))
    if asked.until and asked.until < date.max:
        found = found.filter(at__lt=_begin(asked.until + timedelta(days=1)))
    if asked.text.strip():
        anywhere = Q(act__in=acts_saying(asked.text.strip()))
        for name in ("who", "act", "subject", "note"):
            anywhere |= Q(**{f"{name}__icontains": asked.text.strip()})
        found = found.filter(anywhere)
    return found.select_related("person").order_by("-id")


def _begin(day: date) -> datetime:
    return datetime.combine(day, time.min, ZoneInfo(settings.TIME_ZONE))
