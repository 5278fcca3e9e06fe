"""People, workshops, who belongs where, and who may do what by qualification."""

import uuid
from datetime import date, datetime, time
from typing import Any, ClassVar
from zoneinfo import ZoneInfo

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models import Value
from django.utils import timezone

from warmdraft.tables import SOURCE_LANGUAGE, languages


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
    #: Of the demo: the password is printed for looking round, so nobody comes in by it where the world may ask.
    for_looking_round = models.BooleanField(default=False, db_default=False)

    USERNAME_FIELD = "email"
    objects: ClassVar[PersonManager] = PersonManager()


class Workshop(models.Model):
    """A tenant: nothing of one is ever seen by another."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=60, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    #: What its jobs, lists and records are said in: a code of `warmdraft.tables.languages`.
    language = models.CharField(max_length=35, default=SOURCE_LANGUAGE, db_default=SOURCE_LANGUAGE)

    #: Of a room for drills: the workshop it stands beside. What is simulated in it is never seen from there.
    practice_of = models.OneToOneField(
        "self", null=True, blank=True, on_delete=models.CASCADE, related_name="practice_room"
    )

    def day_begins(self, day: date) -> datetime:
        """When a day begins on the workshop's own clock."""
        return datetime.combine(day, time.min, ZoneInfo(self.time_zone))

    def day_of(self, moment: datetime) -> date:
        """The day a moment is of, where the workshop is."""
        return moment.astimezone(ZoneInfo(self.time_zone)).date()

    @property
    def today(self) -> date:
        """The day it is there."""
        return self.day_of(timezone.now())

    @property
    def speaks(self) -> str:
        """Its language; ours where this server has no words of it any more."""
        return self.language if self.language in languages() else SOURCE_LANGUAGE


class Role(models.TextChoices):
    """What a person is in a workshop."""

    TRAINEE = "trainee"
    TECHNICIAN = "technician"
    LEAD = "lead"


class Qualified(models.TextChoices):
    """Kinds of work the law or good sense keeps to the qualified."""

    GAS = "gas"
    LIVE = "live"


class Membership(models.Model):
    """A person in a workshop, with a role, and with what this workshop knows them to be qualified for."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="memberships")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=12, choices=Role.choices)
    qualifications = models.JSONField(default=list, db_default=Value([], models.JSONField()))
    #: When the person last chose to work here: where they are after signing in.
    chosen_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["person", "workshop"], name="one_membership_a_workshop"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="role_is_known"),
        ]


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
    withdrawn_at = models.DateTimeField(null=True)


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
    """A try that is counted: a password, a mail asked for. who: a hash of whose tries these are, an address's, say.

    about: of the e-mail it was about, so that a new password opens the door.
    """

    who_sha256 = models.CharField(max_length=64)
    about_sha256 = models.CharField(max_length=64, db_default="", db_index=True)
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
        indexes = [models.Index(fields=["workshop", "id"], name="acts_of_a_workshop")]


class WorkshopRow(models.Model):
    """A row of a workshop, with an id the client may have made."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True
