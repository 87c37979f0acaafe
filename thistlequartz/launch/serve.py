"""`./start`: MariaDB, migrations, the demo, then the service, until it is told to stop."""

import argparse
import contextlib
import fcntl
import http.client
import secrets
import shutil
import signal
import socket
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from types import FrameType

from thistlequartz.demo.names import NAMES, PASSWORD

from . import members
from .database import HOST, DatabaseTrouble, PrivateMariaDB
from .forked import ROOT, Forked, load_beforehand
from .supervisor import THE_DATABASE, Running, StartTrouble, Supervisor

USUAL_PORT = 8640
_READY_WITHIN = 30
_LOOKED_AFTER_EVERY = 0.5
_LEFT_ENDS_WITHIN = 10
"""Seconds."""
_BACKLOG = 512
"""Connections that wait while no process takes them, as during a restart."""


def main() -> int:
    """Start what is asked for and serve until interrupted. Gives the exit code."""
    options = _options()
    folder: Path = options.folder.resolve()
    try:
        with _only_one_here(folder) as running:
            if options.fresh:
                _set_aside(folder)
            _serve(folder, options, running)
    except (StartTrouble, DatabaseTrouble) as trouble:
        print(f"\n{trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0
    return 0


MOST_RECORDS = 1_000_000


def _options() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Start Thistlequartz here.")
    parser.add_argument("--port", type=int, help=f"the port to serve on (otherwise {USUAL_PORT})")
    parser.add_argument("--no-demo", action="store_true", help="do not load the demo")
    parser.add_argument(
        "--records",
        type=int,
        metavar="N",
        help="how many records of each form the demo begins with, up to a million (otherwise 300)",
    )
    parser.add_argument(
        "--fresh", action="store_true", help="begin with no data; what was there is moved aside"
    )
    parser.add_argument("--folder", type=Path, default=ROOT / ".run", help="where data are kept")
    options = parser.parse_args()
    if options.records is not None and not 0 <= options.records <= MOST_RECORDS:
        parser.error(f"--records: give a number from 0 to {MOST_RECORDS:,}.")
    return options


@contextlib.contextmanager
def _only_one_here(folder: Path) -> Iterator[Running]:
    """Hold the folder for one running copy; refuse a second with the first one's address.

    What a copy that was killed has left running is ended first.
    """
    folder.mkdir(parents=True, exist_ok=True)
    running = Running(folder / "running.json")
    with (folder / "running.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise StartTrouble(
                f"It is running already from this folder: {running.address}\n"
                f"Stop that one first (process {running.pid}), or use --folder elsewhere."
            ) from None
        for left in running.left():
            print(f"Process {left.pid}, left by a copy that was killed, is ended.", flush=True)
            left.end(_LEFT_ENDS_WITHIN)
        running.keep([])
        try:
            yield running
        finally:
            running.forget()


def _set_aside(folder: Path) -> None:
    database = folder / "mariadb"
    if database.exists():
        aside = folder / "set-aside" / time.strftime("%Y-%m-%d-%H%M%S")
        aside.parent.mkdir(exist_ok=True)
        shutil.move(database, aside)
        print(f"The data that were here are now in {aside}")


def _serve(folder: Path, options: argparse.Namespace, running: Running) -> None:
    for number in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _interrupt)
    with _open_listener(options.port) as listener, PrivateMariaDB(folder / "mariadb") as database:
        address = f"http://{HOST}:{listener.getsockname()[1]}/"
        environment = {
            **database.environment(),
            "THISTLEQUARTZ_SECRET": _secret(folder),
            "THISTLEQUARTZ_AT": address,
        }
        assert database.process is not None
        running.keep([(THE_DATABASE, database.process.pid)])
        load_beforehand(members.LOADED, environment)
        if Forked(members.prepare, not options.no_demo, options.records).wait():
            raise StartTrouble("The database could not be brought up to date; see above.")
        house = Supervisor(database, listener, running)
        try:
            house.begin()
            running.address = address
            _wait_until_ready(house, listener.getsockname()[1])
            house.note()
            _announce(running.address, demo=not options.no_demo)
            while True:
                house.look_after()
                time.sleep(_LOOKED_AFTER_EVERY)
        finally:
            for number in (signal.SIGTERM, signal.SIGHUP, signal.SIGINT):
                signal.signal(number, signal.SIG_IGN)
            house.stop()


def _open_listener(wanted: int | None) -> socket.socket:
    """The socket that all serving processes share; without a wish, the usual port or any free."""
    for port in (wanted,) if wanted else (USUAL_PORT, 0):
        with contextlib.suppress(OSError):
            return socket.create_server((HOST, port), backlog=_BACKLOG)
    raise StartTrouble(f"Port {wanted} is in use: give another with --port, or none.")


def _interrupt(_signal: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _secret(folder: Path) -> str:
    kept = folder / "secret"
    if not kept.exists():
        kept.touch(mode=0o600)
        kept.write_text(secrets.token_urlsafe(50))
    return kept.read_text()


def _wait_until_ready(house: Supervisor, port: int) -> None:
    deadline = time.monotonic() + _READY_WITHIN
    while time.monotonic() < deadline and house.serves():
        with contextlib.suppress(OSError):
            connection = http.client.HTTPConnection(HOST, port, timeout=5)
            connection.request("GET", "/api/v1/session")
            if connection.getresponse().status == 200:
                return
        time.sleep(0.05)
    raise StartTrouble("The server did not answer; the reason stands above.")


def _announce(address: str, *, demo: bool) -> None:
    print(f"\nThistlequartz is ready at {address}")
    if demo:
        print(f"Sign in as {', '.join(NAMES)}; the password of each is {PASSWORD}")
    print("Ctrl-C stops it.", flush=True)


if __name__ == "__main__":
    sys.exit(main())
