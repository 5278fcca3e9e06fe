"""Places and the machines that stand in them."""

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models import F
from django.db.models.functions import Collate, Lower

from people.models import WorkshopRow


class Place(WorkshopRow):
    """Where a machine stands and whom to ask for."""

    name = models.CharField(max_length=120)
    address = models.CharField(max_length=200, blank=True)
    contact = models.CharField(max_length=120, blank=True)
    #: Where reminders go, whether they may, and the language its records are in; empty: the workshop's own.
    mail = models.EmailField(blank=True, default="", db_default="")
    no_reminders = models.BooleanField(default=False, db_default=False)
    language = models.CharField(max_length=35, blank=True, default="", db_default="")
    #: Counts its changes: what a client based its own on.
    version = models.PositiveIntegerField(default=1, db_default=1)

    class Meta:
        indexes = [
            # in the order of the letters' codes, which an index can walk for a beginning and for a page alike
            models.Index(F("workshop"), Collate(Lower("name"), "C"), F("id"), name="places_by_name"),
            GinIndex(F("workshop"), OpClass(Lower("name"), name="gin_trgm_ops"), name="places_by_part_of_name"),
        ]


class CodeProfile(WorkshopRow):
    """How long a vent run may be, in the workshop's own words. document: as in `warm-draft/vent`'s code_profile."""

    document = models.JSONField()
    removed = models.BooleanField(default=False)


class OwnLayout(WorkshopRow):
    """A layout of the workshop's own, or one of ours as the workshop found it. document: `warm-draft/layout`."""

    document = models.JSONField()
    removed = models.BooleanField(default=False)
    #: Counts its changes: what has been worked out from it is worked out anew.
    version = models.PositiveIntegerField(default=1)


class Machine(WorkshopRow):
    """A dryer.

    data_plate: what differs from its profile, as in the file format's `machine` (airway, heat, drive), and what it read
    when it was healthy elsewhere (measured_healthy). layout: a name of ours, or the id of one of the workshop's own;
    variant: in what this one differs from others of its layout; loads_per_week: null where nobody has said.
    """

    class Energy(models.TextChoices):
        """What heats it."""

        ELECTRIC = "electric"
        GAS = "gas"

    class Supply(models.TextChoices):
        """How it is fed."""

        PLUG = "plug"
        HARD_WIRED = "hard_wired"

    place = models.ForeignKey(Place, on_delete=models.PROTECT, related_name="machines")
    name = models.CharField(max_length=120, blank=True)
    profile = models.CharField(max_length=60)
    layout = models.CharField(max_length=60, blank=True)
    energy = models.CharField(max_length=12, choices=Energy.choices)
    supply = models.CharField(max_length=12, choices=Supply.choices)
    variant = models.JSONField(null=True)
    age_years = models.FloatField(null=True)
    loads_per_week = models.FloatField(null=True)
    data_plate = models.JSONField(default=dict)
    #: Counts its changes: what a client based its own on.
    version = models.PositiveIntegerField(default=1, db_default=1)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(energy__in=["electric", "gas"]), name="energy_is_known"),
            models.CheckConstraint(condition=models.Q(supply__in=["plug", "hard_wired"]), name="supply_is_known"),
            models.CheckConstraint(
                condition=models.Q(age_years__isnull=True) | models.Q(age_years__gte=0, age_years__lte=100),
                name="age_is_possible",
            ),
        ]
