"""What a workshop knows of its machines between visits: when each is due, who reads along, who was reminded."""

from django.db import models
from django.db.models import Q

from jobs.models import Job
from machines.models import Machine
from people.models import Person, Workshop
from people.tokens import Token


class Visit(models.Model):
    """What a job that was handed over says of its machine's air; flows in m³/s, None where nobody measured.

    profile: the kind of machine as it was then; healthy: what that moves; cause: what it turned out to be, empty where
    nothing was; circumstances, loads_per_week: of its use.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    job = models.OneToOneField(Job, primary_key=True, on_delete=models.CASCADE, related_name="visit")
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="visits")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    day = models.DateField()
    profile = models.CharField(max_length=60)
    found = models.FloatField(null=True)
    left = models.FloatField(null=True)
    healthy = models.FloatField()
    cause = models.CharField(max_length=40, blank=True)
    circumstances = models.JSONField(default=list)
    loads_per_week = models.FloatField()

    class Meta:
        indexes = [
            models.Index(fields=["machine", "day"], name="visits_of_a_machine"),
            models.Index(fields=["workshop", "profile", "-day"], name="visits_of_a_kind"),
        ]


class Kind(models.Model):
    """What a workshop's own machines of a kind show of how fast they fill. The worker works it out after a job."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    profile = models.CharField(max_length=60)
    believed = models.JSONField()
    made_at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "profile"], name="a_kind_stands_once")]


class Due(models.Model):
    """When a machine is due, as of its last visit: derived from its visits and its kind, kept so that a wall and a
    calendar of hundreds are one query. growth: of 1/q² a load, left: share of a healthy flow, both at the middle."""

    machine = models.OneToOneField(Machine, primary_key=True, on_delete=models.CASCADE, related_name="due")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    since = models.DateField()
    low = models.DateField()
    median = models.DateField()
    high = models.DateField()
    service_by = models.DateField()
    growth = models.FloatField()
    left = models.FloatField()
    loads_per_week = models.FloatField()
    #: Counts its changes: what a calendar has is older where it is smaller.
    version = models.PositiveIntegerField(default=1)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        indexes = [models.Index(fields=["workshop", "service_by"], name="due_by_day")]


class Feed(Token):
    """A calendar of a workshop's next visits that a program reads."""

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["workshop"], condition=Q(withdrawn_at__isnull=True), name="one_feed_at_a_time"
            ),
        ]


class Reminder(models.Model):
    """A mail that a machine is due, so that it is sent once for each day it is due."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    service_by = models.DateField()
    sent_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["machine", "service_by"], name="reminded_once")]
