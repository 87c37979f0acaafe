"""Another process beside the worker, for half of what is to be done."""

import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager, suppress

from django.db import connection


@contextmanager
def process_beside(*command: str) -> Iterator["subprocess.Popen[str]"]:
    """Run one of Django's commands beside this process, with the same database.

    Spoken to by standard input and output; killed when the block ends.
    """
    database = connection.settings_dict
    around = {
        **os.environ,
        "THISTLEQUARTZ_DB_NAME": database["NAME"],
        "THISTLEQUARTZ_DB_USER": database["USER"],
        "THISTLEQUARTZ_DB_PASSWORD": database["PASSWORD"],
        "THISTLEQUARTZ_DB_SOCKET": database["OPTIONS"]["unix_socket"],
    }
    whole = [sys.executable, "-m", "thistlequartz.server.manage", *command, "--skip-checks"]
    with subprocess.Popen(  # noqa: S603
        whole, env=around, text=True, stdin=subprocess.PIPE, stdout=subprocess.PIPE
    ) as process:
        try:
            yield process
        finally:
            process.kill()
            # What it was still to be told, it needs to know no more.
            with suppress(OSError):
                process.stdin.close()  # type: ignore[union-attr]
