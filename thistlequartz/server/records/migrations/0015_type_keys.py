"""Indexed fields say their type by its key, no longer by the name of a Python class."""

from typing import Any

from django.db import migrations

KEYS = {
    "TextType": "text/text",
    "NumberType": "number/number",
    "DateType": "date/date",
    "TimeType": "time/time",
    "DateTimeType": "date_time/date_time",
    "YesNoType": "yes_no/boolean",
    "ChoiceType": "choice/text",
    "ReferenceType": "reference/text",
}


def rename(apps: Any, schema_editor: Any) -> None:
    fields = apps.get_model("records", "IndexedField").objects
    for earlier, key in KEYS.items():
        fields.filter(type=earlier).update(type=key)


class Migration(migrations.Migration):

    dependencies = [
        ("records", "0014_violations"),
    ]

    operations = [
        migrations.RunPython(rename),
    ]
