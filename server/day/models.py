"""What a workshop's day is planned from, and the plans that were made."""

from django.db import models

from jobs.models import Job
from machines.models import Place
from people.models import Person, Workshop, WorkshopRow
from stock.models import Store


class Base(models.Model):
    """Where vans start and end; degrees."""

    workshop = models.OneToOneField(Workshop, primary_key=True, on_delete=models.CASCADE, related_name="base")
    name = models.CharField(max_length=80)
    latitude = models.FloatField(null=True)
    longitude = models.FloatField(null=True)


class Ground(models.Model):
    """Where a place is; degrees."""

    place = models.OneToOneField(Place, primary_key=True, on_delete=models.CASCADE, related_name="ground")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    latitude = models.FloatField()
    longitude = models.FloatField()


class Van(WorkshopRow):
    """Who drives, and when, minutes of the day. overtime: minutes longer, at a price; store: what lies in it."""

    name = models.CharField(max_length=60)
    driver = models.ForeignKey(Person, null=True, on_delete=models.SET_NULL, related_name="+")
    early = models.PositiveSmallIntegerField(default=480)
    late = models.PositiveSmallIntegerField(default=1020)
    overtime = models.PositiveSmallIntegerField(default=60)
    store = models.ForeignKey(Store, null=True, on_delete=models.SET_NULL, related_name="+")
    removed = models.BooleanField(default=False)


class Way(models.Model):
    """Minutes from a place to another as somebody knows them; null: the base."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    start = models.ForeignKey(Place, null=True, on_delete=models.CASCADE, related_name="+")
    end = models.ForeignKey(Place, null=True, on_delete=models.CASCADE, related_name="+")
    minutes = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["workshop", "start", "end"], nulls_distinct=False, name="a_way_stands_once")
        ]


class Wish(models.Model):
    """When a customer is at home, minutes of the day, [[early, late], …], and the van that has to go, if one has to."""

    job = models.OneToOneField(Job, primary_key=True, on_delete=models.CASCADE, related_name="wish")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    windows = models.JSONField(default=list)
    van = models.ForeignKey(Van, null=True, on_delete=models.SET_NULL, related_name="+")


class Plan(models.Model):
    """A day as it is driven.

    document: the `warm-draft/day` it was planned from; told: by job, what it asks of a day; orders: by van, in force;
    was: orders before each change, the latest last; best: cost of the best order that was found; version: counts what
    was changed. asked_at, made_at: the worker owes one while the first is later.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    day = models.DateField()
    document = models.JSONField(default=dict)
    told = models.JSONField(default=dict)
    orders = models.JSONField(default=dict)
    was = models.JSONField(default=list)
    best = models.FloatField(null=True)
    trouble = models.CharField(max_length=400, blank=True, default="")
    version = models.PositiveIntegerField(default=1)
    asked_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField()
    made_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "day"], name="a_day_is_planned_once")]
