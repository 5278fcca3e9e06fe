from collections import defaultdict

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def lessons(apps, schema_editor):
    """What the jobs handed over so far teach of their layouts, as far as it is still learned from."""
    from warmdraft.teardown import Marked, minutes_taken

    Record, Mark, Count, Lesson = (
        apps.get_model(app, name)
        for app, name in (("reports", "Record"), ("jobs", "Mark"), ("jobs", "Count"), ("jobs", "Lesson"))
    )
    left = defaultdict(lambda: 60)
    kept = []
    for record in Record.objects.select_related("job__machine").order_by("-frozen_at").iterator():
        job, layout = record.job, record.job.machine.layout
        if not layout or left[job.workshop_id, layout] == 0:
            continue
        left[job.workshop_id, layout] -= 1
        done = [m for m in Mark.objects.filter(job=job, state="done").order_by("at")
                if m.step.split(".")[0] in ("open", "mend", "close")]
        marked = [Marked(m.step, (m.at - done[0].at).total_seconds() / 60) for m in done]
        counted = Count.objects.filter(job=job, what="fastener", state__in=("out", "loosened")).order_by("at")
        kept.append(Lesson(
            workshop_id=job.workshop_id, layout=layout, job=job, machine=job.machine,
            minutes=minutes_taken(marked) if marked else {}, counts=[[c.step, c.key, c.count] for c in counted],
        ))
    Lesson.objects.bulk_create(reversed(kept))


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0007_hold'),
        ('people', '0003_memberships'),
        ('reports', '0001_initial'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RunSQL("UPDATE jobs_job j SET shut = true, editions = 1 FROM reports_record r WHERE r.job_id = j.id",
                          migrations.RunSQL.noop),
        migrations.RunPython(lessons, migrations.RunPython.noop),
        migrations.AddField(
            model_name='record',
            name='edition',
            field=models.PositiveSmallIntegerField(db_default=1, default=1),
        ),
        migrations.AlterField(
            model_name='record',
            name='job',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='records', to='jobs.job'),
        ),
        migrations.AddConstraint(
            model_name='record',
            constraint=models.UniqueConstraint(fields=('job', 'edition'), name='one_record_an_edition'),
        ),
    ]
