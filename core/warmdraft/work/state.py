"""The state of a job: all that follows from its facts, worked out once, as one value. No words, nobody who looks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal, get_args

from warmdraft.checks import checks
from warmdraft.diagnosis import Case, Verdict, Weighed, opened_one_shots, weigh, with_next
from warmdraft.machine import Machine
from warmdraft.meter import MeterVerdict, suspect_circuit
from warmdraft.proof import Proof, proof
from warmdraft.repair import Act, repair_of
from warmdraft.teardown import (
    Compartment,
    Gate,
    Layout,
    Marked,
    gate,
    minutes_taken,
    stage_and_name,
    tray,
)
from warmdraft.trend import Trend, trend_of
from warmdraft.vent import RunVerdict, VentRun, judge_run, with_run
from warmdraft.work.departures import with_departures
from warmdraft.work.facts import JobFacts
from warmdraft.work.lines import SERVICE, Line, Works, probing, works_of
from warmdraft.work.new_run import BUILT, run_chosen
from warmdraft.work.opening import as_it_stands
from warmdraft.work.plan import Step, Wanted, WorkPlan, safety_acts, work_plan
from warmdraft.work.proving import Proving, proving_of
from warmdraft.work.recorded import Cause, Logged, Mark, Phase
from warmdraft.work.rounds import this_round
from warmdraft.work.stages import SURE_ENOUGH, NextStep, StageState, Standing, next_step, stage_states

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
    run: the vent run as it is drawn, judged; new_run: the one that is to be built, rebuilt: the
    machine on it, None where none was chosen.
    settled: marks of steps, recorded: steps that were recorded; works: everything found, ordered or due; wants_cause:
    they go by a cause, not by orders or upkeep alone; plan: what hands do of it now, None while there is nothing for
    them; bench: None where nothing has to be opened, or nothing is known; unagreed: lines that the
    customer, who agreed to others, has not agreed to; proving: what this job asks to be proven, in order.
    """

    facts: JobFacts
    before: Case
    after: Case
    verdict: Verdict
    meter: tuple[MeterVerdict, ...]
    trends: tuple[Trend, ...]
    run: RunVerdict | None
    new_run: VentRun | None
    rebuilt: Machine | None
    circuit: str | None
    opened: tuple[str, ...]
    settled: Mapping[str, Mark]
    recorded: frozenset[str]
    working: Cause | None
    proposed: Cause | None
    confirmed: Cause | None
    safety: tuple[Step, ...]
    works: Works
    wants_cause: bool
    plan: WorkPlan | None
    wanted: Wanted
    unagreed: tuple[str, ...]
    bench: Bench | None
    stages: tuple[StageState, ...]
    next: NextStep
    proof: Proof
    proving: tuple[Proving, ...]

    @property
    def cause(self) -> str | None:
        """The fault that the work goes by; None while nobody knows."""
        named = self.confirmed or self.working
        return named.fault if named else None

    def acts_for(self, fault: str) -> tuple[Act, ...]:
        """What this machine asks for, as it was found, were this the fault."""
        found = {finding.check: finding.result for finding in self.before.findings}
        layout = self.facts.layout
        return repair_of(fault, found, self.facts.machine.heat.energy, layout.parts if layout else ()).acts


@lru_cache(maxsize=256)
def verdict_of(case: Case) -> Verdict:
    """A verdict is derived, never stored; equal facts need not be weighed twice, whoever asks."""
    return with_next(weighed_of(case.anybodys), case)


@lru_cache(maxsize=128)
def weighed_of(case: Case) -> Weighed:
    """What it says whoever asks."""
    return weigh(case)


@lru_cache(maxsize=128)
def _shape_of(log: Logged) -> Trend:
    return trend_of(log.series)


