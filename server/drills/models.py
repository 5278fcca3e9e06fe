"""Cases a lead set, and drills that were worked."""

from django.db import models

from jobs.models import Job
from people.models import Person, Workshop, WorkshopRow


class DrillCase(WorkshopRow):
    """A case made of a job of the past, without names. document: a job file that hides its cause."""

    title = models.CharField(max_length=120)
    document = models.JSONField()
    made_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    removed = models.BooleanField(default=False)


class Drill(models.Model):
    """A case that somebody works, as a job of the room for drills.

    workshop: that room; case: its name on the ladder, or the id of one that a lead set; document: the job file that
    hides what is wrong; lies: readings that do; answer: how it went, as it was told, once it is over.
    """

    job = models.OneToOneField(Job, primary_key=True, on_delete=models.CASCADE, related_name="drill")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    case = models.CharField(max_length=40)
    title = models.CharField(max_length=120)
    document = models.JSONField()
    lies = models.JSONField(default=dict)
    seed = models.BigIntegerField()
    began_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)
    answer = models.JSONField(null=True)

    class Meta:
        indexes = [models.Index(fields=["workshop", "-began_at"], name="drills_of_a_room")]
