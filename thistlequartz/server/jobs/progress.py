"""How far jobs are, and how they end."""

import time
from collections.abc import Iterable, Iterator
from typing import Any, TypeVar

from django.utils import timezone

from .models import Job

TOLD_EVERY = 0.25
"""Seconds between two notes of how far a job is."""
FINISHED_KEPT = 20
"""Jobs of a kind that are kept for each form."""
One = TypeVar("One")


class JobCancelled(Exception):
    """Somebody wanted the job to stop, or has taken it up instead of us."""


class Progress:
    """How far a job is. Asked often, it writes seldom."""

    def __init__(self, job: Job) -> None:
        self._job = job
        self._told = 0.0

    def over(self, items: Iterable[One], total: int) -> Iterator[One]:
        """The items, one after the other; raises Stopped between two of them."""
        for count, one in enumerate(items):
            self.tell(count, total)
            yield one
        self.tell(total, total, now=True)

    def tell(self, done: int, total: int, *, now: bool = False) -> None:
        """Say how far the job is, if that was not said just now; raises Stopped."""
        if not now and time.monotonic() - self._told < TOLD_EVERY:
            return
        self._told = time.monotonic()
        mine = Job.objects.filter(pk=self._job.pk, runner=self._job.runner)
        mine.update(done=done, total=total)
        if not mine.filter(stop_wanted=False).exists():
            raise JobCancelled


def finish(job: Job, state: str, result: Any = None, trouble: str = "") -> None:
    """Keep how a job ended, unless somebody else has taken it up; drop the oldest of its kind."""
    Job.objects.filter(pk=job.pk, runner=job.runner).update(
        state=state, result=result, trouble=trouble, ended_at=timezone.now()
    )
    old = Job.objects.filter(form=job.form_id, kind=job.kind).values_list("pk", flat=True)
    Job.objects.filter(pk__in=list(old[FINISHED_KEPT:])).delete()
