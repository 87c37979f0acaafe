"""Beginning jobs, and stopping them."""

from django.utils import timezone

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person

from .models import UNDER_WAY, Job, JobState
from .tasks import work


def begin(kind: str, draft: DraftForm, person: Person | None, stamp: str) -> Job:
    """A job of `kind` for `stamp`: the one that is under way, or a new one. One that is under way
    for something older is stopped.
    """
    for job in Job.objects.filter(form=draft, kind=kind, state__in=UNDER_WAY):
        if job.stamp == stamp and not job.stop_wanted:
            return job
        stop(job)
    job = Job.objects.create(kind=kind, form=draft, person=person, stamp=stamp)
    work.enqueue(job.pk)
    job.refresh_from_db()
    return job


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
        trouble="The server was stopped.",
        stamp="",  # so that it can begin again
    )


def newest(kind: str, draft: DraftForm, *states: str) -> Job | None:
    """The newest job of a kind, of those in some states."""
    jobs = Job.objects.filter(form=draft, kind=kind)
    return (jobs.filter(state__in=states) if states else jobs).first()
