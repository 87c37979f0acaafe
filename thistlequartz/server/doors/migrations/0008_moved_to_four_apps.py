"""The tables under the names of the apps they moved to; those begin from the tables as they are."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('doors', '0007_revisions'),
    ]

    operations = [
        migrations.RenameModel('TakenRow', 'ImportedRow'),
        migrations.RenameModel('RefusedRow', 'RejectedRow'),
        migrations.RenameModel('ServiceToken', 'ApiToken'),
        migrations.RenameModel('ServiceAnswer', 'IdempotentAnswer'),
        migrations.RenameModel('CallTarget', 'Webhook'),
        migrations.RenameModel('OutgoingCall', 'WebhookCall'),
        migrations.RenameModel('ReceivedCall', 'ReceivedWebhookCall'),
        migrations.RenameModel('LinkMinute', 'LinkUse'),
        migrations.RenameField('solvedpuzzle', 'mark', 'challenge'),
        migrations.RenameField('webhookcall', 'mark', 'message_id'),
        migrations.AlterModelTable('recordfile', 'imports_recordfile'),
        migrations.AlterModelTable('filepiece', 'imports_filepiece'),
        migrations.AlterModelTable('importedrow', 'imports_importedrow'),
        migrations.AlterModelTable('rejectedrow', 'imports_rejectedrow'),
        migrations.AlterModelTable('formlink', 'links_formlink'),
        migrations.AlterModelTable('linkuse', 'links_linkuse'),
        migrations.AlterModelTable('solvedpuzzle', 'links_solvedpuzzle'),
        migrations.AlterModelTable('apitoken', 'service_apitoken'),
        migrations.AlterModelTable('idempotentanswer', 'service_idempotentanswer'),
        migrations.AlterModelTable('webhook', 'webhooks_webhook'),
        migrations.AlterModelTable('webhookcall', 'webhooks_webhookcall'),
        migrations.AlterModelTable('receivedwebhookcall', 'webhooks_receivedwebhookcall'),
        migrations.RenameIndex('recordfile', new_name='imports_rec_form_id_82f3d8_idx', old_name='doors_recor_form_id_513572_idx'),
        migrations.RenameIndex('idempotentanswer', new_name='service_ide_token_i_56d884_idx', old_name='doors_servi_token_i_9d7243_idx'),
        migrations.RenameIndex('receivedwebhookcall', new_name='webhooks_re_target__04f254_idx', old_name='doors_recei_target__d089e5_idx'),
        migrations.RenameIndex('webhookcall', new_name='webhooks_we_state_87edc6_idx', old_name='doors_outgo_state_123fd6_idx'),
        migrations.RenameIndex('webhookcall', new_name='webhooks_we_target__dc9ec6_idx', old_name='doors_outgo_target__21e704_idx'),
        migrations.RenameIndex('webhookcall', new_name='webhooks_we_target__a2b990_idx', old_name='doors_outgo_target__05f95b_idx'),
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel('FilePiece'),
                migrations.DeleteModel('RejectedRow'),
                migrations.DeleteModel('ImportedRow'),
                migrations.DeleteModel('RecordFile'),
                migrations.DeleteModel('LinkUse'),
                migrations.DeleteModel('FormLink'),
                migrations.DeleteModel('SolvedPuzzle'),
                migrations.DeleteModel('IdempotentAnswer'),
                migrations.DeleteModel('ApiToken'),
                migrations.DeleteModel('WebhookCall'),
                migrations.DeleteModel('ReceivedWebhookCall'),
                migrations.DeleteModel('Webhook'),
            ],
        ),
    ]
