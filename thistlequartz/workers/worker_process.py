"""The worker process as its callers see it: tasks go in, answers come out, a line each.

It is kept for the next task while it is well, and ends by itself once nobody has asked for a
while.
"""

import json
import os
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from queue import Empty, Queue
from typing import Any, Final, Protocol

from pydantic import TypeAdapter

from thistlequartz.core.translation import tr

ANSWER_WITHIN: Final = 150.0
"""Seconds of work of the process from one answer to the next."""
END: Final = "end"
STOP: Final = "stop"
LEAVES_OFF_WITHIN: Final = 1.0
"""Seconds for the process to leave off a task by itself: about what another needs to begin."""
TOO_MUCH: Final = tr("it took more time or memory than it may")
"""Why something is not decided in which the process was lost."""
MOST_IN_VAIN: Final = 2
"""Processes in a row that come to nothing before the rest of a task is given up."""
_LOOKED_UP_EVERY: Final = 0.1
_PATIENCE: Final = 5
"""How much longer than its work it may take on a busy machine."""
_TICKS: Final = os.sysconf("SC_CLK_TCK")


class TaskCancelled(Exception):
    """Somebody wanted no more of it."""


class ProcessLost(Exception):
    """The process died, or took longer than it may."""


class Task(Protocol):
    """What the process is asked."""

    @property
    def what(self) -> str:
        """The name of what is asked, by which the process knows how to answer."""


def nobody_stops() -> None:
    """For whoever waits to the end."""


class WorkerProcess:
    """The process. One task at a time: others wait."""

    def __init__(self) -> None:
        self._process: subprocess.Popen[str] | None = None
        self._lines: Queue[str | None] = Queue()
        self._lock = threading.Lock()

    def ask(
        self,
        task: Task,
        goes_on: Callable[[], None] = nobody_stops,
        within: float = ANSWER_WITHIN,
    ) -> Iterator[str]:
        """Yield the answers as they come, as JSON.

        `goes_on` is called again and again, and raises to stop. Raises Lost where an answer is not
        there after so many seconds of the process's work, or five times as many by the clock.
        """
        if not self._lock.acquire(timeout=within):
            raise ProcessLost
        try:
            yield from self._answers(task, goes_on, within)
        except BrokenPipeError:
            self.end()
            raise ProcessLost from None
        except ProcessLost:
            self.end()
            raise
        except BaseException:  # also where whoever asked wants no more answers
            self._leave_off()
            raise
        finally:
            self._lock.release()

    def _answers(self, task: Task, goes_on: Callable[[], None], within: float) -> Iterator[str]:
        line = json.dumps({"what": task.what, "task": _ANY.dump_python(task, mode="json")})
        try:
            self._send(line)
        except BrokenPipeError:  # it had just ended, as nobody asked it anything
            self.end()
            self._send(line)
        while True:
            answer = self._next(goes_on, within)
            if answer is None:
                raise ProcessLost
            if answer == END:
                return
            yield answer

    def _leave_off(self) -> None:
        """Have no more answers: from a process that leaves off by itself, if it does so at once."""
        try:
            self._send(STOP)
        except BrokenPipeError:
            self.end()
            return
        deadline = time.monotonic() + LEAVES_OFF_WITHIN
        while (left := deadline - time.monotonic()) > 0:
            try:
                answer = self._lines.get(timeout=left)
            except Empty:
                break
            if answer == END:
                return
            if answer is None:
                break
        self.end()

    def tell(self, line: str) -> None:
        """Answer a question of the process, which waits for it."""
        try:
            self._send(line)
        except BrokenPipeError:
            raise ProcessLost from None

    def _send(self, line: str) -> None:
        process = self._running()
        assert process.stdin is not None
        process.stdin.write(line + "\n")
        process.stdin.flush()

    def _next(self, goes_on: Callable[[], None], within: float) -> str | None:
        begun, worked = time.monotonic(), self._worked()
        while self._worked() - worked < within and time.monotonic() - begun < within * _PATIENCE:
            goes_on()
            try:
                return self._lines.get(timeout=_LOOKED_UP_EVERY)
            except Empty:
                continue
        return None

    def _worked(self) -> float:
        """Seconds of processor time that the process has taken (proc(5))."""
        try:
            after_name = Path(f"/proc/{self.pid}/stat").read_text().rpartition(")")[2].split()
        except OSError:  # it has ended: there is nothing more to wait for but its last lines
            return 0.0
        return (int(after_name[11]) + int(after_name[12])) / _TICKS

    def _running(self) -> "subprocess.Popen[str]":
        if self._process is None or self._process.poll() is not None:
            self._lines = Queue()
            self._process = subprocess.Popen(
                [sys.executable, "-m", "thistlequartz.workers"],
                text=True,
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
            )
            listening = threading.Thread(
                target=_listen, args=(self._process.stdout, self._lines), daemon=True
            )
            listening.start()
        return self._process

    @property
    def pid(self) -> int | None:
        """Its process id, while there is one."""
        return None if self._process is None else self._process.pid

    def end(self) -> None:
        """Have no process any more."""
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            self._process = None


_ANY: TypeAdapter[Any] = TypeAdapter(Any)


def _listen(told: Any, lines: "Queue[str | None]") -> None:
    for line in told:
        lines.put(line.rstrip("\n"))
    lines.put(None)
