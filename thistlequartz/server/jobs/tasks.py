"""The one task behind every job."""

import logging
import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import DatabaseError, connections
from django.db.models import F
from django.utils import timezone
from django_tasks import task

from thistlequartz.core.translation import tr
from thistlequartz.server.outages import MET
from thistlequartz.server.problems import MAX_ERRORS, Refusal

from .models import Job, JobState
from .progress import JobCancelled, Progress, finish
from .registry import work_of

BEAT_EVERY = 3
"""Seconds between two signs that a job is being worked on."""
ABANDONED = tr(
    "Whoever worked on this ended several times before it was done. Start it again later."
)
_log = logging.getLogger(__name__)
_TROUBLE = tr(
    "This could not be finished. Start it again; if it fails again, tell whoever runs this."
)


@task()
def work(pk: int) -> None:
    """Do the work of a job, unless it was stopped before it began."""
    mine = {
        "runner": secrets.token_hex(8),
        "heartbeat_at": timezone.now(),
        "attempts": F("attempts") + 1,
    }
    waiting = Job.objects.filter(pk=pk, state=JobState.WAITING)
    if not waiting.update(state=JobState.RUNNING, **mine):
        return
    job = Job.objects.select_related("form").get(pk=pk)
    run = work_of(job.kind)
    try:
        with _beating(job):
            result = run(job, Progress(job))
        finish(job, JobState.DONE, result)
    except JobCancelled:
        finish(job, JobState.STOPPED)
    except Refusal as refusal:
        errors = [one.model_dump() for one in refusal.errors[:MAX_ERRORS]]
        said = f"{refusal.title} {refusal.detail}"
        finish(job, JobState.FAILED, errors, trouble=said)
    except MET:
        raise  # The database went: somebody takes the job up again when it is back.
    except Exception:
        _log.exception("A job failed: %s of %s", job.kind, job.form.key)
        finish(job, JobState.FAILED, trouble=_TROUBLE)


@contextmanager
def _beating(job: Job) -> Iterator[None]:
    """Show every few seconds that the job is being worked on."""
    ended = threading.Event()
    beat = threading.Thread(target=_beat, args=(job, ended), daemon=True)
    beat.start()
    try:
        yield
    finally:
        ended.set()
        beat.join()


def _beat(job: Job, ended: threading.Event) -> None:
    while not ended.wait(BEAT_EVERY):
        try:
            Job.objects.filter(pk=job.pk, runner=job.runner).update(heartbeat_at=timezone.now())
        except (DatabaseError, *MET):
            connections.close_all()
    connections.close_all()
