"""How right a workshop's verdicts were, and how its work stands: the lead's desk."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import Count
from django.utils import timezone
from ninja import Schema

from jobs.answer.shown import words_of
from jobs.models import Found, Job, Summary
from people.may import Member
from people.models import Workshop
from stock.shelves import jobs_waiting
from upkeep.models import Visit
from warmdraft.checks import checks
from warmdraft.learning import Rightness, rightness
from warmdraft.upkeep import CALLBACK_DAYS, callbacks
from warmdraft.words import Words
from warmdraft.work import STAGES

#: The latest jobs that figures are of, days that "lately" goes back, checks and open jobs that are named.
MOST_JOBS, LATELY_DAYS, MOST_CHECKS, MOST_OPEN = 2_000, 365, 12, 50
#: A check that moved a verdict by less told nothing, nats: odds by a tenth (own choice).
TOLD_NOTHING = 0.1
#: Times a check has to be done before it is judged (own choice).
LEAST_TIMES = 5


class AtStageOut(Schema):
    """Open jobs at a stage."""

    stage: str
    text: str
    jobs: int


class ToldNothingOut(Schema):
    """A check: how often it was done, and how often it told nothing."""

    check: str
    text: str
    times: int
    nothing: int


class WaitsOut(Schema):
    """An open job that waits."""

    id: UUID
    title: str
    place: str
    days: int


class DeskOut(Schema):
    """The lead's desk. late: booked for a day that is over; parts: jobs that wait for one; fixed: jobs of the last year
    mended at the first visit; minutes: estimated for the steps that were timed, and taken."""

    stages: list[AtStageOut]
    late: list[WaitsOut]
    parts: list[WaitsOut]
    right: Rightness | None
    handed_over: int
    fixed: int
    callbacks: int
    accepted: int
    minutes_estimated: float
    minutes_taken: float
    checks: list[ToldNothingOut]


def desk(who: Member) -> DeskOut:
    """The lead's desk, as it is now. Figures are of the workshop, never of one of its people."""
    words, now, workshop = words_of(who), timezone.now(), who.workshop
    open_jobs = Job.objects.filter(workshop=workshop, shut=False).select_related("machine__place")
    at = dict(
        Summary.objects.filter(workshop=who.workshop, job__shut=False).values_list("stage").annotate(Count("job"))
    )
    late = open_jobs.filter(booked_for__lt=workshop.day_begins(workshop.today))
    waiting = jobs_waiting(who)
    parts = open_jobs.filter(id__in=waiting).order_by("id")
    found = list(
        Found.objects.filter(workshop=who.workshop, at__gte=now - timedelta(days=LATELY_DAYS))
        .order_by("-at").values("job_id", "fault", "said", "counts__jobs")[:MOST_JOBS]
    )  # fmt: skip
    came_back, of = _callbacks(who)
    minutes = [row["said"]["minutes"] for row in found]
    return DeskOut(
        stages=[AtStageOut(stage=stage, text=words.word("stage", stage), jobs=at.get(stage, 0)) for stage in STAGES],
        late=[_open(job, job.booked_for, workshop) for job in late.order_by("booked_for")[:MOST_OPEN]],
        parts=[_open(job, waiting[job.id], workshop) for job in parts[:MOST_OPEN]],
        right=_right(found),
        handed_over=len(found),
        accepted=sum(row["said"]["accepted"] for row in found),
        fixed=sum(row["said"]["accepted"] and row["job_id"] not in of for row in found),
        callbacks=sum(row["job_id"] in came_back for row in found),
        minutes_estimated=sum(row[0] for row in minutes),
        minutes_taken=sum(row[1] for row in minutes),
        checks=_checks(found, words),
    )


def _open(job: Job, since: datetime, workshop: Workshop) -> WaitsOut:
    days = workshop.today - workshop.day_of(since)
    return WaitsOut(id=job.id, title=job.title, place=job.machine.place.name, days=days.days)


def _callbacks(who: Member) -> tuple[set[UUID], set[UUID]]:
    """Jobs of late that came for what was mended shortly before, and jobs whose repair they came for."""
    since = who.workshop.today - timedelta(days=LATELY_DAYS + CALLBACK_DAYS)
    visits: dict[UUID, list[tuple[date, str, UUID]]] = defaultdict(list)
    for machine, day, cause, job in (
        Visit.objects.filter(workshop=who.workshop, day__gte=since).order_by("machine", "day", "job")
        .values_list("machine_id", "day", "cause", "job_id")
    ):  # fmt: skip
        visits[machine].append((day, cause, job))
    came, of = set(), set()
    for rows in visits.values():
        for place in callbacks([(day, cause) for day, cause, _ in rows]):
            came.add(rows[place][2])
            of.add(next(job for _, cause, job in reversed(rows[:place]) if cause == rows[place][1]))
    return came, of


def _right(found: Sequence[Mapping[str, Any]]) -> Rightness | None:
    """How right verdicts were, of jobs whose cause is known and nothing speaks against it."""
    known = [(row["said"]["faults"], row["fault"]) for row in found if row["fault"] and row["counts__jobs"]]
    first = [max(faults, key=faults.__getitem__) for faults, _ in known]
    return rightness(
        [faults[best] for (faults, _), best in zip(known, first, strict=True)],
        [best == fault for (_, fault), best in zip(known, first, strict=True)],
        [faults.get(fault, 0.0) for faults, fault in known],
    )


def _checks(found: Sequence[Mapping[str, Any]], words: Words) -> list[ToldNothingOut]:
    """Checks that most often told nothing, of those that were done often enough."""
    times, nothing = Counter[str](), Counter[str]()
    for row in found:
        for name, nats in row["said"]["checks"].items():
            times[name] += 1
            nothing[name] += nats < TOLD_NOTHING
    rows = [name for name in times if times[name] >= LEAST_TIMES and nothing[name] and name in checks()]
    rows.sort(key=lambda name: (-nothing[name] / times[name], name))
    return [
        ToldNothingOut(check=name, text=words.check(name), times=times[name], nothing=nothing[name])
        for name in rows[:MOST_CHECKS]
    ]
