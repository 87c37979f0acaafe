"""Beginning jobs, and stopping them."""

from collections.abc import Callable, Mapping
from datetime import timedelta
from typing import Final

from django.db import transaction
from django.dispatch import Signal
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person

from .models import UNDER_WAY, Job, JobState
from .tasks import ABANDONED, work

every_few_seconds = Signal()
"""Sent by the worker; who listens does what is due by now."""


class Senders:
    """Threads of the worker that send what is due: mails and calls, each its own.

    So that none waits for another's receivers.
    """

    def __init__(self) -> None:
        self.listening: dict[str, Callable[[], object]] = {}

    def connect(self, send: Callable[[], object], dispatch_uid: str) -> None:
        """Have `send` called every few seconds."""
        self.listening[dispatch_uid] = send


due_now: Final = Senders()
LEASE = timedelta(seconds=12)
"""A job of which nothing was heard for so long is nobody's."""
MOST_ATTEMPTS = 3


def begin(
    kind: str,
    draft: DraftForm,
    person: Person | None,
    fingerprint: str,
    asked: Mapping[str, str] | None = None,
    *,
    each_their_own: bool = False,
) -> Job:
    """Return the job of a kind that is under way for a fingerprint, or begin one.

    A job under way for another fingerprint is stopped; with `each_their_own`, only this person's.
    """
    take_up_abandoned()
    with transaction.atomic():
        # One after the other, so that several who ask at once get the same job.
        DraftForm.objects.select_for_update().get(pk=draft.pk)
        for job in Job.objects.filter(form=draft, kind=kind, state__in=UNDER_WAY):
            if job.fingerprint == fingerprint and not job.stop_wanted:
                return job
            if not each_their_own or job.person_id == (person.pk if person else None):
                stop(job)
        job = Job.objects.create(
            kind=kind, form=draft, person=person, fingerprint=fingerprint, asked=asked or {}
        )
        work.enqueue(job.pk)
    job.refresh_from_db()
    return job


def done_or_begun(
    kind: str,
    draft: DraftForm,
    person: Person,
    fingerprint: str,
    asked: Mapping[str, str],
    counts_still: Callable[[Job], bool] = lambda _: True,
) -> Job:
    """Return the newest job for a fingerprint, or begin one.

    One is begun where there is none, where the newest was stopped for a later one, or where its
    result no longer counts.
    """
    job = newest(kind, draft, fingerprint=fingerprint)
    if (
        job is None
        or job.state == JobState.STOPPED
        or (job.state in UNDER_WAY and job.stop_wanted)
        or (job.state == JobState.DONE and not counts_still(job))
    ):
        return begin(kind, draft, person, fingerprint, asked, each_their_own=True)
    return job


def take_up_abandoned() -> None:
    """Have jobs whose worker is gone done again; after too many attempts they have failed."""
    now = timezone.now()
    for job in Job.objects.filter(state=JobState.RUNNING, heartbeat_at__lt=now - LEASE):
        with transaction.atomic():
            # Only one of several who see it takes it up, and nobody if it was heard of meanwhile.
            still = Job.objects.filter(
                pk=job.pk, state=JobState.RUNNING, runner=job.runner, heartbeat_at=job.heartbeat_at
            )
            if job.stop_wanted:
                still.update(state=JobState.STOPPED, ended_at=now)
            elif job.attempts >= MOST_ATTEMPTS:
                still.update(state=JobState.FAILED, ended_at=now, trouble=ABANDONED)
            elif still.update(state=JobState.WAITING, runner="", heartbeat_at=None):
                work.enqueue(job.pk)


def stop(job: Job) -> None:
    """Have a job stopped; one that has not begun never begins."""
    ended = Job.objects.filter(pk=job.pk, state=JobState.WAITING).update(
        state=JobState.STOPPED, stop_wanted=True, ended_at=timezone.now()
    )
    if not ended:
        Job.objects.filter(pk=job.pk, state=JobState.RUNNING).update(stop_wanted=True)


def stop_what_was_left() -> None:
    """After a start: what was under way when the server stopped is not going on."""
    Job.objects.filter(state__in=UNDER_WAY).update(
        state=JobState.STOPPED,
        ended_at=timezone.now(),
        trouble=tr("The server was stopped."),
        fingerprint="",  # so that it can begin again
    )


def newest(kind: str, draft: DraftForm, *states: str, fingerprint: str | None = None) -> Job | None:
    """The newest job of a kind, of those in some states, or for a fingerprint."""
    jobs = Job.objects.filter(form=draft, kind=kind)
    if fingerprint is not None:
        jobs = jobs.filter(fingerprint=fingerprint)
    return (jobs.filter(state__in=states) if states else jobs).first()
