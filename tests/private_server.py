"""The real thing for tests: a MariaDB of our own, in a folder of our own."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from thistlequartz.launch.database import PrivateMariaDB


@contextmanager
def private_folder() -> Iterator[Path]:
    """A folder that goes when the tests end."""
    with tempfile.TemporaryDirectory(prefix="thistlequartz-test-") as folder:
        yield Path(folder)


@contextmanager
def private_mariadb() -> Iterator[PrivateMariaDB]:
    """A running MariaDB that goes when the tests end."""
    with private_folder() as folder, PrivateMariaDB(folder / "mariadb", durable=False) as database:
        yield database
