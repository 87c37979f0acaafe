"""The tables are there already: they moved from the app `doors`."""

import django.db.models.deletion
import django.utils.timezone
import uuid
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('doors', '0008_moved_to_four_apps'),
        ('forms', '0009_revisions_and_fingerprints'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name='Webhook',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('name', models.CharField(max_length=100)),
                        ('address', models.CharField(blank=True, default='', max_length=500)),
                        ('secret', models.CharField(max_length=100)),
                        ('occasions', models.JSONField()),
                        ('enabled', models.BooleanField(default=True)),
                        ('fails', models.PositiveSmallIntegerField(default=0)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('form', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='call_targets', to='forms.draftform')),
                    ],
                    options={
                        'ordering': ('id',),
                    },
                ),
                migrations.CreateModel(
                    name='ReceivedWebhookCall',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('webhook_id', models.CharField(max_length=100)),
                        ('taken', models.BooleanField()),
                        ('body', models.TextField()),
                        ('received_at', models.DateTimeField(auto_now_add=True)),
                        ('target', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='received', to='webhooks.webhook')),
                    ],
                    options={
                        'ordering': ('-id',),
                        'indexes': [models.Index(fields=['target', '-id'], name='webhooks_re_target__04f254_idx')],
                    },
                ),
                migrations.CreateModel(
                    name='WebhookCall',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('state', models.CharField(choices=[('waiting', 'Waiting'), ('sent', 'Sent'), ('failed', 'Failed')], default='waiting', max_length=10)),
                        ('trouble', models.TextField(blank=True, default='')),
                        ('attempts', models.PositiveSmallIntegerField(default=0)),
                        ('next_at', models.DateTimeField(default=django.utils.timezone.now)),
                        ('written_at', models.DateTimeField(default=django.utils.timezone.now)),
                        ('sent_at', models.DateTimeField(null=True)),
                        ('number', models.PositiveIntegerField()),
                        ('occasion', models.CharField(max_length=12)),
                        ('message_id', models.UUIDField(default=uuid.uuid4)),
                        ('body', models.TextField()),
                        ('answer_status', models.PositiveSmallIntegerField(null=True)),
                        ('answer', models.TextField(blank=True, default='')),
                        ('target', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='calls', to='webhooks.webhook')),
                    ],
                    options={
                        'ordering': ('-id',),
                        'indexes': [models.Index(fields=['state', 'next_at'], name='webhooks_we_state_87edc6_idx'), models.Index(fields=['target', '-id'], name='webhooks_we_target__dc9ec6_idx'), models.Index(fields=['target', 'state'], name='webhooks_we_target__a2b990_idx')],
                    },
                ),
            ],
        ),
    ]
