"""Housekeeping of the worker: what is over is swept away, and what a killed worker left is taken up again."""

from datetime import timedelta

from django.conf import settings
from django.contrib.sessions.models import Session
from django.utils import timezone
from procrastinate.contrib.django import app

from files.models import Picture
from jobs.live import HERE_FOR
from jobs.models import Photo, Presence
from people.door import WINDOW
from people.models import Attempt, Invitation, Sitting

#: A job whose worker has shown no sign of life for this long is somebody else's, s.
STALLED_AFTER = 6 * settings.HEARTBEAT


@app.periodic(cron="* * * * * */10")
@app.task(name="take_up_stalled", queue="work", queueing_lock="take_up_stalled")
async def take_up_stalled(timestamp: int) -> None:
    """Jobs of a worker that was killed are tried again."""
    manager = app.job_manager
    for job in await manager.get_stalled_jobs(seconds_since_heartbeat=STALLED_AFTER):
        await manager.retry_job(job)
    await manager.prune_stalled_workers(STALLED_AFTER)


@app.periodic(cron="*/10 * * * *")
@app.task(name="sweep", queue="work", queueing_lock="sweep")
def sweep(timestamp: int) -> None:
    """Sessions, tries, presences, invitations and pictures that nothing needs any more."""
    now = timezone.now()
    Session.objects.filter(expire_date__lt=now).delete()
    Sitting.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()
    Attempt.objects.filter(at__lt=now - WINDOW).delete()
    Presence.objects.filter(seen_at__lt=now - 4 * HERE_FOR).delete()
    Invitation.objects.filter(expires_at__lt=now - timedelta(days=30)).delete()
    Picture.objects.filter(created_at__lt=now - timedelta(days=1)).exclude(
        id__in=Photo.objects.values("picture")
    ).delete()
