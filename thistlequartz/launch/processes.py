"""Processes of our own: known by id and start time, ended with us, never found by name."""

import contextlib
import os
import signal
import subprocess
import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Protocol

_STARTED_AT = 19
"""Where /proc/PID/stat has the start time, counted after the name of the program (proc(5))."""
_LOOKED_EVERY = 0.05
"""Seconds."""


@dataclass(frozen=True, slots=True)
class ProcessIdentity:
    """A process, told from a later one that was given the same id."""

    pid: int
    started: int
    """In clock ticks since the machine started."""

    @classmethod
    def of(cls, pid: int) -> "ProcessIdentity | None":
        """The process of this id, if it is there and has not ended."""
        try:
            after_name = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
        except OSError:
            return None
        return None if after_name[0] in "ZX" else cls(pid, int(after_name[_STARTED_AT]))

    @classmethod
    def read(cls, kept: Any) -> "ProcessIdentity | None":
        """A mark as `kept` in a file; None where there is none, or nothing like one."""
        try:
            return cls(int(kept["pid"]), int(kept["started"]))
        except (KeyError, TypeError, ValueError):
            return None

    def keep(self) -> dict[str, int]:
        """For a file."""
        return {"pid": self.pid, "started": self.started}

    def is_alive(self) -> bool:
        """Whether this very process is still there."""
        return ProcessIdentity.of(self.pid) == self

    def end(self, within: float, gently: int = signal.SIGTERM) -> bool:
        """Ask it to end, and kill it after `within` seconds; whether it ended by itself."""
        self._send(gently)
        deadline = time.monotonic() + within
        while time.monotonic() < deadline:
            if not self.is_alive():
                return True
            time.sleep(_LOOKED_EVERY)
        self._send(signal.SIGKILL)
        return False

    def _send(self, number: int) -> None:
        if self.is_alive():
            with contextlib.suppress(ProcessLookupError):
                os.kill(self.pid, number)


def started(
    command: Sequence[str], when_we_go: str = "KILL", *, env: Mapping[str, str], **more: Any
) -> "subprocess.Popen[bytes]":
    """A process that is sent the signal `when_we_go` by the kernel when we are no longer there.

    In a session of its own: Ctrl-C reaches only us, and we stop what we started in good order.
    """
    bound = ["setpriv", "--pdeathsig", when_we_go, *command]
    return subprocess.Popen(bound, env=dict(env), start_new_session=True, **more)


class Process(Protocol):
    """What was started, by whichever way."""

    def poll(self) -> int | None: ...
    def terminate(self) -> None: ...
    def kill(self) -> None: ...
    def wait(self, timeout: float | None = None) -> int: ...


def stopped(processes: Sequence[Process], within: float) -> None:
    """Ask all to end at once; what has not ended `within` seconds is killed."""
    for process in processes:
        if process.poll() is None:
            process.terminate()
    deadline = time.monotonic() + within
    for process in processes:
        try:
            process.wait(max(0.0, deadline - time.monotonic()))
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()
