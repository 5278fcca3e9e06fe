"""Minutes from a bare complaint until the tool is nine tenths sure of a place, and whether it is right.

Ours by an honest clock and by the tool's own; beside it the order a careful technician without a tool works in. The
machine is a real one of ours by its layout: what opening costs is what its plan says.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from generator import KINDS, NAMES
from looks import CLASSES, TABLES, LookDraws, draw_with_looks
from warmdraft.checks import checks, legs_to
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, Verdict, diagnose
from warmdraft.faults import catalogue
from warmdraft.machine import profile
from warmdraft.repair import repair_of
from warmdraft.teardown import layout, plan_way
from warmdraft.work import JobFacts, as_it_stands, check_first

SURE = 0.9
#: The order a careful technician without a tool works in; the machine is opened last.
FIXED = ("screen_light", "hood_look", "behind_look", "outlet_flow", "outlet_static_pressure", "wall_static_pressure",
         "screen_duct_suction", "blower_inlet_suction", "wheel_lamp", "wheel_by_hand", "duct_seam_lamp",
         "rear_felt_lamp", "terminals_look")  # fmt: skip
EYES: frozenset[str] = frozenset()
MANOMETER = frozenset({"manometer"})
ALL = None
LAYOUT = "rear_shaft_clamp"
FACTS = JobFacts(profile("full-size-electric"), layout=layout(LAYOUT))


@dataclass(frozen=True)
class Run:
    """One job: minutes by the honest clock and by the tool's, whether one was sure in the end, and of a wrong place."""

    honest: float
    clock: float
    sure: bool
    wrong: bool


def _known(check: str) -> bool:
    """Whether the generator can answer it: looks of its tables, readings of its kinds."""
    row = checks()[check]
    return row.observes in KINDS if row.observes else check in TABLES and row.energy != "gas"


def answered(case: Case, check: str, jobs: LookDraws, i: int) -> Case:
    """The case once a check was done on this job."""
    row = checks()[check]
    if row.observes:
        value = float(jobs.read[i, list(KINDS).index(row.observes)])
        return replace(case, readings=(*case.readings, ReadingFact(row.observes, value)))
    return replace(case, findings=(*case.findings, FindingFact(check, row.results[jobs.seen[check][i]])))


def honest_minutes(done: list[str]) -> float:
    """Everything paid that these checks ask for: each way once, the machine opened to all they look at by one plan."""
    rows = [checks()[name] for name in done]
    legs = {leg for row in rows for leg in legs_to(row)}
    parts = tuple(sorted({leg.reaches for leg in legs if leg.reaches}))
    opened = plan_way(FACTS.layout, parts).total_minutes if parts else 0.0
    outside = {"pull_out", "part_vent"} if parts else set()  # in the plan already
    return opened + sum(leg.minutes for leg in legs if not leg.reaches and leg.name not in outside) + sum(
        row.cost_minutes for row in rows)  # fmt: skip


def judged(case: Case) -> Verdict:
    """The verdict on the machine as it stands."""
    return diagnose(as_it_stands(FACTS, replace(case, opening=None, opened_minutes=None, paid=())))


def run(jobs: LookDraws, i: int, order: tuple[str, ...] | None, carries: frozenset[str] | None) -> Run:
    """One job until the tool is sure, or has nothing left worth doing. order: None for the tool's own."""
    case = Case(FACTS.machine, carries=carries)
    zone = catalogue()[CLASSES[jobs.truth[i]][0]].zone
    clock, done, left = 0.0, [], list(order or ())
    verdict = judged(case)
    while verdict.sure.probability < SURE:
        if order is None:
            best = next((n for n in verdict.next_checks if n.worth_it and _known(n.check)), None)
            if best is None:
                break
            check, minutes = best.check, best.minutes
        elif left:
            check, minutes = left.pop(0), 0.0
        else:
            break
        clock += minutes
        done.append(check)
        case = answered(case, check, jobs, i)
        verdict = judged(case)
    sure = verdict.sure.probability >= SURE
    return Run(honest_minutes(done), clock, sure, sure and verdict.sure.zone != zone)


