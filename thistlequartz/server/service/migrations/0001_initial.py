"""The tables are there already: they moved from the app `doors`."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('doors', '0008_moved_to_four_apps'),
        ('forms', '0009_revisions_and_fingerprints'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name='ApiToken',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('name', models.CharField(max_length=100)),
                        ('begins', models.CharField(max_length=12)),
                        ('hash', models.CharField(max_length=64, unique=True)),
                        ('acts', models.JSONField()),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('ends_at', models.DateTimeField(null=True)),
                        ('ended_at', models.DateTimeField(null=True)),
                        ('last_used_at', models.DateTimeField(null=True)),
                        ('forms', models.ManyToManyField(related_name='service_tokens', to='forms.draftform')),
                        ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='service_tokens', to=settings.AUTH_USER_MODEL)),
                    ],
                    options={
                        'ordering': ('-id',),
                    },
                ),
                migrations.CreateModel(
                    name='IdempotentAnswer',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('key', models.CharField(max_length=100)),
                        ('asked', models.CharField(max_length=64)),
                        ('status', models.PositiveSmallIntegerField(default=0)),
                        ('body', models.JSONField(null=True)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('token', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='answers', to='service.apitoken')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['token', 'created_at'], name='service_ide_token_i_56d884_idx')],
                        'constraints': [models.UniqueConstraint(fields=('token', 'key'), name='one_answer_of_a_key')],
                    },
                ),
            ],
        ),
    ]
