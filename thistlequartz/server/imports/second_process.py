"""A second process that judges every other batch of a file, and stores it in its turn.

It is told by lines: the mark of the file, then of each piece its rows, and that they may be stored.
"""

import base64
import pickle
import queue
import subprocess
import threading
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import Final, TextIO

from thistlequartz.core.tables import TableRow
from thistlequartz.server.jobs.beside import process_beside

from .models import RecordFile
from .plan import ImportCounts

COMMAND: Final = "import_share"
STORE: Final = "store"
LOOKED_AT_EVERY: Final = 0.25
"""Seconds between two looks whether to go on."""


class SecondProcess:
    """The second process, as it tells of itself."""

    def __init__(self, process: "subprocess.Popen[str]") -> None:
        self.came = ImportCounts()
        self.runs = True
        self._process = process
        self._told: queue.SimpleQueue[ImportCounts | None] = queue.SimpleQueue()
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self) -> None:
        assert self._process.stdout is not None
        for line in self._process.stdout:
            self._told.put(ImportCounts.model_validate_json(line))
        self._told.put(None)

    def begin(self, fingerprint: str) -> None:
        """Tell it what the rows of the file are known again by."""
        self._tell(fingerprint)

    def give(self, rows: Sequence[TableRow]) -> None:
        """Have it judge a piece; it stores nothing yet."""
        self._tell(base64.b64encode(pickle.dumps(rows)).decode())

    def may_store(self) -> None:
        """All before the piece that it was given is stored."""
        self._tell(STORE)

    def _tell(self, line: str) -> None:
        assert self._process.stdin is not None
        if self.runs:
            try:
                self._process.stdin.write(f"{line}\n")
                self._process.stdin.flush()
            except OSError:
                self.runs = False

    def has_stored(self, meanwhile: Callable[[], None]) -> bool:
        """Wait until it has stored its piece; False: it is gone. `meanwhile` may raise."""
        while self.runs:
            try:
                came = self._told.get(timeout=LOOKED_AT_EVERY)
            except queue.Empty:
                meanwhile()
                continue
            if came is not None:
                self.came = came
                return True
            self.runs = False
        return False


def pieces_given(lines: TextIO) -> Iterator[list[TableRow]]:
    """In the second process: the pieces that it is given, as long as somebody gives any."""
    for line in lines:
        # It comes from the process that has started this one, and from nobody else.
        yield pickle.loads(base64.b64decode(line))  # noqa: S301


@contextmanager
def second_process(record_file: RecordFile) -> Iterator[SecondProcess]:
    """It ends with what is done here; should this process be killed, before its next piece."""
    with process_beside(COMMAND, str(record_file.pk)) as process:
        yield SecondProcess(process)
