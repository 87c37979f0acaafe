"""Starting on one machine: two copies side by side, nothing left behind, nothing lost."""

import http.client
import json
import os
import re
import shutil
import signal
import socket
import subprocess
import time
from urllib.parse import urlsplit

from tests.server.copies import running, status
from thistlequartz.launch.processes import ProcessIdentity

FEW_BYTES = 200


def test_two_copies_run_side_by_side_and_stop_cleanly(lived_in, once_started, folder, start):
    shutil.copytree(once_started, folder / "two")
    first = start(lived_in, "--no-demo")
    second = start(folder / "two", "--no-demo")
    there = [running(one) for one in (lived_in, folder / "two")]
    assert there[0]["address"] != there[1]["address"]
    assert [status(one["address"]) for one in there] == [200, 200]
    assert "Sign in as" not in first.said, "no demo was asked for, so none of its accounts"
    mariadb = int((lived_in / "mariadb" / "mariadb.pid").read_text())
    first.terminate()
    assert first.wait(60) == 0
    assert ProcessIdentity.of(mariadb) is None
    assert not (lived_in / "running.json").exists()
    log = (lived_in / "mariadb" / "mariadb.log").read_text()
    assert "Shutdown complete" in log
    assert status(there[1]["address"]) == 200, "the other copy goes on"
    assert second.poll() is None


def test_second_copy_is_told_where_the_first_runs(lived_in, start):
    start(lived_in, "--no-demo")
    address = running(lived_in)["address"]
    port = str(urlsplit(address).port)
    for more, said in (
        ([lived_in, "--no-demo"], address),
        ([lived_in / "two", "--no-demo", "--port", port], f"Port {port} is in use"),
    ):
        second = start(*more)
        assert second.wait(30) == 1
        assert said in second.said
    assert status(address) == 200


def test_data_outlive_a_restart_and_a_fresh_start_sets_them_aside(lived_in, start):
    kept = lived_in / "mariadb" / "password"
    first = kept.read_text()
    for options, same in (((), True), (("--fresh",), False)):
        server = start(lived_in, "--no-demo", *options)
        assert (kept.read_text() == first) is same
        server.terminate()
        server.wait(60)
    (aside,) = (lived_in / "set-aside").iterdir()
    assert (aside / "password").read_text() == first
    assert "The data that were here are now in" in server.said
    assert "The first account: steward, password" in server.said, "nobody else could sign in"


def test_nothing_is_left_within_ten_seconds_even_of_what_is_stuck(lived_in, start):
    server = start(lived_in, "--no-demo")
    children = [ProcessIdentity.read(kept) for kept in running(lived_in)["children"]]
    assert len(children) == 4
    for child in children:
        os.kill(child.pid, signal.SIGSTOP)
    asked = time.monotonic()
    server.terminate()
    server.wait(30)
    assert time.monotonic() - asked < 10
    assert not any(child.is_alive() for child in children)


def test_a_copy_that_was_killed_leaves_nothing_that_lives_on(lived_in, start):
    server = start(lived_in, "--no-demo")
    children = [ProcessIdentity.read(kept) for kept in running(lived_in)["children"]]
    server.kill()
    server.wait(10)
    deadline = time.monotonic() + 20
    while any(child.is_alive() for child in children) and time.monotonic() < deadline:
        children[0].end(within=0.1, gently=0)
    assert not any(child.is_alive() for child in children[1:])
    assert status(running(lived_in)["address"]) is None
    start(lived_in, "--no-demo")
    assert status(running(lived_in)["address"]) == 200


def test_what_was_left_is_ended_by_id_and_start_time_and_nothing_else(folder, start):
    folder.mkdir(exist_ok=True)
    with subprocess.Popen(["sleep", "300"]) as left, subprocess.Popen(["sleep", "300"]) as other:
        mine, not_mine = ProcessIdentity.of(left.pid).keep(), ProcessIdentity.of(other.pid).keep()
        not_mine["started"] -= 1  # the same id, given to another process since
        kept = {"pid": 1, "address": "", "children": [mine, not_mine, {"pid": "?"}, None]}
        (folder / "running.json").write_text(json.dumps(kept))
        server = start(folder, "--no-demo")
        assert left.wait(5) == -signal.SIGTERM
        assert f"Process {left.pid}, left by a copy that was killed, is ended." in server.said
        assert other.poll() is None
        other.terminate()


def test_slow_senders_delay_nobody_and_scripts_are_compressed(lived_in, start):
    start(lived_in, "--no-demo")
    address = running(lived_in)["address"]
    there = urlsplit(address)
    headers = f"POST /api/v1/session HTTP/1.1\r\nHost: {there.netloc}\r\n"
    body = f"{headers}Content-Type: application/json\r\nContent-Length: 100\r\n\r\n{{"
    slow = [socket.create_connection((there.hostname, there.port)) for _ in range(300)]
    for number, one in enumerate(slow):
        one.sendall((headers, body)[number % 2].encode())
    assert [status(address) for _ in range(20)] == [200] * 20
    for one in slow:
        one.close()
    caller = http.client.HTTPConnection(there.netloc, timeout=10)
    caller.request("GET", "/")
    page = caller.getresponse().read().decode()
    assert "formula" not in page, "the formula editor comes when it is opened"
    for name in re.findall(r'(?:src|href)="(/assets/[^"]+[.](?:js|css))"', page):
        sizes = {}
        for way in ("identity", "br", "gzip"):
            caller.request("GET", name, headers={"Accept-Encoding": way})
            answer = caller.getresponse()
            sizes[way] = len(answer.read())
            assert "immutable" in answer.headers["Cache-Control"]
            if sizes["identity"] < FEW_BYTES:
                break  # compressed it would be no smaller
            assert answer.headers.get("Content-Encoding", "identity") == way
        else:
            small = sizes["identity"] < 10_000
            assert sizes["br"] < sizes["gzip"] < sizes["identity"] / (1 if small else 2)
