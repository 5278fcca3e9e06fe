"""The history of a job: what happened, appended in the transaction of the act itself, and told to whoever looks."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import connection

from jobs.models import Happening, Job
from people.may import Member

#: PostgreSQL's channel on which a change is told; the payload is an id, of a job or a person, and a job's version.
CHANNEL = "warm_draft_jobs"


def tell(about: UUID, version: int = 0) -> None:
    """Tell those who look at a job, or the streams of a person, that it is worth looking again.

    PostgreSQL does so when the transaction holds.
    """
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, f"{about} {version}"])


def record_happening(who: Member, job: Job, what: str, at: datetime, before: Any = None, after: Any = None) -> None:
    """Append a happening, count the job's version on, and tell those who look at it once the transaction holds."""
    with connection.cursor() as cursor:
        cursor.execute("UPDATE jobs_job SET version = version + 1 WHERE id = %s RETURNING version", [job.id])
        (version,) = cursor.fetchone()
    job.version = version
    tell(job.id, version)
    Happening.objects.create(
        workshop=who.workshop, job=job, by=who.person, what=what, at=at, before=before, after=after,
        version=version, device=who.device,
    )  # fmt: skip


def changed_elsewhere(who: Member, job: Job, based_on: int | None, what: str) -> bool:
    """Whether something of this kind happened since, but for what came from the same person's same device."""
    if based_on is None:
        return True
    since = Happening.objects.filter(job=job, version__gt=based_on, what=what)
    if who.device is not None:
        since = since.exclude(by=who.person, device=who.device)
    return since.exists()
