"""Rules that stored records violate, under that name."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0012_states'),
    ]

    operations = [
        migrations.RenameModel('Breach', 'RecordViolation'),
        migrations.RenameIndex('recordviolation', new_name='records_rec_rule_ke_62d816_idx', old_name='records_bre_rule_ke_10ea6b_idx'),
        migrations.RenameIndex('recordviolation', new_name='records_rec_rule_ke_c21eaf_idx', old_name='records_bre_rule_ke_1e77e6_idx'),
    ]
