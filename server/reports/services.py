"""Handing over: the record is frozen, once."""

import hashlib
import json
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from django.utils import timezone
from pydantic_core import from_json, to_json

from jobs.answer import shown, summaries
from jobs.answer.kept import known_now
from jobs.answer.learned import keep_lesson, keep_way
from jobs.answer.shown import PhotoAnswer, WorkshopJob
from jobs.answer.taught import keep_found
from jobs.facts import reads
from jobs.facts.timeline import record_happening
from jobs.models import Job, Photo
from machines.models import Place
from people.habits import Habits
from people.may import Member
from reports.links import set_link
from reports.models import Record
from reports.paper import Size, papers_of
from reports.tasks import ask_for_print
from shared.problems import ApiError
from upkeep.models import Visit
from upkeep.services import keep_visit, visit_of
from warmdraft.answers import BenchAnswer
from warmdraft.diagnosis import MODEL_VERSION
from warmdraft.paper import About, language_for
from warmdraft.units import Dimension
from warmdraft.words import Words
from warmdraft.work import JobState, state_of

#: What of a job the customer's paper shows.
_SHOWN = (
    "title", "complaints", "circumstances", "said", "booked_for", "place", "machine", "readings", "findings", "marks",
    "working_cause", "confirmed_cause", "safety", "open", "mend", "close", "proof", "dealt",
)  # fmt: skip


@dataclass(frozen=True)
class HandedOver:
    """What is said when a job is handed over. note: for the customer until the next visit; override: why a lead hands
    it over as it is; language, size: of the customer's paper; name, signature: whoever took the machine back, and the
    path they drew; link: whether the record can be read on the web."""

    note: str = ""
    override: str = ""
    language: str = ""
    size: Size = "A4"
    name: str = ""
    signature: str = ""
    link: bool = False


def snapshot_of(state: JobState, visit: Visit, job: WorkshopJob, who: Member, said: HandedOver) -> dict[str, Any]:
    """The facts, judgements and words a record keeps, as plain JSON. visit: what it says of its machine; who: whoever
    hands over."""
    verdict = job.verdict
    kept = {key: getattr(job, key) for key in _SHOWN} | {
        "left": left_as_it_is(job.bench),
        "works": [line for line in job.works.lines if line.wanted or line.became != "open"],
        "headline": verdict.headline,
        "faults": verdict.faults[:3],
        "draft_line": verdict.draft_line,
        "words": words_used(job, shown.words_of(who)),
        "workshop": who.workshop.name,
        "technician": who.person.name,
    }
    plain: dict[str, Any] = from_json(to_json(kept | {"photos": photos_chosen(job)}))
    about = _about(job, state, who, said, visit.day)
    plain["papers"] = from_json(to_json(papers_of(state, about, visit, who, _units(who))))
    if said.signature:
        plain["signature"] = {"name": said.name, "path": said.signature}
    if said.override:
        plain["override"] = said.override
    return plain


def _units(who: Member) -> dict[Dimension, str]:
    return dict(Habits(**who.person.habits).units())


def _about(job: WorkshopJob, state: JobState, who: Member, said: HandedOver, day: date) -> About:
    """What of the paper is no fact of the job."""
    taken = sum(state.bench.taken.values()) if state.bench else 0.0
    dealt, left = job.dealt, left_as_it_is(job.bench)
    return About(
        workshop=who.workshop.name,
        technician=who.person.name,
        place=(job.place.name, job.place.address),
        machine=", ".join(part for part in (job.machine.name, job.machine.profile_title) if part),
        day=day,
        said=job.said,
        note=said.note,
        override=said.override,
        minutes=taken or None,
        found=tuple(row.objects for row in dealt.lint if row.objects),
        fitted=tuple((row.part, row.number, row.count) for row in dealt.fitted),
        left=tuple(left["accepted"] + left["problems"]) if left else (),
    )


def photos_chosen(job: WorkshopJob) -> list[dict[str, Any]]:
    """The photos that the record shows, with what they are of and their marked wires in words."""
    places = {place.step: place for place in (job.bench.compartments if job.bench else [])}
    steps = {step.id: step.does for steps in (job.safety, job.open, job.mend, job.close) for step in steps}

    def told(photo: PhotoAnswer) -> dict[str, Any]:
        place = places.get(photo.step)
        named = {wire.key: f"{wire.device}, {wire.terminal}, {wire.colour}" for wire in (place.wires if place else [])}
        of = place.title if place else steps.get(photo.step, "")
        wires = [{"x": mark.x, "y": mark.y, "text": named.get(mark.key, mark.key)} for mark in photo.wires]
        return {"url": photo.url, "width": photo.width, "height": photo.height, "of": of, "by": photo.by,
                "at": photo.at, "wires": wires}  # fmt: skip

    return [told(photo) for photo in job.photos if photo.on_record]


