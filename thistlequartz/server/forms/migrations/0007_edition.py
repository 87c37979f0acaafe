from django.db import migrations, models

import thistlequartz.server.forms.models


class Migration(migrations.Migration):

    dependencies = [
        ('forms', '0006_overspent'),
    ]

    operations = [
        migrations.AddField(
            model_name='draftform',
            name='edition',
            field=models.CharField(
                default=thistlequartz.server.forms.models.another_edition, max_length=16
            ),
        ),
    ]
