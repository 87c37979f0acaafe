"""`./start`: MariaDB, migrations, the demo, then gunicorn, until it is told to stop."""

import argparse
import contextlib
import http.client
import json
import os
import secrets
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from types import FrameType

from thistlequartz.demo.names import NAMES, PASSWORD

from .database import HOST, DatabaseTrouble, PrivateMariaDB, free_port, is_running

ROOT = Path(__file__).resolve().parents[2]
USUAL_PORT = 8640
WORKERS = 2
THREADS = 4
_READY_WITHIN = 30
_LOOKED_AFTER_EVERY = 0.5
_WORK_LOOKED_FOR_EVERY = 0.4
"""Seconds."""


class StartTrouble(RuntimeError):
    """The product could not be started; the message says why and what to do."""


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


def _options() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Start Thistlequartz here.")
    parser.add_argument("--port", type=int, help=f"the port to serve on (otherwise {USUAL_PORT})")
    parser.add_argument("--no-demo", action="store_true", help="do not load the demo")
    parser.add_argument(
        "--fresh", action="store_true", help="begin with no data; what was there is set aside"
    )
    parser.add_argument("--folder", type=Path, default=ROOT / ".run", help="where data are kept")
    return parser.parse_args()


@contextlib.contextmanager
def _only_one_here(folder: Path) -> Iterator[Path]:
    """Hold the folder for one running copy; refuse a second with the first one's address."""
    folder.mkdir(parents=True, exist_ok=True)
    running = folder / "running.json"
    if running.exists():
        with contextlib.suppress(ValueError, KeyError):
            there = json.loads(running.read_text())
            if is_running(int(there["pid"])):
                raise StartTrouble(
                    f"It is running already from this folder: {there['address']}\n"
                    f"Stop that one first (process {there['pid']}), or use --folder elsewhere."
                )
    running.write_text(json.dumps({"pid": os.getpid(), "address": "still starting"}))
    try:
        yield running
    finally:
        running.unlink(missing_ok=True)


def _set_aside(folder: Path) -> None:
    database = folder / "mariadb"
    if database.exists():
        aside = folder / "set-aside" / time.strftime("%Y-%m-%d-%H%M%S")
        aside.parent.mkdir(exist_ok=True)
        shutil.move(database, aside)
        print(f"The data that were here are set aside in {aside}")


def _serve(folder: Path, options: argparse.Namespace, running: Path) -> None:
    port = free_port(options.port or USUAL_PORT)
    if options.port and port != options.port:
        raise StartTrouble(f"Port {options.port} is in use: give another with --port, or none.")
    signal.signal(signal.SIGTERM, _interrupt)
    signal.signal(signal.SIGHUP, _interrupt)
    with PrivateMariaDB(folder / "mariadb") as database:
        environment = {
            **os.environ,
            **database.environment(),
            "THISTLEQUARTZ_SECRET": _secret(folder),
        }
        prepare = [sys.executable, "-m", "thistlequartz.launch.migrate"]
        if not options.no_demo:
            prepare.append("--demo")
        if subprocess.run(prepare, env=environment, cwd=ROOT, check=False).returncode:
            raise StartTrouble("The database could not be brought up to date; see above.")
        server = subprocess.Popen(
            _gunicorn(port), env=environment, cwd=ROOT, start_new_session=True
        )
        worker = _worker(environment)
        try:
            address = f"http://{HOST}:{port}/"
            _wait_until_ready(server, port)
            running.write_text(json.dumps({"pid": os.getpid(), "address": address}))
            _announce(address, demo=not options.no_demo)
            while server.poll() is None:
                if not database.is_alive():
                    print("The database stopped by itself and is started again.", flush=True)
                    database.start()
                    print("The database answers again.", flush=True)
                if worker.poll() is not None:
                    print("Background work stopped by itself and is started again.", flush=True)
                    worker = _worker(environment)
                time.sleep(_LOOKED_AFTER_EVERY)
            raise StartTrouble(f"The server stopped by itself (code {server.returncode}).")
        finally:
            _stop(worker)
            _stop(server)


def _interrupt(_signal: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def _secret(folder: Path) -> str:
    kept = folder / "secret"
    if not kept.exists():
        kept.touch(mode=0o600)
        kept.write_text(secrets.token_urlsafe(50))
    return kept.read_text()


def _gunicorn(port: int) -> list[str]:
    return [
        sys.executable,
        "-m",
        "gunicorn",
        "thistlequartz.server.wsgi:application",
        f"--bind={HOST}:{port}",
        f"--workers={WORKERS}",
        f"--threads={THREADS}",
        "--log-level=warning",
        "--preload",
        "--keep-alive=30",
        "--no-control-socket",
    ]


def _worker(environment: dict[str, str]) -> "subprocess.Popen[bytes]":
    """What does the background work."""
    command = [sys.executable, "-m", "thistlequartz.server.manage", "db_worker"]
    command += [f"--interval={_WORK_LOOKED_FOR_EVERY}", "--no-startup-delay"]
    return subprocess.Popen(
        [*command, "--verbosity=0"], env=environment, cwd=ROOT, start_new_session=True
    )


def _wait_until_ready(server: "subprocess.Popen[bytes]", port: int) -> None:
    deadline = time.monotonic() + _READY_WITHIN
    while time.monotonic() < deadline and server.poll() is None:
        with contextlib.suppress(OSError):
            connection = http.client.HTTPConnection(HOST, port, timeout=5)
            connection.request("GET", "/api/session")
            if connection.getresponse().status == 200:
                return
        time.sleep(0.05)
    raise StartTrouble("The server did not answer; the reason stands above.")


def _announce(address: str, *, demo: bool) -> None:
    print(f"\nThistlequartz is ready at {address}")
    if demo:
        print(f"Sign in as {', '.join(NAMES)}; the password of each is {PASSWORD}")
    print("Ctrl-C stops it.", flush=True)


def _stop(server: "subprocess.Popen[bytes]") -> None:
    if server.poll() is None:
        server.terminate()
        try:
            server.wait(20)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()


if __name__ == "__main__":
    sys.exit(main())
