"""What is kept byte by byte, in the one database there is to back up."""

from django.db import models

from people.models import WorkshopRow


class Picture(WorkshopRow):
    """A picture as we made it: decoded, turned upright, made small, written anew; nothing of the camera's notes left.

    Addressed by what is in it: the same picture twice is one row.
    """

    sha256 = models.CharField(max_length=64)
    data = models.BinaryField()
    size = models.PositiveIntegerField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "sha256"], name="one_picture_a_content")]


class Recording(WorkshopRow):
    """A recording as it came, addressed by what is in it.

    curves: what is drawn of it, as it was listened to last; null while nobody has.
    """

    sha256 = models.CharField(max_length=64)
    data = models.BinaryField()
    size = models.PositiveIntegerField()
    media_type = models.CharField(max_length=20)
    curves = models.JSONField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "sha256"], name="one_recording_a_content")]
