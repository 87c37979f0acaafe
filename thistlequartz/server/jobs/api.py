"""Looking at jobs, and stopping them."""

from django.http import Http404, HttpRequest
from ninja import Router

from thistlequartz.server.people.rights import Right, person_with

from .models import Job
from .services import stop
from .shapes import JobView, job_view

router = Router()


def _job(pk: int) -> Job:
    job = Job.objects.filter(pk=pk).first()
    if job is None:
        raise Http404(pk)
    return job


@router.get("/jobs/{job_id}", response={200: JobView})
def show_job(request: HttpRequest, job_id: int) -> JobView:
    """How far a job is."""
    person_with(request, Right.USE_BENCH)
    return job_view(_job(job_id))


@router.post("/jobs/{job_id}/stop", response={200: JobView})
def stop_job(request: HttpRequest, job_id: int) -> JobView:
    """Stop a job; what it has done so far is kept where it can be."""
    person_with(request, Right.EDIT_DRAFT)
    job = _job(job_id)
    stop(job)
    job.refresh_from_db()
    return job_view(job)
