"""The history is only added to: each act is bound to the one before it."""

from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from thistlequartz.server.activity.chain import BOUND, hash_of


def bind(apps: Any, _: Any) -> None:
    """Bind the acts there are to one another, in the order in which they were done."""
    activity, chain, turn = (
        apps.get_model("activity", name) for name in ("Activity", "Chain", "Turn")
    )
    ends: dict[str, Any] = {}
    for act in activity.objects.order_by("pk").select_related("person").iterator(500):
        end = ends.setdefault(act.form_key, chain(form_key=act.form_key))
        end.length += 1
        act.place = end.length
        act.who = f"{act.person.shown_name} ({act.person.username})" if act.person else ""
        act.hash = end.hash = hash_of(end.hash, act.at, {n: getattr(act, n) for n in BOUND})
        act.save(update_fields=["place", "who", "hash"])
        if act.part:
            turn.objects.create(activity=act, state=act.state)
    chain.objects.bulk_create(ends.values())


class Migration(migrations.Migration):
    dependencies = [
        ("activity", "0003_changes_can_be_undone"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Chain",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("form_key", models.CharField(max_length=60, unique=True)),
                ("length", models.PositiveBigIntegerField(default=0)),
                ("hash", models.CharField(blank=True, default="", max_length=64)),
            ],
        ),
        migrations.CreateModel(
            name="Turn",
            fields=[
                ("activity", models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name="turn", serialize=False, to="activity.activity")),
                ("state", models.CharField(default="done", max_length=10)),
            ],
        ),
        migrations.AddField("activity", "who", models.CharField(blank=True, default="", max_length=200)),
        migrations.AddField("activity", "place", models.PositiveBigIntegerField(default=0), preserve_default=False),
        migrations.AddField("activity", "hash", models.CharField(default="", max_length=64), preserve_default=False),
        migrations.AlterField("activity", "at", models.DateTimeField()),
        migrations.RunPython(bind, migrations.RunPython.noop),
        migrations.RemoveField("activity", "state"),
        migrations.AddIndex("activity", models.Index(fields=["form_key", "act", "-id"], name="activity_ac_form_ke_276086_idx")),
        migrations.AddIndex("activity", models.Index(fields=["form_key", "person", "-id"], name="activity_ac_form_ke_cc2bd5_idx")),
        migrations.AddIndex("activity", models.Index(fields=["form_key", "-at"], name="activity_ac_form_ke_ea0631_idx")),
        migrations.AddConstraint("activity", models.UniqueConstraint(fields=("form_key", "place"), name="one_act_of_a_place")),
    ]
