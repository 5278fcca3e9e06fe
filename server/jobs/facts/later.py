"""What the worker is asked to do later, by name: who asks knows nothing of who does it."""

from uuid import UUID

from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from shared.queues import HEAVY, WORK

#: Listens to a recording.
LISTEN = "listen"
#: Brings what lists say of the jobs of a machine, or of a place, up to date.
RENEW_JOBS_OF = "renew_jobs_of"


def listen_later(sound_id: UUID) -> None:
    """Listen to a recording; by the worker."""
    app.configure_task(LISTEN, queue=HEAVY).defer(sound=str(sound_id))


def before_listening(sound_id: UUID) -> int | None:
    """How many recordings the worker listens to before it is this one's turn; None while it listens to it, or has."""
    asked = ProcrastinateJob.objects.filter(task_name=LISTEN)
    mine = asked.filter(args__sound=str(sound_id), status="todo").values_list("id", flat=True).first()
    return None if mine is None else asked.filter(id__lt=mine, status__in=("todo", "doing")).count()


def renew_later(*, machine: UUID | None = None, place: UUID | None = None) -> None:
    """Bring what lists say of the jobs of a machine, or of a place, up to date; by the worker."""
    app.configure_task(RENEW_JOBS_OF, queue=WORK).defer(
        machine=str(machine) if machine else None, place=str(place) if place else None
    )