def state_of(facts: JobFacts, viewer: Viewer | None = None) -> JobState:
    """Work out the state of a job.

    Raises LayoutError where its layout contradicts itself, VentError where its run cannot be built.
    """
    viewer, (facts, tried) = viewer or Viewer(), this_round(with_departures(facts))
    before, after = (
        replace(as_it_stands(facts, facts.case(phase)), carries=viewer.carries, qualified=viewer.qualified)
        for phase in get_args(Phase)
    )
    settled = facts.settled()
    run = run_chosen(facts)
    rebuilt = None
    if run is not None and facts.new_run is not None:
        rebuilt = with_run(facts.machine, run, facts.new_run.plan.code_profile)
        if BUILT in facts.marked("mend", "done"):
            after = replace(after, machine=rebuilt)
    wanted = wanted_of(facts)
    working, confirmed = facts.cause("working"), facts.cause("confirmed")
    named = confirmed or working
    if named is not None and proof(before, after, (named.fault,)).nothing_changed:
        tried = (*tried, named.fault)  # it was not that, or not that alone
    before = replace(before, tried=frozenset(tried))
    verdict = verdict_of(before)
    energy = facts.machine.heat.energy
    safety = safety_acts(facts.connection, energy)
    works = works_of(facts, before, after, verdict, (named.fault,) if named else (), facts.layout)
    opened = opened_one_shots(before)
    wants_cause = bool(set(facts.complaints) - {SERVICE}) or bool(opened)
    lines = _for_hands(works, working is not None or not wants_cause)
    plan = None
    if lines or working or wanted.opened:
        plan = work_plan(lines, facts.layout, facts.connection, energy, wanted)
    bench = _bench(facts, plan, settled)
    recorded = works.settled | _recorded(plan, after)
    unagreed = _unagreed(facts, works)
    proven = proof(before, after, _mended(named, verdict), [line.act for line in works.wanted])
    proving = proving_of(before, after, (named.fault,) if named else ())
    standing = Standing(
        complaints=facts.complaints,
        steps={"make_safe": tuple(step.id for step in safety)}
        | ({} if plan is None else {stage: tuple(step.id for step in plan.of(stage)) for stage in _TIMED}),
        settled=frozenset(settled) | recorded,
        facts_before=facts.number_of("before"),
        facts_after=facts.number_of("after"),
        working_cause=working.fault if working else None,
        confirmed_cause=confirmed.fault if confirmed else None,
        handed_over=facts.handed_over,
        verdict=verdict,
        proof=proven,
        one_shot_opened=bool(opened),
        ask_first=_asked_first(before),
        gate_clear=bench is None or bench.gate.clear,
        wants_cause=wants_cause,
        works=bool(works.wanted),
        unagreed=unagreed,
        unproven=tuple(row.check for row in proving if row.must and not row.done and row.check is not None),
        probes={step.id: step.check for line in lines if probing(line) for step in _steps_of(line, plan)
                if step.id not in settled and step.id not in recorded},
        way_known=plan is None or (plan.known_layout and not (facts.by_hand and any(row.unreached for row in lines))),
    )  # fmt: skip
    return JobState(
        facts=facts, before=before, after=after, verdict=verdict,
        meter=tuple(facts.judged(fact) for fact in facts.meter),
        trends=tuple(_shape_of(log) for log in facts.logs),
        run=_run(facts), new_run=run, rebuilt=rebuilt,
        circuit=suspect_circuit(before.complaints, before.findings),
        opened=opened, settled=settled, recorded=recorded,
        working=working, proposed=facts.cause("proposed"), confirmed=confirmed,
        safety=safety, works=works, wants_cause=wants_cause, plan=plan, wanted=wanted, unagreed=unagreed,
        bench=bench, proving=proving,
        stages=stage_states(standing), next=next_step(standing), proof=proven,
    )  # fmt: skip


def _unagreed(facts: JobFacts, works: Works) -> tuple[str, ...]:
    """Lines that came after the customer agreed; a look and a meter cost nobody anything, and what is done is done."""
    agreed = facts.agreement()
    if agreed is None:
        return ()
    return tuple(
        line.act.name for line in works.wanted
        if line.became != "done" and not line.act.finds_out and line.act.name not in agreed.lines
    )  # fmt: skip


def _recorded(plan: WorkPlan | None, after: Case) -> frozenset[str]:
    """Steps of closing that are readings after the work, and were taken."""
    taken = {reading.kind for reading in after.readings}
    return frozenset(step.id for step in (plan.close if plan else ()) if step.check in taken)


def _for_hands(works: Works, whole: bool) -> tuple[Line, ...]:
    """Lines that hands go to now: all of them, or before a cause is known only what was ordered to find it."""
    return works.wanted if whole else tuple(line for line in works.wanted if probing(line))


def _steps_of(line: Line, plan: WorkPlan | None) -> tuple[Step, ...]:
    return tuple(step for step in plan.mend if step.act is line.act) if plan else ()


def _asked_first(case: Case) -> dict[str, str]:
    """What is asked before a place is blamed: a long run that is lawful is none that is packed, and a heater on a low
    supply is not weak."""
    done = {finding.check for finding in case.findings} | {reading.kind for reading in case.readings}
    asked = {}
    if "run" in case.machine.airway.unknown and "run_count" not in done:
        asked["run"] = "run_count"
    qualified = checks()["supply_voltage"].qualified
    may = case.qualified is None or qualified is None or qualified in case.qualified
    if case.machine.heat.energy == "electric" and case.readings and may and "supply_voltage" not in done:
        asked["heat"] = "supply_voltage"
    return asked


def _mended(cause: Cause | None, verdict: Verdict) -> tuple[str, ...]:
    """What the work was for: what it turned out to be, else what it went by, else what one would go by."""
    if cause is not None:
        return (cause.fault,)
    return (verdict.faults[0].fault,) if verdict.sure.probability >= SURE_ENOUGH else ()


def wanted_of(facts: JobFacts) -> Wanted:
    """What is known and wanted of the way in, from marks and the latest choice."""
    choice = facts.way_choice()
    return Wanted(
        opened=facts.marked("open", "done"),
        impossible=frozenset(facts.marked("open", "not_possible")),
        avoid=frozenset(choice.avoid if choice else ()),
        through=frozenset(choice.through if choice else ()),
    )


def _bench(facts: JobFacts, plan: WorkPlan | None, settled: Mapping[str, Mark]) -> Bench | None:
    if facts.layout is None or plan is None or plan.way is None:
        return None
    by_id = {op.id: op for op in plan.way.off}
    order = [by_id[step.operation.id] for step in plan.open if step.operation]
    tallies = facts.tallies()
    places = tray(order, facts.marked("open", "done"), facts.marked("close", "done"), tallies)
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
