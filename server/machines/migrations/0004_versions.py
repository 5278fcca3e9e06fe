import django.contrib.postgres.indexes
import django.db.models.functions.comparison
import django.db.models.functions.text
from django.contrib.postgres.operations import BtreeGinExtension, TrigramExtension
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('machines', '0003_bench'),
        ('people', '0003_memberships'),
    ]

    operations = [
        # both come with PostgreSQL and may be made by a database's owner: lists by workshop and word, words that are alike
        BtreeGinExtension(),
        TrigramExtension(),
        migrations.AddField(
            model_name='machine',
            name='version',
            field=models.PositiveIntegerField(db_default=1, default=1),
        ),
        migrations.AddField(
            model_name='place',
            name='version',
            field=models.PositiveIntegerField(db_default=1, default=1),
        ),
        migrations.AddIndex(
            model_name='place',
            index=models.Index(models.F('workshop'), django.db.models.functions.comparison.Collate(django.db.models.functions.text.Lower('name'), 'C'), models.F('id'), name='places_by_name'),
        ),
        migrations.AddIndex(
            model_name='place',
            index=django.contrib.postgres.indexes.GinIndex(models.F('workshop'), django.contrib.postgres.indexes.OpClass(django.db.models.functions.text.Lower('name'), name='gin_trgm_ops'), name='places_by_part_of_name'),
        ),
    ]
