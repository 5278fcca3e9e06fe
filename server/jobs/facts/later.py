"""What the worker is asked to do later, by name: who asks knows nothing of who does it."""

from uuid import UUID

from procrastinate.contrib.django import app

#: Listens to a recording.
LISTEN = "listen"
#: Brings what lists say of the jobs of a machine, or of a place, up to date.
RENEW_JOBS_OF = "renew_jobs_of"


def listen_later(sound_id: UUID) -> None:
    """Listen to a recording; by the worker."""
    app.configure_task(LISTEN, queue="work").defer(sound=str(sound_id))


def renew_later(*, machine: UUID | None = None, place: UUID | None = None) -> None:
    """Bring what lists say of the jobs of a machine, or of a place, up to date; by the worker."""
    app.configure_task(RENEW_JOBS_OF, queue="work").defer(
        machine=str(machine) if machine else None, place=str(place) if place else None
    )
