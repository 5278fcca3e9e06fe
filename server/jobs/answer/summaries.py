"""What lists say of a job: written with each write, brought up to date by the worker, never worked out for a list."""

import logging
from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.db import connection, transaction
from django.db.models import Q

from jobs.answer import shown
from jobs.answer.learned import knows_of
from jobs.facts import reads
from jobs.models import Job, Summary
from people.models import Person
from warmdraft.diagnosis import MODEL_VERSION
from warmdraft.words import words_for, words_in, words_version

log = logging.getLogger("warm.summaries")

#: Shorter words are found by their beginning alone, and liken themselves to too much.
_LEAST_LETTERS, _MOST_LETTERS = 4, 40
#: Characters of a job's texts that are searched.
_MOST_TEXT = 6_000

_WRITE = """
INSERT INTO jobs_summary (job_id, workshop_id, version, booked_for, stage, stage_number, next, headline, trouble,
                          last_by_id, made_of, search)
VALUES (%(job)s, %(workshop)s, %(version)s, %(booked_for)s, %(stage)s, %(stage_number)s, %(next)s, %(headline)s,
        %(trouble)s, %(last_by)s, %(made_of)s, to_tsvector('english', %(text)s) || to_tsvector('simple', %(text)s))
ON CONFLICT (job_id) DO UPDATE SET version = EXCLUDED.version, booked_for = EXCLUDED.booked_for,
    stage = EXCLUDED.stage,
    stage_number = EXCLUDED.stage_number, next = EXCLUDED.next, headline = EXCLUDED.headline,
    trouble = EXCLUDED.trouble, last_by_id = EXCLUDED.last_by_id, made_of = EXCLUDED.made_of, search = EXCLUDED.search
WHERE jobs_summary.version <= EXCLUDED.version
"""
_WORDS = """
INSERT INTO jobs_word (workshop_id, word) SELECT %(workshop)s, unnest(%(words)s::text[]) ON CONFLICT DO NOTHING
"""


def made_of() -> str:
    """The model and the words that summaries are worked out with now."""
    return f"{MODEL_VERSION} {words_version()}"


def _text_of(job: Job, said: dict[str, Any]) -> str:
    """All that a job is found by."""
    place, machine = job.machine.place, job.machine
    words = words_for(job.workshop.speaks)
    complaints = " ".join(words.complaint(name) for name in job.complaints)
    parts = (place.name, place.address, place.contact, machine.name or words.profile(machine.profile),
             job.title, complaints, said["headline"], said["next"], job.said)  # fmt: skip
    return " \n".join(parts)[:_MOST_TEXT]


def _put(job: Job, last_by: UUID, said: dict[str, Any], trouble: str = "") -> None:
    text = _text_of(job, said)
    known = [word for word in words_in(text) if _LEAST_LETTERS <= len(word) <= _MOST_LETTERS and word.isalpha()]
    row = said | {"job": job.id, "workshop": job.workshop_id, "version": job.version, "booked_for": job.booked_for,
                  "last_by": last_by, "made_of": made_of(), "text": text, "trouble": trouble}  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute(_WRITE, row)
        cursor.execute(_WORDS, {"workshop": job.workshop_id, "words": sorted(known)})


def write(known: shown.Known, by: Person) -> None:
    """Write the summary of a job that was just changed, in the transaction that changed it."""
    _put(known.job, by.id, asdict(shown.summed_up(known)))


def renew(job_id: UUID) -> None:
    """Work a job's summary out anew; one that cannot be shown says so, and hurts no list."""
    job = reads.whole_jobs().filter(id=job_id).first()
    if job is None:
        return
    latest = job.happenings.order_by("-id").values_list("by_id", flat=True).first()
    last_by = latest or job.created_by_id
    try:
        with transaction.atomic():
            _put(
                job,
                last_by,
                asdict(shown.summed_up(shown.known_of(job, knows_of(job), words_for(job.workshop.speaks)))),
            )
    except Exception:
        log.exception("a job cannot be shown", extra={"route": "summary"})
        nothing = {"stage": "complaint", "stage_number": 1, "next": "", "headline": ""}
        _put(job, last_by, nothing, trouble="This job cannot be shown; tell who runs the server.")


def stale() -> list[UUID]:
    """Jobs whose summary was made of another model or other words, or never; what is open first."""
    now = made_of()
    made = Summary.objects.filter(Q(made_of__lt=now) | Q(made_of__gt=now))  # an index knows no "other than"
    some = list(made.order_by("job__shut", "job_id").values_list("job_id", flat=True)[:MOST_AT_ONCE])
    missing = Job.objects.filter(summary=None).order_by("shut", "id").values_list("id", flat=True)
    return some or list(missing[:MOST_AT_ONCE])


#: Summaries brought up to date by one job of the worker.
MOST_AT_ONCE = 200
