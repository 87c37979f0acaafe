"""Outgoing messages, and the entry points for which a message is meant."""

from typing import Any

from django.db import migrations


def rename(apps: Any, schema_editor: Any) -> None:
    for template in apps.get_model("messages", "Template").objects.iterator():
        if "doors" in template.document:
            template.document["entry_points"] = template.document.pop("doors")
            template.save(update_fields=["document"])


class Migration(migrations.Migration):

    dependencies = [
        ('messages', '0003_revisions'),
    ]

    operations = [
        migrations.RenameModel('ToSend', 'OutgoingMessage'),
        migrations.RenameIndex('outgoingmessage', new_name='messages_ou_state_e87e90_idx', old_name='messages_to_state_3e592d_idx'),
        migrations.RenameIndex('outgoingmessage', new_name='messages_ou_form_id_904fad_idx', old_name='messages_to_form_id_0d2462_idx'),
        migrations.RenameIndex('outgoingmessage', new_name='messages_ou_form_id_a909c4_idx', old_name='messages_to_form_id_2d5830_idx'),
        migrations.RunPython(rename),
    ]
