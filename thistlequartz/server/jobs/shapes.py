"""What is told of a job."""

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from thistlequartz.server.problems import MAX_ERRORS, ProblemItem

from .models import Job, JobState


class JobView(BaseModel):
    """How far a job is."""

    id: int
    kind: str
    state: Literal["waiting", "running", "done", "stopped", "failed"]
    done: int
    total: int
    trouble: str
    errors: list[ProblemItem] = []
    """What is to be corrected before it can be done."""
    created_at: datetime
    ended_at: datetime | None


def job_view(job: Job) -> JobView:
    """A job, for an answer."""
    view = JobView.model_validate(job, from_attributes=True)
    if job.state == JobState.FAILED and job.result:
        view.errors = [ProblemItem.model_validate(one) for one in job.result[:MAX_ERRORS]]
    return view
