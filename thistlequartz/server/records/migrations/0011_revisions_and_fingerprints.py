from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0010_values_version'),
    ]

    operations = [
        migrations.RemoveIndex('record', 'records_rec_form_id_64d8ff_idx'),
        migrations.RemoveIndex('record', 'records_rec_form_id_be8e97_idx'),
        migrations.RenameField('record', 'version', 'revision'),
        migrations.RenameField('record', 'values_version', 'values_revision'),
        migrations.RenameField('record', 'prepared_for', 'keys_fingerprint'),
        migrations.RenameField('record', 'sent_as', 'idempotency_key'),
        migrations.RenameField('recordbook', 'generation', 'keys_fingerprint'),
        migrations.RenameField('uniquekey', 'generation', 'keys_fingerprint'),
        migrations.AddIndex(
            'record',
            models.Index(fields=['form', 'keys_fingerprint'], name='records_rec_form_id_cfb52f_idx'),
        ),
        migrations.AddIndex(
            'record',
            models.Index(fields=['form', 'idempotency_key'], name='records_rec_form_id_8a54f2_idx'),
        ),
    ]
