"""Reads of places and machines, all inside the person's workshop."""

from django.db.models import QuerySet

from machines.models import CodeProfile, Machine, OwnLayout, Place
from people.may import Member


def places_of(who: Member) -> QuerySet[Place]:
    """The workshop's places with their machines."""
    return Place.objects.filter(workshop=who.workshop).prefetch_related("machines").order_by("name", "id")


def machines_of(who: Member) -> QuerySet[Machine]:
    """The workshop's machines with their places."""
    return Machine.objects.filter(workshop=who.workshop).select_related("place")


def code_profiles_of(who: Member) -> QuerySet[CodeProfile]:
    """The workshop's own code profiles in use."""
    return CodeProfile.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")


def own_layouts_of(who: Member) -> QuerySet[OwnLayout]:
    """The workshop's own layouts in use."""
    return OwnLayout.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")
