"""Rows as the core reads them: a job as its `warm-draft/job` document, and the facts of that very document."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Any, TypeVar

from django.db.models import Count as CountOf
from django.db.models import Max, QuerySet

from jobs.models import (
    AddedStep,
    AnyObservation,
    Cause,
    Count,
    Dealing,
    Fact,
    Finding,
    Job,
    Log,
    Mark,
    MeterTest,
    Reading,
    Sound,
    WayChoice,
    Work,
)
from machines.layouts import base_document, known_choices, layout_of_machine, own_id
from machines.models import Machine
from warmdraft.checks import Taught
from warmdraft.jobfile import Job as CoreJob
from warmdraft.jobfile import read_job
from warmdraft.teardown import Layout, document_as_known, key_of, modern_step
from warmdraft.work import JobFacts

Json = dict[str, Any]
#: Who did something, as it stands in the document.
ByWhom = Callable[[Fact], str]
_Row = TypeVar("_Row", bound=Fact)
#: Readings of one earlier job that are looked at: nobody takes more after a repair.
MOST_READ_THEN = 50
#: Healthy machines of a kind that one is held beside: the latest.
MOST_HEALTHY = 20


def named_in_a_file(fact: Fact) -> str:
    """Who did it, as a file says: of what a file brought in, whom that file named."""
    return fact.by_name or fact.by.name


def machine_part(machine: Machine) -> Json:
    """The file's `machine` of a row."""
    part: Json = {"profile": machine.profile, "energy": machine.energy, "connection": machine.supply}
    if machine.layout:
        part["layout"] = machine.layout
    variant = known_choices(machine)
    if variant:
        part["variant"] = variant
    if machine.age_years is not None:
        part["age_years"] = machine.age_years
    return {**part, **machine.data_plate}


def measured_healthy(job: Job) -> list[Json]:
    """What this machine read after the work of the latest earlier job that was handed over; the core judges whether
    that shows it healthy."""
    earlier = list(
        Reading.objects.filter(
            workshop_id=job.workshop_id, job__machine_id=job.machine_id, job__shut=True, phase="after", withdrawn=False,
            job__booked_for__lt=job.booked_for,
        )
        .order_by("-job__booked_for", "job_id", "seq")
        .values("job_id", "id", "supersedes_id", "kind", "value", "unit", "heat_on", "instrument")[:MOST_READ_THEN]
    )  # fmt: skip
    rows: list[Json] = [{**row} for row in earlier if row["job_id"] == earlier[0]["job_id"]]
    replaced = {row["supersedes_id"] for row in rows}
    keys = ("kind", "value", "unit", "heat_on", "instrument")
    return [_said({key: row[key] for key in keys}) for row in rows if row["id"] not in replaced]


def _healthy_of_kind(job: Job) -> QuerySet[Sound]:
    return Sound.objects.filter(
        workshop_id=job.workshop_id, job__machine__profile=job.machine.profile, healthy=True, withdrawn=False,
        told__stands__isnull=False,
    ).exclude(job_id=job.id)  # fmt: skip


def healthy_as_of(job: Job) -> list[int | None]:
    """What tells that other healthy machines of the kind are known than before."""
    found = _healthy_of_kind(job).aggregate(latest=Max("seq"), number=CountOf("id"))
    return [found["latest"], found["number"]]


def sounds_healthy(job: Job) -> list[Json]:
    """How far each source of a noise stands out on healthy machines of the kind: as a file told of this one, and as the
    workshop recorded them for other jobs, the latest first."""
    told = _healthy_of_kind(job).order_by("-seq").values_list("told__stands", flat=True)[:MOST_HEALTHY]
    return [*job.machine.data_plate.get("sounds_healthy", []), *told][:MOST_HEALTHY]


def _fact(fact: Fact, by: ByWhom) -> Json:
    return {"id": str(fact.id), "at": fact.at.isoformat(), "by": by(fact)}


