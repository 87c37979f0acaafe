"""Dismissed findings, under that name."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('findings', '0002_fingerprints'),
    ]

    operations = [
        migrations.RenameModel('SetAside', 'Dismissal'),
        migrations.AlterField(
            model_name='dismissal',
            name='form',
            field=models.ForeignKey(
                on_delete=models.deletion.CASCADE,
                related_name='dismissals',
                to='forms.draftform',
            ),
        ),
    ]
