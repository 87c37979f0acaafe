import thistlequartz.server.forms.models
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('forms', '0008_format_2'),
    ]

    operations = [
        migrations.RenameField('draftform', 'edition', 'fingerprint'),
        migrations.RenameField('draftform', 'settings_version', 'settings_revision'),
        migrations.RenameField('draftfield', 'version', 'revision'),
        migrations.RenameField('draftrule', 'version', 'revision'),
        migrations.RenameField('planline', 'version', 'revision'),
        migrations.RenameField('draftcase', 'version', 'revision'),
        migrations.RenameField('draftchoicelist', 'version', 'revision'),
        migrations.RenameField('draftcase', 'ran_for', 'rules_fingerprint'),
        migrations.AlterField(
            model_name='draftform',
            name='fingerprint',
            field=models.CharField(default=thistlequartz.server.forms.models.first_fingerprint, max_length=16),
        ),
    ]
