import secrets

from django.db import migrations, models


def drawn() -> str:
    return secrets.token_hex(8)


class Migration(migrations.Migration):

    dependencies = [
        ('forms', '0006_overspent'),
    ]

    operations = [
        migrations.AddField(
            model_name='draftform',
            name='edition',
            field=models.CharField(default=drawn, max_length=16),
        ),
    ]
