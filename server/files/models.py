"""What is kept byte by byte, in the one database there is to back up."""

from django.db import models

from files import objects
from people.models import WorkshopRow


class Content(WorkshopRow):
    """Something of a workshop that is addressed by what is in it: the same twice is one row.

    data: what is in it; null where it lies in the store of objects.
    """

    sha256 = models.CharField(max_length=64)
    data = models.BinaryField(null=True)
    size = models.PositiveIntegerField()
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        abstract = True

    @property
    def key(self) -> str:
        """What it is called in the store of objects."""
        return f"{self.workshop_id}/{self._meta.model_name}/{self.sha256}"

    def content(self) -> bytes:
        """What is in it, wherever it lies. Raises Away."""
        return objects.get(self.key) if self.data is None else bytes(self.data)


class Picture(Content):
    """A picture as we made it: decoded, turned upright, made small, written anew, without the camera's notes."""

    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "sha256"], name="one_picture_a_content")]


class Recording(Content):
    """A recording as it came.

    curves: what is drawn of it, as it was listened to last; null while nobody has.
    """

    media_type = models.CharField(max_length=20)
    curves = models.JSONField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "sha256"], name="one_recording_a_content")]
