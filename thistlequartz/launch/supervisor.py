"""What runs while the product is served: started, looked after, and stopped together."""

import json
import os
import socket
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from . import members
from .database import DatabaseTrouble, PrivateMariaDB
from .forked import Forked
from .processes import ProcessIdentity, stopped

SERVING = 2
"""Processes that answer calls."""
THREADS = 4
"""In each of them."""
WORK_LOOKED_FOR_EVERY = 0.4
THE_WORKER = "Background work"
THE_DATABASE = "The database"
STOPPED_WITHIN = 3
BROUGHT_BACK_EVERY = 2
"""Seconds."""
ENDED_TOO_OFTEN = 5
TOO_OFTEN_WITHIN = 60
"""A process that ends by itself this often within so many seconds is let rest before the next."""
REST = 15
"""Seconds."""


class StartTrouble(RuntimeError):
    """The product could not be started; the message says why and what to do."""


class Running:
    """The file that says which copy runs from a folder, and which processes it has started."""

    def __init__(self, path: Path) -> None:
        self._path = path
        there = self._read()
        self.address: str = there.get("address", "still starting")
        self.pid: int | None = there.get("pid")
        self._children: list[Any] = there.get("children", [])

    def _read(self) -> dict[str, Any]:
        try:
            there = json.loads(self._path.read_text())
        except (OSError, ValueError):
            return {}
        return there if isinstance(there, dict) else {}

    def left(self) -> list[ProcessIdentity]:
        """Those of the processes named in the file that are still there."""
        marks = (ProcessIdentity.read(kept) for kept in self._children)
        return [mark for mark in marks if mark is not None and mark.is_alive()]

    def keep(self, children: Sequence[tuple[str, int]]) -> None:
        """Write down that we run, and what we have started: what each is, and its process id."""
        marks = [(called, ProcessIdentity.of(pid)) for called, pid in children]
        kept = [{"is": called, **mark.keep()} for called, mark in marks if mark is not None]
        told = {"pid": os.getpid(), "address": self.address, "children": kept}
        beside = self._path.with_suffix(".new")
        beside.write_text(json.dumps(told))
        beside.replace(self._path)

    def forget(self) -> None:
        """We run no longer."""
        self._path.unlink(missing_ok=True)


@dataclass
class _Member:
    """A process that is started again when it ends by itself."""

    called: str
    start: Callable[[], Forked]
    process: Forked
    ended: list[float] = field(default_factory=list)
    rests_until: float = 0.0


class Supervisor:
    """The database, the processes that serve, and the one that does background work."""

    def __init__(
        self,
        database: PrivateMariaDB,
        listener: socket.socket,
        running: Running,
    ) -> None:
        self._database = database
        self._listener = listener
        self._running = running
        self._members: list[_Member] = []
        self._looks_again = 0.0
        """When it is next tried to bring the database back, where that was in vain."""

    def begin(self) -> None:
        """Start what serves and what works."""
        for _ in range(SERVING):
            self._add("A serving process", lambda: Forked(members.serve, self._listener, THREADS))
        self._add(THE_WORKER, lambda: Forked(members.work, WORK_LOOKED_FOR_EVERY))
        self.note()

    def _add(self, called: str, start: Callable[[], Forked]) -> None:
        self._members.append(_Member(called, start, start()))

    def serves(self) -> bool:
        """Whether everything that was started is there."""
        return all(member.process.poll() is None for member in self._members)

    def note(self) -> None:
        """Write down which processes there are."""
        children = [(member.called, member.process.pid) for member in self._members]
        if self._database.process is not None:
            children.append((THE_DATABASE, self._database.process.pid))
        self._running.keep(children)

    def look_after(self) -> None:
        """Start again what has ended by itself, the database first."""
        changed = False
        if not self._database.is_alive() and time.monotonic() >= self._looks_again:
            changed = self._bring_back()
        for member in self._members:
            if member.process.poll() is not None and time.monotonic() >= member.rests_until:
                changed = self._start_again(member) or changed
        if changed:
            self.note()

    def _bring_back(self) -> bool:
        """Whether the database is back. While it is not, calls are answered 503."""
        if not self._looks_again:
            _tell("The database stopped by itself and is started again.")
        try:
            self._database.start()
        except DatabaseTrouble as trouble:
            if not self._looks_again:
                _tell(f"{trouble} It is tried again every {BROUGHT_BACK_EVERY} s.")
            self._looks_again = time.monotonic() + BROUGHT_BACK_EVERY
            return False
        self._looks_again = 0.0
        _tell("The database answers again.")
        return True

    def _start_again(self, member: _Member) -> bool:
        """Whether it is started again; one that ends again and again rests before."""
        now = time.monotonic()
        if member.rests_until:
            member.rests_until, member.ended = 0.0, []
        else:
            member.ended = [at for at in member.ended if now - at < TOO_OFTEN_WITHIN] + [now]
        if len(member.ended) >= ENDED_TOO_OFTEN:
            code = member.process.returncode
            _tell(
                f"{member.called} ends again and again (code {code}); the reason stands above. It"
                f" is started again in {REST} s."
            )
            member.rests_until = now + REST
            return False
        _tell(f"{member.called} stopped by itself and is started again.")
        member.process = member.start()
        return True

    def stop(self) -> None:
        """Stop all but the database, which whoever opened it closes."""
        stopped([member.process for member in self._members], within=STOPPED_WITHIN)


def _tell(what: str) -> None:
    print(what, flush=True)
