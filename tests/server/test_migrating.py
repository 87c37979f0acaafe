"""Bringing a database up to date at the start: what is missing is applied, and nothing else done."""

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder

from thistlequartz.launch import migrate
from thistlequartz.server.people.models import Person
from thistlequartz.server.records.events import OCCASIONS

pytestmark = pytest.mark.django_db
CASES_BEFORE = {
    "plant_accession passes": 9,
    "plant_accession fails": 3,
    "mineral_accession passes": 6,
    "mineral_accession fails": 1,
    "borrower passes": 4,
    "borrower fails": 1,
    "loan_out passes": 7,
    "loan_out fails": 2,
}
OUTCOMES_BEFORE = {
    "plant_accession clear": 38,
    "plant_accession noted": 5,
    "plant_accession warned": 17,
    "mineral_accession warned": 10,
    "mineral_accession clear": 46,
    "mineral_accession noted": 4,
    "borrower warned": 60,
    "loan_out clear": 39,
    "loan_out warned": 8,
    "loan_out noted": 2,
}


@pytest.fixture
def said(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The commands that are called; migrations are written down as applied, and change nothing."""
    called = []

    def call(name: str, **options: Any) -> None:
        called.append(name)
        if name == "migrate":
            call_command(name, fake=True, **options)

    monkeypatch.setattr(migrate, "call_command", call)
    return called


def test_a_database_that_is_up_to_date_is_left_as_it_is(said: list[str]) -> None:
    migrate.migrate(demo=True, records=7)
    assert "migrate" not in said
    assert said[-1] == "load_demo"


def test_a_migration_that_is_missing_is_applied_once(said: list[str]) -> None:
    recorder = MigrationRecorder(connection)
    newest = max(name for app, name in recorder.applied_migrations() if app == "messages")
    recorder.record_unapplied("messages", newest)
    migrate.migrate(demo=True, records=None)
    migrate.migrate(demo=True, records=None)
    assert said.count("migrate") == 1
    assert ("messages", newest) in recorder.applied_migrations()


def test_models_and_migrations_say_the_same() -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


def test_without_the_demo_the_first_account_is_said_once(
    said: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    migrate.migrate(demo=False, records=None)
    assert capsys.readouterr().out == "", "somebody is there already"
    Person.objects.all().delete()
    migrate.migrate(demo=False, records=None)
    told = capsys.readouterr().out
    assert "The first account: steward" in told
    first = Person.objects.get()
    assert first.check_password(told.split("password ")[1].split()[0])
    assert (first.manages_people, first.must_change_password) == (True, True)
    migrate.migrate(demo=False, records=None)
    assert capsys.readouterr().out == ""
    assert "load_demo" not in said


def test_a_database_of_an_earlier_version_is_brought_up_to_date() -> None:
    """The demo as the version before format 2 left it on 1 December 2026: cases and
    records come to what they came to by that version."""
    database = settings.DATABASES["default"]
    run = subprocess.run(
        [sys.executable, "-m", "tests.server.upgraded_database"],
        env={
            **os.environ,
            "THISTLEQUARTZ_DB_NAME": f"{database['NAME']}_upgraded",
            "THISTLEQUARTZ_DB_USER": database["USER"],
            "THISTLEQUARTZ_DB_PASSWORD": database["PASSWORD"],
            "THISTLEQUARTZ_DB_SOCKET": database["OPTIONS"]["unix_socket"],
        },
        cwd=Path(__file__).resolve().parents[2],
        capture_output=True,
        text=True,
        check=False,
    )
    assert run.returncode == 0, run.stderr
    found = json.loads(run.stdout)
    assert found["breaks"] == []
    assert found["problems"] == 0
    assert found["cases"] == CASES_BEFORE
    assert found["outcomes"] == OUTCOMES_BEFORE
    assert "returned" in found["occasions"], "written as sent_back"
    assert set(found["occasions"]) <= set(OCCASIONS)
    assert found["types"], "written as names of classes"
    assert all("/" in one for one in found["types"])
