"""Copies of the product for tests, started as ./start starts them, and calls to them."""

import fcntl
import http.client
import json
import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager, nullcontext
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from tests.private_server import private_folder
from thistlequartz.demo.names import PASSWORD
from thistlequartz.launch.processes import ProcessIdentity

ROOT = Path(__file__).resolve().parents[2]
RECORDS = "64"
"""Of each form in the demo of these copies: few enough to stand on two pages."""
Start = Callable[..., "subprocess.Popen[str]"]


@contextmanager
def copies() -> Iterator[Start]:
    """Start copies and wait until each is ready or has given up; they end with the test."""
    started = []

    def begin(folder: Path, *options: str) -> "subprocess.Popen[str]":
        command = [sys.executable, "-m", "thistlequartz.launch.serve", "--folder", str(folder)]
        server = subprocess.Popen(
            [*command, *options],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        started.append(server)
        server.said = ""
        for line in server.stdout:
            server.said += line
            if line.startswith("Ctrl-C"):
                break
        return server

    try:
        yield begin
    finally:
        for server in started:
            server.terminate()
            server.wait(60)


@contextmanager
def made_once(called: str, make: Callable[[Path], None]) -> Iterator[Path]:
    """A folder that the first who asks for it makes, and those have who ask after that: all that
    run at once, where they are told of a folder to share.
    """
    shared = os.environ.get("THISTLEQUARTZ_TESTS_SHARE")
    with nullcontext(Path(shared)) if shared else private_folder() as share:
        made, done = share / called, share / f"{called}.done"
        with (share / f"{called}.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            if not done.exists():
                make(made)
                done.touch()
        yield made


@contextmanager
def once_served() -> Iterator[Path]:
    """What a copy with the demo has left in its folder; copied, it starts in half the time."""

    def serve(folder: Path) -> None:
        with copies() as begin:
            begin(folder, "--records", RECORDS)

    with made_once("served", serve) as folder:
        yield folder


def running(folder: Path) -> dict[str, Any]:
    """What the file says of the copy that runs from a folder."""
    return json.loads((folder / "running.json").read_text())


def process(folder: Path, called: str) -> ProcessIdentity:
    """The process of a running copy that is called so."""
    (kept,) = (one for one in running(folder)["children"] if one["is"] == called)
    mark = ProcessIdentity.read(kept)
    assert mark is not None
    return mark


def status(address: str, path: str = "/api/v1/session", **headers: str) -> int | None:
    """The status of an answer; None where nobody answers."""
    connection = http.client.HTTPConnection(urlsplit(address).netloc, timeout=10)
    try:
        connection.request("GET", path, headers=headers)
        return connection.getresponse().status
    except ConnectionError:
        return None
    finally:
        connection.close()


class Caller:
    """Somebody who is signed in, and calls."""

    def __init__(self, address: str, name: str = "steward") -> None:
        self._at = urlsplit(address).netloc
        self._cookies: dict[str, str] = {}
        self._token = self.call("GET", "/api/v1/session").body["token"]
        signed_in = self.call("POST", "/api/v1/session", {"name": name, "password": PASSWORD})
        self._token = signed_in.body["token"]

    def call(self, method: str, path: str, body: object = None) -> "Answer":
        """The answer to one call, each over a connection of its own."""
        connection = http.client.HTTPConnection(self._at, timeout=30)
        cookies = "; ".join(f"{name}={value}" for name, value in self._cookies.items())
        headers = {"Cookie": cookies, "Content-Type": "application/json"}
        if method != "GET":
            headers["X-CSRFToken"] = self._token
        sent = body if body is None or isinstance(body, bytes) else json.dumps(body)
        connection.request(method, path, body=sent, headers=headers)
        answer = connection.getresponse()
        text = answer.read()
        for cookie in answer.headers.get_all("Set-Cookie", []):
            name, _, rest = cookie.partition("=")
            self._cookies[name] = rest.partition(";")[0]
        connection.close()
        return Answer(answer.status, dict(answer.headers), json.loads(text) if text else None)

    def release(self, at: str, note: str) -> "Answer":
        """Look at what is known of the draft, and release it; raises where it is refused.

        What the rules were found to be may come between looking and releasing: once.
        """
        for _ in range(2):
            mark = self.call("GET", f"{at}/releasing").body["fingerprint"]
            answer = self.call("POST", f"{at}/releases", {"note": note, "knowing": mark})
            if not answer.body.get("type", "").endswith("known-otherwise"):
                break
        if answer.status not in (201, 202):
            raise RuntimeError(f"Not released: {answer.body}")
        return answer


class Answer:
    """What came back."""

    def __init__(self, code: int, headers: dict[str, str], body: Any) -> None:
        self.status = code
        self.headers = headers
        self.body = body
