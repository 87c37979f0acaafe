"""The service on a real MariaDB, with the demo's form, and a caller for each role."""

import json
import shutil
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.core.management import call_command
from django.db import transaction
from django.test import Client
from django.test.client import ClientHandler
from django.test.utils import setup_databases, teardown_databases
from pytest_django.plugin import blocking_manager_key

from tests.private_server import private_folder
from tests.server.copies import Start, copies, made_once, once_served
from thistlequartz.demo.names import NAMES
from thistlequartz.launch.database import PrivateMariaDB
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person

FORM = "/api/v1/forms/plant_accession"
BLOCK = {"entry": "none", "save": "block", "submit": "block"}


@pytest.fixture(scope="session")
def django_db_keepdb() -> bool:
    """What is there is gone on with: it is a copy of our own, and goes with its folder."""
    return True


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_blocker: Any) -> Iterator[None]:
    # As in earnest, but at once: people sign in several times in each test.
    settings.PASSWORD_HASHERS = ["tests.server.hashing.QuickArgon2"]

    def make(folder: Path) -> None:
        with _database_in(folder), django_db_blocker.unblock():
            names = setup_databases(verbosity=0, interactive=False)
            _load()
            teardown_databases(names, verbosity=0, keepdb=True)

    with made_once("database", make) as made, private_folder() as folder:
        shutil.copytree(made, folder, dirs_exist_ok=True)
        with _database_in(folder):
            yield


@contextmanager
def _database_in(folder: Path) -> Iterator[None]:
    """A MariaDB of our own, which Django is told of."""
    with PrivateMariaDB(folder, durable=False) as database:
        kept = settings.DATABASES["default"]
        kept["USER"], kept["NAME"] = "thistlequartz", "thistlequartz"
        kept["PASSWORD"] = database.password
        kept["OPTIONS"]["unix_socket"] = str(database.socket)
        kept["CONN_MAX_AGE"] = 0
        yield


def _load() -> None:
    """What is there for every test: the demo, and a small form that many of them work at."""
    call_command("load_demo", records=12)
    _begin_small_thing()


def _empties(item: pytest.Item) -> bool:
    marked = item.get_closest_marker("django_db")
    return marked is not None and bool(marked.kwargs.get("transaction"))


@pytest.hookimpl(wrapper=True)
def pytest_runtest_teardown(item: pytest.Item, nextitem: pytest.Item | None) -> Iterator[None]:
    """A test with transactions of its own empties the database: what was there comes back for
    others, but not for the next one of that sort, which begins by itself.
    """
    yield
    if nextitem is not None and _empties(item) and not _empties(nextitem):
        with item.config.stash[blocking_manager_key].unblock():
            _load()


@pytest.fixture(scope="module")
def for_the_file(django_db_setup: None, django_db_blocker: Any) -> Iterator[None]:
    """What is made under it is there for every test of a file, and gone after the last of them. Not
    for a file with tests that have transactions of their own.
    """
    with django_db_blocker.unblock(), transaction.atomic():
        yield
        transaction.set_rollback(True)


@pytest.fixture
def folder() -> Iterator[Path]:
    with private_folder() as path:
        yield path


@pytest.fixture(scope="session")
def once_started() -> Iterator[Path]:
    with once_served() as path:
        yield path


@pytest.fixture
def lived_in(once_started: Path, folder: Path) -> Path:
    """A folder of one's own from which the demo was served before."""
    shutil.copytree(once_started, folder, dirs_exist_ok=True)
    return folder


@pytest.fixture
def start() -> Iterator[Start]:
    with copies() as begin:
        yield begin


_HANDLER = ClientHandler(enforce_csrf_checks=True)
"""One for all callers: each of its own would look through all that is served to the browser."""


