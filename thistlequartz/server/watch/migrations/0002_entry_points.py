"""What is counted, in the words of the trade."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('watch', '0001_initial'),
    ]

    operations = [
        migrations.RenameModel('Attempts', 'AttemptCount'),
        migrations.RenameModel('Spoken', 'RuleCount'),
        migrations.RenameModel('Waived', 'GivenReason'),
        # MariaDB renames the column in the constraints as well; Django's state does not.
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.RenameField('attemptcount', 'door', 'entry_point'),
                migrations.RenameField('rulecount', 'door', 'entry_point'),
            ],
            state_operations=[
                migrations.RemoveConstraint('attemptcount', 'one_count_of_attempts'),
                migrations.RemoveConstraint('rulecount', 'one_count_of_a_rule'),
                migrations.RenameField('attemptcount', 'door', 'entry_point'),
                migrations.RenameField('rulecount', 'door', 'entry_point'),
                migrations.AddConstraint(
                    'attemptcount',
                    models.UniqueConstraint(
                        fields=['form', 'day', 'release', 'person', 'entry_point', 'moment'],
                        name='one_count_of_attempts',
                    ),
                ),
                migrations.AddConstraint(
                    'rulecount',
                    models.UniqueConstraint(
                        fields=[
                            'form', 'day', 'release', 'person', 'entry_point', 'moment', 'rule_key',
                        ],
                        name='one_count_of_a_rule',
                    ),
                ),
            ],
        ),
        migrations.RenameIndex('givenreason', new_name='watch_given_form_id_cbdc22_idx', old_name='watch_waive_form_id_5ea8be_idx'),
    ]
