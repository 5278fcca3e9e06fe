"""The state of a job: all that follows from its facts, worked out once, as one value. No words, nobody who looks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from warmdraft.diagnosis import Case, Verdict, diagnose, opened_one_shots
from warmdraft.meter import MeterVerdict, suspect_circuit
from warmdraft.proof import Proof, proof
from warmdraft.teardown import (
    Compartment,
    Gate,
    Layout,
    Marked,
    gate,
    minutes_taken,
    name_at,
    stage_and_name,
    tray,
)
from warmdraft.trend import Trend, trend_of
from warmdraft.vent import RunVerdict, judge_run
from warmdraft.work.facts import Cause, JobFacts, Logged, Mark
from warmdraft.work.plan import Step, Wanted, WorkPlan, safety_acts, work_plan
from warmdraft.work.stages import NextStep, StageState, Standing, next_step, stage_states

#: The area of operations that leave the machine in one piece: pulled out, its vent off.
OUTSIDE = "outside"
#: Stages whose steps follow one another with hands in the machine; before them there is reading and thinking.
_TIMED: tuple[Literal["open", "mend", "close"], ...] = ("open", "mend", "close")


@dataclass(frozen=True, slots=True)
class Viewer:
    """Who goes on with a job, as far as it matters for what to do next; None: everything, everybody.

    carries: instruments at hand; qualified: what they may do.
    """

    carries: frozenset[str] | None = None
    qualified: frozenset[str] | None = None


@dataclass(frozen=True, slots=True)
class Bench:
    """The way in and back, the tray, the gate. taken: minutes that steps took, by the marks."""

    layout: Layout
    compartments: tuple[Compartment, ...]
    gate: Gate
    taken: Mapping[str, float]

    @property
    def holds(self) -> bool:
        """Something came off, and the machine is not closed: it cannot be handed over so."""
        return not self.gate.clear and any(place.state != "waiting" for place in self.compartments)


@dataclass(frozen=True, slots=True)
class JobState:
    """A job as it stands.

    before, after: what the facts in force of each phase give the diagnosis. meter, trends: one for each meter test and
    log of the facts, in their order. circuit: what to meter first; opened: one-shot parts that have opened.
    plan: None until there is a working cause; bench: None where nothing has to be opened, or nothing is known.
    """

    facts: JobFacts
    before: Case
    after: Case
    verdict: Verdict
    meter: tuple[MeterVerdict, ...]
    trends: tuple[Trend, ...]
    run: RunVerdict | None
    circuit: str | None
    opened: tuple[str, ...]
    settled: Mapping[str, Mark]
    working: Cause | None
    proposed: Cause | None
    confirmed: Cause | None
    safety: tuple[Step, ...]
    plan: WorkPlan | None
    wanted: Wanted
    bench: Bench | None
    stages: tuple[StageState, ...]
    next: NextStep
    proof: Proof


@lru_cache(maxsize=256)
def verdict_of(case: Case) -> Verdict:
    """A verdict is derived, never stored; equal facts need not be weighed twice."""
    return diagnose(case)


@lru_cache(maxsize=128)
def _shape_of(log: Logged) -> Trend:
    return trend_of(log.series)


def state_of(facts: JobFacts, viewer: Viewer | None = None) -> JobState:
    """Work out the state of a job.

    Raises LayoutError where its layout contradicts itself, VentError where its run cannot be built.
    """
    viewer = viewer or Viewer()
    before = replace(
        facts.case("before"), carries=viewer.carries, qualified=viewer.qualified, stands_open=_stands_open(facts)
    )
    after = facts.case("after")
    verdict = verdict_of(before)
    settled = facts.settled()
    wanted = wanted_of(facts)
    working = facts.cause("working")
    energy = facts.machine.heat.energy
    safety = safety_acts(facts.connection, energy)
    plan = None
    if working is not None:
        plan = work_plan(working.fault, facts.layout, facts.connection, energy, wanted)
    bench = _bench(facts, plan, settled)
    opened = opened_one_shots(before)
    confirmed = facts.cause("confirmed")
    standing = Standing(
        complaints=facts.complaints,
        steps={"make_safe": tuple(step.id for step in safety)}
        | ({} if plan is None else {stage: tuple(step.id for step in plan.of(stage)) for stage in _TIMED}),
        settled=frozenset(settled),
        facts_before=facts.number_of("before"),
        facts_after=facts.number_of("after"),
        working_cause=working.fault if working else None,
        confirmed_cause=confirmed.fault if confirmed else None,
        handed_over=facts.handed_over,
        verdict=verdict,
        one_shot_opened=bool(opened),
        gate_clear=bench is None or bench.gate.clear,
    )
    return JobState(
        facts=facts, before=before, after=after, verdict=verdict,
        meter=tuple(facts.judged(fact) for fact in facts.meter),
        trends=tuple(_shape_of(log) for log in facts.logs),
        run=_run(facts),
        circuit=suspect_circuit(before.complaints, before.findings),
        opened=opened, settled=settled, working=working, proposed=facts.cause("proposed"), confirmed=confirmed,
        safety=safety, plan=plan, wanted=wanted, bench=bench,
        stages=stage_states(standing), next=next_step(standing), proof=proof(before, after),
    )  # fmt: skip


def wanted_of(facts: JobFacts) -> Wanted:
    """What is known and wanted of the way in, from marks and the latest choice."""
    choice = facts.way_choice()
    return Wanted(
        opened=_marked(facts, "open", "done"),
        impossible=frozenset(_marked(facts, "open", "not_possible")),
        also=choice.also if choice else (),
        avoid=frozenset(choice.avoid if choice else ()),
        through=frozenset(choice.through if choice else ()),
    )


def _marked(facts: JobFacts, stage: str, state: Literal["done", "not_possible"]) -> tuple[str, ...]:
    """Names of steps of a stage that are marked so, in the order of the marks that say it."""
    settled = facts.settled()
    order = {mark.step: place for place, mark in enumerate(facts.marks)}  # the last of each
    rows = sorted((step for step, mark in settled.items() if mark.state == state), key=lambda step: order[step])
    return tuple(name for step in rows if (name := name_at(stage, step)) is not None)


def _stands_open(facts: JobFacts) -> bool | None:
    """Whether the machine is taken apart: something of it came off and is not back. None while nobody marked a step."""
    off, back = _marked(facts, "open", "done"), _marked(facts, "close", "done")
    if facts.layout is None or not off:
        return None
    inside = {op.id for op in facts.layout.operations if op.area != OUTSIDE}
    return bool(({*off} - {*back}) & inside)


def _bench(facts: JobFacts, plan: WorkPlan | None, settled: Mapping[str, Mark]) -> Bench | None:
    if facts.layout is None or plan is None or plan.way is None:
        return None
    by_id = {op.id: op for op in plan.way.off}
    order = [by_id[step.operation.id] for step in plan.open if step.operation]
    tallies = facts.tallies()
    places = tray(order, _marked(facts, "open", "done"), _marked(facts, "close", "done"), tallies)
    undone = [step for step in plan.gate_steps if step not in settled or settled[step].state != "done"]
    return Bench(facts.layout, places, gate(places, tallies, undone), taken_of(facts))


def taken_of(facts: JobFacts) -> dict[str, float]:
    """Minutes each step of opening, mending and closing took, by the marks; the first says nothing."""
    done = [
        (mark.step, mark.at) for mark in facts.marks
        if mark.state == "done" and mark.at is not None and stage_and_name(mark.step)[0] in _TIMED
    ]  # fmt: skip
    if not done:
        return {}
    began = min(at for _, at in done)
    return minutes_taken([Marked(step, (at - began).total_seconds() / 60) for step, at in done])


def _run(facts: JobFacts) -> RunVerdict | None:
    """The vent run as drawn, judged at its own flow or this machine's healthy one."""
    drawn = facts.run
    if drawn is None:
        return None
    flow = facts.machine.airway.rated_flow_m3s if drawn.flow_m3s is None else drawn.flow_m3s
    return judge_run(drawn.run, flow, drawn.code_profile, drawn.air_temperature_c)
