"""Looking at jobs, and stopping them."""

from datetime import datetime
from typing import Literal

from django.http import Http404, HttpRequest
from ninja import Router
from pydantic import BaseModel

from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemDetails

from .models import Job
from .services import stop

router = Router()
REFUSALS = {403: ProblemDetails, 404: ProblemDetails}


class JobView(BaseModel):
    """How far a job is."""

    id: int
    kind: str
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    done: int
    total: int
    trouble: str
    created_at: datetime
    ended_at: datetime | None


def job_view(job: Job) -> JobView:
    """A job, for an answer."""
    return JobView.model_validate(job, from_attributes=True)


def _job(pk: int) -> Job:
    job = Job.objects.filter(pk=pk).first()
    if job is None:
        raise Http404(pk)
    return job


@router.get("/jobs/{job_id}", response={200: JobView, **REFUSALS})
def show_job(request: HttpRequest, job_id: int) -> JobView:
    """How far a job is."""
    person_with(request, Right.USE_BENCH)
    return job_view(_job(job_id))


@router.post("/jobs/{job_id}/stop", response={200: JobView, **REFUSALS})
def stop_job(request: HttpRequest, job_id: int) -> JobView:
    """Stop a job; what it has done so far is kept where it can be."""
    person_with(request, Right.EDIT_DRAFT)
    job = _job(job_id)
    stop(job)
    job.refresh_from_db()
    return job_view(job)
