"""Where what tests start keeps what is its own."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

MEMORY = Path("/dev/shm")
ROOM = 4 << 30
"""Bytes that must be free there: a database takes a quarter of that, and several run at once."""


def _where() -> Path | None:
    """In memory, where a database need not wait for a disk; None: where temporary files are."""
    return MEMORY if MEMORY.is_dir() and shutil.disk_usage(MEMORY).free > ROOM else None


@contextmanager
def private_folder() -> Iterator[Path]:
    """A folder that goes when the tests end."""
    with tempfile.TemporaryDirectory(prefix="thistlequartz-test-", dir=_where()) as folder:
        yield Path(folder)
