"""What a workshop sells: its catalogue, its figures, its vans and shelves and what was put there."""

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.contrib.postgres.search import SearchVectorField
from django.db import models
from django.db.models import F

from people.models import Person, Workshop, WorkshopRow


class CatalogueItem(models.Model):
    """One number of the catalogue; its offers along with it, for they are read and written together.

    key: the number as it is compared; covers: kinds of parts it stands in for; fits: machines by their plates' numbers,
    as compared; search: the words it is found by; document: the item as the core has it.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=60, db_collation="C")
    covers = ArrayField(models.CharField(max_length=40))
    fits = ArrayField(models.CharField(max_length=60))
    search = SearchVectorField()
    document = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "key"], name="a_number_stands_once")]
        indexes = [
            GinIndex(F("workshop"), F("covers"), name="items_by_part"),
            GinIndex(F("workshop"), F("search"), name="items_by_words"),
        ]


class Store(WorkshopRow):
    """A van or a shelf."""

    name = models.CharField(max_length=60)
    removed = models.BooleanField(default=False)


class Movement(WorkshopRow):
    """Something put into a store, or taken out by hand; what jobs use is on the jobs. What is there is their sum.

    key: the number as it is compared.
    """

    store = models.ForeignKey(Store, on_delete=models.PROTECT, related_name="movements")
    number = models.CharField(max_length=60)
    key = models.CharField(max_length=60)
    change = models.IntegerField()
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["workshop", "key"], name="movements_of_a_number")]


class Reckoning(models.Model):
    """What a workshop reckons a job by. document: the figures as texts, exact; version: counts its changes."""

    workshop = models.OneToOneField(Workshop, primary_key=True, on_delete=models.CASCADE, related_name="+")
    document = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)
