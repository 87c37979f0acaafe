"""Files kept in the database, so that whoever works through them finds them there."""

import hashlib
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from typing import BinaryIO, Final, Protocol

from thistlequartz.core.translation import tr
from thistlequartz.server.problems import Refusal

from .models import FilePiece, RecordFile

LARGEST: Final = 32 * 1024 * 1024
"""Bytes of a file."""
PIECE: Final = 512 * 1024
IN_MEMORY: Final = 8 * 1024 * 1024
"""Bytes up to which a file that is read is held in memory."""


class PieceReader(Protocol):
    """What comes in piece by piece."""

    def read(self, size: int) -> bytes: ...


@contextmanager
def received(coming: PieceReader) -> Iterator[tuple[BinaryIO, str, int]]:
    """What comes in, as a file with its hash and its size in bytes; raises a Refusal (413)."""
    with tempfile.SpooledTemporaryFile(IN_MEMORY) as file:
        digest, size = hashlib.sha256(), 0
        while piece := coming.read(PIECE):
            size += len(piece)
            if size > LARGEST:
                raise Refusal(
                    413,
                    "too-large",
                    tr("The file has more than {largest} MB.", largest=LARGEST // (1024 * 1024)),
                    tr("Split it into several files; each row of them is known again."),
                )
            digest.update(piece)
            file.write(piece)
        yield file, digest.hexdigest(), size  # type: ignore[misc]


def keep(record_file: RecordFile, file: BinaryIO) -> None:
    """Keep what a file holds."""
    file.seek(0)
    pieces = iter(lambda: file.read(PIECE), b"")
    for place, content in enumerate(pieces):
        FilePiece.objects.create(file=record_file, place=place, content=content)


@contextmanager
def kept(record_file: RecordFile) -> Iterator[BinaryIO]:
    """What was kept of a file, to be read."""
    with tempfile.SpooledTemporaryFile(IN_MEMORY) as file:
        for content in record_file.pieces.values_list("content", flat=True).iterator(1):
            file.write(content)
        file.seek(0)
        yield file  # type: ignore[misc]
