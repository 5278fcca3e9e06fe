"""Reads of jobs. Everything starts from the signed-in person's workshop; an id in use elsewhere is not found."""

from collections.abc import Iterator
from typing import Any
from uuid import UUID

from django.db.models import OuterRef, Prefetch, QuerySet, Subquery
from django.http import Http404

from jobs.models import (
    AddedStep,
    Cause,
    Count,
    Dealing,
    Finding,
    Happening,
    Job,
    Log,
    Mark,
    MeterTest,
    Photo,
    PhotoNote,
    Reading,
    Sound,
    WayChoice,
    Work,
)
from people.may import Member
from people.models import Act
from shared.slots import give_connection_back

#: Rows read at once where all of them are wanted.
_PAGE = 500


def _sounds() -> QuerySet[Sound]:
    """Recordings without what they hold: that is long, and nobody who looks at a job asks for it."""
    return Sound.objects.select_related("by", "recording").defer("recording__data", "recording__curves")


def whole_jobs() -> QuerySet[Job]:
    """Jobs with all that a verdict asks for."""
    return Job.objects.select_related("workshop", "machine__place", "machine__workshop", "created_by").prefetch_related(
        Prefetch("readings", Reading.objects.select_related("by")),
        Prefetch("findings", Finding.objects.select_related("by")),
        Prefetch("metertests", MeterTest.objects.select_related("by")),
        Prefetch("logs", Log.objects.select_related("by")),
        Prefetch("sounds", _sounds()),
        Prefetch("works", Work.objects.select_related("by")),
        Prefetch("addedsteps", AddedStep.objects.select_related("by")),
        Prefetch("marks", Mark.objects.select_related("by")),
        Prefetch("photos", Photo.objects.select_related("by", "picture").defer("picture__data")),
        Prefetch("photonotes", PhotoNote.objects.all()),
        Prefetch("counts", Count.objects.select_related("by")),
        Prefetch("waychoices", WayChoice.objects.select_related("by")),
        Prefetch("dealings", Dealing.objects.select_related("by")),
        Prefetch("causes", Cause.objects.select_related("by")),
    )


def job_of(who: Member, job_id: UUID) -> Job:
    """One job of the workshop with its facts, or 404."""
    job = whole_jobs().filter(id=job_id, workshop=who.workshop).first()
    if job is None:
        raise Http404
    return job


def _bare_jobs(who: Member) -> QuerySet[Job]:
    return Job.objects.filter(workshop=who.workshop).select_related("machine__place", "machine__workshop")


def bare_job_of(who: Member, job_id: UUID) -> Job:
    """One job of the workshop without its facts, for those who write, or 404."""
    job = _bare_jobs(who).filter(id=job_id).first()
    if job is None:
        raise Http404
    return job


def job_and_people_as_of(who: Member, job_id: UUID) -> tuple[Job, int | None]:
    """The same, and the last act about the workshop's people: whoever left or changed is shown as they are now."""
    latest_act = Act.objects.filter(workshop=OuterRef("workshop")).order_by("-id").values("id")[:1]
    job = _bare_jobs(who).annotate(people_as_of=Subquery(latest_act)).filter(id=job_id).first()
    if job is None:
        raise Http404
    return job, job.people_as_of


def locked(who: Member, job_id: UUID) -> Job:
    """One job of the workshop, its row held until the transaction ends; or 404.

    Held first, then read: nothing that was read before counts. Phone and laptop may write at once.
    """
    held = Job.objects.select_for_update().filter(id=job_id, workshop=who.workshop).values_list("id", flat=True).first()
    if held is None:
        raise Http404
    return bare_job_of(who, job_id)


def job_exists(job_id: UUID) -> bool:
    """Whether an id is in use anywhere."""
    return Job.objects.filter(id=job_id).exists()


def settled_steps(job: Job) -> dict[str, Mark]:
    """The mark in force of each step that is done or not possible."""
    latest = {mark.step: mark for mark in job.marks.all()}
    return {step: mark for step, mark in latest.items() if mark.state != "undone"}


def history_of(job: Job) -> QuerySet[Happening]:
    """What happened on a job, the latest first."""
    return job.happenings.select_related("by").order_by("-id")


def happenings_by(who: Member, person_id: UUID) -> Iterator[dict[str, Any]]:
    """What a person did in the workshop, in order; read in pages, however long they have been there."""
    rows = Happening.objects.filter(workshop=who.workshop, by_id=person_id).order_by("id")
    names = ("id", "job_id", "what", "at", "received_at", "before", "after")
    after = 0
    while page := list(rows.filter(id__gt=after).values(*names)[:_PAGE]):
        after = page[-1]["id"]
        give_connection_back()  # whoever takes it slowly needs none in between
        yield from ({name: row[name] for name in names[1:]} for row in page)
