"""The record: what was found, done and proven, frozen at hand-over."""

from django.db import models

from jobs.models import Job
from people.models import Person, WorkshopRow
from people.tokens import Token


class Record(WorkshopRow):
    """A job's record. snapshot never changes, whatever the model learns later; sha256 is over its canonical JSON.

    edition: a job that is opened again gets a new one when it is handed over again; the old ones stay.
    """

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="records")
    edition = models.PositiveSmallIntegerField(default=1, db_default=1)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    frozen_at = models.DateTimeField(auto_now_add=True)
    note = models.TextField(blank=True)
    snapshot = models.JSONField()
    sha256 = models.CharField(max_length=64)
    model_version = models.CharField(max_length=20)
    #: The customer's language, and the paper it is printed on.
    language = models.CharField(max_length=35, default="en", db_default="en")
    size = models.CharField(max_length=6, default="A4", db_default="A4")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "edition"], name="one_record_an_edition")]


class Print(models.Model):
    """A record as it was printed, in one language on one size of paper: it never changes. sha256: over its bytes."""

    record = models.ForeignKey(Record, on_delete=models.CASCADE, related_name="prints")
    language = models.CharField(max_length=35)
    size = models.CharField(max_length=6)
    pdf = models.BinaryField()
    sha256 = models.CharField(max_length=64)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["record", "language", "size"], name="one_print_of_a_kind"),
        ]


class Link(Token):
    """A private way to a job's record."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="links")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["job"], condition=models.Q(withdrawn_at__isnull=True), name="one_link_at_a_time"
            ),
        ]
