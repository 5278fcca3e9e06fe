"""Two people on one job: what changed is told to all who look at it, through PostgreSQL and so to every process.

A stream (server-sent events) costs a thread while it is open and no database connection. There are only so many a
process; whoever comes later is told so and asks every two seconds instead, which gives the same answers.
"""

from __future__ import annotations

import contextlib
import json
import queue
import threading
import time
from collections import defaultdict
from collections.abc import Iterator
from datetime import timedelta
from uuid import UUID

import psycopg
from django.dispatch import receiver
from django.utils import timezone

from jobs.facts.timeline import CHANNEL, tell
from jobs.models import Job, Presence
from people.may import Member
from people.models import Person
from people.signals import sittings_ended
from people.signed_in import still_in
from shared.database import connection_parts
from shared.slots import give_connection_back

#: Streams a process holds open at most.
MOST_STREAMS = 24
#: Streams a person holds open at most: a phone, a laptop, and one that is just being opened anew.
MOST_OF_A_PERSON = 3
#: A stream ends by itself after this many seconds and the browser opens it anew: no thread is held for ever.
LIFETIME = 55.0
#: Seconds between two signs of life, and how long someone counts as here after the last.
SIGN_OF_LIFE = 10.0
HERE_FOR = timedelta(seconds=25)
#: In place of a version: the stream is to end.
_END = -1


class _Ears:
    """One thread a process that hears the database, and hands on to the streams of a job."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.streams: defaultdict[str, set[queue.SimpleQueue[int]]] = defaultdict(set)
        self.open = 0
        self.of_person: defaultdict[str, set[queue.SimpleQueue[int]]] = defaultdict(set)
        self.thread: threading.Thread | None = None
        self.stopping = threading.Event()

    def join(self, job_id: UUID, person: UUID) -> queue.SimpleQueue[int] | None:
        """A queue of versions to come; None where no further stream can be held."""
        with self.lock:
            theirs = self.of_person[str(person)]
            if self.open >= MOST_STREAMS or len(theirs) >= MOST_OF_A_PERSON or self.stopping.is_set():
                return None
            self.open += 1
            mine: queue.SimpleQueue[int] = queue.SimpleQueue()
            theirs.add(mine)
            self.streams[str(job_id)].add(mine)
            if self.thread is None or not self.thread.is_alive():
                self.thread = threading.Thread(target=self._listen, name="live", daemon=True)
                self.thread.start()
            return mine

    def leave(self, job_id: UUID, person: UUID, mine: queue.SimpleQueue[int]) -> None:
        with self.lock:
            self.open -= 1
            self.of_person[str(person)].discard(mine)
            if not self.of_person[str(person)]:
                del self.of_person[str(person)]
            self.streams[str(job_id)].discard(mine)
            if not self.streams[str(job_id)]:
                del self.streams[str(job_id)]

    def end_streams(self) -> None:
        """End all streams there are, soon."""
        self._tell_all(_END)

    def stop(self) -> None:
        """End all streams, and take no more: the process is about to stop."""
        self.stopping.set()
        self.end_streams()
        if self.thread is not None:
            self.thread.join(timeout=2.0)

    def _tell_all(self, version: int) -> None:
        with self.lock:
            for streams in self.streams.values():
                for stream in streams:
                    stream.put(version)

    def _listen(self) -> None:
        while not self.stopping.is_set():
            try:
                with psycopg.connect(**connection_parts(), autocommit=True) as ears:
                    ears.execute(f"LISTEN {CHANNEL}")
                    self._tell_all(0)  # something may have been missed meanwhile
                    while not self.stopping.is_set():
                        for heard in ears.notifies(timeout=0.5):
                            about, version = heard.payload.split()
                            with self.lock:
                                for stream in (*self.streams.get(about, ()), *self.of_person.get(about, ())):
                                    stream.put(int(version))
            except psycopg.Error:
                time.sleep(1.0)


ears = _Ears()


@receiver(sittings_ended)
def _on_sittings_ended(person: Person, **_: object) -> None:
    """The streams of who signed out, or was signed out, look at once whether they are still to be."""
    tell(person.pk)


def here(who: Member, job_id: UUID) -> list[str]:
    """Say that this person is at the job; the names of the others who are."""
    now = timezone.now()
    seen = Presence.objects.filter(job_id=job_id, person=who.person, device=who.device)
    if not seen.update(seen_at=now):
        Presence.objects.create(job_id=job_id, person=who.person, device=who.device, seen_at=now)
        tell(job_id)
    others = Presence.objects.filter(job_id=job_id, seen_at__gt=now - HERE_FOR).exclude(person=who.person)
    return sorted({presence.person.name for presence in others.select_related("person")})


def _gone(who: Member, job_id: UUID) -> None:
    """This person has left the job; what a killed process leaves the sweep takes."""
    Presence.objects.filter(job_id=job_id, person=who.person, device=who.device).delete()
    tell(job_id)


def _event(version: int, others: list[str]) -> str:
    return f"data: {json.dumps({'version': version, 'here': others})}\n\n"


def stream(who: Member, job_id: UUID, sitting: str, changes: queue.SimpleQueue[int]) -> Iterator[str]:
    """The events of one stream: the version, and who else is here; again at each change and sign of life.

    sitting: the session it was opened in; the stream ends with it, and with the membership.
    """
    ends = time.monotonic() + LIFETIME
    try:
        yield "retry: 1000\n\n"
        while True:
            version = Job.objects.filter(id=job_id).values_list("version", flat=True).first()
            if version is None or not still_in(who, sitting):
                return  # the job is gone, or who asked
            yield _event(version, here(who, job_id))
            give_connection_back()  # waiting needs none
            heard = {0}
            with contextlib.suppress(queue.Empty):
                heard.add(changes.get(timeout=SIGN_OF_LIFE))
                while True:  # a burst is one event
                    heard.add(changes.get_nowait())
            if _END in heard or time.monotonic() > ends:
                return
    finally:
        ears.leave(job_id, who.person.id, changes)
        _gone(who, job_id)
        give_connection_back()
