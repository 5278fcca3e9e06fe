"""A machine's whole story as one timeline, and a place's machines beside one another, worst first."""

from datetime import date
from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import Http404
from ninja import Schema

from jobs.answer.shown import words_of
from jobs.models import Job
from machines.models import Machine, Place
from people.may import Member
from people.models import Workshop
from reports.models import Record
from reports.paper import qr
from upkeep.models import Due, Visit
from upkeep.services import upkeep_with
from warmdraft.answers import UpkeepAnswer, upkeep_answer
from warmdraft.faults import loads_taken
from warmdraft.upkeep import CALLBACK_DAYS, LIMIT_SHARE, Standing, callbacks, share_on, standing_of

#: Jobs of a machine that its story tells of, and machines of a place: a laundry has as many.
MOST_JOBS, MOST_MACHINES = 100, 200


class JobTold(Schema):
    """A job of a machine. day: it was handed over, or is booked for; found, left: flow in m³/s; callback: it came for
    what was mended within the last 90 days; edition: 0 while it is not handed over."""

    id: UUID
    day: date
    title: str
    by: str
    stage: str
    cause: str
    done: list[str]
    fitted: list[str]
    proof: str
    note: str
    found: float | None
    left: float | None
    callback: bool
    edition: int


class MachineTold(Schema):
    """The machine."""

    id: UUID
    name: str
    profile: str
    profile_title: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str] | None
    age_years: float | None
    loads_per_week: float | None
    #: What its loads are taken for where nobody has counted.
    loads_taken: float


class PlaceTold(Schema):
    """Where it stands, and what may be written to whom."""

    id: UUID
    name: str
    address: str
    contact: str
    mail: str
    no_reminders: bool
    language: str


class MachineHistory(Schema):
    """A machine's story, the latest job first; upkeep: null while it was never handed over; qr: its address."""

    machine: MachineTold
    place: PlaceTold
    healthy: float | None
    upkeep: UpkeepAnswer | None
    overdue: bool
    #: The flow below which it is short of air, m³/s.
    limit: float | None
    #: The last job handed over, where that was so lately that the same again is a callback.
    lately: JobTold | None
    jobs: list[JobTold]
    last_inside: str
    address: str
    qr: str


class WallMachine(Schema):
    """A machine of a place. share: the flow it is expected to have today, as a share of a healthy one."""

    id: UUID
    name: str
    profile_title: str
    service_by: date | None
    share: float | None
    standing: Standing | None
    overdue: bool
    callbacks: int
    open_job: UUID | None
    last: date | None


class Wall(Schema):
    """All machines of a place, worst first. limit: the share below which a machine is short of air."""

    limit: float
    place: PlaceTold
    machines: list[WallMachine]


_OF_THE_MACHINE = (
    "id", "name", "profile", "layout", "energy", "supply", "variant", "age_years", "loads_per_week",
)  # fmt: skip


def _machine(who: Member, machine_id: UUID) -> Machine:
    found = Machine.objects.select_related("place").filter(id=machine_id, workshop=who.workshop).first()
    if found is None:
        raise Http404
    return found


def history_of(who: Member, machine_id: UUID) -> dict[str, Any]:
    """The story of one machine of the workshop, or 404."""
    machine, words = _machine(who, machine_id), words_of(who)
    jobs = list(
        Job.objects.filter(machine=machine).select_related("summary", "visit__by").order_by("-booked_for")[:MOST_JOBS]
    )
    records = {row["job_id"]: row for row in _records([job.id for job in jobs])}
    visits = sorted((job.visit for job in jobs if hasattr(job, "visit")), key=lambda visit: visit.day)
    back = {visits[place].job_id for place in callbacks([(visit.day, visit.cause) for visit in visits])}
    told = [_told(who.workshop, job, records.get(job.id), job.id in back) for job in jobs]
    upkeep, healthy = upkeep_with(machine), visits[-1].healthy if visits else None
    address = f"{settings.ADDRESS}/machines/{machine.id}"
    circumstances = visits[-1].circumstances if visits else []
    today = who.workshop.today
    done = [row for row in told if row["edition"] and (today - row["day"]).days <= CALLBACK_DAYS]
    return {
        "overdue": upkeep is not None and upkeep.service_by < today,
        "limit": healthy and healthy * LIMIT_SHARE,
        "lately": max(done, key=lambda row: row["day"], default=None),
        "machine": {
            **{name: getattr(machine, name) for name in _OF_THE_MACHINE},
            "profile_title": words.profile(machine.profile),
            "loads_taken": loads_taken(machine.loads_per_week, circumstances),
        },
        "place": _place(machine.place), "healthy": healthy,
        "upkeep": upkeep_answer(upkeep, healthy, words) if upkeep and healthy else None,
        "jobs": sorted(told, key=lambda row: row["day"], reverse=True),
        "last_inside": visits[-1].by.name if visits else "", "address": address, "qr": qr(address),
    }  # fmt: skip


