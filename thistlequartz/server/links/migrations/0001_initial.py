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
                    name='SolvedPuzzle',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('challenge', models.CharField(max_length=64, unique=True)),
                        ('used_at', models.DateTimeField(auto_now_add=True, db_index=True)),
                    ],
                ),
                migrations.CreateModel(
                    name='FormLink',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('key', models.CharField(db_collation='utf8mb4_bin', max_length=40, unique=True)),
                        ('name', models.CharField(max_length=100)),
                        ('document', models.JSONField(default=dict)),
                        ('ends_at', models.DateTimeField(null=True)),
                        ('most', models.PositiveIntegerField(null=True)),
                        ('taken', models.PositiveIntegerField(default=0)),
                        ('revision', models.PositiveIntegerField(default=1)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('ended_at', models.DateTimeField(null=True)),
                        ('form', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='links', to='forms.draftform')),
                        ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                    ],
                    options={
                        'ordering': ('-id',),
                    },
                ),
                migrations.CreateModel(
                    name='LinkUse',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('use', models.CharField(max_length=10)),
                        ('who', models.CharField(blank=True, default='', max_length=32)),
                        ('minute', models.DateTimeField(db_index=True)),
                        ('count', models.PositiveIntegerField()),
                        ('link', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='links.formlink')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('link', 'use', 'who', 'minute'), name='one_count_of_a_minute')],
                    },
                ),
            ],
        ),
    ]
