"""A job as a screen shows it, in the person's units."""

from dataclasses import dataclass
from typing import Any, Literal

from jobs import to_core
from jobs.bench_view import bench_json, plan_of
from jobs.models import AnyObservation, Fact, Finding, Job, Log, Mark, MeterTest, Photo, Reading
from jobs.queries import cause_of, in_force, settled_steps
from people.habits import Habits
from people.may import Member
from warmdraft.checks import reading_dimensions
from warmdraft.diagnosis import Case, Verdict, opened_one_shots
from warmdraft.faults import complaint_stop
from warmdraft.jobfile import Job as CoreJob
from warmdraft.jobfile.answers import verdict_answer
from warmdraft.jobfile.other_answers import meter_verdict_answer, run_answer, run_verdict
from warmdraft.jobfile.schema import LogPart, MeterFactPart
from warmdraft.machine import profile_titles
from warmdraft.meter import judge, suspect_circuit
from warmdraft.proof import Comparison, Proof, proof
from warmdraft.teardown import Layout
from warmdraft.trend import LOG_KINDS, trend_of
from warmdraft.units import UNITS, to_si
from warmdraft.words import English, from_file_words, headline
from warmdraft.work import STAGES, JobFacts, NextStep, Step, WorkPlan, next_step, safety_acts, stage_states

Json = dict[str, Any]

_NEXT_WORDS = {
    "handed_over": "Show the record",
    "say_complaint": "Say what is wrong",
    "stop": "Stop: read this first",
    "make_safe": "Make it safe",
    "do_step": "Next step",
    "gate": "See what is left over",
    "confirm_cause": "Say what it was",
    "measure_after": "Measure again",
    "hand_over": "Hand over",
}


def english_of(who: Member) -> English:
    """The renderer in this person's units."""
    return English(Habits(**who.person.habits).units())


def next_words(step: NextStep, english: English) -> str:
    """What stands on the one button."""
    match step.code:
        case "check":
            return english.check(step.subject or "")
        case "measure_again":
            return f"Take it again: {english.word('reading', step.subject or '')}"
        case "choose_cause":
            return f"Go with: {english.fault(step.subject or '').lower()}"
        case _:
            return _NEXT_WORDS[step.code]


def _observation(fact: AnyObservation, speaks: set[Any]) -> Json:
    return {
        "id": fact.id,
        "phase": fact.phase,
        "heat_on": fact.heat_on,
        "supersedes": fact.supersedes_id,
        "withdrawn": fact.withdrawn,
        "in_force": fact.id in speaks,
        "by": _by(fact),
        "at": fact.at,
    }


def _by(fact: Fact) -> str:
    """Who did it; of what a file brought in: who the file says, and who brought it."""
    if not fact.from_file:
        return fact.by.name
    return from_file_words(getattr(fact, "by_name", ""), fact.by.name)


def _reading(reading: Reading, speaks: set[Any]) -> Json:
    dimension = reading_dimensions()[reading.kind]
    canonical = {
        "value": to_si(reading.value, reading.unit, dimension),
        "unit": UNITS[dimension].canonical,
    }
    return _observation(reading, speaks) | {
        "kind": reading.kind,
        "typed": reading.typed or f"{reading.value:g}",
        "value": reading.value,
        "unit": reading.unit,
        "canonical": canonical,
        "instrument": reading.instrument,
    }


def _finding(finding: Finding, speaks: set[Any]) -> Json:
    own = {"check": finding.check_name, "result": finding.result, "why": finding.why}
    return _observation(finding, speaks) | own


def _meter(test: MeterTest, speaks: set[Any], core: CoreJob, english: English) -> Json:
    part = MeterFactPart.model_validate(to_core.meter_part(test))
    return _observation(test, speaks) | {
        "part": test.part,
        "typed": test.typed,
        "instrument": part.instrument,
        "isolated": part.isolated,
        "part_hot": bool(part.part_hot),
        "between": part.between,
        "verdict": meter_verdict_answer(judge(part.test(), core.supply), english),
    }