class Caller:
    """Speaks JSON with the service as a page does: session cookie, token, problem details. With the
    name of an account it is signed in, as by its password.
    """

    def __init__(self, name: str | None = None) -> None:
        self.client = Client(raise_request_exception=False)
        self.client.handler = _HANDLER
        if name:
            person = Person.objects.get(username=name)
            self.client.force_login(person, "django.contrib.auth.backends.ModelBackend")
        self.token = self.get("/api/v1/session").json()["token"]

    def get(self, address: str) -> Any:
        """The answer; a file is read at once, so that it takes no room any more."""
        answer = self.client.get(address)
        if answer.streaming:
            answer.streaming_content = [b"".join(answer.streaming_content)]
        return answer

    def send(self, method: str, address: str, body: Any) -> Any:
        """`body` as JSON, or as it is when it is bytes."""
        data = body if isinstance(body, bytes) else json.dumps(body)
        return self.client.generic(
            method,
            address,
            data,
            content_type="application/json",
            headers={"X-CSRFToken": getattr(self, "token", "")},
        )

    def post(self, address: str, body: Any) -> Any:
        return self.send("POST", address, body)

    def release(self, at: str, note: str, **more: Any) -> Any:
        """Look at what is known of the draft, or of a release `again`, and release it."""
        again = f"?again={more['again']}" if "again" in more else ""
        known = self.get(f"{at}/releasing{again}").json()
        return self.post(
            f"{at}/releases", {"note": note, "knowing": known.get("fingerprint", ""), **more}
        )


@pytest.fixture(params=NAMES)
def anyone(db: None, request: pytest.FixtureRequest) -> Caller:
    return Caller(request.param)


@pytest.fixture
def steward(db: None) -> Caller:
    return Caller("steward")


@pytest.fixture
def clerk(db: None) -> Caller:
    return Caller("clerk")


def demand(**parts: Any) -> dict[str, Any]:
    """A rule as the screens send it."""
    return {
        "kind": "mandatory",
        "key": "holotypes",
        "name": "Holotypes name their determiner",
        "targets": ["determined_by"],
        "when": 'type_status = "holotype"',
        "severity": {"entry": "none", "save": "warn", "submit": "block"},
    } | parts


SMALL_THING = "/api/v1/forms/small_thing"


@pytest.fixture
def draft(db: None) -> DraftForm:
    """A form with two texts and a choice, released, with records a, b, c ..."""
    return DraftForm.objects.get(key="small_thing")


def released_with(*rules: dict[str, Any], fields: Sequence[dict[str, Any]] = ()) -> None:
    """The small form with fields and rules more, released."""
    steward = Caller("steward")
    for part, given in (("field", fields), ("rule", rules)):
        for one in given:
            answer = steward.post(f"{SMALL_THING}/{part}s", {part: one})
            assert answer.status_code == 201, answer.content
    assert steward.release(SMALL_THING, "Rules.").status_code == 201


def _begin_small_thing() -> None:
    steward, clerk = Caller("steward"), Caller("clerk")
    body = {"name": "Small thing", "purpose": "For a test."}
    assert steward.post("/api/v1/forms", body).status_code == 201
    for field in (
        {"type": "text", "key": "mark", "label": "Mark"},
        {"type": "text", "key": "note", "label": "Note"},
        {
            "type": "choice",
            "key": "grade",
            "label": "Grade",
            "choices": [{"code": "a", "label": "Small a"}, {"code": "A", "label": "Great A"}],
        },
    ):
        assert steward.post(f"{SMALL_THING}/fields", {"field": field}).status_code == 201
    assert steward.release(SMALL_THING, "The beginning.").status_code == 201
    for mark in "abcdefgh":
        save(clerk, SMALL_THING, mark=mark)
    for caller in (steward, clerk):
        assert caller.send("DELETE", "/api/v1/session", {}).status_code < 300, "nobody is left"


def save(caller, at, **values):
    answer = caller.post(f"{at}/records", {"values": values})
    assert answer.status_code == 201, answer.content
    return answer.json()["number"]
