from django.db import migrations

from warmdraft.teardown import with_codes


def codes_for_words(apps, schema_editor):
    """Layouts of workshops' own name what we know by codes; up to 0.5 by English words."""
    for row in apps.get_model("machines", "OwnLayout").objects.iterator():
        now = with_codes(row.document)
        if now != row.document:
            row.document, row.version = now, row.version + 1
            row.save(update_fields=["document", "version"])


class Migration(migrations.Migration):
    dependencies = [("machines", "0004_versions")]

    operations = [migrations.RunPython(codes_for_words, migrations.RunPython.noop)]
