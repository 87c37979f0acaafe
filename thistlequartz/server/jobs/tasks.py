"""The one task behind every job."""

import logging
from collections.abc import Callable
from typing import Any

from django.utils.module_loading import import_string
from django_tasks import task

from .models import Job, JobState
from .progress import Progress, Stopped, finish

KINDS = {
    "cases": "thistlequartz.server.bench.suite.run_cases",
    "slips": "thistlequartz.server.bench.proving.hunt_slips",
}
"""What does the work of each kind: a function of the job and its progress, to a result as JSON."""
_log = logging.getLogger(__name__)
_TROUBLE = "This could not be finished. Start it again; if it fails again, tell whoever runs this."


@task()
def work(pk: int) -> None:
    """Do the work of a job, unless it was stopped before it began."""
    if not Job.objects.filter(pk=pk, state=JobState.WAITING).update(state=JobState.RUNNING):
        return
    job = Job.objects.select_related("form").get(pk=pk)
    run: Callable[[Job, Progress], Any] = import_string(KINDS[job.kind])
    try:
        finish(job, JobState.DONE, run(job, Progress(job)))
    except Stopped:
        finish(job, JobState.STOPPED)
    except Exception:
        _log.exception("A job failed: %s of %s", job.kind, job.form.key)
        finish(job, JobState.FAILED, trouble=_TROUBLE)
