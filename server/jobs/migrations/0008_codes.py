from django.db import migrations, models

from warmdraft.teardown import key_of, modern_step

#: Lessons carried over at a time.
_AT_ONCE = 500


def codes_for_words(apps, schema_editor):
    """Counts and lessons name fasteners, wires and parts by codes; up to 0.5 by English words."""
    count, lesson = apps.get_model("jobs", "Count"), apps.get_model("jobs", "Lesson")
    for what, key in list(count.objects.order_by().values_list("what", "key").distinct()):
        if key_of(what, key) != key:
            count.objects.filter(what=what, key=key).update(key=key_of(what, key))
    surprises = count.objects.filter(step__startswith="open.surprise: ").order_by()
    for step in list(surprises.values_list("step", flat=True).distinct()):
        count.objects.filter(step=step).update(step=modern_step(step))
    changed = []
    for row in lesson.objects.exclude(counts=[]).iterator(chunk_size=_AT_ONCE):
        now = [[modern_step(step), key_of("fastener", key), number] for step, key, number in row.counts]
        if now != row.counts:
            row.counts = now
            changed.append(row)
        if len(changed) == _AT_ONCE:
            lesson.objects.bulk_update(changed, ["counts"])
            changed = []
    lesson.objects.bulk_update(changed, ["counts"])


_BY_NAME = {"blank": True, "default": "", "db_default": "", "max_length": 120}


class Migration(migrations.Migration):
    dependencies = [("jobs", "0007_hold")]

    operations = [
        # the column stays: a process of 0.5 goes on beside this one
        migrations.SeparateDatabaseAndState(state_operations=[
            migrations.AlterField("job", "given", models.JSONField(default=dict, db_column="given")),
            migrations.RenameField("job", "given", "carried"),
        ]),
        *(
            migrations.AddField(model, "by_name", models.CharField(**_BY_NAME))
            for model in ("cause", "count", "mark", "photo", "waychoice")
        ),
        *(
            migrations.AlterField(model, "by_name", models.CharField(**_BY_NAME))
            for model in ("finding", "log", "metertest", "reading")
        ),
        migrations.RunPython(codes_for_words, migrations.RunPython.noop),
    ]
