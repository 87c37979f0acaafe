"""Starting on one machine: two copies side by side, nothing left behind, nothing lost."""

import http.client
import json
import os
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.parse import urlsplit

import pytest

from tests.private_server import private_folder
from thistlequartz.launch.database import is_running

ROOT = Path(__file__).resolve().parents[2]
Start = Callable[..., "subprocess.Popen[str]"]


@pytest.fixture
def folder() -> Iterator[Path]:
    with private_folder() as path:
        yield path


@pytest.fixture
def start() -> Iterator[Start]:
    """Start a copy and wait until it is ready or has given up."""
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

    yield begin
    for server in started:
        server.terminate()
        server.wait(60)


def running(folder: Path) -> dict:
    return json.loads((folder / "running.json").read_text())


def status(address: str, path: str = "/api/session", **headers: str) -> int:
    connection = http.client.HTTPConnection(urlsplit(address).netloc, timeout=10)
    connection.request("GET", path, headers=headers)
    return connection.getresponse().status


def test_two_copies_run_side_by_side_and_stop_cleanly(folder, start):
    first = start(folder / "one", "--no-demo")
    second = start(folder / "two", "--no-demo")
    there = [running(folder / name) for name in ("one", "two")]
    assert there[0]["address"] != there[1]["address"]
    assert [status(one["address"]) for one in there] == [200, 200]
    assert "Sign in as" not in first.said, "no demo was asked for, so none of its accounts"
    assert "The first account: steward, password" in first.said
    mariadb = int((folder / "one" / "mariadb" / "mariadb.pid").read_text())
    first.terminate()
    assert first.wait(60) == 0
    assert not is_running(mariadb)
    assert not (folder / "one" / "running.json").exists()
    log = (folder / "one" / "mariadb" / "mariadb.log").read_text()
    assert "Shutdown complete" in log
    assert status(there[1]["address"]) == 200, "the other copy goes on"
    assert second.poll() is None


def test_a_second_copy_from_the_same_folder_is_told_where_the_first_is(folder, start):
    start(folder, "--no-demo")
    second = start(folder, "--no-demo")
    assert second.wait(30) == 1
    assert running(folder)["address"] in second.said
    assert status(running(folder)["address"]) == 200


def test_a_port_in_use_is_refused_by_number(folder, start):
    start(folder / "one", "--no-demo")
    port = str(urlsplit(running(folder / "one")["address"]).port)
    second = start(folder / "two", "--no-demo", "--port", port)
    assert second.wait(30) == 1
    assert f"Port {port} is in use" in second.said


def test_data_outlive_a_restart_and_a_fresh_start_sets_them_aside(folder, start):
    kept = folder / "mariadb" / "password"
    first = None
    for options, same in (((), False), ((), True), (("--fresh",), False)):
        server = start(folder, "--no-demo", *options)
        assert (kept.read_text() == first) is same
        first = kept.read_text() if first is None else first
        server.terminate()
        server.wait(60)
    (aside,) = (folder / "set-aside").iterdir()
    assert (aside / "password").read_text() == first
    assert "set aside" in server.said


def test_a_database_that_went_is_told_and_started_again(folder, start):
    server = start(folder, "--no-demo")
    address = running(folder)["address"]
    signed_in = {"Cookie": "thistlequartz_session=somebody"}
    assert status(address, **signed_in) == 200
    mariadb = int((folder / "mariadb" / "mariadb.pid").read_text())
    os.kill(mariadb, signal.SIGKILL)
    assert status(address, **signed_in) == 503
    told = iter(server.stdout)
    assert any("The database stopped by itself" in line for line in told)
    assert any("The database answers again." in line for line in told)
    assert status(address, **signed_in) == 200