def _observation(fact: AnyObservation, by: ByWhom) -> Json:
    part: Json = _fact(fact, by) | {"phase": fact.phase, "heat_on": fact.heat_on}
    if fact.visit:
        part["visit"] = str(fact.visit)
    if fact.supersedes_id:
        part["supersedes"] = str(fact.supersedes_id)
    return part


def _said(part: Json) -> Json:
    """Without the keys that say nothing."""
    # a severity of 0 says something
    return {
        key: value for key, value in part.items() if value is not None and value is not False and value not in ("", [])
    }


def reading_part(reading: Reading, by: ByWhom = named_in_a_file) -> Json:
    """A reading as in a file."""
    own = {"instrument": reading.instrument, "x-typed": reading.typed}
    return {"kind": reading.kind, "value": reading.value, "unit": reading.unit} | _observation(reading, by) | _said(own)


def finding_part(finding: Finding, by: ByWhom = named_in_a_file) -> Json:
    """A finding as in a file."""
    own = {"check": finding.check_name, "result": finding.result}
    return own | _observation(finding, by) | _said({"x-why": finding.why})


def meter_part(test: MeterTest, by: ByWhom = named_in_a_file) -> Json:
    """A meter test as in a file."""
    return {"part": test.part, **test.test, **_observation(test, by), **_said({"x-typed": test.typed})}


def log_part(log: Log, by: ByWhom = named_in_a_file) -> Json:
    """A log as in a file."""
    part: Json = {"kind": log.kind, "unit": log.unit, "minutes": log.minutes, "values": log.values}
    return part | _observation(log, by) | _said({"instrument": log.instrument})


def sound_part(sound: Sound, by: ByWhom = named_in_a_file) -> Json:
    """What a recording told as in a file."""
    own = {"part": sound.part, "healthy": sound.healthy}
    return {**(sound.told or {}), **_observation(sound, by), **_said(own)}


def _work(row: Work, by: ByWhom) -> Json:
    return {"part": row.part, "act": row.act} | _fact(row, by) | _said({"why": row.why})


def _added(row: AddedStep, by: ByWhom) -> Json:
    return {"operation": row.operation} | _fact(row, by) | _said({"after": row.after})


def _mark(mark: Mark, by: ByWhom) -> Json:
    return {"step": mark.step, "state": mark.state} | _fact(mark, by) | _said({"why": mark.why})


def _count(row: Count, by: ByWhom) -> Json:
    # a process of 0.5 may go on for a while beside this one, and writes words where codes belong
    part = {"what": row.what, "key": key_of(row.what, row.key), "state": row.state, "count": row.count}
    return part | _fact(row, by) | _said({"step": modern_step(row.step), "note": row.note})


def _way(row: WayChoice, by: ByWhom) -> Json:
    also = {} if row.also is None else {"also": row.also}  # an empty list takes back what was taken along
    return also | {"avoid": row.avoid, "through": row.through} | _fact(row, by)


def _dealing(row: Dealing, by: ByWhom) -> Json:
    return {**row.document, **_fact(row, by)}


#: Where in a file each kind of dealing stands.
DEALT = {"old_part": "old_parts", "part": "parts", "agreement": "agreements", "lint": "lint"}


def _dealt(job: Job, by: ByWhom, withdrawn: bool) -> dict[str, list[Json]]:
    rows = [row for row in job.dealings.all() if row.withdrawn is withdrawn]
    return {key: _parts([row for row in rows if row.what == what], _dealing, by) for what, key in DEALT.items()}


def _cause(row: Cause, by: ByWhom) -> Json:
    own = {"severity": row.severity, "heat_unexplained": row.heat_unexplained}
    return {"kind": row.kind, "fault": row.fault} | _fact(row, by) | _said(own)


def _parts(rows: Iterable[_Row], part: Callable[[_Row, ByWhom], Json], by: ByWhom) -> list[Json]:
    return [part(row, by) for row in rows]


