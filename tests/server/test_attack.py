"""Small bodies that once held the service: each within a bound of work, told in words."""

import io
import json
import resource
import socket
import threading
import time
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from http.client import HTTPResponse

import pytest
from waitress import create_server, wasyncore
from waitress.server import BaseWSGIServer

from thistlequartz.core.tables import BrokenTable, open_table
from thistlequartz.core.values import BrokenJson, read_json
from thistlequartz.server import bodies
from thistlequartz.server.channels import BoundedChannel
from thistlequartz.server.problems import Refusal
from thistlequartz.server.throttling import Throttle
from thistlequartz.workers.tables import open_apart

WITHIN = 2.0
"""Seconds of processor time: what is linear takes a tenth of it, what is not takes minutes."""


@contextmanager
def little_work(within: float = WITHIN) -> Iterator[None]:
    begun = time.process_time()
    yield
    assert time.process_time() - begun < within


def test_an_object_of_many_names_is_read_in_linear_time():
    names = ",".join(f'"n{number}":1' for number in range(40_000))
    with little_work(), pytest.raises(BrokenJson, match=r"n39999.* twice"):
        read_json(f'{{{names},"n39999":2}}')


def test_deep_json_with_an_unsound_text_is_refused_in_linear_time():
    deep = "[" * 400 + ",".join(['"\\ud800a"'] * 20_000) + "]" * 400
    with little_work(), pytest.raises(BrokenJson, match="half a character"):
        read_json(deep)
    with pytest.raises(BrokenJson, match="inside one another"):
        read_json("[" * 100_000)


def test_json_lines_of_many_short_lines_are_opened_in_linear_time():
    heads = ",".join(f'"h{number}":1' for number in range(400))
    file = io.BytesIO(f"{{{heads}}}\n".encode() + b'{"h1":1}\n' * 200_000)
    with little_work(6.0):
        assert len(open_table(file).heads) == 400


def workbook_of(sheet: bytes) -> io.BytesIO:
    """A workbook with one sheet; its other parts as ECMA-376 asks, from memory."""
    file = io.BytesIO()
    parts = {
        "[Content_Types].xml": b'<Types xmlns="http://schemas.openxmlformats.org/package/2006/'
        b'content-types"><Default Extension="xml" ContentType="application/xml"/></Types>',
        "xl/worksheets/sheet1.xml": sheet,
    }
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in parts.items():
            archive.writestr(name, content)
    return file


def test_a_workbook_that_would_backtrack_ends_at_once(tmp_path):
    small = workbook_of(b"<f " * 1_000_000)
    assert small.getbuffer().nbytes < 20_000
    with little_work(), pytest.raises(BrokenTable):
        open_table(small)
    path = tmp_path / "book.xlsx"
    path.write_bytes(small.getvalue())
    with path.open("rb") as file, pytest.raises(BrokenTable):
        open_apart(file)


def test_a_line_without_end_takes_nothing_with_it(tmp_path):
    for name, content in (
        ("commas.csv", b"," * 12_000_000),
        ("lists.jsonl", b'{"a":[' + b"[]," * 2_000_000),
    ):
        path = tmp_path / name
        path.write_bytes(content)
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        with little_work(), path.open("rb") as file, pytest.raises(BrokenTable):
            open_apart(file)
        grown = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before
        assert grown < 30_000, "kilobytes"


def test_wide_rows_are_read_in_linear_time(tmp_path):
    path = tmp_path / "wide.csv"
    heads, cells = ",".join(f"h{place}" for place in range(120)), ",".join(["é" * 100_000] * 120)
    path.write_text(f"{heads}\n{cells}\n", encoding="utf-8")
    with little_work(4.0), path.open("rb") as file:
        (row,) = open_apart(file).rows()
    assert row.cells["h119"] == "é" * 100_000


def test_an_encoding_that_nobody_offers_is_refused_by_name():
    for encoding in ("zlib", "hex", "punycode", "nothing"):
        with pytest.raises(BrokenTable, match="is not known"):
            open_table(io.BytesIO(b"a,b\n1,2\n"), encoding)


def test_a_throttle_counts_each_by_itself():
    throttle = Throttle(3, 60)
    for _ in range(3):
        throttle.count("one")
    throttle.count("other")
    with pytest.raises(Refusal) as refused:
        throttle.count("one")
    assert refused.value.status == 429


