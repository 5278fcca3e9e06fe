"""People, workshops, who belongs where, and who may do what by qualification."""

import uuid
from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models


class PersonManager(BaseUserManager["Person"]):
    """Makes people with a hashed password."""

    def create_user(self, email: str, password: str | None = None, **fields: Any) -> "Person":
        person = self.model(email=self.normalize_email(email).lower(), **fields)
        person.set_password(password)
        person.save(using=self._db)
        return person


class Person(AbstractBaseUser):
    """Someone who signs in. habits: units by dimension, theme, left hand, single-key shortcuts."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    habits = models.JSONField(default=dict)
    is_active = models.BooleanField(default=True)

    USERNAME_FIELD = "email"
    objects: ClassVar[PersonManager] = PersonManager()


class Workshop(models.Model):
    """A tenant: nothing of one is ever seen by another."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=60, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")


class Role(models.TextChoices):
    """What a person is in a workshop."""

    TRAINEE = "trainee"
    TECHNICIAN = "technician"
    LEAD = "lead"


class Membership(models.Model):
    """A person in a workshop, with a role."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="memberships")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=12, choices=Role.choices)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["person", "workshop"], name="one_membership_a_workshop"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="role_is_known"),
        ]


class Qualification(models.Model):
    """What a person is qualified for: a fact of the person, not of a workshop."""

    class Kind(models.TextChoices):
        """Kinds of work the law or good sense keeps to the qualified."""

        GAS = "gas"
        LIVE = "live"

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="qualifications")
    kind = models.CharField(max_length=8, choices=Kind.choices)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "kind"], name="one_qualification_a_kind")]


class Invitation(models.Model):
    """Someone is asked to join a workshop. Only a hash of what the mail carries is kept."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="invitations")
    email = models.EmailField()
    role = models.CharField(max_length=12, choices=Role.choices)
    token_sha256 = models.CharField(max_length=64, unique=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    expires_at = models.DateTimeField()
    accepted_at = models.DateTimeField(null=True)


class Sitting(models.Model):
    """One sign-in on one device: the session it opened, so that it can be seen and ended from elsewhere."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="sittings")
    session_key = models.CharField(max_length=40, unique=True)
    #: What the browser calls itself, shortened.
    browser = models.CharField(max_length=120, blank=True)
    began_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(auto_now_add=True)


class Attempt(models.Model):
    """A sign-in that failed, or a mail asked for. who: a hash of the e-mail or the address it came from."""

    who_sha256 = models.CharField(max_length=64)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["who_sha256", "at"], name="attempts_of_late")]


class Act(models.Model):
    """The log of what is done about people and the workshop itself, with before and after; never changed."""

    workshop = models.ForeignKey(Workshop, null=True, on_delete=models.CASCADE, related_name="acts")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    about = models.ForeignKey(Person, null=True, on_delete=models.PROTECT, related_name="+")
    what = models.CharField(max_length=40)
    at = models.DateTimeField(auto_now_add=True)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)

    class Meta:
        ordering = ["id"]


class WorkshopRow(models.Model):
    """A row of a workshop, with an id the client may have made."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True
