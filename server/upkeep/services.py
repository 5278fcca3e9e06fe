"""What a job that is handed over says of its machine's upkeep: the visit, the day it is due, what its kind shows."""

import logging
from collections import defaultdict
from datetime import date
from uuid import UUID

from django.db import transaction
from django.db.models import F, Q
from django.utils import timezone
from procrastinate.contrib.django import app

from jobs.answer.learned import knows_of
from jobs.answer.shown import known_of
from jobs.answer.taught import keep_found
from jobs.facts.reads import whole_jobs
from jobs.models import Job
from machines.models import Machine
from people.may import Member
from people.models import Workshop
from people.tokens import open_token, switch
from shared.once import defer_once
from shared.problems import ApiError
from shared.queues import WORK
from upkeep.models import Due, Feed, Kind, Visit
from warmdraft.airway import healthy_state, solve
from warmdraft.diagnosis.flow import READ_AS_FLOW
from warmdraft.errors import WarmdraftError
from warmdraft.faults import lint_times, loads_taken
from warmdraft.paper import customer_languages
from warmdraft.upkeep import (
    Believed,
    Kept,
    Upkeep,
    believed,
    believed_as_plain,
    believed_from_plain,
    upkeep_among,
)
from warmdraft.upkeep import Visit as Seen
from warmdraft.words import words_for
from warmdraft.work import JobState, state_of

log = logging.getLogger("warm.upkeep")
#: Machines of a kind that are looked at for what is usual: the latest visited.
MOST_OF_A_KIND = 60
RENEW_KIND = "renew_kind"


def require_language(code: str) -> None:
    """Raise the problem of a language that no paper can be had in; nothing said is none."""
    if code and code not in customer_languages():
        known = ", ".join(customer_languages())
        raise ApiError(422, "not_possible", f"'{code}' is no language of ours; give one of {known}")


def visit_of(job: Job, state: JobState, day: date, by: UUID) -> Visit:
    """What a job says of its machine, not kept yet: flows as everything that was read shows them, None where no
    reading of its phase tells of the air."""
    airway = state.facts.machine.airway
    told = [any(row.kind in READ_AS_FLOW for row in case.readings) for case in (state.before, state.after)]
    found, left = state.verdict.flow.median, state.proof.acceptance.flow_m3s[1]
    confirmed = state.confirmed.fault if state.confirmed else ""
    return Visit(
        workshop_id=job.workshop_id, job=job, machine=job.machine, by_id=by, day=day, profile=job.machine.profile,
        found=found if told[0] else None, left=left if told[1] else None,
        healthy=float(solve(healthy_state(airway), airway.fan).outlet[0]),
        cause="" if confirmed == "none" else confirmed, circumstances=list(job.circumstances),
        loads_per_week=loads_taken(job.machine.loads_per_week, job.circumstances),
    )  # fmt: skip


def _seen(visit: Visit) -> Seen:
    found, left = (None if flow is None else flow / visit.healthy for flow in (visit.found, visit.left))
    return Seen(visit.day, found, left)


def _kept(visits: list[Visit]) -> Kept | None:
    """A machine by its visits; its use as it was told last."""
    if not visits:
        return None
    latest = max(visits, key=lambda visit: visit.day)
    return Kept(tuple(map(_seen, visits)), latest.loads_per_week, lint_times(latest.circumstances))


def kind_of(workshop_id: UUID, profile: str) -> Believed:
    """What is held of a kind of machine in a workshop; what is usual where it has seen none."""
    kind = Kind.objects.filter(workshop=workshop_id, profile=profile).first()
    return believed_from_plain(kind.believed) if kind else believed(())


def upkeep_with(machine: Machine, more: Visit | None = None) -> Upkeep | None:
    """When a machine is due, by its visits; more: one that is not kept yet, in place of its job's. None without any."""
    visits = [row for row in Visit.objects.filter(machine=machine) if more is None or row.job_id != more.job_id]
    kept = _kept([*visits, more] if more else visits)
    return upkeep_among(kept, kind_of(machine.workshop_id, machine.profile)) if kept is not None else None


