"""Which release of a form is in force, and which waits for its moment."""

from datetime import datetime
from typing import Any, NamedTuple

from django.db.models import Q
from django.utils import timezone

from .models import DraftForm


class ReleaseStatus(NamedTuple):
    """The releases of a form that count; withdrawn ones and earlier ones do not."""

    in_force: Any
    """By which records are judged now; None before there is one."""
    waiting: Any
    """Which waits for the moment from which it is in force; at most one does."""

    @property
    def newest(self) -> Any:
        """The one that was made last."""
        return self.waiting or self.in_force


def in_force_at(at: datetime, prefix: str = "") -> Q:
    """Whether a release has come into force by then and was not withdrawn."""
    return Q(**{f"{prefix}in_force_from__lte": at, f"{prefix}withdrawn_at": None})


def standing(draft: DraftForm) -> ReleaseStatus:
    """The releases that count now, without their documents."""
    rows = draft.releases.filter(withdrawn_at=None).select_related("released_by")
    newest, former = [*rows.defer("document").order_by("-number")[:2], None, None][:2]
    if newest is None or newest.in_force_from <= timezone.now():
        return ReleaseStatus(newest, None)
    return ReleaseStatus(former, newest)


def release_in_force(draft: DraftForm) -> Any:
    """The release that records are judged by now, if there is one."""
    return standing(draft).in_force


def newest_release(draft: DraftForm) -> Any:
    """The release that was made last, be it in force or waiting."""
    return standing(draft).newest


def waiting_release(draft: DraftForm) -> Any:
    """The release that waits for the moment from which it is in force, if there is one."""
    return standing(draft).waiting
