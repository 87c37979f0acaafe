"""Runs of an import: broken off and begun again, too large for one statement, with rights lost."""

import pytest

from thistlequartz.server.imports import running as importing
from thistlequartz.server.imports.models import ImportedRow
from thistlequartz.server.jobs import tasks
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.models import Record

from .bringing import brought, came
from .conftest import BLOCK, SMALL_THING, released_with

pytestmark = pytest.mark.django_db
RULES = (
    {"kind": "unique", "key": "one", "targets": ["mark"], "severity": BLOCK},
    {"kind": "mandatory", "key": "graded", "targets": ["grade"], "severity": BLOCK},
)


@pytest.fixture(scope="module")
def at(for_the_file):
    released_with(*RULES)
    return SMALL_THING


def test_a_run_that_is_broken_off_goes_on_and_stores_each_row_once(clerk, at, draft, monkeypatch):
    monkeypatch.setattr(importing, "AT_ONCE", 10)
    content = "mark,grade\n" + "".join(f"t{n},a\n" for n in range(35)) + "a,a\n"
    file = brought(clerk, at, content)
    pieces = []

    class Broken(Exception):
        pass

    def tell(self, done, total, **_):
        pieces.append((done, total))
        if len(pieces) == 2:
            raise Broken

    job = clerk.post(f"{at}/record-files/{file['id']}/run", {"dry": False}).json()["job"]
    with monkeypatch.context() as broken:
        broken.setattr(Progress, "tell", tell)
        with pytest.raises(Broken):
            importing.import_in_background(Job.objects.get(pk=job["id"]), Progress(None))
    assert pieces == [(10, 36), (20, 36)]
    assert ImportedRow.objects.filter(form=draft).count() == 20
    tasks.work.call(job["id"])
    done = clerk.get(f"{at}/record-files/{file['id']}").json()
    assert done["job"]["state"] == "done"
    assert {k: v for k, v in done["came"].items() if v} == {"rows": 36, "added": 35, "refused": 1}
    assert Record.objects.filter(form=draft).count() == 8 + 35


def test_large_rows_are_stored_in_several_statements(clerk, at, draft):
    """300 rows of up to 240 KB, as JSON escapes them, are more than the 16 MB that MariaDB takes in
    one packet.
    """
    long = "ü" * 20_000
    rows = "".join(f"t{n},{long},{'zz' if n % 2 else 'a'}\n" for n in range(300))
    file = brought(clerk, at, f"mark,note,grade\n{rows}")
    done = came(clerk, at, file)
    assert (done["rows"], done["added"] + done["refused"]) == (300, 300)
    assert done["refused"] == 150


def test_whoever_loses_the_right_meanwhile_brings_no_further_piece(clerk, at, draft, monkeypatch):
    monkeypatch.setattr(importing, "AT_ONCE", 10)
    file = brought(clerk, at, "mark,grade\n" + "".join(f"t{n},a\n" for n in range(35)))
    job = clerk.post(f"{at}/record-files/{file['id']}/run", {"dry": False}).json()["job"]

    def tell(self, done, total, **_):
        Person.objects.filter(username="clerk").update(is_active=False)

    monkeypatch.setattr(Progress, "tell", tell)
    with pytest.raises(Refusal, match="may no longer write records"):
        importing.import_in_background(Job.objects.get(pk=job["id"]), Progress(None))
    assert ImportedRow.objects.filter(form=draft).count() == 10
    Person.objects.filter(username="clerk").update(is_active=True)
