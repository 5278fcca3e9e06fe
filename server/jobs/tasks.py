"""Housekeeping of the worker: what is over is swept away, what a killed worker left is taken up again, and what lists
say of jobs is brought up to date.
"""

from datetime import timedelta
from uuid import UUID

from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.exceptions import UniqueViolation
from procrastinate.jobs import Status

from files.models import Picture, Recording
from jobs.answer.summaries import renew, stale
from jobs.answer.taught import SUM_UP, sum_up
from jobs.facts.later import LISTEN, RENEW_JOBS_OF
from jobs.facts.listening import listen_to
from jobs.live.streams import HERE_FOR
from jobs.models import Job, Photo, Presence, Sound
from people.door import WINDOW
from people.models import Attempt, Invitation, Sitting
from shared.database import WORKER_GONE_AFTER
from shared.queues import HEAVY, WORK, task, tick

A_DAY = timedelta(days=1)


@tick("take_up_stalled", cron="* * * * * */10")
async def take_up_stalled(timestamp: int) -> None:
    """Jobs of a worker that was killed are tried again, or left to the one that waits to do the same."""
    manager = app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=WORKER_GONE_AFTER):
        try:
            await manager.retry_job(job)
        except UniqueViolation:
            await manager.finish_job(job, Status.FAILED, delete_job=True)
    await manager.prune_stalled_workers(WORKER_GONE_AFTER)


@tick("sweep", cron="*/10 * * * *")
def sweep(timestamp: int) -> None:
    """Sessions, tries, presences, invitations and pictures that nothing needs any more."""
    now = timezone.now()
    Session.objects.filter(expire_date__lt=now).delete()
    Sitting.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()
    Attempt.objects.filter(at__lt=now - WINDOW).delete()
    Presence.objects.filter(seen_at__lt=now - 4 * HERE_FOR).delete()
    Invitation.objects.filter(expires_at__lt=now - timedelta(days=30)).delete()
    # taking a photo away can be undone for a day; then it makes room
    Photo.objects.filter(withdrawn=True, kept=False, withdrawn_at__lt=now - A_DAY).delete()
    Recording.objects.filter(created_at__lt=now - A_DAY).exclude(id__in=Sound.objects.values("recording")).delete()
    Picture.objects.filter(created_at__lt=now - A_DAY).exclude(id__in=Photo.objects.values("picture")).delete()


@task(LISTEN, HEAVY)
def listen(sound: str) -> None:
    """Listen to a recording; what it tells is a fact of its job."""
    job_id = listen_to(UUID(sound))
    if job_id is not None:
        renew(job_id)


@task(RENEW_JOBS_OF, WORK)
def renew_jobs_of(machine: str | None, place: str | None) -> None:
    """Summaries of the jobs at a place or of a machine whose name, address or kind has changed."""
    jobs = (
        Job.objects.filter(machine=UUID(machine)) if machine else Job.objects.filter(machine__place=UUID(place or ""))
    )
    for job_id in jobs.order_by("shut", "-booked_for").values_list("id", flat=True).iterator():
        renew(job_id)


@task(SUM_UP, WORK)
def sum_up_counts(workshop: str) -> None:
    """What a workshop's jobs teach together; what lists say of its open jobs goes by it."""
    if sum_up(UUID(workshop)):
        for job_id in Job.objects.filter(workshop=UUID(workshop), shut=False).values_list("id", flat=True):
            renew(job_id)


@tick("renew_summaries", cron="* * * * * */20")
def renew_summaries(timestamp: int) -> None:
    """Summaries that were made of an earlier model or of other words, or by a release that knew none."""
    for job_id in stale():
        renew(job_id)
