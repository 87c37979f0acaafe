"""The database and the worker killed in the middle: nothing lost, nothing 500, all goes on."""

import getpass
import os
import signal
import subprocess
import threading
import time
from collections import Counter
from collections.abc import Callable
from typing import Any

import pytest
from django.db import OperationalError

from tests.server.copies import Caller, process, running
from thistlequartz.launch import supervisor as household
from thistlequartz.launch.database import DatabaseTrouble
from thistlequartz.launch.supervisor import SERVING
from thistlequartz.server.outages import is_met

FORM = "/api/v1/forms/plant_accession"
KILLS = 2
SAVING_AT_ONCE = 4
GOES_ON_WITHIN = 30
"""Seconds."""
ROWS = 5_000


def until(true: Callable[[], bool], within: float = GOES_ON_WITHIN) -> None:
    deadline = time.monotonic() + within
    while not true():
        assert time.monotonic() < deadline, "it did not go on in time"
        threading.Event().wait(0.1)


TOLD = {"name": "Saved", "message": {
    "occasions": ["saved"], "to": [{"who": "person", "name": "steward"}],
    "subject": "Fault {record}", "text": "{answers}",
}}  # fmt: skip


def pages(caller, at, rows):
    """All that a list gives, page by page."""
    found, offset = [], 0
    while some := caller.call("GET", f"{at}&offset={offset}").body[rows]:
        found += some
        offset += len(some)
    return found


def test_saves_go_on_by_themselves_after_the_database_was_killed(lived_in, start):
    """Each record that is there is told of once, in a message and in a call."""
    server = start(lived_in)
    address = running(lived_in)["address"]
    steward = Caller(address)
    assert steward.call("POST", f"{FORM}/messages", TOLD).status == 201
    target = {"name": "Stand-in", "occasions": ["saved"]}
    assert steward.call("POST", f"{FORM}/call-targets", target).status == 201
    callers = [Caller(address) for _ in range(SAVING_AT_ONCE)]
    stored, codes, done = set(), Counter(), threading.Event()

    def save(caller: Caller, name: str) -> None:
        count = 0
        while not done.is_set():
            count += 1
            title = f"Fault {name} {count}"
            body = {"values": {"accession_number": title}}
            answer = caller.call("POST", f"{FORM}/records", body)
            codes[answer.status] += 1
            if answer.status == 201:
                stored.add(answer.body["number"])
            elif answer.status == 503:
                assert answer.headers["Content-Type"] == "application/problem+json"
                assert int(answer.headers["Retry-After"]) > 0

    threads = [
        threading.Thread(target=save, args=(caller, str(number)))
        for number, caller in enumerate(callers)
    ]
    for thread in threads:
        thread.start()
    for _ in range(KILLS):
        before = codes[201]
        until(lambda before=before: codes[201] > before + 5)
        os.kill(process(lived_in, "The database").pid, signal.SIGKILL)
        until(lambda: codes[503] > 0)
        seen = codes[201]
        until(lambda seen=seen: codes[201] > seen + 5)
    done.set()
    for thread in threads:
        thread.join()
    print(dict(codes))
    assert set(codes) == {201, 503}
    for number in stored:
        assert callers[0].call("GET", f"{FORM}/records/{number}").status == 200
    there = {one["number"] for one in pages(steward, f"{FORM}/records?search=Fault", "records")}
    assert stored <= there
    until(lambda: not steward.call("GET", f"{FORM}/outbox?state=waiting").body["messages"])
    told = [one["number"] for one in pages(steward, f"{FORM}/outbox?search=Fault", "messages")]
    assert (len(told), set(told)) == (len(there), there)
    mails = [one["subject"] for one in pages(steward, "/api/v1/box?", "mails")]
    assert sum(one.startswith("Fault") for one in mails) == len(there)
    until(lambda: steward.call("GET", f"{FORM}/call-targets").body[0]["waiting"] == 0)
    server.terminate()
    said = server.stdout.read()
    assert said.count("The database stopped by itself") == KILLS
    assert 0 < said.count("The database does not answer") <= KILLS * SERVING
    assert "Traceback" not in said


