"""Reads of places and machines, all inside the person's workshop."""

from uuid import UUID

from django.db.models import OuterRef, Prefetch, Q, QuerySet
from django.db.models.functions import Lower

from machines.models import CodeProfile, Machine, OwnLayout, Place
from people.may import Member

#: Layouts, or code profiles, that a workshop keeps of its own.
MOST_OWN = 200
#: Machines that are named of a place.
MOST_MACHINES = 50
#: Below so many letters a part of a name tells nothing: the beginning is looked for.
_LEAST_LETTERS = 3


def places_of(who: Member, typed: str, after: tuple[str, UUID] | None = None) -> QuerySet[Place]:
    """The workshop's places, by name; typed: those whose name begins so, or holds it; after: small name and id."""
    rows = Place.objects.filter(workshop=who.workshop).annotate(small=Lower("name")).order_by("small", "id")
    typed = typed.strip().lower()
    if typed:
        parts = {"small__contains": typed} if len(typed) >= _LEAST_LETTERS else {"small__startswith": typed}
        rows = rows.filter(**parts)
    if after:
        name, place_id = after
        rows = rows.filter(Q(small__gt=name) | Q(small=name, id__gt=place_id), small__gte=name)
    newest = Machine.objects.filter(place=OuterRef("place")).order_by("-id").values("id")[:MOST_MACHINES]
    return rows.prefetch_related(Prefetch("machines", Machine.objects.filter(id__in=newest).order_by("name", "id")))


def code_profiles_of(who: Member) -> QuerySet[CodeProfile]:
    """The workshop's own code profiles in use."""
    return CodeProfile.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")[:MOST_OWN]


def own_layouts_of(who: Member) -> QuerySet[OwnLayout]:
    """The workshop's own layouts in use."""
    return OwnLayout.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")[:MOST_OWN]
