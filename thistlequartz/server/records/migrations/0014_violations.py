"""The violations of a record, under that name; also in lists that somebody has named."""

from typing import Any

from django.db import migrations, models
from django.db.models import Value
from django.db.models.functions import Replace


def rename(apps: Any, schema_editor: Any) -> None:
    lists = apps.get_model("records", "SavedList").objects
    named = Replace("asked", Value("breaks="), Value("violates="))
    lists.filter(asked__contains="breaks=").update(asked=named)


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0013_violated_rules'),
    ]

    operations = [
        migrations.AlterField(
            model_name='recordviolation',
            name='record',
            field=models.ForeignKey(on_delete=models.CASCADE, related_name='violations', to='records.record'),
        ),
        migrations.RunPython(rename),
    ]
