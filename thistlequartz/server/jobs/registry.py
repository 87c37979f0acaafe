"""The kinds of jobs: each app registers the function that does the work of its own."""

from collections.abc import Callable
from typing import Any

from .models import Job
from .progress import Progress

Work = Callable[[Job, Progress], Any]
"""Does the work of a job, tells its progress, and gives the result as JSON."""
_WORK: dict[str, Work] = {}


def register(kind: str, work: Work) -> None:
    """Have jobs of `kind` done by `work`."""
    _WORK[kind] = work


def work_of(kind: str) -> Work:
    """The work of a kind; raises LookupError for one that no app has registered."""
    if kind not in _WORK:
        raise LookupError(f"No app does jobs of the kind “{kind}”.")
    return _WORK[kind]