def words_used(job: WorkshopJob, words: Words) -> dict[str, dict[str, str]]:
    """The words of the codes that a record shows, as they are today: it keeps them whatever they become."""
    kinds = dict.fromkeys([row.kind for row in job.readings] + [row.kind for row in job.proof.rows])
    return {
        "complaint": {code: words.complaint(code) for code in job.complaints},
        "circumstance": {code: words.circumstance(code) for code in job.circumstances},
        "reading": {kind: words.reading(kind) for kind in kinds},
        "check": {row.check: words.check(row.check) for row in job.findings},
        "result": {f"{row.check}.{row.result}": words.result(row.check, row.result) for row in job.findings},
    }


def left_as_it_is(bench: BenchAnswer | None) -> dict[str, Any] | None:
    """What was opened and how it was closed: what is missing with its reason, and what has to be ordered for it."""
    if bench is None or all(place.state == "waiting" for place in bench.compartments):
        return None
    gate = bench.gate
    return {
        "came": sum(row.came for place in bench.compartments for row in place.fasteners),
        "orders": gate.orders,
        "accepted": [row.text for row in gate.accepted],
        "problems": [row.text for row in gate.discrepancies],
    }


def digest(snapshot: dict[str, Any]) -> str:
    """SHA-256 of the canonical JSON of a snapshot."""
    return hashlib.sha256(json.dumps(snapshot, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


def as_it_would_stand(who: Member, job_id: UUID) -> Record:
    """The next edition of a job's record, not kept."""
    known = known_now(who, job_id)
    place = known.job.machine.place
    # as the place had the last one, else as the workshop speaks
    said = HandedOver(language=language_for(place.language, who.workshop.speaks))
    state = state_of(known.facts)
    visit = visit_of(known.job, state, who.workshop.today, who.person.id)
    snapshot = snapshot_of(state, visit, shown.shown(known, who), who, said)
    now = timezone.now()
    return Record(
        workshop=who.workshop, job=known.job, by=who.person, at=now, frozen_at=now, language=said.language,
        snapshot=snapshot, sha256=digest(snapshot), model_version=MODEL_VERSION, edition=known.job.editions + 1,
    )  # fmt: skip


def hand_over(who: Member, job_id: UUID, record_id: UUID, said: HandedOver, at: datetime) -> Record:
    """Freeze the record. The same id again gives the same record; another one is a conflict. What it says of the
    machine is a visit from then on, and the worker prints it.
    """
    note, override = said.note, said.override
    who.require("hand_over")
    with transaction.atomic():
        job = reads.locked(who, job_id)
        existing = Record.objects.filter(id=record_id).first()
        if existing is not None:
            if existing.workshop_id != who.workshop.id:
                raise Http404
            if existing.job_id == job.id and existing.note == note:
                return existing
        if job.shut or existing is not None:
            raise ApiError(409, "handed_over", "This job is handed over already; its record stands as it is.")
        known = known_now(who, job_id)
        job_now = shown.shown(known, who)
        if override:
            who.require("override")
        elif job_now.wants_cause and job_now.confirmed_cause is None:
            raise ApiError(409, "cause_not_confirmed", "Say first what it turned out to be, at Close; then hand over.")
        elif job_now.bench is not None and job_now.bench.gate.holds:
            first = job_now.bench.gate.discrepancies[0].text
            raise ApiError(409, "not_closed", f"The machine is not closed yet: {first} Settle it at Close first.")
        elif job_now.proof.holds:
            raise ApiError(409, "not_proven", f"{job_now.proof.text} {job_now.proof.advice}")
        language = language_for(said.language, known.job.machine.place.language, who.workshop.speaks)
        state = state_of(known.facts)
        visit = visit_of(known.job, state, who.workshop.day_of(at), who.person.id)
        snapshot = snapshot_of(state, visit, job_now, who, said)
        edition = job.editions + 1
        record = Record.objects.create(
            id=record_id, workshop=who.workshop, job=job, by=who.person, at=at, note=note, snapshot=snapshot,
            sha256=digest(snapshot), model_version=MODEL_VERSION, edition=edition, language=language, size=said.size,
        )  # fmt: skip
        Photo.objects.filter(id__in=[photo.id for photo in job_now.photos if photo.on_record]).update(kept=True)
        job.shut, job.editions = True, edition
        job.save(update_fields=["shut", "editions"])
        keep_visit(visit)
        if said.link:
            set_link(who, job.id, on=True)
        Place.objects.filter(pk=known.job.machine.place_id).update(language=language)
        keep_way(known.job, state)
        keep_lesson(known.job, known.facts)
        keep_found(known.job, state, at)
        ask_for_print(record, language, said.size)
        record_happening(
            who,
            job,
            "handed_over",
            at,
            after={"record": str(record_id), "sha256": record.sha256, "edition": edition}
            | ({"override": override} if override else {}),
        )
        handed_over = replace(known.facts, handed_over=True)
        summaries.write(shown.Known(job, handed_over), who.person)
    return record


def job_records(job: Job) -> QuerySet[Record]:
    """A job's records, the latest edition first."""
    return Record.objects.filter(job=job).select_related("by").order_by("-edition")
