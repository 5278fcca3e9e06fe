"""Lists of jobs: the day first, what is open from before, what is handed over; each page by page, none worked out."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import Q, QuerySet
from django.http import HttpResponse
from ninja import Schema

from jobs.lists.search import found
from jobs.models import Job
from people.may import Member
from shared.pages import key_of, next_page
from warmdraft.moments import LAST, moment_of
from warmdraft.words import Words, words_for

JOBS_A_PAGE = 30


class JobRow(Schema):
    """A job in a list. trouble: why it cannot be shown, where that is so."""

    id: UUID
    title: str
    place: str
    machine: str
    contact: str
    complaints: list[str]
    booked_for: datetime
    stage: str
    stage_number: int
    next: str
    headline: str
    handed_over: bool
    version: int
    last_by: str
    trouble: str


#: What a row says until the worker has come to it.
_BEING_MADE = {"stage": "complaint", "stage_number": 1, "next": "", "headline": "", "trouble": ""}


def row_json(job: Job, speaks: Words) -> dict[str, Any]:
    """A job in a list, from what was written with it."""
    place, machine, summary = job.machine.place, job.machine, getattr(job, "summary", None)
    said = {name: getattr(summary, name) for name in _BEING_MADE} if summary else _BEING_MADE
    return said | {
        "id": job.id,
        "title": job.title,
        "place": place.name,
        "machine": machine.name or speaks.profile(machine.profile),
        "contact": place.contact,
        "complaints": job.complaints,
        "booked_for": job.booked_for,
        "handed_over": job.shut,
        "version": job.version,
        "last_by": summary.last_by.name if summary else "",
    }


def jobs_page(who: Member, response: HttpResponse, which: str, words: str, after: str) -> list[dict[str, Any]]:
    """One page.

    which: open (from today on, the next first); earlier (open, booked before today), handed_over, any: these
    the latest first. words: only jobs that are found by them, of any kind.
    """
    rows = Job.objects.select_related("machine__place", "summary__last_by").defer("carried", "summary__search")
    key = key_of(after, moment_of, UUID) if after else None
    speaks, today = words_for(who.workshop.speaks), who.workshop.day_begins(who.workshop.today)
    if words.strip():
        ids = found(who, words, tuple(key or (LAST, UUID(int=0))), JOBS_A_PAGE + 1)
        by_id = rows.in_bulk(ids)
        jobs = [by_id[job_id] for job_id in ids if job_id in by_id]
        return [row_json(job, speaks) for job in next_page(response, jobs, JOBS_A_PAGE, _key)]
    mine = rows.filter(workshop=who.workshop)
    if which == "open":
        some = mine.filter(shut=False, booked_for__gte=today).order_by("booked_for", "id")
        if key:
            some = some.filter(Q(booked_for__gt=key[0]) | Q(booked_for=key[0], id__gt=key[1]), booked_for__gte=key[0])
    else:
        some = mine.order_by("-booked_for", "-id")
        if key:
            some = some.filter(Q(booked_for__lt=key[0]) | Q(booked_for=key[0], id__lt=key[1]), booked_for__lte=key[0])
        if which == "earlier":
            some = some.filter(shut=False, booked_for__lt=today)
        elif which == "handed_over":
            some = some.filter(shut=True)
    page = next_page(response, _both(some) if which == "any" else some, JOBS_A_PAGE, _key)
    return [row_json(job, speaks) for job in page]


def _key(job: Job) -> tuple[str, UUID]:
    return job.booked_for.isoformat(), job.id


def _both(some: QuerySet[Job]) -> list[Job]:
    """Open and handed over together, the latest first: a page of each, by the one index that has them in order."""
    rows = [job for shut in (False, True) for job in some.filter(shut=shut)[: JOBS_A_PAGE + 1]]
    return sorted(rows, key=lambda job: (job.booked_for, job.id), reverse=True)
