"""A server for benchmarks, and calls to it."""

import http.client
import json
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from http import HTTPStatus
from http.cookies import SimpleCookie
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from tests.server.copies import process
from thistlequartz.demo.names import PASSWORD

ROOT = Path(__file__).resolve().parents[1]
LOANS = "/api/v1/forms/loan_out"
LOOKS = 5
WORKER = "Background work"
Measure = Callable[[str, Path], None]
"""Measures and prints, given a server's address and its folder."""


class Caller:
    """One kept connection, signed in."""

    def __init__(self, address: str) -> None:
        self.connection = http.client.HTTPConnection(urlsplit(address).netloc)
        self.cookies: dict[str, str] = {}
        self.token = self.call("GET", "/api/v1/session")["token"]
        body = {"name": "steward", "password": PASSWORD}
        self.token = self.call("POST", "/api/v1/session", body)["token"]

    def call(self, method: str, path: str, body: object = None) -> Any:
        """The answer's JSON; bytes are sent as they are."""
        status, told = self.asked(method, path, body)
        if status not in (200, 201, 202):
            raise SystemExit(f"{path} answered {status}: {str(told)[:300]}")
        return told

    def asked(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        """The answer's status and its JSON."""
        headers = {
            "Content-Type": "application/json",
            "X-CSRFToken": getattr(self, "token", ""),
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
        }
        sent = body if body is None or isinstance(body, bytes) else json.dumps(body)
        self.connection.request(method, path, sent, headers)
        response = self.connection.getresponse()
        for header in response.headers.get_all("Set-Cookie") or []:
            for name, morsel in SimpleCookie(header).items():
                self.cookies[name] = morsel.value
        return response.status, json.loads(response.read())

    def release(self, form: str, note: str, wait: Callable[[], object] = lambda: None) -> None:
        """Release a draft; `wait` is done over and over until it is in force."""
        for _ in range(LOOKS):
            mark = self.call("GET", f"{form}/releasing")["fingerprint"]
            body = {"note": note, "knowing": mark}
            status, told = self.asked("POST", f"{form}/releases", body)
            if status != HTTPStatus.CONFLICT:  # else more is known of it than what was looked at
                break
        if status not in (HTTPStatus.CREATED, HTTPStatus.ACCEPTED):
            raise SystemExit(f"It was not released: {told}")
        while (work := self.call("GET", f"{form}/release-work")) is not None:
            if work["state"] not in ("waiting", "running"):
                raise SystemExit(f"The release did not come about: {work['trouble']}")
            wait()


def milliseconds(act: Callable[[], object]) -> float:
    """How long one call takes."""
    start = time.perf_counter()
    act()
    return (time.perf_counter() - start) * 1000


def report(name: str, times: list[float], against: list[float]) -> None:
    """One line: median, 95th percentile, and the ratio of the medians."""
    ordered = sorted(times)
    ratio = statistics.median(times) / statistics.median(against)
    p95 = ordered[int(len(ordered) * 0.95)]
    print(f"{name:28} {statistics.median(times):7.1f} ms {p95:9.1f} ms {ratio:9.2f}")


@contextmanager
def running_server() -> Iterator[tuple[str, Path]]:
    """The address of a server with the demo, and the folder of its own."""
    with tempfile.TemporaryDirectory() as folder:
        server = subprocess.Popen(
            [sys.executable, "-m", "thistlequartz.launch.serve", "--folder", folder],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            text=True,
        )
        try:
            assert server.stdout is not None
            for line in server.stdout:
                if line.startswith("Ctrl-C"):
                    break
            running = json.loads((Path(folder) / "running.json").read_text())
            yield running["address"], Path(folder)
        finally:
            server.terminate()
            server.wait(60)


def on_a_server(measure: Measure) -> None:
    """On one of its own."""
    with running_server() as (address, folder):
        measure(address, folder)


def memory(folder: Path) -> Iterator[tuple[int, float]]:
    """The processes that do the work, with the memory that each holds, in megabytes; what several
    share is counted in parts (`Pss` of proc(5)).
    """
    worker = process(folder, WORKER).pid
    children = Path(f"/proc/{worker}/task/{worker}/children").read_text().split()
    for pid in (worker, *map(int, children)):
        try:
            rollup = Path(f"/proc/{pid}/smaps_rollup").read_text()
        except (FileNotFoundError, ProcessLookupError):
            continue  # it has just ended
        line = next((one for one in rollup.splitlines() if one.startswith("Pss:")), None)
        if line is not None:
            yield pid, int(line.split()[1]) / 1024
