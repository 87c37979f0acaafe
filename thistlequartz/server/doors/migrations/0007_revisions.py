from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('doors', '0006_taken_by_run'),
    ]

    operations = [
        migrations.RenameField('formlink', 'version', 'revision'),
        migrations.RenameField('calltarget', 'on', 'enabled'),
    ]
