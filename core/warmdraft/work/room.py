"""The room and this machine: what being pushed too far costs its air, and what a tight room takes from it."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from warmdraft.airway import AirwayState, healthy_state, solve
from warmdraft.machine import Machine
from warmdraft.vent import Behind, below_outdoors_pa, open_share_pushed, pinch_coefficient, stands_off_m
from warmdraft.vent.friction import velocity_pressure_pa

#: How much further than its mark a machine is reckoned pushed, m.
FURTHER_M = (0.025, 0.05, 0.075)
_HALVINGS = 50


@dataclass(frozen=True, slots=True)
class Pushed:
    """A machine so much further back than its mark: what is left of the transition's area, and of the flow, m³/s."""

    further_m: float
    open_share: float
    flow_m3s: float


@dataclass(frozen=True, slots=True)
class Clearance:
    """Where the machine stops. mark_m: its back from the wall; flow_m3s: what goes out at the mark; below_m3s: with
    less at the hood after the push it is pulled forward, halfway to what the last of pushed gives."""

    mark_m: float
    flow_m3s: float
    below_m3s: float
    pushed: tuple[Pushed, ...]


def clearance(machine: Machine, behind: Behind) -> Clearance:
    """How far back this machine may go, and what more costs it. Raises VentError."""
    airway, fan = machine.airway, machine.airway.fan
    state = healthy_state(airway)
    flow = _vent_flow(state, machine)
    drop = airway.drop_pa("transition")
    head = velocity_pressure_pa(airway.rated_flow_m3s, behind.bore_m, 1.2)
    pushed = []
    for further in FURTHER_M:
        share = open_share_pushed(behind.bore_m, further)
        crushed = state.with_resistance_of("transition", 1 + pinch_coefficient(share) * head / drop)
        pushed.append(Pushed(further, share, float(solve(crushed, fan).vent[0])))
    return Clearance(stands_off_m(behind), flow, (flow + pushed[-1].flow_m3s) / 2, tuple(pushed))


def _vent_flow(state: AirwayState, machine: Machine) -> float:
    return float(solve(state, machine.airway.fan).vent[0])


@dataclass(frozen=True, slots=True)
class Starved:
    """A room that air has to come into. below_pa: how far it lies below outdoors; flow_m3s: what the machine moves
    then; freely_m3s: with enough air."""

    below_pa: float
    flow_m3s: float
    freely_m3s: float


def starved(machine: Machine, others_m3s: float, opening_m2: float) -> Starved:
    """The machine and other fans drawing on one opening: the more it moves, the lower the room, the less it moves.

    There is one balance, found by halving.
    """
    state = healthy_state(machine.airway)
    freely = _vent_flow(state, machine)

    def moved(below: float) -> float:
        return _vent_flow(replace(state, room_deficit_pa=np.array([below])), machine)

    low, high = 0.0, machine.airway.fan.shutoff_pressure_pa
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if below_outdoors_pa(moved(middle) + others_m3s, opening_m2) > middle:
            low = middle
        else:
            high = middle
    below = (low + high) / 2
    return Starved(below, moved(below), freely)
