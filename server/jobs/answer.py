"""A job as an answer: worked out once for each state of its facts and each way of seeing it, then given again.

The key holds everything an answer depends on, so that nothing has to be forgotten when something changes. What is kept
is kept in this process only: a verdict is derived, never stored.
"""

from __future__ import annotations

import json
from collections import OrderedDict
from threading import Lock
from typing import Any
from uuid import UUID

from django.forms.models import model_to_dict
from django.http import HttpResponse
from pydantic_core import to_json

from jobs import queries, view
from jobs.learned import records_as_of
from jobs.models import Job
from machines.layouts import version_of
from people.may import Member
from warmdraft.diagnosis import MODEL_VERSION

_KEPT = 256  # answers, about 60 kB each
_answers: OrderedDict[str, bytes] = OrderedDict()
_lock = Lock()


def _key(who: Member, job: Job, people_as_of: int | None) -> str:
    machine = job.machine
    rows = [model_to_dict(machine), model_to_dict(machine.place)]
    seen_by = [who.person.id, who.person.habits, who.role, sorted(who.qualifications)]
    # a job that was deleted and came back from its file counts its versions anew
    known = [records_as_of(job.workshop_id), version_of(machine)] if machine.layout else []
    parts: list[Any] = [job.id, job.created_at, job.version, hasattr(job, "record"), rows, seen_by, MODEL_VERSION,
                        people_as_of, known]  # fmt: skip
    return json.dumps(parts, default=str, sort_keys=True)


def job_answer(who: Member, job_id: UUID) -> HttpResponse:
    """The whole job with its verdict, as JobOut; 404 where it is not this workshop's."""
    key = _key(who, *queries.job_and_people_as_of(who, job_id))
    with _lock:
        known = _answers.get(key)
        if known is not None:
            _answers.move_to_end(key)
    if known is None:
        # its numbers are the core's own: checked against the schema by the tests, not again at every answer
        known = to_json(view.job_json(queries.job_of(who, job_id), who), inf_nan_mode="null")
        with _lock:
            _answers[key] = known
            while len(_answers) > _KEPT:
                _answers.popitem(last=False)
    return HttpResponse(known, content_type="application/json; charset=utf-8")