def keep_visit(visit: Visit) -> None:
    """Keep what a job said that is handed over, and when its machine is due; its kind is the worker's, afterwards."""
    columns = {field.attname: getattr(visit, field.attname) for field in Visit._meta.concrete_fields}
    Visit.objects.update_or_create(job_id=columns.pop("job_id"), defaults=columns)
    keep_due(visit.machine)
    lock = f"{RENEW_KIND} {visit.workshop_id} {visit.profile}"
    task = app.configure_task(RENEW_KIND, queue=WORK, queueing_lock=lock)
    defer_once(task, workshop=str(visit.workshop_id), profile=visit.profile)


#: Jobs of an earlier release that are looked back at in one go.
_SOME = 50


def look_back() -> int:
    """What jobs that were handed over before it was kept say of their machines and count, some at a time; how many.

    A job that cannot be read any more is left out: its machine's story tells of it, its air does not.
    """
    missing = Q(visit__isnull=True) | Q(found__isnull=True)
    unread = Job.objects.filter(missing, shut=True, summary__trouble="").order_by("-booked_for")
    old = unread.values_list("id", flat=True)[:_SOME]
    made = 0
    for job in whole_jobs().filter(id__in=list(old)):
        record = job.records.order_by("-edition").first()  # of an app above this one
        if record is None:
            continue
        try:
            state = state_of(known_of(job, knows_of(job), words_for(job.workshop.speaks)).facts)
        except WarmdraftError:
            log.warning("no visit of an old job", extra={"job": str(job.id)})
            continue
        if not hasattr(job, "visit"):
            keep_visit(visit_of(job, state, job.workshop.day_of(record.at), record.by_id))
        if not hasattr(job, "found"):
            keep_found(job, state, record.at)
        made += 1
    return made


def keep_due(machine: Machine) -> None:
    """Work out anew when a machine is due, and keep it."""
    found = upkeep_with(machine)
    if found is None:
        return
    latest = Visit.objects.filter(machine=machine).latest("day")
    low, median, high = found.due
    kept = {
        "workshop_id": machine.workshop_id, "since": latest.day, "low": low, "median": median, "high": high,
        "service_by": found.service_by, "growth": found.growth, "left": found.left,
        "loads_per_week": latest.loads_per_week,
    }  # fmt: skip
    row, made = Due.objects.get_or_create(machine=machine, defaults=kept)
    if not made and any(getattr(row, name) != value for name, value in kept.items()):
        Due.objects.filter(machine=machine).update(**kept, version=F("version") + 1, changed_at=timezone.now())


def renew(workshop_id: UUID, profile: str) -> None:
    """What a workshop's machines of a kind show, from their visits."""
    latest = (
        Visit.objects.filter(workshop=workshop_id, profile=profile)
        .order_by("machine", "-day").distinct("machine").values_list("machine", "day")
    )  # fmt: skip
    machines = [machine for machine, _ in sorted(latest, key=lambda row: row[1], reverse=True)[:MOST_OF_A_KIND]]
    visits: dict[UUID, list[Visit]] = defaultdict(list)
    for visit in Visit.objects.filter(machine__in=machines):
        visits[visit.machine_id].append(visit)
    fleet = [kept for machine in machines if (kept := _kept(visits[machine])) is not None]
    Kind.objects.update_or_create(
        workshop_id=workshop_id, profile=profile, defaults={"believed": believed_as_plain(believed(fleet))}
    )


def set_use(who: Member, machine_id: UUID, loads_per_week: float | None) -> Machine | None:
    """Say how many loads a machine dries a week; its next visit moves with it. None: there is no such machine."""
    who.require("work_on_a_job")
    with transaction.atomic():
        machine = Machine.objects.select_for_update().filter(id=machine_id, workshop=who.workshop).first()
        if machine is None:
            return None
        machine.loads_per_week = loads_per_week
        machine.save(update_fields=["loads_per_week"])
        latest = Visit.objects.filter(machine=machine).order_by("-day").first()
        if latest is not None:
            latest.loads_per_week = loads_taken(machine.loads_per_week, latest.circumstances)
            latest.save(update_fields=["loads_per_week"])
            keep_due(machine)
    return machine


def feed_of(workshop: Workshop) -> Feed | None:
    """The calendar that can be read now, if any."""
    return open_token(Feed, workshop=workshop)


def set_feed(who: Member, on: bool) -> Feed | None:
    """Give the workshop's calendar an address, or take it away: what was given out before is not found from then on."""
    who.require("keep_the_workshop")
    with transaction.atomic():
        Workshop.objects.select_for_update().only("id").get(id=who.workshop.id)
        feed, _ = switch(Feed, who, on, workshop=who.workshop)
    return feed
