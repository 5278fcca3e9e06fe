"""Planning a day: its document from rows, the worker's order, and changes by hand with what they cost."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from django.utils import timezone
from procrastinate.contrib.django import app

from day.ground import BASE
from day.models import Base, Ground, Plan, Van, Way, Wish
from jobs.models import Job
from people.may import Member
from people.models import Membership
from shared.once import defer_once
from shared.problems import ApiError
from shared.queues import HEAVY
from shared.slots import working
from stock.quotes import quote_of
from stock.shelves import shelves
from warmdraft.answers import MovedAnswer, clock, moves_answer, stop_answer
from warmdraft.day import Day, moved, plan_day, promised, run_day
from warmdraft.errors import DayError, WarmdraftError
from warmdraft.jobfile.day_schema import MOST_STOPS, MOST_VANS, DayDocument
from warmdraft.jobfile.strict import read_as

#: Orders that can be taken back.
MOST_UNDONE = 50
#: Plans a workshop's day.
PLAN_A_DAY = "plan_a_day"


def _bounds(who: Member, day: date) -> tuple[datetime, datetime]:
    """When a day of this workshop begins and ends."""
    begins = who.workshop.day_begins
    return begins(day).astimezone(UTC), begins(day + timedelta(days=1)).astimezone(UTC)


def minute_of(who: Member, at: datetime) -> int:
    """A moment as a minute of the workshop's own day."""
    local = at.astimezone(ZoneInfo(who.workshop.time_zone))
    return local.hour * 60 + local.minute


def jobs_of(who: Member, day: date) -> QuerySet[Job]:
    """Open jobs that are booked for a day, in the order of their times."""
    begin, end = _bounds(who, day)
    return (
        Job.objects.filter(workshop=who.workshop, shut=False, booked_for__gte=begin, booked_for__lt=end)
        .select_related("machine__place", "summary", "wish")
        .defer("summary__search")
        .order_by("booked_for", "id")[:MOST_STOPS]
    )


def grounds_of(who: Member, places: Iterable[UUID]) -> dict[UUID, tuple[float, float]]:
    """Where places are."""
    rows = Ground.objects.filter(workshop=who.workshop, place__in=list(places))
    return {row.place_id: (row.latitude, row.longitude) for row in rows}


def vans_of(who: Member) -> list[Van]:
    """The vans there are."""
    found = Van.objects.filter(workshop=who.workshop, removed=False).select_related("driver", "store")
    return list(found.order_by("name", "id")[:MOST_VANS])


def windows_of(who: Member, job: Job) -> list[list[int]]:
    """When work may begin at a job: as the customer wishes, else from the time that was told; minutes of the day."""
    wish: Wish | None = getattr(job, "wish", None)
    if wish is not None and wish.windows:
        return [[early, late] for early, late in wish.windows]
    told = promised(minute_of(who, job.booked_for))
    return [[round(told.early), round(told.late)]]


def ask(who: Member, day: date) -> None:
    """Have the worker plan a day."""
    who.require("plan_the_day")
    with transaction.atomic():
        plan, made = Plan.objects.select_for_update().get_or_create(
            workshop=who.workshop, day=day, defaults={"asked_by": who.person, "asked_at": timezone.now()}
        )
        if not made:
            Plan.objects.filter(pk=plan.pk).update(asked_by=who.person, asked_at=timezone.now(), trouble="")
        task = app.configure_task(PLAN_A_DAY, queue=HEAVY, queueing_lock=f"{PLAN_A_DAY} {plan.pk}")
        defer_once(task, plan=plan.pk)


def _document(who: Member, day: date) -> tuple[dict[str, Any], dict[str, Any]]:
    """A day as `warm-draft/day`, and by job what it asks of it; places that nobody has located are left out."""
    jobs, base, vans = list(jobs_of(who, day)), Base.objects.filter(workshop=who.workshop).first(), vans_of(who)
    if base is None:
        raise ApiError(422, "no_base", "Say first where the vans start from.")
    if not vans:
        raise ApiError(422, "no_vans", "Say first which vans drive.")
    if not jobs:
        raise ApiError(422, "no_stops", "No open job is booked for this day.")
    where = grounds_of(who, {job.machine.place_id for job in jobs})
    skills = dict(Membership.objects.filter(workshop=who.workshop).values_list("person", "qualifications"))
    there = {shelf.id: shelf.counts for shelf in shelves(who)}
    ways = list(Way.objects.filter(workshop=who.workshop))
    located = {job.machine.place_id for job in jobs} & (
        where.keys() | {end for row in ways for end in (row.start_id, row.end_id) if end}
    )
    told = {str(job.id): _told(who, job) for job in jobs if job.machine.place_id in located}
    known = {van.id for van in vans}
    stops = []
    for job in jobs:
        asks = told.get(str(job.id))
        if asks is None:
            continue
        wish: Wish | None = getattr(job, "wish", None)
        stops.append({
            "id": str(job.id), "place": str(job.machine.place_id), "minutes": asks["minutes"],
            "sd_minutes": asks["sd_minutes"], "needs": asks["needs"], "parts": asks["parts"],
            "windows": [{"early": clock(a), "late": clock(b)} for a, b in windows_of(who, job)],
        } | ({"van": str(wish.van_id)} if wish is not None and wish.van_id in known else {}))  # fmt: skip
    places: list[dict[str, Any]] = [_place(BASE, (base.latitude, base.longitude))]
    places += [_place(str(place_id), where.get(place_id, (None, None))) for place_id in sorted(located)]
    named = {None: BASE} | {place_id: str(place_id) for place_id in located}
    document = {
        "format": "warm-draft/day", "version": 1, "places": places, "stops": stops,
        "travel": [
            {"start": named[row.start_id], "end": named[row.end_id], "minutes": row.minutes}
            for row in ways if row.start_id in named and row.end_id in named
        ],
        "vans": [
            {
                "id": str(van.id), "start": BASE, "hours": {"early": clock(van.early), "late": clock(van.late)},
                "skills": skills.get(van.driver_id, []) if van.driver_id else [], "overtime_minutes": van.overtime,
                "parts": {key: n for key, n in there.get(van.store_id, {}).items() if n > 0} if van.store_id else {},
            }
            for van in vans
        ],
    }  # fmt: skip
    return document, told


