"""What a fault does to the airway."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import AirwayState, healthy_state
from warmdraft.airway.state import bypass_conductance
from warmdraft.errors import CatalogueError
from warmdraft.faults.catalogue import Fault, catalogue
from warmdraft.machine import Airway


def severity_grid(fault: Fault, steps: int) -> Floats | None:
    """Middles of `steps` equal log-intervals of the fault's range; None where it has no range.

    Half of them negative, the largest first, where it comes with either sign.
    """
    if fault.range is None:
        return None
    low, high = np.log(fault.range)
    count = steps // 2 if fault.either_sign else steps
    grid = np.exp(low + (high - low) * (np.arange(count) + 0.5) / count)
    return np.concatenate([-grid[::-1], grid]) if fault.either_sign else np.asarray(grid)


def remains_grid(fault: Fault, steps: int) -> Floats | None:
    """What a repair may have left of the fault: `steps` severities from hardly any to its worst; None without a range.

    Even steps between nothing and the worst, in the logarithm for what multiplies.
    """
    if fault.range is None:
        return None
    count = steps // 2 if fault.either_sign else steps
    share = (np.arange(count) + 0.5) / count
    low, high = fault.range
    if fault.effect in ("resistance_times", "leak_times"):
        return np.asarray(high**share)
    if fault.effect in ("speed_left", "power_left"):
        return np.asarray(1 - (1 - low) * share)
    return np.concatenate([-high * share[::-1], high * share]) if fault.either_sign else high * share


def apply_fault(state: AirwayState, airway: Airway, fault: Fault, severity: Floats | float | None) -> AirwayState:
    """The airway once the fault is there too; `severity` scalar or one per hypothesis. Faults compound."""
    if severity is None:
        severity = fault.at
    if fault.effect in ("nothing", "unheard_of") or severity is None:
        return state
    if fault.as_built and airway.run_within_allowance is not None:
        return state  # the run's drop is counted as it was built
    s = np.atleast_1d(np.asarray(severity, dtype=float))
    match fault.effect, fault.target:
        case "resistance_times", str(element):
            return state.with_resistance_of(element, s)
        case "leak_times", "drum_seal":
            return replace(state, drum_seal=state.drum_seal * s)
        case "leak_times", "lint_duct_seal":
            return replace(state, lint_duct_seal=state.lint_duct_seal * s)
        case "bypass", "parted_pipe":
            return replace(state, parted_pipe=state.parted_pipe + s * bypass_conductance(airway, "parted_pipe"))
        case "bypass", "detached_transition":
            opening = s * bypass_conductance(airway, "detached_transition")
            return replace(state, detached_transition=state.detached_transition + opening)
        case "room_deficit" | "outdoor_pressure", _:
            return replace(state, room_deficit_pa=state.room_deficit_pa + s)
        case "head_lost", _:
            # Own assumption: a fouled wheel loses half as much of its free flow as of its head.
            head, free = state.head_left * (1 - s), state.free_flow_left * (1 - s / 2)
            return replace(state, head_left=head, free_flow_left=free)
        case "speed_left", _:
            return replace(state, speed_left=state.speed_left * s)
        case "power_left", _:
            return replace(state, power_left=state.power_left * s)
        case "cycling_offset", _:
            return replace(state, cycling_offset_k=state.cycling_offset_k + s)
        case "limit_offset", _:
            return replace(state, limit_offset_k=state.limit_offset_k + s)
        case _:
            raise CatalogueError(f"faults.toml, {fault.name}: nothing is known to do '{fault.effect} {fault.target}'")


def supposed_state(airway: Airway, supposed: tuple[tuple[str, float | None], ...]) -> AirwayState:
    """The airway with faults supposed: (name, severity) each; without a severity a fault sits at its middle."""
    state = healthy_state(airway)
    for name, severity in supposed:
        fault = catalogue()[name]
        state = apply_fault(state, airway, fault, fault.middle_severity if severity is None else severity)
    return state