def test_ten_who_ask_at_once_get_one_job_and_it_survives_its_worker(lived_in, start):
    start(lived_in)
    callers = [Caller(running(lived_in)["address"]) for _ in range(10)]
    jobs, together = [], threading.Barrier(len(callers))

    def ask(caller: Caller) -> None:
        together.wait()
        jobs.append(caller.call("POST", f"{FORM}/slips").body["job"]["id"])

    threads = [threading.Thread(target=ask, args=(caller,)) for caller in callers]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(jobs) == len(callers)
    (job,) = set(jobs)
    caller, at = callers[0], f"/api/v1/jobs/{job}"
    until(lambda: caller.call("GET", at).body["done"] > 0)
    killed = process(lived_in, "Background work")
    os.kill(killed.pid, signal.SIGKILL)
    again = time.monotonic()
    until(lambda: caller.call("GET", at).body["done"] == 0)
    until(lambda: caller.call("GET", at).body["state"] in ("running", "done"))
    print(f"taken up again after {time.monotonic() - again:.1f} s")
    until(lambda: caller.call("GET", at).body["state"] == "done", within=300)
    assert process(lived_in, "Background work") != killed


def test_weighing_goes_on_when_its_worker_and_then_the_database_are_killed(lived_in, start):
    start(lived_in)
    caller, at = Caller(running(lived_in)["address"]), f"{FORM}/impact"
    # Each record asks every other one, so that there is a middle to be killed in.
    asking = {
        "kind": "elsewhere",
        "key": "no_echo",
        "name": "Nobody writes another's locality backwards",
        "targets": ["locality"],
        "no_other": "count(for n in 1..400 return n) + string length(other.locality) = 1",
        "severity": {"save": "warn"},
    }
    assert caller.call("POST", f"{FORM}/rules", {"rule": asking}).status == 201

    def view(name: str) -> Any:
        answer = caller.call("GET", at)
        return answer.body["job"][name] if answer.status == 200 else None

    assert caller.call("POST", at).status == 202
    for called in ("Background work", "The database"):
        until(lambda: (view("done") or 0) > 0, within=60)
        assert caller.call("GET", at).body["impact"] is None, "nothing half done is told"
        os.kill(process(lived_in, called).pid, signal.SIGKILL)
        until(lambda: view("state") is not None)
        until(lambda: view("done") == 0 or view("state") == "done", within=60)
    until(lambda: view("state") == "done", within=300)
    impact = caller.call("GET", at).body["impact"]
    stored = caller.call("GET", f"{FORM}/records").body["total"]
    assert impact["records"] == stored, "each is judged once, whatever happened"
    assert "no_echo" not in impact["rules"]
    # Two stewards release at once: one of them does, the other is told.
    callers = [caller, Caller(running(lived_in)["address"], "deputy")]
    mark = caller.call("GET", f"{FORM}/releasing").body["fingerprint"]
    together, answers = threading.Barrier(2), []

    def release(one: Caller) -> None:
        together.wait()
        body = {"note": "Both at once.", "knowing": mark}
        answers.append(one.call("POST", f"{FORM}/releases", body))

    threads = [threading.Thread(target=release, args=(one,)) for one in callers]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(one.status for one in answers) == [201, 409]
    refused = next(one.body["title"] for one in answers if one.status == 409)
    assert "says the same as release 2" in refused or "not what you looked at" in refused
    assert [one["number"] for one in caller.call("GET", f"{FORM}/releases").body] == [2, 1]


