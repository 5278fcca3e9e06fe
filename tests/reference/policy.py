"""How many minutes it takes from a bare complaint to be nine tenths sure of the true zone: ours by a fixed order."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from generator import KINDS, NAMES
from looks import CLASSES, LookDraws, draw_with_looks
from warmdraft.checks import OPENING_MINUTES, checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, Verdict, diagnose
from warmdraft.faults import catalogue
from warmdraft.machine import profile

SURE = 0.9
#: The order a careful technician without a tool works in; the machine is opened last.
FIXED = ("screen_light", "hood_look", "behind_look", "outlet_flow", "outlet_static_pressure", "blower_inlet_suction",
         "wall_static_pressure", "screen_duct_suction", "wheel_lamp", "wheel_by_hand", "duct_seam_lamp",
         "rear_felt_lamp", "terminals_look")  # fmt: skip


@dataclass(frozen=True)
class Minutes:
    """Median minutes over the jobs drawn, and in how many of them one got there."""

    ours: float
    fixed: float
    ours_reached: float
    fixed_reached: float


def _known(check: str) -> bool:
    """Whether the generator can answer it: looks of its tables, readings of its kinds."""
    row = checks()[check]
    return row.meters is None and not row.logs and (row.observes in KINDS if row.observes else row.energy != "gas")


def _answer(case: Case, check: str, jobs: LookDraws, i: int) -> Case:
    row = checks()[check]
    if row.observes:
        value = float(jobs.read[i, list(KINDS).index(row.observes)])
        return Case(case.machine, readings=(*case.readings, ReadingFact(row.observes, value)), findings=case.findings)
    found = FindingFact(check, row.results[jobs.seen[check][i]])
    return Case(case.machine, readings=case.readings, findings=(*case.findings, found))


def _sure(verdict: Verdict, zone: str) -> bool:
    return dict(verdict.zones)[zone] >= SURE


def _minutes(jobs: LookDraws, i: int, order: tuple[str, ...] | None) -> tuple[float, bool]:
    """Minutes until sure of the true zone; all of them where that never comes. order: None for the tool's own."""
    case = Case(profile("full-size-electric"))
    zone = catalogue()[CLASSES[jobs.truth[i]][0]].zone
    spent, opened, left = 0.0, False, list(order or ())
    verdict = diagnose(case)
    while not _sure(verdict, zone):
        if order is None:
            best = next((n for n in verdict.next_checks if n.worth_it and _known(n.check)), None)
            if best is None:
                break
            check, minutes = best.check, best.minutes
        else:
            if not left:
                break
            check = left.pop(0)
            row = checks()[check]
            minutes = row.cost_minutes + (0.0 if opened else OPENING_MINUTES[row.access])
            opened = opened or row.access == "open"
        spent += minutes
        case = _answer(case, check, jobs, i)
        verdict = diagnose(case)
    return spent, _sure(verdict, zone)


def minutes_to_zone(draws: int, seed: int) -> Minutes:
    """Median minutes of both over jobs of one fault."""
    rng = np.random.default_rng(seed)
    jobs = draw_with_looks(2 * draws, rng)
    single = list(np.flatnonzero(jobs.truth < len(NAMES))[:draws])
    ours, fixed = (np.array([_minutes(jobs, i, order) for i in single]) for order in (None, FIXED))
    return Minutes(float(np.median(ours[:, 0])), float(np.median(fixed[:, 0])), float(ours[:, 1].mean()),
                   float(fixed[:, 1].mean()))  # fmt: skip