def _records(jobs: list[UUID]) -> Any:
    """The latest edition of each job's record, only what a story tells of it."""
    snapshot = ("confirmed_cause__text", "works", "dealt", "proof__text")
    return (
        Record.objects.filter(job__in=jobs).order_by("job", "-edition").distinct("job")
        .values("job_id", "edition", "at", "note", "by__name", *(f"snapshot__{key}" for key in snapshot))
    )  # fmt: skip


def _told(workshop: Workshop, job: Job, record: dict[str, Any] | None, back: bool) -> dict[str, Any]:
    visit = getattr(job, "visit", None)
    summary = getattr(job, "summary", None)
    told: dict[str, Any] = {
        "id": job.id, "day": workshop.day_of(job.booked_for), "title": job.title, "by": "", "cause": "", "done": [],
        "fitted": [],
        "stage": summary.stage if summary else "complaint", "proof": "", "note": "", "edition": 0,
        "found": visit.found if visit else None, "left": visit.left if visit else None, "callback": back,
    }  # fmt: skip
    if record is None:
        return told | ({"cause": summary.headline} if summary else {})
    works = record["snapshot__works"] or []
    fitted = (record["snapshot__dealt"] or {}).get("fitted") or []
    return told | {
        "day": workshop.day_of(record["at"]), "by": record["by__name"],
        "cause": record["snapshot__confirmed_cause__text"] or "",
        "done": [line["text"] for line in works if line["became"] == "done"],
        "fitted": [" ".join(filter(None, (row["text"], row["number"]))) for row in fitted],
        "proof": record["snapshot__proof__text"] or "", "note": record["note"], "edition": record["edition"],
    }  # fmt: skip


def _place(place: Place) -> dict[str, Any]:
    return {name: getattr(place, name) for name in PlaceTold.model_fields}


def wall_of(who: Member, place_id: UUID) -> dict[str, Any]:
    """The machines of one place of the workshop, or 404: those that move least air today first, those of which nobody
    knows last."""
    place = Place.objects.filter(id=place_id, workshop=who.workshop).first()
    if place is None:
        raise Http404
    words, today = words_of(who), who.workshop.today
    machines = list(Machine.objects.filter(place=place).order_by("name", "id")[:MOST_MACHINES])
    due = {row.machine_id: row for row in Due.objects.filter(machine__in=machines)}
    causes: dict[UUID, list[tuple[date, str]]] = {}
    for machine_id, day, cause in (
        Visit.objects.filter(machine__in=machines).order_by("day").values_list("machine", "day", "cause")
    ):
        causes.setdefault(machine_id, []).append((day, cause))
    still = dict(
        Job.objects.filter(machine__in=machines, shut=False).order_by("booked_for").values_list("machine", "id")
    )
    rows = []
    for machine in machines:
        row = due.get(machine.id)
        share = share_on(today, row.since, row.left, row.growth, row.loads_per_week) if row else None
        rows.append({
            "id": machine.id, "name": machine.name, "profile_title": words.profile(machine.profile),
            "service_by": row.service_by if row else None, "overdue": bool(row and row.service_by < today),
            "share": share, "standing": None if share is None else standing_of(share),
            "callbacks": len(callbacks(causes.get(machine.id, []))), "open_job": still.get(machine.id),
            "last": row.since if row else None,
        })  # fmt: skip
    rows.sort(key=lambda row: (row["share"] is None, not row["overdue"], row["share"] or 0.0, row["name"]))
    return {"place": _place(place), "machines": rows, "limit": LIMIT_SHARE}