@dataclass(frozen=True)
class Minutes:
    """Over jobs: mean and median honest minutes, mean by the tool's clock; shares sure, and sure and wrong."""

    mean: float
    median: float
    clock: float
    sure: float
    wrong: float


def minutes_to_sure(
    draws: int, seed: int, order: tuple[str, ...] | None, carries: frozenset[str] | None = ALL
) -> Minutes:
    """Jobs of one fault each."""
    rng = np.random.default_rng(seed)
    jobs = draw_with_looks(2 * draws, rng)
    single = list(np.flatnonzero(jobs.truth < len(NAMES))[:draws])
    runs = [run(jobs, i, order, carries) for i in single]
    honest = np.array([one.honest for one in runs])
    return Minutes(float(honest.mean()), float(np.median(honest)), float(np.mean([one.clock for one in runs])),
                   float(np.mean([one.sure for one in runs])), float(np.mean([one.wrong for one in runs])))  # fmt: skip


@dataclass(frozen=True)
class Mended:
    """Over jobs: mean minutes until the machine is mended, of them on checks; needless tries a job."""

    mean: float
    checking: float
    needless: float


def minutes_to_mended(draws: int, seed: int, sure_enough: float | None, carries: frozenset[str] | None = ALL) -> Mended:
    """Jobs of one fault each, checked and mended until the fault is found, by an honest clock.

    sure_enough: go on to mend once a place is so likely; None: by the tool's own choice.
    """
    rng = np.random.default_rng(seed)
    jobs = draw_with_looks(2 * draws, rng)
    single = list(np.flatnonzero(jobs.truth < len(NAMES))[:draws])
    rows = np.array([_mended(jobs, i, sure_enough, carries) for i in single])
    return Mended(*(float(x) for x in rows.mean(axis=0)))


#: Nothing is tried for ever: then someone else comes, and knows.
MOST_TRIES = 6


def _mended(jobs: LookDraws, i: int, sure_enough: float | None, carries: frozenset[str] | None) -> tuple[float, ...]:
    truth = CLASSES[jobs.truth[i]][0]
    case = Case(FACTS.machine, carries=carries)
    done: list[str] = []
    tried: list[str] = []
    while truth not in tried and len(tried) < MOST_TRIES:
        verdict = judged(replace(case, tried=frozenset(tried)))
        check = _check_next(verdict, sure_enough)
        if check is None:
            tried.append(next(row.fault for row in verdict.faults if row.fault not in tried))
        else:
            done.append(check)
            case = answered(case, check, jobs, i)
    checking = honest_minutes(done)
    return _with_repairs(done, tried), checking, len(tried) - 1


def _check_next(verdict: Verdict, sure_enough: float | None) -> str | None:
    """The check to do next, None to go on to mend."""
    mends = check_first(verdict) is None if sure_enough is None else verdict.sure.probability >= sure_enough
    return None if mends else next((n.check for n in verdict.next_checks if n.worth_it and _known(n.check)), None)


def _with_repairs(done: list[str], tried: list[str]) -> float:
    """Honest minutes of all checks and tries: acts and five minutes of proof a try, for which the machine is shut.

    What was opened for the checks serves the first try; each further one opens it anew.
    """
    legs = {leg for name in done for leg in legs_to(checks()[name])}
    looked = {leg.reaches for leg in legs if leg.reaches}
    spent = sum(checks()[name].cost_minutes for name in done) + sum(leg.minutes for leg in legs if not leg.reaches)
    paid = {leg.name for leg in legs}
    for fault in tried:
        repair = repair_of(fault)
        parts = tuple(sorted(looked | {part for part in repair.reach if part in FACTS.layout.parts}))
        opened = plan_way(FACTS.layout, parts).total_minutes if parts else 0.0
        twice = sum(minutes for name, minutes in (("pull_out", 5.0), ("part_vent", 5.0)) if opened and name in paid)
        walks = any(act.part in ("hood", "run") for act in repair.acts) and "walk_to_hood" not in paid
        paid |= {"walk_to_hood"} if walks else set()
        spent += max(opened - twice, 0.0) + 3.0 * walks + sum(act.minutes for act in repair.acts) + 5.0
        looked = set()
    return spent + (plan_way(FACTS.layout, tuple(sorted(looked))).total_minutes if looked else 0.0)
