"""A workshop speaks a language; until now all spoke English."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0003_memberships")]

    operations = [
        migrations.AddField("workshop", "language", models.CharField(db_default="en", default="en", max_length=35)),
    ]