def test_an_import_goes_on_and_stores_each_row_once_whatever_is_killed(lived_in, start):
    start(lived_in, "--no-demo")
    caller = Caller(running(lived_in)["address"])
    made = caller.call("POST", "/api/v1/forms", {"name": "Way stone", "purpose": "Marks."}).body
    at = f"/api/v1/forms/{made['key']}"
    field = {"type": "text", "key": "mark", "label": "Mark"}
    assert caller.call("POST", f"{at}/fields", {"field": field}).status == 201
    unique = {
        "kind": "unique",
        "key": "one",
        "targets": ["mark"],
        "severity": {"save": "block", "submit": "block"},
    }
    assert caller.call("POST", f"{at}/rules", {"rule": unique}).status == 201
    caller.release(at, "The beginning.")
    # Every tenth mark stands there twice.
    marks = [f"stone {number - number % 10 // 9}" for number in range(ROWS)]
    content = "\n".join(["mark", *marks]).encode()
    brought = caller.call("POST", f"{at}/record-files?name=stones.csv", content)
    assert brought.status == 201
    file = f"{at}/record-files/{brought.body['id']}"
    assert caller.call("POST", f"{file}/run", {"dry": False}).status == 202

    def stored() -> int:
        answer = caller.call("GET", f"{at}/records")
        return answer.body["total"] if answer.status == 200 else 0

    for called in ("Background work", "The database"):
        before = stored()
        until(lambda before=before: stored() > before, within=60)
        os.kill(process(lived_in, called).pid, signal.SIGKILL)
        until(lambda: caller.call("GET", file).status == 200)

    def state() -> str | None:
        answer = caller.call("GET", file)
        return answer.body["job"]["state"] if answer.status == 200 else None

    until(lambda: state() == "done", within=90)
    came = caller.call("GET", file).body["came"]
    assert came["rows"] == ROWS
    assert came["refused"] == ROWS // 10
    assert (came["known"], came["added"]) == (0, ROWS - ROWS // 10), "all that it has added"
    assert stored() == ROWS - ROWS // 10, "each row is stored once, whatever happened"
    again = caller.call("POST", f"{file}/run", {"dry": False})
    assert again.status == 202
    until(lambda: state() == "done", within=60)
    assert caller.call("GET", file).body["came"]["known"] == ROWS - ROWS // 10


def test_read_only_database_is_told_and_stores_nothing_half(lived_in, start):
    """Error 1290 of MariaDB; a full disk (1021, 1114, 1030 with errno 28) is answered alike."""
    start(lived_in, "--no-demo")
    caller = Caller(running(lived_in)["address"])
    statements = lambda text: subprocess.run(  # noqa: E731
        ["mariadb", "--no-defaults", f"--socket={lived_in / 'mariadb' / 'mariadb.sock'}",
         "-u", getpass.getuser(), "-e", text], check=True,
    )  # fmt: skip
    statements("SET GLOBAL read_only = 1")
    made = caller.call("POST", "/api/v1/forms", {"name": "Way mark", "purpose": "Marks."})
    assert (made.status, made.body["title"]) == (
        503,
        "The database stores nothing just now: its disk is full, or it can only be read.",
    )
    assert caller.call("GET", "/api/v1/forms").status == 200
    statements("SET GLOBAL read_only = 0")
    assert (
        caller.call("POST", "/api/v1/forms", {"name": "Way mark", "purpose": "Marks."}).status
        == 201
    )


@pytest.mark.parametrize(
    ("number", "says", "met"),
    [
        (1021, "Disk full (/tmp/x); waiting", True),
        (1114, "The table 'records_record' is full", True),
        (1030, 'Got error 28 "No space left on device" from storage engine InnoDB', True),
        (1030, 'Got error 121 "Duplicate key" from storage engine', False),
        (1040, "Too many connections", True),
        (1203, "User already has more than 'max_user_connections' active connections", True),
        (1064, "You have an error in your SQL syntax", False),
    ],
)
def test_what_the_database_lacks_is_told_from_what_is_wrong(number, says, met):
    """By the error numbers of MariaDB's documentation."""
    assert is_met(OperationalError(number, says)) is met


def test_processes_that_end_again_and_again_rest_and_the_others_go_on(
    monkeypatch, tmp_path, capsys
):
    class Ends:
        pid, returncode = os.getpid(), 1
        ended = begun = 0

        def __init__(self, *_):
            Ends.begun += 1

        def poll(self):
            return 1 if Ends.ended < Ends.begun else None

    class Database:
        process = None
        alive = True

        def is_alive(self):
            return self.alive

        def start(self):
            raise DatabaseTrouble("No room.")

    database = Database()
    monkeypatch.setattr(household, "Forked", Ends)
    monkeypatch.setattr(household, "REST", 0.05)
    house = household.Supervisor(database, None, household.Running(tmp_path / "running.json"))
    house.begin()
    for _ in range(12):
        house.look_after()
    told = capsys.readouterr().out
    assert "ends again and again (code 1)" in told
    begun = Ends.begun
    until(lambda: (house.look_after(), Ends.begun > begun)[1])
    database.alive = False
    for _ in range(3):
        house.look_after()
    assert capsys.readouterr().out.count("No room.") == 1