def _log(log: Log, speaks: set[Any], english: English) -> Json:
    part = LogPart.model_validate(to_core.log_part(log))
    trend = trend_of(part.series())
    return _observation(log, speaks) | {
        "kind": log.kind,
        "unit": UNITS[LOG_KINDS[log.kind]].canonical,
        "instrument": log.instrument,
        "minutes": list(part.series().minutes),
        "values": list(part.series().values),
        "fitted_minutes": list(trend.minutes),
        "fitted": list(trend.fitted),
        "shape": trend.shape,
        "probability": trend.probability[trend.shape],
        "text": english.trend(trend),
    }


def _mark(mark: Mark) -> Json:
    return {"id": mark.id, "step": mark.step, "state": mark.state, "why": mark.why, "by": _by(mark), "at": mark.at}


def step_json(step: Step) -> Json:
    """A step as the API gives it."""
    return {name: getattr(step, name) for name in step.__slots__}


def _photo(photo: Photo) -> Json:
    picture = photo.picture
    return {"id": photo.id, "url": f"/api/v1/photos/{picture.sha256}", "width": picture.width,
            "height": picture.height, "step": photo.step, "by": photo.by.name, "at": photo.at}  # fmt: skip


def _cause(job: Job, kind: Literal["working", "proposed", "confirmed"], english: English) -> Json | None:
    cause = cause_of(job, kind)
    if cause is None:
        return None
    text = english.fault(cause.fault)
    if cause.heat_unexplained:
        text = f"{text}; {english.word('consequence', 'on_record')}"
    return {"fault": cause.fault, "severity": cause.severity, "text": text, "by": _by(cause), "at": cause.at,
            "heat_unexplained": cause.heat_unexplained}  # fmt: skip


def comparison_words(row: Comparison, english: English) -> str:
    """ "96 cfm, 74 short of healthy": the latest reading against healthy, in words."""
    dimension = reading_dimensions()[row.kind]
    latest = row.after if row.after is not None else row.before
    if latest is None:
        return ""
    said = english.quantity(latest, dimension)
    if row.standing == "as_healthy":
        return f"{said}, as healthy"
    if dimension == "temperature":  # a difference of temperatures has no offset
        gap = english.number(abs(latest - row.healthy), "temperature_difference")
    else:
        gap = english.number(abs(latest - row.healthy), dimension)
    return f"{said}, {gap} {'short of' if row.standing == 'low' else 'over'} healthy"


_PROOF_WORDS = {
    "not_measured": "Not measured since the work. Without a number nobody knows.",
    "proven": "Proven: the air is back where a healthy machine has it.",
    "better": "Better, but not yet healthy. Something is still in the way.",
    "unchanged": "No more air than before. The cause is still there.",
}


def proof_json(result: Proof, english: English) -> Json:
    """The proof with its words."""
    rows = []
    for row in result.rows:
        unit = UNITS[reading_dimensions()[row.kind]].canonical

        def q(value: float | None, unit: str = unit) -> Json | None:
            return None if value is None else {"value": value, "unit": unit}

        rows.append(
            {
                "kind": row.kind,
                "heat_on": row.heat_on,
                "healthy": q(row.healthy),
                "healthy_low": q(row.healthy_low),
                "healthy_high": q(row.healthy_high),
                "before": q(row.before),
                "after": q(row.after),
                "standing": row.standing,
                "text": comparison_words(row, english),
            }
        )
    return {"code": result.code, "text": _PROOF_WORDS[result.code], "regained": result.regained, "rows": rows}


def _run(core: CoreJob, english: English) -> Json | None:
    """The vent run as drawn, judged at this machine's healthy flow."""
    vent = core.document.vent
    if vent is None:
        return None
    flow = vent.flow.si("flow") if vent.flow else core.machine.airway.rated_flow_m3s
    return run_answer(vent, run_verdict(vent, flow), english)


