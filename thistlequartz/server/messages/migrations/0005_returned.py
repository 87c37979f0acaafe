"""Records are returned, and no longer sent back, on the occasions of messages."""

from typing import Any

from django.db import migrations


def rename(apps: Any, schema_editor: Any) -> None:
    for template in apps.get_model("messages", "Template").objects.iterator():
        occasions = template.document.get("occasions", [])
        if "sent_back" in occasions:
            template.document["occasions"] = ["returned" if one == "sent_back" else one for one in occasions]
            template.save(update_fields=["document"])
    outgoing = apps.get_model("messages", "OutgoingMessage").objects
    outgoing.filter(occasion="sent_back").update(occasion="returned")


class Migration(migrations.Migration):

    dependencies = [
        ('messages', '0004_entry_points'),
    ]

    operations = [
        migrations.RunPython(rename),
    ]
