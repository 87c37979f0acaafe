"""Streamed files. Each holds a thread while it is read, so only a few go at once."""

import threading
from collections.abc import Iterator
from typing import Any, Final, Generic, TypeVar

from django.http import StreamingHttpResponse
from django.utils.http import content_disposition_header

from thistlequartz.core.translation import tr

from .problems import Refusal

MOST_AT_ONCE: Final = 2
"""In one process, of its four threads."""
_free = threading.BoundedSemaphore(MOST_AT_ONCE)
T = TypeVar("T")


class _Sent(Generic[T]):
    """The pieces of a file, and the room that it takes until it is sent, or nobody wants it."""

    def __init__(self, pieces: Iterator[T]) -> None:
        self._pieces = pieces
        self._begun = True

    def __iter__(self) -> "_Sent[T]":
        return self

    def __next__(self) -> T:
        return next(self._pieces)

    def close(self) -> None:
        """Give the room back; called once the answer has been sent or was given up."""
        if self._begun:
            self._begun = False
            _free.release()
        end: Any = getattr(self._pieces, "close", None)
        if end is not None:
            end()

    def __del__(self) -> None:
        self.close()


def sent_as_file(
    pieces: Iterator[str] | Iterator[bytes], content_type: str, name: str
) -> StreamingHttpResponse:
    """The answer that carries a file. Raises a Refusal (503) where too many are being sent."""
    if not _free.acquire(blocking=False):
        raise Refusal(
            503,
            "too-many-files",
            tr("Several files are being sent just now."),
            tr("Try again in a moment; nothing is lost."),
        )
    answer = StreamingHttpResponse(_Sent(pieces), content_type=content_type)
    answer["Content-Disposition"] = content_disposition_header(True, name) or "attachment"
    return answer
