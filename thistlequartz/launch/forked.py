"""Processes forked from one that has loaded everything: quick to begin, sharing memory.

By the fork server of Python's multiprocessing. The kernel ends it when we are gone, and each of its
processes when it is gone.
"""

import ctypes
import multiprocessing
import os
import signal
import subprocess
import sys
import traceback
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any, Final

ROOT: Final = Path(__file__).resolve().parents[2]
_DIE_WITH_PARENT: Final = 1
"""PR_SET_PDEATHSIG of Linux's prctl(2)."""
_server = multiprocessing.get_context("forkserver")


def load_beforehand(module: str, environment: Mapping[str, str]) -> None:
    """What all are forked from loads a module first. To be said before the first one begins."""
    os.environ.update(environment)
    _server.set_forkserver_preload([module])


class Forked:
    """A process that does one thing, to be dealt with as with a `subprocess.Popen`."""

    def __init__(self, does: Callable[..., None], *given: Any) -> None:
        self._process = _server.Process(target=_begin, args=(does, *given), daemon=True)
        self._process.start()

    @property
    def pid(self) -> int:
        """Its id."""
        assert self._process.pid is not None
        return self._process.pid

    @property
    def returncode(self) -> int | None:
        """How it ended; None while it runs. Negative: by that signal."""
        return self._process.exitcode

    def poll(self) -> int | None:
        """The same."""
        return self.returncode

    def terminate(self) -> None:
        """Ask it to end."""
        self._process.terminate()

    def kill(self) -> None:
        """End it."""
        self._process.kill()

    def wait(self, timeout: float | None = None) -> int:
        """How it ended; raises subprocess.TimeoutExpired where it has not by then."""
        self._process.join(timeout)
        ended = self.returncode
        if ended is None:
            raise subprocess.TimeoutExpired("a forked process", timeout or 0)
        return ended


def end_with_parent() -> None:
    """Have the kernel end this process when the one that started it is gone."""
    ctypes.CDLL(None).prctl(_DIE_WITH_PARENT, signal.SIGKILL)


def _begin(does: Callable[..., None], *given: Any) -> None:
    """In a session of its own: Ctrl-C reaches only who started it, who stops it in good order."""
    end_with_parent()
    ours = multiprocessing.parent_process()
    if ours is None or not ours.is_alive():
        return  # it was killed while we began
    os.setsid()
    os.chdir(ROOT)
    try:
        does(*given)
    except Exception:
        traceback.print_exc()
        sys.exit(1)
    finally:
        sys.stdout.flush()
