"""The solver of this process of the service."""

from functools import cache

from thistlequartz.apart.process import Apart


@cache
def apart() -> Apart:
    """The process that is asked: it is kept, so that the next question is answered at once."""
    return Apart()