@dataclass(frozen=True, slots=True)
class Known:
    """What is worked out of a job for whoever asks: what the core reads, the way in, the bench."""

    job: Job
    core: CoreJob
    plan: WorkPlan | None
    bench: Json | None

    def standing(self, case: Case) -> tuple[Verdict, JobFacts]:
        """The verdict of a case of this job, and the facts its stages are judged by."""
        verdict = to_core.cached_verdict(case)
        gate_shut = self.bench is None or self.bench["gate"]["shut"]
        return verdict, to_core.job_facts(self.job, case, verdict, self.plan, gate_shut)


def known_of(job: Job, layout: Layout | None) -> Known:
    """Work out what does not depend on who asks; asks no database. job: with all its facts; layout: of its machine."""
    plan = plan_of(job, layout)
    return Known(job, to_core.core_job(job), plan, bench_json(job, layout, plan))


def job_json(known: Known, who: Member) -> Json:
    """Everything a screen shows of a job. One read of the facts, one verdict."""
    english = english_of(who)
    job, core, plan, bench = known.job, known.core, known.plan, known.bench
    before, after = to_core.case_for(core, "before", who), core.case("after")
    verdict, facts = known.standing(before)
    force = in_force(job)
    speaks = {fact.id for fact in force.all()}
    following = next_step(facts)
    machine = job.machine
    return {
        "id": job.id,
        "version": job.version,
        "title": job.title,
        "complaints": job.complaints,
        "circumstances": job.circumstances,
        "told": job.told,
        "said": job.said,
        "stop": next((words for c in job.complaints if (words := complaint_stop(c))), None),
        "booked_for": job.booked_for,
        "place": {name: getattr(machine.place, name) for name in ("id", "name", "address", "contact", "version")},
        "machine": {
            name: getattr(machine, name)
            for name in ("id", "name", "profile", "layout", "energy", "supply", "age_years", "version")
        }
        | {"variant": machine.variant or {}, "profile_title": profile_titles()[machine.profile]},
        "readings": [_reading(reading, speaks) for reading in job.readings.all()],
        "findings": [_finding(finding, speaks) for finding in job.findings.all()],
        "meter": [_meter(test, speaks, core, english) for test in job.metertests.all()],
        "logs": [_log(log, speaks, english) for log in job.logs.all()],
        "vent": job.given.get("vent"),
        "run": _run(core, english),
        "supply": core.supply,
        "circuit": suspect_circuit(before.complaints, before.findings),
        "opened": list(opened_one_shots(before)),
        "photos": [_photo(photo) for photo in job.photos.all() if not photo.withdrawn],
        "marks": [_mark(mark) for mark in settled_steps(job).values()],
        "working_cause": _cause(job, "working", english),
        "proposed_cause": _cause(job, "proposed", english),
        "confirmed_cause": _cause(job, "confirmed", english),
        "handed_over": facts.handed_over,
        "editions": job.editions,
        "verdict": verdict_answer(before, verdict, english),
        "stages": [
            {"stage": row.stage, "state": row.state, "settled": row.settled, "of": row.of}
            for row in stage_states(facts)
        ],
        "next": {
            "code": following.code,
            "stage": following.stage,
            "subject": following.subject,
            "text": next_words(following, english),
        },
        "safety": [step_json(step) for step in safety_acts(machine.supply, machine.energy)],
        "open": [step_json(step) for step in plan.open] if plan else [],
        "mend": [step_json(step) for step in plan.mend] if plan else [],
        "close": [step_json(step) for step in plan.close] if plan else [],
        "bench": bench,
        "known_layout": plan.known_layout if plan else bool(machine.layout),
        "proof": proof_json(proof(before, after), english),
    }  # fmt: skip


def summary_of(known: Known) -> dict[str, Any]:
    """What a list says of a job, as any of its workshop sees it."""
    case = known.core.case("before")
    verdict, facts = known.standing(case)
    following = next_step(facts)
    english = English()
    return {
        "stage": following.stage,
        "stage_number": STAGES.index(following.stage) + 1,
        "next": next_words(following, english),
        "headline": headline(case, verdict, english)["text"],
    }
