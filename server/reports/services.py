"""Handing over: the record is frozen, once."""

import hashlib
import json
from datetime import datetime
from typing import Any
from uuid import UUID

from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404

from config.problems import Problem
from jobs import queries, view
from jobs.answer import known_now, write_summary
from jobs.happened import log
from jobs.learned import keep_lesson
from jobs.models import Job
from people.may import Member
from reports.models import Record
from warmdraft.diagnosis import MODEL_VERSION

#: What of a job's view the customer's paper shows.
_SHOWN = (
    "title", "complaints", "circumstances", "said", "booked_for", "place", "machine", "readings", "findings", "marks",
    "working_cause", "confirmed_cause", "safety", "open", "mend", "close", "proof",
)  # fmt: skip


def snapshot_of(job_view: dict[str, Any], workshop: str, technician: str) -> dict[str, Any]:
    """The facts and judgements a record keeps, as plain JSON."""
    verdict = job_view["verdict"]
    shown = {key: job_view[key] for key in _SHOWN}
    shown |= {
        "left": left_as_it_is(job_view),
        "headline": verdict["headline"],
        "faults": verdict["faults"][:3],
        "draft_line": verdict["draft_line"],
        "workshop": workshop,
        "technician": technician,
    }
    plain: dict[str, Any] = json.loads(json.dumps(shown, cls=DjangoJSONEncoder))
    return plain


def left_as_it_is(job_view: dict[str, Any]) -> dict[str, Any] | None:
    """What was opened and how it was closed: what is missing with its reason, and what has to be ordered for it."""
    bench = job_view["bench"]
    if bench is None or all(place["state"] == "waiting" for place in bench["compartments"]):
        return None
    gate = bench["gate"]
    came = sum(row["came"] for place in bench["compartments"] for row in place["fasteners"])
    names = ("accepted", "problems")
    return {"came": came, "orders": gate["orders"]} | {n: [row["text"] for row in gate[n]] for n in names}


def digest(snapshot: dict[str, Any]) -> str:
    """SHA-256 of the canonical JSON of a snapshot."""
    return hashlib.sha256(json.dumps(snapshot, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def hand_over(who: Member, job_id: UUID, record_id: UUID, note: str, at: datetime, override: str = "") -> Record:
    """Freeze the record. The same id again gives the same record; another one is a conflict.

    override: why a lead hands over without a confirmed cause, or past the gate; it stands on the record and in the log.
    """
    who.require("hand_over")
    with transaction.atomic():
        job = queries.locked(who, job_id)
        existing = Record.objects.filter(id=record_id).first()
        if existing is not None:
            if existing.workshop_id != who.workshop.id:
                raise Http404
            if existing.job_id == job.id and existing.note == note:
                return existing
        if job.shut or existing is not None:
            raise Problem(409, "handed_over", "This job is handed over already; its record stands as it is.")
        known = known_now(who, job_id)
        shown = view.job_json(known, who)
        if override:
            who.require("override")
        elif shown["confirmed_cause"] is None:
            raise Problem(409, "cause_not_confirmed", "Say first what it turned out to be, at Close; then hand over.")
        elif shown["bench"] is not None and shown["bench"]["gate"]["holds"]:
            first = shown["bench"]["gate"]["problems"][0]["text"]
            raise Problem(409, "not_closed", f"The machine is not closed yet: {first} Settle it at Close first.")
        snapshot = snapshot_of(shown, who.workshop.name, who.person.name)
        if override:
            snapshot["override"] = override
        edition = job.editions + 1
        record = Record.objects.create(
            id=record_id, workshop=who.workshop, job=job, by=who.person, at=at, note=note, snapshot=snapshot,
            sha256=digest(snapshot), model_version=MODEL_VERSION, edition=edition,
        )  # fmt: skip
        job.shut, job.editions = True, edition
        job.save(update_fields=["shut", "editions"])
        keep_lesson(known.job)
        log(
            who,
            job,
            "handed_over",
            at,
            after={"record": str(record_id), "sha256": record.sha256, "edition": edition}
            | ({"override": override} if override else {}),
        )
        write_summary(who, job_id)
    return record


def job_records(job: Job) -> QuerySet[Record]:
    """A job's records, the latest edition first."""
    return Record.objects.filter(job=job).select_related("by").order_by("-edition")
