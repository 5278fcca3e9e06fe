"""Reads of places and machines, all inside the person's workshop."""

from uuid import UUID

from django.db.models import Prefetch, Q, QuerySet
from django.db.models.functions import Collate, Lower

from machines.models import CodeProfile, Machine, OwnLayout, Place
from people.may import Member

#: Layouts, or code profiles, that a workshop keeps of its own.
MOST_OWN = 200
#: Machines that are named of a place; places on a page, and of those that are like what is typed.
MOST_MACHINES, PLACES_A_PAGE, MOST_LIKE = 20, 40, 10
#: Below so many letters a part of a name tells nothing: only its beginning is looked for.
_LEAST_LETTERS = 3
#: Places that hold a part of a name somewhere within and are put in order; who means another types on.
_MOST_WITHIN = 50


def places_of(who: Member, after: tuple[str, UUID] | None = None, begins: str = "") -> QuerySet[Place]:
    """The workshop's places, by name; after: the small name and the id of the last one of the page before; begins: how
    the small name has to begin."""
    some = Machine.objects.order_by("name", "id")[:MOST_MACHINES]
    rows = (
        Place.objects.filter(workshop=who.workshop)
        .annotate(small=Collate(Lower("name"), "C"))
        .order_by("small", "id")
        .prefetch_related(Prefetch("machines", some, to_attr="some_machines"))
    )
    if after:
        name, place_id = after
        rows = rows.filter(Q(small__gt=name) | Q(small=name, id__gt=place_id), small__gte=name)
    return rows.filter(small__startswith=begins) if begins else rows


def places_like(who: Member, typed: str) -> list[Place]:
    """Places whose name begins as typed; where these are few, also those that hold it somewhere."""
    small = typed.strip().lower()
    begin = list(places_of(who, begins=small)[:MOST_LIKE])
    if len(begin) == MOST_LIKE or len(small) < _LEAST_LETTERS:
        return begin
    within = Place.objects.filter(workshop=who.workshop).annotate(small=Lower("name")).filter(small__contains=small)
    # put in order here: asked to, the database would walk all names for these few
    named = sorted((name.lower(), row) for name, row in within.values_list("name", "id")[:_MOST_WITHIN])
    there = [place.id for place in begin]
    more = [row for _, row in named if row not in there][: MOST_LIKE - len(begin)]
    by_id = places_of(who).order_by().in_bulk(more)
    return [*begin, *(by_id[row] for row in more if row in by_id)]


def code_profiles_of(who: Member) -> QuerySet[CodeProfile]:
    """The workshop's own code profiles in use."""
    return CodeProfile.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")[:MOST_OWN]


def own_layouts_of(who: Member) -> QuerySet[OwnLayout]:
    """The workshop's own layouts in use."""
    return OwnLayout.objects.filter(workshop=who.workshop, removed=False).order_by("document__title", "id")[:MOST_OWN]