ended = threading.Event()


def endless():
    try:
        while True:
            yield bytes(64 * 1024)
    finally:
        ended.set()


def sleepy(environ, start_response):
    if environ["PATH_INFO"] == "/endless":
        start_response("200 OK", [("Content-Type", "text/plain")])
        return endless()
    body = environ["wsgi.input"].read()
    start_response("200 OK", [("Content-Type", "text/plain")])
    return [str(len(body)).encode()]


@pytest.fixture
def served(monkeypatch):
    """An address where bodies are bounded as where the product is served."""
    monkeypatch.setattr(BaseWSGIServer, "channel_class", BoundedChannel)
    server = create_server(
        sleepy, host="127.0.0.1", port=0, max_request_body_size=bodies.LARGEST_FILE,
        inbuf_overflow=bodies.LARGEST_FILE, outbuf_high_watermark=2**20, threads=1,
    )  # fmt: skip
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    yield server.effective_port
    # Ended in its own thread, after its tasks: otherwise one of them would write to a file
    # descriptor that has been closed, and is that of another test's process by then.
    server.task_dispatcher.shutdown()
    server.trigger.pull_trigger(lambda: wasyncore.close_all(server._map))
    thread.join(timeout=20)
    assert not thread.is_alive()


def answer(port: int, path: str, headers: str, *pieces: bytes, pause: float = 0.0) -> str:
    with socket.create_connection(("127.0.0.1", port), timeout=20) as line:
        line.sendall(f"POST {path} HTTP/1.1\r\nHost: x\r\n{headers}\r\n\r\n".encode())
        try:
            for piece in pieces:
                line.sendall(piece)
                time.sleep(pause)
        except OSError:
            pass  # answered before all was sent
        told = HTTPResponse(line)
        told.begin()
        return f"HTTP {told.status} {told.headers}\r\n\r\n{told.read().decode()}"


def test_who_does_not_read_an_answer_keeps_no_thread(served, monkeypatch):
    monkeypatch.setattr("thistlequartz.server.channels.PATIENCE", 0.5)
    ended.clear()
    with socket.create_connection(("127.0.0.1", served), timeout=20) as line:
        line.sendall(b"GET /endless HTTP/1.1\r\nHost: x\r\n\r\n")
        assert ended.wait(20)
        assert " 200 " in answer(served, "/", "Content-Length: 1", b"x"), "the one thread is free"
    ended.clear()
    with socket.create_connection(("127.0.0.1", served), timeout=20) as line:
        line.sendall(b"GET /endless HTTP/1.1\r\nHost: x\r\n\r\n")
        begun, read = time.monotonic(), 0
        while time.monotonic() < begun + 2.0:
            read += len(line.recv(2**16))
        assert not ended.is_set(), "who reads is sent all of it"
        assert read > 2**24


def test_large_bodies_are_refused_before_they_are_read(served, db, monkeypatch):
    files = "/api/v1/forms/plant_accession/record-files"
    assert " 413 " in answer(served, "/api/v1/session", "Content-Length: 250000000")
    told = answer(served, files, "Content-Length: 30000000")
    assert " 401 " in told
    assert json.loads(told.split("\r\n\r\n")[-1])["title"].startswith("Files are taken from")
    assert " 413 " in answer(served, files, "Content-Length: 250000000")
    monkeypatch.setattr(bodies, "LARGEST_BODY", 100_000)
    chunk = b"ffff\r\n" + b"x" * 0xFFFF + b"\r\n"
    chunked = answer(served, "/api/v1/forms", "Transfer-Encoding: chunked", chunk, chunk, chunk)
    assert " 413 " in chunked
    monkeypatch.setattr(bodies, "ALL_TOGETHER", 60_000)
    assert " 503 " in answer(served, "/api/v1/forms", "Content-Length: 90000")
    assert "\r\n\r\n5" in answer(served, "/api/v1/forms", "Content-Length: 5", b"12345")


def test_a_body_that_drips_is_given_up(served, monkeypatch):
    monkeypatch.setattr(bodies, "PATIENCE", 0.2)
    dripping = answer(served, "/api/v1/forms", "Content-Length: 100", *[b"x"] * 8, pause=0.1)
    assert " 408 " in dripping
