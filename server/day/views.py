"""A day as a screen shows it."""

from datetime import date
from typing import Any
from uuid import UUID

from ninja import Schema

from day.models import Base, Plan, Van
from day.planning import day_of, grounds_of, jobs_of, plan_of, vans_of, windows_of
from jobs.models import Job
from people.may import Member
from shared.slots import working
from warmdraft.answers import DayAnswer, clock, run_answer
from warmdraft.day import run_day
from warmdraft.words import Words, words_for


class BaseOut(Schema):
    """Where vans start and end."""

    name: str
    latitude: float | None
    longitude: float | None


class WindowOut(Schema):
    """When work may begin, on the workshop's own clock."""

    early: str
    late: str


class VanOut(Schema):
    """A van."""

    id: UUID
    name: str
    driver: UUID | None
    driver_name: str
    early: str
    late: str
    overtime: int
    store: UUID | None
    store_name: str


class StopOut(Schema):
    """A job of the day. wished: the customer said when; minutes and all after it: as it was planned, null where it was
    not yet; by: what the minutes follow from; next: what the job asks for; done: it is handed over."""

    id: UUID
    title: str
    place: str
    place_id: UUID
    address: str
    contact: str
    machine: str
    latitude: float | None
    longitude: float | None
    windows: list[WindowOut]
    wished: bool
    van: UUID | None
    headline: str
    next: str
    done: bool
    planned: bool
    minutes: float | None
    sd_minutes: float | None
    needs: list[str]
    bring: list[str]


class PlanOut(Schema):
    """A plan. waiting: the worker is at it; trouble: why there is none; best_minutes: cost of the best order that was
    found; undo: changes that can be taken back; missing: jobs of the day that are not in it."""

    version: int
    waiting: bool
    trouble: str
    run: DayAnswer | None
    undo: int
    missing: list[UUID]


class DayOut(Schema):
    """A day. mine: the van that whoever asks drives; next: their next stop."""

    day: date
    base: BaseOut | None
    vans: list[VanOut]
    stops: list[StopOut]
    plan: PlanOut | None
    mine: UUID | None
    next: UUID | None


def day_out(who: Member, day: date) -> dict[str, Any]:
    """A day as it is booked, and as it is planned."""
    plan, vans = plan_of(who, day), vans_of(who)
    booked = list(jobs_of(who, day))
    told: dict[str, Any] = plan.told if plan else {}
    in_plan = [UUID(stop["id"]) for stop in plan.document["stops"]] if plan and plan.document else []
    others = set(in_plan) - {job.id for job in booked}
    gone = Job.objects.filter(workshop=who.workshop, id__in=others).select_related("machine__place", "summary", "wish")
    jobs = [*booked, *gone.defer("summary__search")]
    where = grounds_of(who, {job.machine.place_id for job in jobs})
    base = Base.objects.filter(workshop=who.workshop).first()
    run = _run(plan) if plan and plan.document else None
    mine = next((van for van in vans if van.driver_id == who.person.id), None)
    done = {str(job.id) for job in jobs if job.shut}
    words = words_for(who.workshop.speaks)
    tour = next((tour for tour in run.tours if mine and tour.van == str(mine.id)), None) if run else None
    return {
        "day": day,
        "base": base and {"name": base.name, "latitude": base.latitude, "longitude": base.longitude},
        "vans": [_van(van) for van in vans],
        "stops": [_stop(who, job, where, told.get(str(job.id)), words) for job in jobs],
        "plan": plan and {
            "version": plan.version,
            "waiting": plan.made_at is None or plan.asked_at > plan.made_at,
            "trouble": plan.trouble, "run": run, "undo": len(plan.was),
            "missing": [job.id for job in booked if job.id not in set(in_plan)],
        },
        "mine": mine and mine.id,
        "next": next((call.stop for call in tour.calls if call.stop not in done), None) if tour else None,
    }  # fmt: skip


def _run(plan: Plan) -> DayAnswer:
    with working:
        return run_answer(run_day(day_of(plan), plan.orders), plan.best)


def _van(van: Van) -> dict[str, Any]:
    return {
        "id": van.id, "name": van.name, "driver": van.driver_id, "driver_name": van.driver.name if van.driver else "",
        "early": clock(van.early), "late": clock(van.late), "overtime": van.overtime, "store": van.store_id,
        "store_name": van.store.name if van.store else "",
    }  # fmt: skip


def _stop(
    who: Member, job: Job, where: dict[UUID, tuple[float, float]], told: dict[str, Any] | None, words: Words
) -> dict[str, Any]:
    place, summary, wish = job.machine.place, getattr(job, "summary", None), getattr(job, "wish", None)
    latitude, longitude = where.get(place.id, (None, None))
    asks = told or {}
    return {
        "id": job.id, "title": job.title, "place": place.name, "place_id": place.id, "address": place.address,
        "contact": place.contact,
        "machine": job.machine.name or words.profile(job.machine.profile),
        "latitude": latitude, "longitude": longitude,
        "windows": [{"early": clock(a), "late": clock(b)} for a, b in windows_of(who, job)],
        "wished": bool(wish and wish.windows), "van": wish.van_id if wish else None,
        "headline": summary.headline if summary else "", "next": summary.next if summary else "", "done": job.shut,
        "planned": told is not None, "minutes": asks.get("minutes"), "sd_minutes": asks.get("sd_minutes"),
        "needs": asks.get("needs", []), "bring": asks.get("bring", []),
    }  # fmt: skip
