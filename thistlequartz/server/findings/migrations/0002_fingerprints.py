from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('findings', '0001_initial'),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name='setaside',
            name='one_reason_each',
        ),
        migrations.RenameField('setaside', 'mark', 'fingerprint'),
        migrations.RenameField('setaside', 'rests_on', 'basis_fingerprint'),
        migrations.AddConstraint(
            model_name='setaside',
            constraint=models.UniqueConstraint(fields=('form', 'fingerprint'), name='one_reason_each'),
        ),
    ]
