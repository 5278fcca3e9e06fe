from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('people', '0002_invitations_sittings_acts'),
    ]

    operations = [
        migrations.AddField(
            model_name='attempt',
            name='about_sha256',
            field=models.CharField(db_default='', db_index=True, max_length=64),
        ),
        migrations.AddField(
            model_name='invitation',
            name='withdrawn_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='membership',
            name='chosen_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='membership',
            name='qualifications',
            field=models.JSONField(db_default=models.Value([], models.JSONField()), default=list),
        ),
        migrations.AddField(
            model_name='person',
            name='for_looking_round',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddIndex(
            model_name='act',
            index=models.Index(fields=['workshop', 'id'], name='acts_of_a_workshop'),
        ),
        # what somebody is qualified for is said by each workshop for itself
        migrations.RunSQL(
            "UPDATE people_membership m SET qualifications = q.kinds FROM (SELECT person_id, jsonb_agg(kind ORDER BY kind)"
            " AS kinds FROM people_qualification GROUP BY person_id) q WHERE q.person_id = m.person_id",
            migrations.RunSQL.noop,
        ),
        migrations.RunSQL(
            "UPDATE people_person SET for_looking_round = true WHERE email LIKE '%@skellmere.example'",
            migrations.RunSQL.noop,
        ),
        migrations.RunSQL(
            "DO $$ DECLARE c text; BEGIN FOR c IN SELECT conname FROM pg_constraint WHERE contype = 'f' AND "
            "conrelid = 'people_qualification'::regclass LOOP EXECUTE "
            "'ALTER TABLE people_qualification DROP CONSTRAINT ' || quote_ident(c); END LOOP; END $$",
            migrations.RunSQL.noop,
        ),
        # the table stays for processes of the release before; the next release takes it away
        migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel(name='Qualification')]),
    ]