def _observed(job: Job, by: ByWhom, withdrawn: bool) -> dict[str, list[Json]]:
    """What was read, seen and heard: what stands, or what was taken back; a recording once it has told something."""

    def some(rows: Iterable[AnyObservation]) -> list[Any]:
        return [row for row in rows if row.withdrawn is withdrawn]

    return {
        "readings": _parts(some(job.readings.all()), reading_part, by),
        "findings": _parts(some(job.findings.all()), finding_part, by),
        "meter": _parts(some(job.metertests.all()), meter_part, by),
        "logs": _parts(some(job.logs.all()), log_part, by),
        "sounds": _parts([row for row in some(job.sounds.all()) if row.told is not None], sound_part, by),
    }


def _taken_back(job: Job, by: ByWhom) -> dict[str, list[Json]]:
    besides = {
        "works": _parts([row for row in job.works.all() if row.withdrawn], _work, by),
        "added": _parts([row for row in job.addedsteps.all() if row.withdrawn], _added, by),
    }
    dealt = _dealt(job, by, withdrawn=True)
    return {key: rows for key, rows in (_observed(job, by, withdrawn=True) | besides | dealt).items() if rows}


def job_document(job: Job, by: ByWhom = named_in_a_file) -> Json:
    """The job as `warm-draft/job`; what a workshop keeps beyond the format stands under x- keys.

    job: with all its facts. by: how who did something is written.
    """
    place = job.machine.place
    standing = _observed(job, by, withdrawn=False)
    optional: Json = {
        "meter": standing["meter"],
        "logs": standing["logs"],
        "sounds": standing["sounds"],
        "works": _parts([row for row in job.works.all() if not row.withdrawn], _work, by),
        "added": _parts([row for row in job.addedsteps.all() if not row.withdrawn], _added, by),
        "marks": _parts(job.marks.all(), _mark, by),
        "counts": _parts(job.counts.all(), _count, by),
        "ways": _parts(job.waychoices.all(), _way, by),
        "causes": _parts(job.causes.all(), _cause, by),
        **_dealt(job, by, withdrawn=False),
        "confirmed": _confirmed(job),
        "withdrawn": _taken_back(job, by),
        "handed_over": job.shut,
    }
    document: Json = {
        "format": "warm-draft/job",
        "version": 1,
        "title": job.title,
        "machine": machine_part(job.machine)
        | _said({"measured_healthy": measured_healthy(job), "sounds_healthy": sounds_healthy(job)}),
        "circumstances": job.circumstances,
        "complaints": job.complaints,
        "readings": standing["readings"],
        "findings": standing["findings"],
    }
    document |= {key: part for key, part in optional.items() if part} | job.carried
    document["x-job"] = {
        "id": str(job.id),
        "booked_for": job.booked_for.isoformat(),
        "said": job.said,
        "told": job.told,
        "machine": {"id": str(job.machine.id), "name": job.machine.name},
        "place": {"id": str(place.id), "name": place.name, "address": place.address, "contact": place.contact},
    }
    return document


def exported(job: Job, layout: Layout | None) -> Json:
    """The job as it leaves the house: with the way into its machine, where that is the workshop's own or learned."""
    machine = job.machine
    document = job_document(job)
    base = base_document(machine)
    if layout is None or base is None:
        return document
    if own_id(machine.layout) is None and layout == layout_of_machine(machine):
        return document
    return document | {"layout": document_as_known(base, layout)}


def _confirmed(job: Job) -> list[Json]:
    confirmed = [cause for cause in job.causes.all() if cause.kind == "confirmed"][-1:]
    return [{"fault": cause.fault} | _said({"severity": cause.severity}) for cause in confirmed]


def core_job(job: Job, by: ByWhom = named_in_a_file) -> CoreJob:
    """The job as the core reads it: the very document that the export gives."""
    return read_job(job_document(job, by))


@dataclass(frozen=True, slots=True)
class Knows:
    """What a workshop knows beside a job's own facts: the way into its machine, what its jobs made of our tables."""

    layout: Layout | None
    taught: Taught


def facts_of(job: Job, knows: Knows, by: ByWhom = named_in_a_file) -> JobFacts:
    """The facts of a job. knows: what its workshop knows beside them."""
    return replace(core_job(job, by).facts, layout=knows.layout, taught=knows.taught)
