"""A job as an answer: worked out once for each state of its facts and each way of seeing it, then given again.

The key holds everything an answer depends on, so that nothing has to be forgotten when something changes. What is kept
is kept in this process only: a verdict is derived, never stored.
"""

from __future__ import annotations

import json
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import cache
from threading import Lock
from typing import Any
from uuid import UUID

from django.db import transaction
from django.forms.models import model_to_dict
from django.http import HttpResponse
from pydantic import TypeAdapter

from jobs.answer import shown, summaries
from jobs.answer.learned import knows_of, lessons_as_of
from jobs.answer.taught import taught_as_of
from jobs.facts import reads
from jobs.facts.document import healthy_as_of
from jobs.models import Job, Summary
from machines.layouts import version_of
from people.may import Member
from shared.slots import working
from warmdraft.diagnosis import MODEL_VERSION
from warmdraft.words import words_version

#: What is kept, all answers together, bytes; most have about 60 kB, one with twenty logs has 5 MB.
MOST_BYTES = 24_000_000


class Kept:
    """Answers by their key; the longest unused go where together they are too large."""

    def __init__(self, most: int) -> None:
        self.most, self.bytes = most, 0
        self._answers: OrderedDict[str, bytes] = OrderedDict()
        self._lock = Lock()

    def get(self, key: str) -> bytes | None:
        """The answer of a key, if it is kept."""
        with self._lock:
            if key in self._answers:
                self._answers.move_to_end(key)
            return self._answers.get(key)

    def put(self, key: str, answer: bytes) -> None:
        """Keep an answer; one that alone would take a quarter of the room is not worth it."""
        if len(answer) > self.most // 4:
            return
        with self._lock:
            self.bytes += len(answer) - len(self._answers.pop(key, b""))
            self._answers[key] = answer
            while self.bytes > self.most:
                self.bytes -= len(self._answers.popitem(last=False)[1])


_kept = Kept(MOST_BYTES)


@dataclass
class _Many:
    """Many writes in one request: the jobs they changed; together: their answers are worked out once, at the end."""

    together: bool
    changed: dict[UUID, None] = field(default_factory=dict)


_many: ContextVar[_Many | None] = ContextVar("many", default=None)


def _key(who: Member, job: Job, people_as_of: int | None) -> str:
    machine = job.machine
    rows = [model_to_dict(machine), model_to_dict(machine.place)]
    seen_by = [who.workshop.speaks, who.person.id, who.person.habits, who.role, sorted(who.qualifications)]
    # a job that was deleted and came back from its file counts its versions anew
    known = [lessons_as_of(job.workshop_id, machine.layout), version_of(machine)] if machine.layout else []
    known.append(taught_as_of(job.workshop_id))
    parts: list[Any] = [job.id, job.created_at, job.version, job.shut, job.editions, rows, seen_by, MODEL_VERSION,
                        words_version(), people_as_of, known, healthy_as_of(job)]  # fmt: skip
    return json.dumps(parts, default=str, sort_keys=True)


@cache
def _adapter() -> TypeAdapter[shown.WorkshopJob]:
    return TypeAdapter(shown.WorkshopJob)


def _body(known: shown.Known, who: Member) -> bytes:
    # dataclasses of the very types that the schema is made of: nothing is checked again at every answer
    return _adapter().dump_json(shown.shown(known, who))


def _json(body: bytes) -> HttpResponse:
    return HttpResponse(body, content_type="application/json; charset=utf-8")


def job_answer(who: Member, job_id: UUID) -> HttpResponse:
    """The whole job with its verdict, as JobOut; 404 where it is not this workshop's."""
    key = _key(who, *reads.job_and_people_as_of(who, job_id))
    body = _kept.get(key)
    if body is None:
        job = reads.job_of(who, job_id)
        knows = knows_of(job)
        with working:
            body = _body(shown.known_of(job, knows, shown.words_of(who)), who)
        _kept.put(key, body)
    return _json(body)


def written(who: Member, job_id: UUID, act: Callable[[], object]) -> HttpResponse:
    """Do a write and give the job as it is with it. What cannot be shown is not kept: one transaction holds both."""
    many = _many.get()
    with transaction.atomic():
        act()
        if many is not None:
            many.changed[job_id] = None
            if many.together:
                return _json(b"null")
        return _json(_shown(who, job_id))


def _shown(who: Member, job_id: UUID) -> bytes:
    """A job's answer within the transaction that wrote to it; its summary goes along, where there is a new version."""
    job, people_as_of = reads.job_and_people_as_of(who, job_id)
    key = _key(who, job, people_as_of)
    summed = Summary.objects.filter(job=job_id).values_list("version", flat=True).first() == job.version
    body = _kept.get(key)
    if body is None or not summed:
        known = known_now(who, job_id)
        body = _body(known, who)
        if not summed:
            summaries.write(known, who.person)
        fresh = body
        transaction.on_commit(lambda: _kept.put(key, fresh))  # another write may yet get this version
    return body


def known_now(who: Member, job_id: UUID) -> shown.Known:
    """What is worked out of a job as its rows are now."""
    job = reads.job_of(who, job_id)
    return shown.known_of(job, knows_of(job), shown.words_of(who))


def write_summary(who: Member, job_id: UUID) -> None:
    """Write a job's summary after a write that answers with something else."""
    summaries.write(known_now(who, job_id), who.person)


def many_written(who: Member, acts: Sequence[Callable[[], Any]]) -> tuple[list[Any], list[bytes]]:
    """Do many writes: what each gave, and the answer of each job they changed, worked out once at the end.

    acts give what they answer, refusals included. Should a job not be showable afterwards, all is undone and each write
    is done by itself: then only the one that does it is not kept.
    """
    try:
        with transaction.atomic(), _counted(_Many(together=True)) as many:
            given = [act() for act in acts]
            return given, [_shown(who, job_id) for job_id in many.changed]
    except Exception:
        with _counted(_Many(together=False)) as many:
            given = [act() for act in acts]
        return given, [job_answer(who, job_id).content for job_id in many.changed]


@contextmanager
def _counted(many: _Many) -> Iterator[_Many]:
    token = _many.set(many)
    try:
        yield many
    finally:
        _many.reset(token)
