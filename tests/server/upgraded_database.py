"""Run as a program: fills a database as an earlier version left it, and brings it up to date.

The name of the database comes from the environment; it is made anew. What is found in it afterwards
is printed as JSON.
"""

import base64
import json
import lzma
from collections import Counter
from datetime import date
from pathlib import Path
from typing import Any

import django

DUMP = Path(__file__).parent / "data/before_format_2.jsonl.xz"


def _cell(value: Any) -> Any:
    if not isinstance(value, dict):
        return value
    ((kind, text),) = value.items()
    return base64.b64decode(text) if kind == "b" else text


def _fill(connection: Any) -> None:
    """The tables as they were: their migrations first, then their rows."""
    from django.core.management import call_command  # noqa: PLC0415

    lines = lzma.decompress(DUMP.read_bytes()).splitlines()
    tables = [json.loads(line) for line in lines]
    applied = next(one for one in tables if one["table"] == "django_migrations")
    newest: dict[str, str] = {}
    for _, app, name, _ in applied["rows"]:
        newest[app] = max(name, newest.get(app, ""))
    for app, name in newest.items():
        call_command("migrate", app, name, verbosity=0)
    with connection.cursor() as cursor:
        cursor.execute("SET foreign_key_checks = 0")
        for table in tables:
            if table["table"] == "django_migrations":
                continue
            places = ", ".join(["%s"] * len(table["columns"]))
            columns = ", ".join(f"`{one}`" for one in table["columns"])
            cursor.execute(f"DELETE FROM `{table['table']}`")
            cursor.executemany(
                f"INSERT INTO `{table['table']}` ({columns}) VALUES ({places})",
                [[_cell(one) for one in row] for row in table["rows"]],
            )
        cursor.execute("SET foreign_key_checks = 1")


def _found() -> dict[str, Any]:
    from thistlequartz.core import compile_ruleset  # noqa: PLC0415
    from thistlequartz.core.cases.running import Runner  # noqa: PLC0415
    from thistlequartz.core.ruleset import Case  # noqa: PLC0415
    from thistlequartz.server.activity.chain import check_chains  # noqa: PLC0415
    from thistlequartz.server.forms.drafts import compiled_draft  # noqa: PLC0415
    from thistlequartz.server.forms.models import DraftForm  # noqa: PLC0415
    from thistlequartz.server.forms.released_documents import release_document  # noqa: PLC0415
    from thistlequartz.server.forms.releases_in_force import release_in_force  # noqa: PLC0415
    from thistlequartz.server.messages.models import Template  # noqa: PLC0415
    from thistlequartz.server.records.models import IndexedField  # noqa: PLC0415
    from thistlequartz.server.webhooks.models import Webhook  # noqa: PLC0415

    cases, outcomes, problems = Counter[str](), Counter[str](), 0
    for draft in DraftForm.objects.all():
        form = compiled_draft(draft)
        problems += len(form.problems)
        runner = Runner(form)
        for row in draft.case_rows.all():
            state = runner.run(Case.model_validate(row.document)).state
            cases[f"{draft.key} {state}"] += 1
        release = release_in_force(draft)
        if release is None:
            continue
        in_force = compile_ruleset(release_document(release.pk), form=draft.key)
        for record in draft.records.all():
            verdict = in_force.judge(record.values, moment="save", today=date(2026, 12, 1))
            outcomes[f"{draft.key} {verdict.outcome}"] += 1
    occasions = {one for row in Template.objects.all() for one in row.document["occasions"]}
    occasions |= {one for row in Webhook.objects.all() for one in row.occasions}
    return {
        "cases": cases,
        "outcomes": outcomes,
        "problems": problems,
        "breaks": [one.what for one in check_chains()],
        "occasions": sorted(occasions),
        "types": sorted(set(IndexedField.objects.values_list("type", flat=True))),
    }


def main() -> None:
    """Make the database, fill it, bring it up to date, and print what is in it."""
    django.setup()
    from django.core.management import call_command  # noqa: PLC0415
    from django.db import connection  # noqa: PLC0415

    name = connection.settings_dict["NAME"]
    with connection._nodb_cursor() as cursor:
        cursor.execute(f"CREATE DATABASE `{name}` CHARACTER SET utf8mb4 COLLATE utf8mb4_bin")
    try:
        _fill(connection)
        call_command("migrate", verbosity=0)
        print(json.dumps(_found()))
    finally:
        connection.close()
        with connection._nodb_cursor() as cursor:
            cursor.execute(f"DROP DATABASE `{name}`")


if __name__ == "__main__":
    main()
