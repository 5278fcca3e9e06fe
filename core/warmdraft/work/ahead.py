"""How long a job still takes at the machine, and how far that may be off: what a day is planned by."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from warmdraft.diagnosis import TRIES, mending_minutes
from warmdraft.work.plan import Step
from warmdraft.work.state import JobState

#: Minutes at the door and at the end, beside the work: to hear the complaint, to hand over (own assumption).
AT_THE_DOOR = 12.0
#: How people differ about an estimate, as a share of it (own assumption; single steps scatter by a factor of 1.35).
SCATTER = 0.2

#: What the minutes come from: the plan of the work that was chosen, the verdict where none was, nothing once it is
#: handed over.
From = Literal["plan", "verdict", "done"]


@dataclass(frozen=True, slots=True)
class Ahead:
    """Minutes still to come, expected, and their standard deviation; by: what they follow from."""

    minutes: float
    sd_minutes: float
    by: From


def ahead_of(state: JobState) -> Ahead:
    """Minutes that a job still takes.

    Where work was chosen, its steps that are not done, and with the chance that it is another cause that one's too.
    Else the causes are tried by what mends likeliest a minute, as far as one visit goes.
    """
    if state.facts.handed_over:
        return Ahead(0.0, 0.0, "done")
    tried = _by_verdict(state)
    if state.plan is None:
        return _with_scatter(*tried, "verdict")
    left = sum(step.minutes for step in _left(state))
    wrong = 0.0 if state.confirmed or not state.wants_cause or state.cause is None else 1 - _chance(state, state.cause)
    more = tried[0]
    mean = left + wrong * more
    return _with_scatter(mean, math.sqrt(wrong * (1 - wrong)) * more, "plan")


def qualifications_asked(state: JobState) -> frozenset[str]:
    """What whoever goes has to be qualified for: by what makes it safe, and by the work that was chosen."""
    steps = list(state.safety) if state.plan is None else _left(state)
    return frozenset(step.qualified for step in steps if step.qualified is not None)


def _left(state: JobState) -> list[Step]:
    plan = state.plan
    assert plan is not None
    steps = (*state.safety, *plan.open, *plan.mend, *plan.close)
    return [step for step in steps if step.id not in state.settled and step.id not in state.recorded]


def _chance(state: JobState, fault: str) -> float:
    return next((row.probability for row in state.verdict.faults if row.fault == fault), 0.0)


def _by_verdict(state: JobState) -> tuple[float, float]:
    """Mean and standard deviation of the minutes until one of the tries at one visit mends it, or all are spent."""
    faults = state.verdict.faults
    chance = np.array([row.probability for row in faults])
    cost = np.array([mending_minutes(state.before, row.fault) for row in faults])
    order = np.argsort(-chance / cost, kind="stable")[:TRIES]
    spent = np.cumsum(cost[order])
    share = np.append(chance[order], max(0.0, 1 - chance[order].sum()))
    minutes = np.append(spent, spent[-1])
    mean = float(share @ minutes)
    best = min((row.expected_minutes for row in state.verdict.choices if row.do == "check"), default=mean)
    return min(mean, best), float(np.sqrt(share @ (minutes - mean) ** 2))


def _with_scatter(mean: float, sd: float, by: From) -> Ahead:
    minutes = AT_THE_DOOR + mean
    return Ahead(minutes, math.hypot(sd, SCATTER * minutes), by)
