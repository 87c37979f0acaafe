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


def _may_follow(request: HttpRequest, job: Job, right: Right) -> None:
    """A job belongs to its form: it is for who has the right there, and for who began it there."""
    began = job.person_id is not None and job.person_id == request.user.pk
    person_with(request, Right.READ if began else right, about=job.form.key)


@router.get("/jobs/{job_id}", response={200: JobView})
def show_job(request: HttpRequest, job_id: int) -> JobView:
    """How far a job is."""
    job = _job(job_id)
    _may_follow(request, job, Right.USE_BENCH)
    return job_view(job)


@router.post("/jobs/{job_id}/stop", response={200: JobView})
def stop_job(request: HttpRequest, job_id: int) -> JobView:
    """Stop a job; what it has done so far is kept where it can be."""
    job = _job(job_id)
    _may_follow(request, job, Right.EDIT_DRAFT)
    stop(job)
    job.refresh_from_db()
    return job_view(job)
