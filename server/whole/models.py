"""Workshops that are about to go, and what is left when one is gone."""

import uuid

from django.db import models

from people.models import Person, Workshop


class Leaving(models.Model):
    """A workshop is to be deleted, once its waiting time is over. keep_years: its records are kept so long."""

    workshop = models.OneToOneField(Workshop, primary_key=True, on_delete=models.CASCADE, related_name="leaving")
    asked_by = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    asked_at = models.DateTimeField()
    due_at = models.DateTimeField()
    keep_years = models.PositiveSmallIntegerField()


class Receipt(models.Model):
    """A workshop was deleted. document: what, when, at whose wish, how many rows, what is kept and until when."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.UUIDField()
    document = models.JSONField()
    sha256 = models.CharField(max_length=64)
    made_at = models.DateTimeField()


class KeptRecord(models.Model):
    """A record that the law asks to keep when its workshop is gone: as it was frozen, until a day."""

    receipt = models.ForeignKey(Receipt, on_delete=models.CASCADE, related_name="records")
    record = models.UUIDField()
    edition = models.PositiveSmallIntegerField()
    at = models.DateTimeField()
    sha256 = models.CharField(max_length=64)
    snapshot = models.JSONField()
    until = models.DateField(db_index=True)
