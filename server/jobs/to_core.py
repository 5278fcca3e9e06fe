"""Between rows and the core: a job as a file, a case, and everything a screen shows of it."""

from dataclasses import replace
from functools import lru_cache
from typing import Any

from jobs.models import AnyObservation, Finding, Job, Log, MeterTest, Reading
from jobs.queries import InForce, cause_of, in_force, settled_steps
from machines.models import Machine
from people.habits import Habits
from people.may import Member
from warmdraft.diagnosis import Case, Verdict, diagnose, opened_one_shots
from warmdraft.jobfile import Job as CoreJob
from warmdraft.jobfile import read_job
from warmdraft.work import JobFacts, WorkPlan, safety_acts

Json = dict[str, Any]


def machine_part(machine: Machine) -> Json:
    """The file's `machine` of a row."""
    part: Json = {"profile": machine.profile, "energy": machine.energy}
    if machine.layout:
        part["layout"] = machine.layout
    if machine.age_years is not None:
        part["age_years"] = machine.age_years
    part |= machine.data_plate
    return part


def _common(fact: AnyObservation) -> Json:
    part: Json = {
        "id": str(fact.id),
        "phase": fact.phase,
        "heat_on": fact.heat_on,
        "at": fact.at.isoformat(),
        "by": fact.by_name or fact.by.name,
    }
    if fact.visit:
        part["visit"] = str(fact.visit)
    if fact.supersedes_id:
        part["supersedes"] = str(fact.supersedes_id)
    return part


def reading_part(reading: Reading) -> Json:
    """A reading as in a file."""
    part = {"kind": reading.kind, "value": reading.value, "unit": reading.unit} | _common(reading)
    if reading.instrument:
        part["instrument"] = reading.instrument
    if reading.typed:
        part["x-typed"] = reading.typed
    return part


def finding_part(finding: Finding) -> Json:
    """A finding as in a file."""
    part = {"check": finding.check_name, "result": finding.result} | _common(finding)
    if finding.why:
        part["x-why"] = finding.why
    return part


def meter_part(test: MeterTest) -> Json:
    """A meter test as in a file."""
    part: Json = {"part": test.part} | test.test | _common(test)
    if test.typed:
        part["x-typed"] = test.typed
    return part


def log_part(log: Log) -> Json:
    """A log as in a file."""
    part = {"kind": log.kind, "unit": log.unit, "minutes": log.minutes, "values": log.values} | _common(log)
    if log.instrument:
        part["instrument"] = log.instrument
    return part


def _kept(facts: list[Any]) -> list[Any]:
    """What a file holds: all but the withdrawn; a chain of replacements stays whole."""
    return [fact for fact in facts if not fact.withdrawn]


def job_document(job: Job) -> Json:
    """The job as `warm-draft/job`; what a workshop keeps beyond the format stands under x- keys."""
    place = job.machine.place
    document: Json = {
        "format": "warm-draft/job",
        "version": 1,
        "title": job.title,
        "machine": machine_part(job.machine),
        "circumstances": job.circumstances,
        "complaints": job.complaints,
        "readings": [reading_part(reading) for reading in _kept(list(job.readings.all()))],
        "findings": [finding_part(finding) for finding in _kept(list(job.findings.all()))],
    }
    meter, logs = _kept(list(job.metertests.all())), _kept(list(job.logs.all()))
    if meter:
        document["meter"] = [meter_part(test) for test in meter]
    if logs:
        document["logs"] = [log_part(log) for log in logs]
    confirmed = cause_of(job, "confirmed")
    if confirmed:
        document["confirmed"] = [
            {"fault": confirmed.fault} | ({} if confirmed.severity is None else {"severity": confirmed.severity})
        ]
    document |= job.given
    document["x-job"] = {
        "id": str(job.id),
        "booked_for": job.booked_for.isoformat(),
        "said": job.said,
        "told": job.told,
        "machine": {
            "id": str(job.machine.id),
            "name": job.machine.name,
            "supply": job.machine.supply,
            "variant": job.machine.variant or {},
        },
        "place": {"id": str(place.id), "name": place.name, "address": place.address, "contact": place.contact},
        "marks": [
            {"id": str(m.id), "step": m.step, "state": m.state, "why": m.why, "at": m.at.isoformat()}
            for m in job.marks.all()
        ],
        "causes": [
            {
                "id": str(c.id),
                "kind": c.kind,
                "fault": c.fault,
                "severity": c.severity,
                "at": c.at.isoformat(),
                "heat_unexplained": c.heat_unexplained,
            }
            for c in job.causes.all()
        ],
        "counts": [
            {
                "id": str(c.id),
                "step": c.step,
                "what": c.what,
                "key": c.key,
                "state": c.state,
                "count": c.count,
                "note": c.note,
                "at": c.at.isoformat(),
            }
            for c in job.counts.all()
        ],
        "ways": [
            {"id": str(w.id), "also": w.also, "avoid": w.avoid, "through": w.through, "at": w.at.isoformat()}
            for w in job.waychoices.all()
        ],
    }
    return document


def core_job(job: Job) -> CoreJob:
    """The job as the core reads it: the very document that the export gives."""
    return read_job(job_document(job))


def case_of(job: Job, phase: str) -> Case:
    """The facts in force of a phase."""
    return core_job(job).case(phase)


def case_for(core: CoreJob, phase: str, who: Member) -> Case:
    """The same, as this person can go on with it: with what they carry, and what they are qualified for."""
    carries = Habits(**who.person.habits).carries
    return replace(core.case(phase), carries=None if carries is None else frozenset(carries),
                   qualified=who.qualifications)  # fmt: skip


@lru_cache(maxsize=256)
def cached_verdict(case: Case) -> Verdict:
    """A verdict is derived, never stored; equal facts need not be weighed twice."""
    return diagnose(case)


def supposed_of(case: Case, verdict: Verdict) -> tuple[tuple[str, float | None], ...] | None:
    """The likeliest story as supposed faults, with the middle of their severities; None while nothing is known."""
    if not (case.readings or case.findings):
        return None
    pair = verdict.pairs[0][0] if verdict.pair_share > 0.5 else None
    if pair is not None:
        return tuple((fault, None) for fault in pair)
    first = verdict.faults[0]
    return ((first.fault, first.severity[1] if first.severity else None),)


def job_facts(job: Job, case: Case, verdict: Verdict, plan: WorkPlan | None, gate_shut: bool) -> JobFacts:
    """What the core's stages are judged by."""
    force: InForce = in_force(job)
    working, confirmed = cause_of(job, "working"), cause_of(job, "confirmed")
    steps = {"make_safe": tuple(s.id for s in safety_acts(job.machine.supply, job.machine.energy))}
    if plan:
        for stage in ("open", "mend", "close"):
            steps[stage] = tuple(step.id for step in getattr(plan, stage))
    return JobFacts(
        complaints=tuple(job.complaints),
        steps=steps,
        settled=frozenset(settled_steps(job)),
        facts_before=force.count("before"),
        facts_after=force.count("after"),
        working_cause=working.fault if working else None,
        confirmed_cause=confirmed.fault if confirmed else None,
        handed_over=job.shut,
        verdict=verdict,
        one_shot_opened=bool(opened_one_shots(case)),
        gate_shut=gate_shut,
    )
