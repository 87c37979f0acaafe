"""The tables are there already: they moved from the app `doors`."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('doors', '0008_moved_to_four_apps'),
        ('forms', '0009_revisions_and_fingerprints'),
        ('jobs', '0005_fingerprints'),
        ('records', '0011_revisions_and_fingerprints'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name='RecordFile',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('name', models.CharField(max_length=200)),
                        ('kind', models.CharField(max_length=10)),
                        ('size', models.PositiveIntegerField()),
                        ('hash', models.CharField(max_length=64)),
                        ('plan', models.JSONField()),
                        ('came', models.JSONField(null=True)),
                        ('created_at', models.DateTimeField(auto_now_add=True)),
                        ('form', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='record_files', to='forms.draftform')),
                        ('job', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='jobs.job')),
                        ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                    ],
                    options={
                        'ordering': ('-id',),
                    },
                ),
                migrations.CreateModel(
                    name='FilePiece',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('place', models.PositiveIntegerField()),
                        ('content', models.BinaryField()),
                        ('file', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pieces', to='imports.recordfile')),
                    ],
                    options={
                        'ordering': ('place',),
                    },
                ),
                migrations.CreateModel(
                    name='RejectedRow',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('row', models.PositiveIntegerField()),
                        ('cells', models.JSONField()),
                        ('reasons', models.JSONField()),
                        ('file', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='refused_rows', to='imports.recordfile')),
                    ],
                    options={
                        'ordering': ('row',),
                    },
                ),
                migrations.CreateModel(
                    name='ImportedRow',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('hash', models.CharField(max_length=64)),
                        ('row', models.PositiveIntegerField()),
                        ('run', models.PositiveBigIntegerField(default=0)),
                        ('added', models.BooleanField(default=True)),
                        ('left_out', models.BooleanField(default=False)),
                        ('form', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='forms.draftform')),
                        ('record', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='records.record')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('form', 'hash', 'row'), name='one_taking_of_a_row')],
                    },
                ),
                migrations.AddIndex(
                    model_name='recordfile',
                    index=models.Index(fields=['form', '-id'], name='imports_rec_form_id_82f3d8_idx'),
                ),
                migrations.AddConstraint(
                    model_name='filepiece',
                    constraint=models.UniqueConstraint(fields=('file', 'place'), name='one_piece_of_a_place'),
                ),
                migrations.AddConstraint(
                    model_name='rejectedrow',
                    constraint=models.UniqueConstraint(fields=('file', 'row'), name='one_refusal_of_a_row'),
                ),
            ],
        ),
    ]
