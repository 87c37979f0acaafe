"""The process apart: tasks come in and answers go out a line each, until nobody has asked for a
while.
"""

import ctypes
import json
import resource
import select
import signal
import sys
from collections.abc import Callable, Iterator, Mapping
from typing import Any, Final

import z3
from pydantic import TypeAdapter

from . import findings, slips, ways
from .process import END, STOP

MEMORY: Final = 2_048
"""Megabytes that it may take."""
KEPT_FOR: Final = 60.0
"""Seconds without a task after which it ends and gives its memory back."""
_OF_THE_SOLVER: Final = 0.6
"""Of the memory: past that the solver gives up a question by itself."""
_DIE_WITH_PARENT: Final = 1
"""PR_SET_PDEATHSIG of Linux's prctl(2)."""
ANSWERS: Final[Mapping[str, tuple[TypeAdapter[Any], Callable[..., Iterator[str]]]]] = {
    task.what: (TypeAdapter(task), answer)
    for task, answer in (
        (findings.FindingsTask, findings.answer),
        (slips.SlipsTask, slips.answer),
        (ways.WaysTask, ways.answer),
    )
}


def _asked_within(seconds: float) -> str:
    """The next task; blank where there is none for so long, or nobody who could ask."""
    ready, _, _ = select.select([sys.stdin], [], [], seconds)
    return sys.stdin.readline() if ready else ""


def ask_back(line: str) -> str:
    """Ask whoever asked, and wait for the answer."""
    print(line, flush=True)
    return sys.stdin.readline()


def main() -> None:
    """The process, until there is no more to do."""
    # Whoever asked may be killed in the middle of a long search: then nobody wants its end.
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGKILL)
    most = MEMORY * 1024 * 1024
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    z3.set_param("memory_max_size", int(MEMORY * _OF_THE_SOLVER))
    while line := _asked_within(KEPT_FOR):
        if line.rstrip() != STOP:  # what it is to stop had just ended
            _answer(json.loads(line))
            print(END, flush=True)


def _answer(asked: Mapping[str, Any]) -> None:
    """Print the answers, until they end or are not wanted any more."""
    adapter, answer = ANSWERS[asked["what"]]
    for one in answer(adapter.validate_python(asked["task"]), ask_back):
        print(one, flush=True)
        if _asked_within(0):
            return  # nothing but a wish to stop comes before the end


if __name__ == "__main__":
    try:
        main()
    except (BrokenPipeError, KeyboardInterrupt):
        sys.exit(1)
