"""What a workshop's own jobs teach: kept at hand-over, summed up by the worker, gone by in every verdict."""

from __future__ import annotations

import logging
from datetime import datetime
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import F
from procrastinate.contrib.django import app

from jobs.models import CountsGiven, Found, Job, Taught
from shared.once import defer_once
from shared.queues import WORK
from warmdraft.checks import UNTAUGHT
from warmdraft.checks import Taught as Tables
from warmdraft.errors import DocumentError
from warmdraft.jobfile.learning_schema import CountsDocument, counts_document
from warmdraft.jobfile.strict import read_as
from warmdraft.learning import Counts, Lessons, lessons_of, together
from warmdraft.work import JobState, lesson_of, taken_of

log = logging.getLogger("warm.taught")
#: Sums up what a workshop's jobs count.
SUM_UP = "sum_up_counts"
#: The latest jobs that are learned from: more say little more, and a trade changes.
MOST_JOBS = 5_000


def counts_from(document: Any) -> Counts:
    """Counts of a document. Raises DocumentError."""
    return read_as(CountsDocument, document, "counts of jobs").counts()


def _kept(document: Any) -> Counts:
    """Counts as they were kept: what names a thing that is no more counts for nothing, and breaks no verdict."""
    try:
        return counts_from(document)
    except DocumentError as error:
        log.warning("counts that cannot be read", extra={"error": str(error)})
        return Counts()


def taught_as_of(workshop_id: UUID) -> int:
    """What tells that a workshop has learned something since; 0 where its verdicts go by our tables."""
    row = Taught.objects.filter(workshop=workshop_id, on=True).values_list("as_of", flat=True)
    return row.first() or 0


@lru_cache(maxsize=64)
def _lessons(workshop_id: UUID, as_of: int) -> Lessons:
    document = Taught.objects.filter(workshop=workshop_id).values_list("counts", flat=True).first()
    return lessons_of(_kept(document) if document else Counts())


def lessons_for(workshop_id: UUID) -> Lessons:
    """What a workshop's jobs teach, gone by or not."""
    as_of = Taught.objects.filter(workshop=workshop_id).values_list("as_of", flat=True).first()
    return _lessons(workshop_id, as_of or 0)


def tables_for(workshop_id: UUID) -> Tables:
    """The tables that a workshop's verdicts go by."""
    as_of = taught_as_of(workshop_id)
    return _lessons(workshop_id, as_of).taught if as_of else UNTAUGHT


def _found_in(job: Job, state: JobState, at: datetime) -> Found:
    """What a job counts and what was said of it, not kept yet."""
    confirmed = state.confirmed.fault if state.confirmed else ""
    return Found(
        job=job, workshop_id=job.workshop_id, at=at, fault=confirmed,
        counts=counts_document(lesson_of(state)), said=_said(state),
    )  # fmt: skip


def _said(state: JobState) -> dict[str, Any]:
    """faults: probability of each; sure: the likeliest place and how likely; minutes: estimated for the steps that were
    timed, and taken; checks: how far each reading and look moved the verdict, nats; accepted: by the proof."""
    verdict = state.verdict
    taken, plan = taken_of(state.facts), state.plan
    steps = [step for step in (*plan.open, *plan.mend, *plan.close) if step.id in taken] if plan else []
    return {
        "faults": {row.fault: round(row.probability, 6) for row in verdict.faults},
        "sure": [verdict.sure.zone, round(verdict.sure.probability, 6)],
        "minutes": [round(sum(step.minutes for step in steps), 2), round(sum(taken[step.id] for step in steps), 2)],
        "checks": {row.evidence: round(abs(row.nats), 3) for row in verdict.for_and_against},
        "accepted": state.proof.acceptance.decision == "accept",
    }


def keep_found(job: Job, state: JobState, at: datetime) -> None:
    """Keep what a job that is handed over counts; the worker sums it up. at: when it was."""
    found = _found_in(job, state, at)
    defaults = {name: getattr(found, name) for name in ("workshop_id", "at", "fault", "counts", "said")}
    Found.objects.update_or_create(job=job, defaults=defaults)
    sum_up_later(job.workshop_id)


def own_counts(workshop_id: UUID) -> Counts:
    """What a workshop's own jobs count together, those that were left out apart."""
    own = Found.objects.filter(workshop=workshop_id, left_out=False).order_by("-at").values_list("counts", flat=True)
    return together(_kept(row) for row in own[:MOST_JOBS])


def sum_up_later(workshop_id: UUID) -> None:
    """Sum a workshop's counts up; by the worker, once however often it is asked for."""
    task = app.configure_task(SUM_UP, queue=WORK, queueing_lock=f"{SUM_UP} {workshop_id}")
    defer_once(task, workshop=str(workshop_id))


def sum_up(workshop_id: UUID) -> bool:
    """What a workshop's jobs and the counts it was given come to; whether that is new."""
    given = CountsGiven.objects.filter(workshop=workshop_id).values_list("counts", flat=True)
    whole = counts_document(together([own_counts(workshop_id), *(_kept(row) for row in given)]))
    with transaction.atomic():
        row, _ = Taught.objects.select_for_update().get_or_create(workshop_id=workshop_id)
        new = row.counts != whole
        if new:
            Taught.objects.filter(workshop=workshop_id).update(counts=whole, as_of=F("as_of") + 1)
    return new


def turn(workshop_id: UUID, on: bool) -> None:
    """Have a workshop's verdicts go by what its jobs teach, or by our own tables."""
    Taught.objects.update_or_create(workshop_id=workshop_id, defaults={"on": on})
