"""How far a record has come, in the words of the trade; also in lists that somebody has named."""

from typing import Any

from django.db import migrations, models
from django.db.models import Value
from django.db.models.functions import Replace

WORDS = {"saved": "in_progress", "sent_back": "returned"}


def rename(apps: Any, schema_editor: Any) -> None:
    for old, new in WORDS.items():
        apps.get_model("records", "Record").objects.filter(state=old).update(state=new)
        lists = apps.get_model("records", "SavedList").objects
        named = Replace("asked", Value(f"state={old}"), Value(f"state={new}"))
        lists.filter(asked__contains=f"state={old}").update(asked=named)


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0011_revisions_and_fingerprints'),
    ]

    operations = [
        migrations.AlterField(
            model_name='record',
            name='state',
            field=models.CharField(
                choices=[
                    ('in_progress', 'In Progress'),
                    ('submitted', 'Submitted'),
                    ('approved', 'Approved'),
                    ('returned', 'Returned'),
                ],
                default='in_progress',
                max_length=20,
            ),
        ),
        migrations.RunPython(rename),
    ]
