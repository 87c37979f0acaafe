"""Bringing a database up to date at the start: what is missing is applied, and nothing else done."""

from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder

from thistlequartz.launch import migrate
from thistlequartz.server.people.models import Person

pytestmark = pytest.mark.django_db


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
    newest = max(name for app, name in recorder.applied_migrations() if app == "doors")
    recorder.record_unapplied("doors", newest)
    migrate.migrate(demo=True, records=None)
    migrate.migrate(demo=True, records=None)
    assert said.count("migrate") == 1
    assert ("doors", newest) in recorder.applied_migrations()


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
