"""Vans and shelves: what was put there, less what jobs that are handed over used of it. Nothing is counted twice: what
is there is worked out, never stored."""

from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.db import connection, transaction
from django.db.models import Sum
from django.http import Http404

from people.may import Member
from shared.problems import ApiError
from stock.models import Movement, Store
from warmdraft.stock import key_of

#: Vans and shelves of a workshop, at most; numbers that are shown of them.
MOST_STORES, MOST_SHOWN = 100, 2_000

#: Of each part of a job the latest that was said holds; a job that is open again has used nothing yet.
_USED = """
SELECT store, key, sum(number) FROM (
    SELECT DISTINCT ON (row.job_id, row.key, row.document->>'part') row.key, row.document->>'store' AS store,
        row.document->>'state' AS state, (row.document->>'count')::int AS number
    FROM jobs_dealing row JOIN jobs_job job ON job.id = row.job_id
    WHERE row.workshop_id = %(workshop)s AND row.key <> '' AND job.shut
        AND (%(keys)s::text[] IS NULL OR row.key = ANY(%(keys)s))
    ORDER BY row.job_id, row.key, row.document->>'part', row.seq DESC
) said WHERE state = 'used' AND store IS NOT NULL GROUP BY store, key
"""


@dataclass(frozen=True, slots=True)
class Shelf:
    """A van or shelf, and how many of each number it holds, by the number as it was typed first."""

    id: UUID
    name: str
    counts: dict[str, int]


def held(who: Member, keys: Collection[str] | None = None) -> dict[str, dict[str, int]]:
    """By key, how many each store holds; keys: only of these."""
    put = Movement.objects.filter(workshop=who.workshop, store__removed=False)
    if keys is not None:
        put = put.filter(key__in=keys)
    counts: dict[str, dict[str, int]] = defaultdict(dict)
    for name, key, number in put.values_list("store__name", "key").annotate(number=Sum("change")):
        counts[key][name] = number
    with connection.cursor() as cursor:
        cursor.execute(_USED, {"workshop": who.workshop.id, "keys": None if keys is None else list(keys)})
        for name, key, number in cursor.fetchall():
            if name in counts[key]:
                counts[key][name] -= number
    return {key: {name: number for name, number in rows.items() if number} for key, rows in counts.items()}


def shelves(who: Member) -> list[Shelf]:
    """The workshop's vans and shelves with what they hold."""
    named = dict(Movement.objects.filter(workshop=who.workshop).order_by("-at").values_list("key", "number"))
    there = held(who)
    rows = Store.objects.filter(workshop=who.workshop, removed=False).order_by("name", "id")[:MOST_STORES]
    return [
        Shelf(store.id, store.name, {named[key]: count for key, row in sorted(there.items())
                                     if (count := row.get(store.name))})
        for store in rows
    ]  # fmt: skip


def keep_store(who: Member, store_id: UUID, name: str, removed: bool) -> None:
    """Keep, name or take away a van or shelf."""
    who.require("keep_the_catalogue")
    with transaction.atomic():
        others = Store.objects.filter(workshop=who.workshop, removed=False).exclude(id=store_id)
        if not removed and others.filter(name__iexact=name.strip()).exists():
            raise ApiError(409, "named_already", f"There is '{name.strip()}' already; give this one another name.")
        row, _ = Store.objects.select_for_update().get_or_create(
            id=store_id, defaults={"workshop": who.workshop, "name": name.strip()}
        )
        if row.workshop_id != who.workshop.id:
            raise Http404
        if row.name != name.strip() and row.movements.exists():
            # what jobs used names the store as it was then
            raise ApiError(409, "in_use", "Something was put there under its name; add another one instead.")
        row.name, row.removed = name.strip(), removed
        row.save()
        if others.count() >= MOST_STORES:
            raise ApiError(422, "too_many", f"A workshop keeps at most {MOST_STORES} vans and shelves.")


def move(who: Member, movement_id: UUID, store_id: UUID, number: str, change: int, at: datetime) -> None:
    """Put something into a store, or take it out; the same id again is the same movement."""
    who.require("work_on_a_job")
    if not key_of(number):
        raise ApiError(
            422, "not_possible", "A part has a number; give it.", [{"path": "$.number", "message": "is none"}]
        )
    with transaction.atomic():
        store = Store.objects.filter(id=store_id, workshop=who.workshop, removed=False).first()
        if store is None:
            raise Http404
        row, made = Movement.objects.get_or_create(
            id=movement_id,
            defaults={"workshop": who.workshop, "store": store, "number": number.strip(), "key": key_of(number),
                      "change": change, "by": who.person, "at": at},
        )  # fmt: skip
        if row.workshop_id != who.workshop.id:
            raise Http404
        if not made and (row.store_id, row.key, row.change) != (store.id, key_of(number), change):
            raise ApiError(409, "already_recorded", "This was put there before as something else; look at both.")


_WAITING = """
SELECT job_id, min(at) FROM (
    SELECT DISTINCT ON (row.job_id, row.key, row.document->>'part') row.job_id, row.at, row.document->>'state' AS state
    FROM jobs_dealing row JOIN jobs_job job ON job.id = row.job_id
    WHERE row.workshop_id = %(workshop)s AND row.what = 'part' AND NOT row.withdrawn AND NOT job.shut
    ORDER BY row.job_id, row.key, row.document->>'part', row.seq DESC
) said WHERE state = 'ordered' GROUP BY job_id
"""


def jobs_waiting(who: Member) -> dict[UUID, datetime]:
    """Open jobs that wait for a part that was ordered, and since when."""
    with connection.cursor() as cursor:
        cursor.execute(_WAITING, {"workshop": who.workshop.id})
        return dict(cursor.fetchall())
