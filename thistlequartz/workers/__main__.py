"""The worker process: tasks come in and answers go out a line each, until it is idle."""

import contextlib
import ctypes
import json
import os
import resource
import select
import signal
import sys
from collections.abc import Callable, Iterator, Mapping
from typing import Any, Final

import z3
from pydantic import TypeAdapter

from thistlequartz import garbage

from . import corrections as ways
from . import findings
from . import independence as parts
from . import mutations as slips
from .worker_process import END, STOP

MEMORY: Final = 2_048
"""Megabytes that it may take."""
KEPT_FOR: Final = 300.0
"""Seconds without a task after which it ends and gives its memory back."""
_OF_THE_SOLVER: Final = 0.6
"""Of the memory: past that the solver gives up a question by itself."""
_AT_ONCE: Final = 1 << 16
_DIE_WITH_PARENT: Final = 1
"""PR_SET_PDEATHSIG of Linux's prctl(2)."""
ANSWERS: Final[Mapping[str, tuple[TypeAdapter[Any], Callable[..., Iterator[str]]]]] = {
    task.what: (TypeAdapter(task), answer)
    for task, answer in (
        (findings.FindingsTask, findings.answer),
        (parts.PartsTask, parts.answer),
        (slips.SlipsTask, slips.answer),
        (ways.WaysTask, ways.answer),
    )
}


class LineReader:
    """The lines of a file descriptor, of which several may come at once."""

    def __init__(self, descriptor: int) -> None:
        self._descriptor = descriptor
        self._read = b""

    def within(self, seconds: float | None) -> str:
        """Return the next line; blank on timeout (None: for ever), or where the sender is gone."""
        while b"\n" not in self._read:
            ready, _, _ = select.select([self._descriptor], [], [], seconds)
            more = os.read(self._descriptor, _AT_ONCE) if ready else b""
            if not more:
                return ""
            self._read += more
        line, _, self._read = self._read.partition(b"\n")
        return line.decode()


class _NotWanted(Exception):
    """Whoever asked wants no more of it."""


def main() -> None:
    """The process, until there is no more to do."""
    # Whoever asked may be killed in the middle of a long search: then nobody wants its end.
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGKILL)
    garbage.after_loading()
    most = MEMORY * 1024 * 1024
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    z3.set_param("memory_max_size", int(MEMORY * _OF_THE_SOLVER))
    lines = LineReader(sys.stdin.fileno())
    while line := lines.within(KEPT_FOR):
        if line != STOP:  # what it is to stop had just ended
            with contextlib.suppress(_NotWanted):
                _answer(json.loads(line), lines)
            print(END, flush=True)


def _answer(asked: Mapping[str, Any], lines: LineReader) -> None:
    """Print the answers, until they end; raises _NotWanted."""

    def ask_back(line: str) -> str:
        """Ask whoever asked, and wait for the answer."""
        print(line, flush=True)
        told = lines.within(None)
        if told == STOP:
            raise _NotWanted
        return told

    adapter, answer = ANSWERS[asked["what"]]
    for one in answer(adapter.validate_python(asked["task"]), ask_back):
        print(one, flush=True)
        if lines.within(0):
            raise _NotWanted  # nothing but a wish to stop comes before the end


if __name__ == "__main__":
    try:
        main()
    except (BrokenPipeError, KeyboardInterrupt):
        sys.exit(1)
