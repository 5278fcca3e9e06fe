"""What the work is expected to give, before it is done: flow and a load's minutes now and after, which line gives how
much, and whether opening the machine is worth it. Prove has this to meet."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from warmdraft.airway import Conditions, healthy_state, solve
from warmdraft.checks import NINE_IN_TEN, reading_sd
from warmdraft.diagnosis import Case, Verdict
from warmdraft.diagnosis.flow import READ_AS_FLOW
from warmdraft.faults import supposed_state
from warmdraft.heat import DryingRun, Load, drying_case
from warmdraft.heat.drying import dry
from warmdraft.machine import Machine
from warmdraft.proof import promised_flow
from warmdraft.repair import Act
from warmdraft.work.lines import Line
from warmdraft.work.state import JobState

#: Faults less probable than this add nothing that anybody would see.
_LEAST = 0.005


@dataclass(frozen=True, slots=True)
class LineGain:
    """What one line is expected to give. chance: that it is what is wrong, or part of it; flow_m3s: through the outlet
    if it is."""

    act: Act
    chance: float
    flow_m3s: float


@dataclass(frozen=True, slots=True)
class Opening:
    """Whether opening is worth it. minutes: in and back with the work; inside: chance that what is wrong is in there;
    flow_m3s: what comes back then; in_vain: chance that it is not, and somebody comes again."""

    minutes: float
    inside: float
    flow_m3s: float

    @property
    def in_vain(self) -> float:
        """Chance that nothing inside is wrong."""
        return 1 - self.inside


@dataclass(frozen=True, slots=True)
class Expected:
    """Flows at the outlet, m³/s: 5, 50 and 95 %; minutes: of a load at the middle, None where it never dries."""

    now_m3s: tuple[float, float, float]
    after_m3s: tuple[float, float, float]
    minutes_now: float | None
    minutes_after: float | None
    gains: tuple[LineGain, ...]
    opening: Opening | None
    #: What the flow is since, by what was read of it after the work; None where it was not.
    since_m3s: tuple[float, float, float] | None

    @property
    def kept(self) -> Literal["as_promised", "short", "more"] | None:
        """Whether what was promised came: by more than both may be off, one way or the other; None where nothing of it
        was read since."""
        if self.since_m3s is None:
            return None
        apart = self.since_m3s[1] - self.after_m3s[1]
        either_way = math.hypot(*(row[2] - row[0] for row in (self.since_m3s, self.after_m3s))) / 2
        return "as_promised" if abs(apart) <= either_way else "short" if apart < 0 else "more"


def run_at(machine: Machine, flow_m3s: float, conditions: Conditions, load: Load) -> DryingRun:
    """A load on an otherwise healthy machine that moves so much air.

    All flows in it go with the outlet's: as under a slower wheel (fan laws, Q ∝ n).
    """
    state = healthy_state(machine.airway)
    healthy = float(solve(state, machine.airway.fan).outlet[0])
    slowed = replace(state, speed_left=state.speed_left * (flow_m3s / healthy))
    return dry(drying_case(machine, slowed, conditions, load))


def minutes_at(machine: Machine, flow_m3s: float, conditions: Conditions, load: Load) -> float | None:
    """Minutes of a load at that flow; None where it never dries.

    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> minutes_at(machine, 0.04, Conditions(), Load()) > minutes_at(machine, 0.08, Conditions(), Load())
    True
    """
    return run_at(machine, flow_m3s, conditions, load).minutes


def expected_of(state: JobState, conditions: Conditions) -> Expected:
    """What a job's work is expected to give, from what is known before it. conditions: of the room it stands in."""
    before, verdict, machine = state.before, state.verdict, state.facts.machine
    after = promised_flow(before, state.cause, state.rebuilt)
    now = (verdict.flow.low, verdict.flow.median, verdict.flow.high)
    gained = _gains(before, verdict)
    load = Load()  # the published one: what people compare machines by
    return Expected(
        now_m3s=now, after_m3s=after,
        minutes_now=minutes_at(machine, now[1], conditions, load),
        minutes_after=minutes_at(state.rebuilt or machine, after[1], conditions, load),
        gains=tuple(_of_line(line, state, gained) for line in state.works.wanted if not line.act.finds_out),
        opening=_opening(state, gained), since_m3s=_since(state),
    )  # fmt: skip


def _since(state: JobState) -> tuple[float, float, float] | None:
    """The flow as it was read after the work, nine in ten by its instrument: what was promised is held against it, not
    against what is made of it."""
    for kind in READ_AS_FLOW:
        read = [fact for fact in state.after.readings if fact.kind == kind and not fact.heat_on]
        if read:
            mean = sum(fact.value for fact in read) / len(read)
            share, absolute = reading_sd(kind, read[-1].instrument)
            either_way = NINE_IN_TEN * (share * abs(mean) + absolute)
            return mean - either_way, mean, mean + either_way
    return None


def _gains(before: Case, verdict: Verdict) -> dict[str, tuple[float, float]]:
    """By fault: how probable, and what comes back through the outlet once it is gone, m³/s."""
    airway = before.machine.airway
    healthy = float(solve(healthy_state(airway), airway.fan).outlet[0])
    found = {}
    for row in verdict.faults:
        if row.probability >= _LEAST:
            severity = row.severity[1] if row.severity else None
            flow = float(np.atleast_1d(solve(supposed_state(airway, ((row.fault, severity),)), airway.fan).outlet)[0])
            found[row.fault] = (row.probability, healthy - flow)
    return found


def _of_line(line: Line, state: JobState, gained: dict[str, tuple[float, float]]) -> LineGain:
    mine = [row for fault, row in gained.items() if line.act in state.acts_for(fault)]
    chance = sum(probability for probability, _ in mine)
    flow = sum(probability * gain for probability, gain in mine) / chance if chance else 0.0
    return LineGain(line.act, min(1.0, chance), max(0.0, flow))


def _opening(state: JobState, gained: dict[str, tuple[float, float]]) -> Opening | None:
    """None where the work opens nothing, it is open already, or nobody knows the way in."""
    way = state.plan.way if state.plan else None
    if way is None or not way.operations:
        return None
    inside = {fault: row for fault, row in gained.items() if any(act.needs_opening for act in state.acts_for(fault))}
    chance = sum(probability for probability, _ in inside.values())
    flow = sum(probability * gain for probability, gain in inside.values()) / chance if chance else 0.0
    moved = sum(row.open_minutes for row in way.off) + sum(row.close_minutes for row in way.closing)
    worked = sum(line.act.minutes for line in state.works.wanted if line.act.needs_opening)
    return Opening(moved + worked, min(1.0, chance), max(0.0, flow))
