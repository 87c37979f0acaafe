from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('messages', '0002_box'),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name='tosend',
            name='one_message_of_an_occasion',
        ),
        migrations.RenameField('template', 'version', 'revision'),
        migrations.RenameField('template', 'on', 'enabled'),
        migrations.RenameField('tosend', 'version', 'revision'),
        migrations.AddConstraint(
            model_name='tosend',
            constraint=models.UniqueConstraint(fields=('template', 'record', 'revision', 'occasion'), name='one_message_of_an_occasion'),
        ),
    ]
