"""Bring the database up to date, and load the demo where asked: one process for both."""

import secrets

from django.apps import apps
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils.module_loading import import_string

KEPT_DAYS = 7
"""Days for which done background work is remembered."""


def migrate(*, demo: bool, records: int | None) -> None:
    """Migrate; with `demo` load the demo too, with so many records of each form as are wanted."""
    if _outdated():
        call_command("migrate", verbosity=0, interactive=False)
    import_string("thistlequartz.server.jobs.services.stop_what_was_left")()
    import_string("thistlequartz.server.records.release_preparation.prepare_released_forms")()
    call_command("prune_db_task_results", min_age_days=KEPT_DAYS, verbosity=0)
    if demo:
        call_command("load_demo", **({} if records is None else {"records": records}))
    else:
        _first_account()


def _outdated() -> bool:
    """Whether there is a migration to apply; asking costs a small part of what `migrate` does."""
    executor = MigrationExecutor(connection)
    return bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def _first_account() -> None:
    """Without the demo nobody could sign in: make one steward and say the password, once."""
    people = apps.get_model("people", "Person")
    if people.objects.exists():
        return
    password = secrets.token_urlsafe(9)
    people.objects.create_user(
        username="steward",
        password=password,
        role="steward",
        shown_name="Steward",
        manages_people=True,
        must_change_password=True,
    )
    print(
        f"\nThe first account: steward, password {password}  (it is not shown again,"
        " and is changed at the first sign-in)"
    )
