from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0004_results_in_old_words'),
    ]

    operations = [
        migrations.RenameField('job', 'stamp', 'fingerprint'),
        migrations.RenameField('job', 'beat_at', 'heartbeat_at'),
    ]
