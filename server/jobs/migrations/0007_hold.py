import django.contrib.postgres.indexes
import django.contrib.postgres.search
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


FACTS = ("reading", "finding", "metertest", "log", "mark", "count", "waychoice", "photo", "cause")


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0006_bench'),
        ('machines', '0004_versions'),
        ('people', '0003_memberships'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RunSQL("CREATE SEQUENCE jobs_fact_seq", "DROP SEQUENCE jobs_fact_seq"),
        migrations.CreateModel(
            name='Lesson',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('layout', models.CharField(max_length=60)),
                ('minutes', models.JSONField()),
                ('counts', models.JSONField()),
            ],
        ),
        migrations.CreateModel(
            name='Summary',
            fields=[
                ('job', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='summary', serialize=False, to='jobs.job')),
                ('version', models.PositiveIntegerField()),
                ('booked_for', models.DateTimeField()),
                ('stage', models.CharField(max_length=20)),
                ('stage_number', models.PositiveSmallIntegerField()),
                ('next', models.CharField(max_length=200)),
                ('headline', models.CharField(max_length=300)),
                ('trouble', models.CharField(blank=True, max_length=200)),
                ('made_of', models.CharField(max_length=40)),
                ('search', django.contrib.postgres.search.SearchVectorField()),
            ],
        ),
        migrations.CreateModel(
            name='Word',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('word', models.CharField(max_length=40)),
            ],
        ),
        migrations.AlterModelOptions(
            name='cause',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='count',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='finding',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='log',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='mark',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='metertest',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='photo',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='reading',
            options={'ordering': ['seq']},
        ),
        migrations.AlterModelOptions(
            name='waychoice',
            options={'ordering': ['seq']},
        ),
        migrations.AddField(
            model_name='cause',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='cause',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='count',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='count',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='finding',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='finding',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='job',
            name='editions',
            field=models.PositiveSmallIntegerField(db_default=0, default=0),
        ),
        migrations.AddField(
            model_name='job',
            name='shut',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='log',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='log',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='mark',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='mark',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='metertest',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='metertest',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='photo',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='photo',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='photo',
            name='withdrawn_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='reading',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='reading',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddField(
            model_name='waychoice',
            name='from_file',
            field=models.BooleanField(db_default=False, default=False),
        ),
        migrations.AddField(
            model_name='waychoice',
            name='seq',
            field=models.BigIntegerField(db_default=models.Func(models.Value('jobs_fact_seq'), function='nextval'), editable=False),
        ),
        migrations.AddIndex(
            model_name='happening',
            index=models.Index(fields=['workshop', 'by', 'id'], name='happenings_of_a_person'),
        ),
        migrations.AddIndex(
            model_name='job',
            index=models.Index(fields=['workshop', 'shut', 'booked_for', 'id'], name='jobs_of_a_list'),
        ),
        migrations.AddField(
            model_name='lesson',
            name='job',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='jobs.job'),
        ),
        migrations.AddField(
            model_name='lesson',
            name='machine',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='machines.machine'),
        ),
        migrations.AddField(
            model_name='lesson',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='people.workshop'),
        ),
        migrations.AddField(
            model_name='summary',
            name='last_by',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='summary',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='people.workshop'),
        ),
        migrations.AddField(
            model_name='word',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='people.workshop'),
        ),
        migrations.AddIndex(
            model_name='lesson',
            index=models.Index(fields=['workshop', 'layout', 'id'], name='lessons_of_a_layout'),
        ),
        migrations.RemoveIndex(model_name='job', name='jobs_of_a_day'),
        migrations.AddIndex(
            model_name='summary',
            index=models.Index(fields=['workshop', 'booked_for', 'job'], name='summaries_latest_first'),
        ),
        migrations.AddIndex(
            model_name='summary',
            index=models.Index(fields=['made_of'], name='summaries_to_renew'),
        ),
        migrations.AddIndex(
            model_name='summary',
            index=django.contrib.postgres.indexes.GinIndex(models.F('workshop'), models.F('search'), name='jobs_found_by_words'),
        ),
        migrations.AddIndex(
            model_name='word',
            index=django.contrib.postgres.indexes.GinIndex(models.F('workshop'), django.contrib.postgres.indexes.OpClass(models.F('word'), name='gin_trgm_ops'), name='words_alike'),
        ),
        migrations.AddConstraint(
            model_name='word',
            constraint=models.UniqueConstraint(fields=('workshop', 'word'), name='a_word_stands_once'),
        ),
        *(
            # what there is stands in the order it arrived
            migrations.RunSQL(
                f"UPDATE jobs_{table} t SET seq = o.place FROM (SELECT id, row_number() OVER (ORDER BY received_at, at, id)"
                f" AS place FROM jobs_{table}) o WHERE o.id = t.id",
                migrations.RunSQL.noop,
            )
            for table in FACTS
        ),
        migrations.RunSQL(
            "SELECT setval('jobs_fact_seq', 1 + (SELECT max(n) FROM ("
            + " UNION ALL ".join(f"SELECT count(*) AS n FROM jobs_{table}" for table in FACTS)
            + ") counted))",
            migrations.RunSQL.noop,
        ),
    ]
