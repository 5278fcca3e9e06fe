"""The record: what was found, done and proven, frozen at hand-over."""

from django.db import models

from jobs.models import Job
from people.models import Person, WorkshopRow


class Record(WorkshopRow):
    """A job's record. snapshot never changes, whatever the model learns later; sha256 is over its canonical JSON."""

    job = models.OneToOneField(Job, on_delete=models.PROTECT, related_name="record")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    frozen_at = models.DateTimeField(auto_now_add=True)
    note = models.TextField(blank=True)
    snapshot = models.JSONField()
    sha256 = models.CharField(max_length=64)
    model_version = models.CharField(max_length=20)
