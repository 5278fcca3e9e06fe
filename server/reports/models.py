"""The record: what was found, done and proven, frozen at hand-over."""

from django.db import models

from jobs.models import Job
from people.models import Person, WorkshopRow


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

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "edition"], name="one_record_an_edition")]
