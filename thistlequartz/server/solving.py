"""The solver of this process of the service."""

from functools import cache

from thistlequartz.workers.worker_process import WorkerProcess


@cache
def apart() -> WorkerProcess:
    """The process that is asked: it is kept, so that the next question is answered at once."""
    return WorkerProcess()
