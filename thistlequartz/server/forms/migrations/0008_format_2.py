"""Rules and cases of drafts in format 2 of the documents.

Releases stay as they were written, since their hashes are made of them: they are upgraded as they
are read. What came of cases was written in the old words: they run again.
"""

from typing import Any

from django.db import migrations

from thistlequartz.core.ruleset.upgrading import upgraded_case, upgraded_rule


def upgrade(apps: Any, schema_editor: Any) -> None:
    for model, upgraded in (("DraftRule", upgraded_rule), ("DraftCase", upgraded_case)):
        rows = apps.get_model("forms", model).objects
        for row in rows.iterator():
            row.document = upgraded(row.document)
            row.save(update_fields=["document"])
    cases = apps.get_model("forms", "DraftCase").objects
    cases.update(state="", found=None, ran_for="")


class Migration(migrations.Migration):

    dependencies = [
        ('forms', '0007_edition'),
    ]

    operations = [
        migrations.RenameField('draftrule', 'broken_seen', 'violated_seen'),
        migrations.RenameField('draftrule', 'kept_seen', 'satisfied_seen'),
        migrations.RunPython(upgrade),
    ]
