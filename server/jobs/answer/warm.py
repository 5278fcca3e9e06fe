"""The first answer of a process is as quick as the second: what it takes is worked out before anybody asks."""

import logging
from uuid import UUID

from django.db import DatabaseError

from jobs.answer.learned import knows_of
from jobs.facts import reads
from jobs.facts.document import facts_of
from jobs.models import Job
from shared.slots import give_connection_back
from warmdraft.answers import job_answer
from warmdraft.words import words_for
from warmdraft.work import state_of

log = logging.getLogger("warm.ready")
#: Open jobs that are looked through for the kinds of machines in hand, and kinds made ready: each takes memory.
_LOOKED_THROUGH, _MOST_KINDS = 50, 3


def warm() -> None:
    """Work out one job of each kind of machine that is being worked on, the latest first; nothing of it is kept but
    what every job of that kind needs. A database that is not there yet is no trouble here: who asks will hear of it."""
    try:
        latest = Job.objects.filter(shut=False).order_by("-booked_for").values_list("id", "machine__profile")
        kinds: dict[str, UUID] = {}
        for job_id, profile in latest[:_LOOKED_THROUGH]:
            kinds.setdefault(profile, job_id)
        for job_id in list(kinds.values())[:_MOST_KINDS]:
            job = reads.whole_jobs().filter(id=job_id).first()
            if job is not None:
                job_answer(state_of(facts_of(job, knows_of(job))), words_for())
    except DatabaseError as error:
        log.info("nothing made ready: %s", error)
    finally:
        give_connection_back()
