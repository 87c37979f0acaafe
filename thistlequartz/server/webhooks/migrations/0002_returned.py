"""Records are returned, and no longer sent back, on the occasions of webhooks."""

from typing import Any

from django.db import migrations


def rename(apps: Any, schema_editor: Any) -> None:
    for webhook in apps.get_model("webhooks", "Webhook").objects.iterator():
        if "sent_back" in webhook.occasions:
            webhook.occasions = ["returned" if one == "sent_back" else one for one in webhook.occasions]
            webhook.save(update_fields=["occasions"])
    # The bodies of calls that wait stay as they were signed for.
    calls = apps.get_model("webhooks", "WebhookCall").objects
    calls.filter(occasion="sent_back").update(occasion="returned")


class Migration(migrations.Migration):

    dependencies = [
        ('webhooks', '0001_initial'),
    ]

    operations = [
        migrations.RunPython(rename),
    ]