def _place(name: str, at: tuple[float | None, float | None]) -> dict[str, Any]:
    latitude, longitude = at
    return {"id": name} | ({} if latitude is None else {"latitude": latitude, "longitude": longitude})


def _told(who: Member, job: Job) -> dict[str, Any]:
    state, quote = quote_of(who, job.id)
    return asdict(stop_answer(state, quote))


def make(plan_id: int) -> None:
    """Plan a day that was asked for; by the worker. What cannot be planned says why."""
    plan = Plan.objects.select_related("workshop", "asked_by").filter(pk=plan_id).first()
    if plan is None:
        return
    seen_at = timezone.now()
    row = Membership.objects.filter(person=plan.asked_by, workshop=plan.workshop).first()
    who = Member(plan.asked_by, plan.workshop, row.role if row else "", frozenset(row.qualifications if row else ()))
    try:
        document, told = _document(who, plan.day)
        run = plan_day(_day_in(document))
    except (ApiError, WarmdraftError) as error:
        Plan.objects.filter(pk=plan_id).update(trouble=str(error)[:400], made_at=seen_at)
        return
    with transaction.atomic():
        plan = Plan.objects.select_for_update().get(pk=plan_id)
        _set_orders(plan, run.orders)
        plan.document, plan.told, plan.best, plan.trouble, plan.made_at = document, told, run.cost, "", seen_at
        plan.save()


def _set_orders(plan: Plan, orders: dict[str, list[str]]) -> None:
    if plan.orders:
        plan.was = [*plan.was, plan.orders][-MOST_UNDONE:]
    plan.orders, plan.version = orders, plan.version + 1


def day_of(plan: Plan) -> Day:
    """The day that a plan was made of. Raises DocumentError."""
    return _day_in(plan.document)


def _day_in(document: dict[str, Any]) -> Day:
    return read_as(DayDocument, document, "a day").day()


def plan_of(who: Member, day: date) -> Plan | None:
    """The plan of a day, if there is one."""
    return Plan.objects.filter(workshop=who.workshop, day=day).first()


def _made(who: Member, day: date) -> Plan:
    plan = plan_of(who, day)
    if plan is None or not plan.document:
        raise Http404
    return plan


def moves(who: Member, day: date, stop: str) -> list[MovedAnswer]:
    """What it costs to have a stop done otherwise. Raises DayError."""
    plan = _made(who, day)
    with working:
        return moves_answer(day_of(plan), plan.orders, stop)


def move(who: Member, day: date, based_on: int, stop: str, van: str | None, position: int) -> None:
    """Have a stop done otherwise. Raises DayError where it may not be."""
    who.require("plan_the_day")
    with transaction.atomic():
        plan = _held(who, day, based_on)
        orders = moved(plan.orders, stop, van, position)
        whole = day_of(plan)
        if stop not in {row.id for row in whole.stops}:
            raise DayError(f"there is no stop '{stop}' that day")
        run_day(whole, orders)
        _set_orders(plan, orders)
        plan.save()


def take_back(who: Member, day: date, based_on: int) -> None:
    """Take the latest change back."""
    who.require("plan_the_day")
    with transaction.atomic():
        plan = _held(who, day, based_on)
        if not plan.was:
            raise ApiError(409, "nothing_to_undo", "Nothing was changed on this plan.")
        *plan.was, plan.orders = plan.was
        plan.version += 1
        plan.save()


def _held(who: Member, day: date, based_on: int) -> Plan:
    plan = Plan.objects.select_for_update().filter(pk=_made(who, day).pk).get()
    if plan.version != based_on:
        raise ApiError(409, "changed_meanwhile", "Someone changed this plan meanwhile; look at it again.")
    known = {stop["id"] for stop in plan.document["stops"]}
    vans = {van["id"] for van in plan.document["vans"]}
    plan.was = [
        {van: [stop for stop in order if stop in known] for van, order in orders.items() if van in vans}
        for orders in plan.was
    ]
    return plan
