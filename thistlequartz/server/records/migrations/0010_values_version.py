from typing import Any

from django.db import migrations, models
from django.db.models import F


def as_they_are(apps: Any, schema_editor: Any) -> None:
    apps.get_model("records", "Record").objects.update(values_version=F("version"))


class Migration(migrations.Migration):
    dependencies = [("records", "0009_held_since")]

    operations = [
        migrations.AddField(
            model_name="record",
            name="values_version",
            field=models.PositiveIntegerField(default=1),
        ),
        migrations.RunPython(as_they_are, migrations.RunPython.noop),
    ]
