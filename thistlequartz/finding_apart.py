"""Findings in a process of their own: what explodes there takes nothing with it, and stopping is at
once.

The process reads one task a line from its standard input and writes one step a line; a step in
which it dies is told as not decided, and the rest goes on in a new process.
"""

import ctypes
import resource
import select
import signal
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from queue import Empty, Queue
from typing import Any, Final

import z3
from pydantic import TypeAdapter

from thistlequartz.core.analysis.findings import (
    SEARCHES,
    Rights,
    Step,
    Undecided,
    find_by_steps,
)
from thistlequartz.core.judging import compile_ruleset
from thistlequartz.core.ruleset import RuleSet

MEMORY: Final = 2_048
"""Megabytes that the process may take."""
STEP_WITHIN: Final = 150.0
"""Seconds for one search of all rules."""
KEPT_FOR: Final = 60.0
"""Seconds without a task after which the process ends and gives its memory back."""
MOST_IN_VAIN: Final = 2
"""Processes in a row that come to nothing before the rest is given up."""
TOO_MUCH: Final = "it took more time or memory than it may"
_LOOKED_UP_EVERY: Final = 0.1
_OF_THE_SOLVER: Final = 0.6
"""Of the memory: past that the solver gives up a question by itself."""


@dataclass(frozen=True, slots=True)
class Task:
    """A form to look at."""

    ruleset: RuleSet
    form: str
    today: date
    rights: Rights = field(default_factory=Rights)
    samples: Mapping[str, tuple[Decimal, ...]] = field(default_factory=dict)
    skipped: tuple[int, ...] = ()


class Stopped(Exception):
    """Somebody wanted no more of it."""


_TASK: TypeAdapter[Task] = TypeAdapter(Task)
_STEP: TypeAdapter[Step] = TypeAdapter(Step)
_END: Final = "end"
_DIE_WITH_PARENT: Final = 1
"""PR_SET_PDEATHSIG of Linux's prctl(2)."""


class Finder:
    """The process, kept for the next task while it is well."""

    def __init__(self) -> None:
        self._process: subprocess.Popen[str] | None = None
        self._lines: Queue[str | None] = Queue()

    def find(
        self, task: Task, goes_on: Callable[[int], None] = lambda done: None
    ) -> Iterator[Step]:
        """The steps of a task as they are done. `goes_on` is told how many are done, again and
        again, and raises to stop.
        """
        done: set[int] = set(task.skipped)
        in_vain = 0
        while len(done) < len(SEARCHES):
            before = len(done)
            rest = Task(
                task.ruleset, task.form, task.today, task.rights, task.samples, tuple(sorted(done))
            )
            for step in self._asked(rest, lambda: goes_on(len(done))):
                done.add(step.place)
                yield step
            in_vain = in_vain + 1 if len(done) == before else 0
            left = [one for one in range(len(SEARCHES)) if one not in done]
            # A form that is too much to begin with is not begun again for each of them.
            for lost in left if in_vain == MOST_IN_VAIN else left[:1]:
                done.add(lost)
                codes = SEARCHES[lost].codes
                yield Step(lost, undecided=tuple(Undecided(one, (), (), TOO_MUCH) for one in codes))

    def _asked(self, task: Task, goes_on: Callable[[], None]) -> Iterator[Step]:
        """The steps until all are done, or the process is gone."""
        try:
            try:
                self._send(task)
            except BrokenPipeError:  # it had just ended, as nobody asked it anything
                self.end()
                self._send(task)
            while (line := self._next(goes_on)) not in (None, _END):
                yield _STEP.validate_json(line or "")
        except BrokenPipeError:
            self.end()
        except BaseException:
            self.end()
            raise
        else:
            if line is None:
                self.end()

    def _send(self, task: Task) -> None:
        process = self._running()
        assert process.stdin is not None
        process.stdin.write(_TASK.dump_json(task).decode() + "\n")
        process.stdin.flush()

    def _next(self, goes_on: Callable[[], None]) -> str | None:
        waited = 0.0
        while waited < STEP_WITHIN:
            goes_on()
            try:
                return self._lines.get(timeout=_LOOKED_UP_EVERY)
            except Empty:
                waited += _LOOKED_UP_EVERY
        return None

    def _running(self) -> "subprocess.Popen[str]":
        if self._process is None or self._process.poll() is not None:
            self._lines = Queue()
            self._process = subprocess.Popen(
                [sys.executable, "-m", "thistlequartz.finding_apart"],
                text=True,
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
            )
            listening = threading.Thread(
                target=_listen, args=(self._process.stdout, self._lines), daemon=True
            )
            listening.start()
        return self._process

    def end(self) -> None:
        """Have no process any more."""
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            self._process = None


def _listen(told: Any, lines: "Queue[str | None]") -> None:
    for line in told:
        lines.put(line.rstrip("\n"))
    lines.put(None)


def _asked_within(seconds: float) -> str:
    """The next task; blank where there is none for so long, or nobody who could ask."""
    ready, _, _ = select.select([sys.stdin], [], [], seconds)
    return sys.stdin.readline() if ready else ""


def main() -> None:
    """The process: a task a line, until there is no more."""
    # Whoever asked may be killed in the middle of a long search: then nobody wants its end.
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGKILL)
    most = MEMORY * 1024 * 1024
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    z3.set_param("memory_max_size", int(MEMORY * _OF_THE_SOLVER))
    while line := _asked_within(KEPT_FOR):
        task = _TASK.validate_json(line)
        compiled = compile_ruleset(task.ruleset, form=task.form)
        steps = find_by_steps(
            task.ruleset,
            compiled,
            task.today,
            rights=task.rights,
            samples=task.samples,
            skipped=task.skipped,
        )
        for step in steps:
            print(_STEP.dump_json(step).decode(), flush=True)
        print(_END, flush=True)


if __name__ == "__main__":
    try:
        main()
    except (BrokenPipeError, KeyboardInterrupt):
        sys.exit(1)
