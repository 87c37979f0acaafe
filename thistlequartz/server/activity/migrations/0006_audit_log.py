"""The audit log, in the words of the trade."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('activity', '0005_acts_of_a_part'),
    ]

    operations = [
        migrations.RenameModel('Activity', 'AuditEntry'),
        migrations.RenameModel('Chain', 'AuditChain'),
        migrations.RenameModel('Turn', 'UndoState'),
        migrations.RenameField('undostate', 'activity', 'entry'),
        migrations.AlterField(
            model_name='undostate',
            name='entry',
            field=models.OneToOneField(
                on_delete=models.deletion.CASCADE,
                primary_key=True,
                related_name='undo_state',
                serialize=False,
                to='activity.auditentry',
            ),
        ),
        migrations.RenameIndex('auditentry', new_name='activity_au_form_ke_cc5a3e_idx', old_name='activity_ac_form_ke_84ffa8_idx'),
        migrations.RenameIndex('auditentry', new_name='activity_au_form_ke_df4fc5_idx', old_name='activity_ac_form_ke_276086_idx'),
        migrations.RenameIndex('auditentry', new_name='activity_au_form_ke_8c35f2_idx', old_name='activity_ac_form_ke_cc2bd5_idx'),
        migrations.RenameIndex('auditentry', new_name='activity_au_form_ke_55ca10_idx', old_name='activity_ac_form_ke_ea0631_idx'),
        migrations.RenameIndex('auditentry', new_name='activity_au_form_ke_c076a4_idx', old_name='activity_ac_form_ke_c9b6ba_idx'),
    ]
