"""The hypotheses of one machine: every fault at every severity, what each predicts, and how it moves with the machine.

Built once per distinct machine and conditions, and kept.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.airway import NODES, READING_KINDS, AirFlow, AirwayState, Conditions, healthy_state, predict, solve
from warmdraft.checks import (
    LookWeights,
    checks,
    felt_by_flow,
    gained_flow_weight,
    gains,
    healthy_gains,
    look_probability,
    lost_flow_weight,
    severity_weight,
)
from warmdraft.faults import Fault, apply_fault, catalogue, severity_grid
from warmdraft.machine import Airway, Machine

#: Severities a fault with a range is tried at.
SEVERITY_STEPS = 32
#: Log-standard deviation of each element between two healthy machines of a model (own assumption).
ELEMENT_SCATTER = 0.12
#: Step of the forward difference in the logarithm of a resistance.
_LOG_STEP = 1e-5
#: What the model says of a hypothesis: readings, then flows of the operating point, then pressures at NODES.
FLOWS = ("wheel_flow", "heater_flow", "screen_flow")
OUTPUTS = (*READING_KINDS, *FLOWS, *NODES)
KIND_COLUMN = {kind: column for column, kind in enumerate(READING_KINDS)}
#: Flows a hand or an eye can feel, with their columns.
FELT_COLUMN = {name: OUTPUTS.index(name) for name in ("hood_flow", "screen_flow", "heater_flow")}
NODE_COLUMNS = slice(len(READING_KINDS) + len(FLOWS), len(OUTPUTS))


@dataclass(frozen=True, slots=True)
class Hypotheses:
    """Everything the judgement needs to know of a machine.

    spans: each fault with its stretch of hypotheses; severity (H,), NaN where the fault has none; log_share (H,): log
    of the hypothesis's share of its fault; output (H, OUTPUTS), sensitivity (H, OUTPUTS, 8): change of an output per
    standard deviation of each element; looks (checks, results, H): P(result) of the checks in `look_row`'s order, 0 for
    results a check does not have; healthy (OUTPUTS,) and healthy_sensitivity (OUTPUTS, 8); predictable: kinds this
    machine can be read for.
    """

    spans: tuple[tuple[Fault, slice], ...]
    fault_index: NDArray[np.intp]
    severity: Floats
    log_share: Floats
    output: Floats
    sensitivity: Floats
    looks: Floats
    healthy: Floats
    healthy_sensitivity: Floats
    predictable: tuple[str, ...]

    def __len__(self) -> int:
        return len(self.severity)

    def kept(self, kept: NDArray[np.intp]) -> Hypotheses:
        """The same for some of the hypotheses; spans stay those of the whole and serve for names only."""
        rows = ("fault_index", "severity", "log_share", "output", "sensitivity")
        looks = self.looks[:, :, kept]
        return replace(self, looks=looks, **{name: getattr(self, name)[kept] for name in rows})


@lru_cache(maxsize=1)
def look_row() -> dict[str, int]:
    """Each look's place in the table of looks."""
    return {name: row for row, name in enumerate(name for name, check in checks().items() if check.results)}


def outputs(machine: Machine, state: AirwayState, conditions: Conditions) -> Floats:
    """All OUTPUTS of a state, (..., OUTPUTS)."""
    flow: AirFlow = solve(state, machine.airway.fan, conditions.density_kg_m3)
    readings = predict(machine, state, conditions, flow)
    flows = np.stack(np.broadcast_arrays(flow.wheel, flow.heater, flow.screen), axis=-1)
    parts = (readings, flows, flow.pressures)
    front = np.broadcast_shapes(*(part.shape[:-1] for part in parts))
    return np.concatenate([np.broadcast_to(part, (*front, part.shape[-1])) for part in parts], axis=-1)


def with_sensitivity(machine: Machine, state: AirwayState, conditions: Conditions) -> tuple[Floats, Floats]:
    """Outputs (H, OUTPUTS) and their change per standard deviation of each element (H, OUTPUTS, 8)."""
    nudged = outputs(machine, state.nudged(_LOG_STEP), conditions)  # (H, 9, OUTPUTS)
    base = nudged[:, 0]
    slope = (nudged[:, 1:] - base[:, None]) * (ELEMENT_SCATTER / _LOG_STEP)
    return base, np.ascontiguousarray(np.swapaxes(slope, 1, 2))


def _stacked(airway: Airway) -> tuple[AirwayState, list[tuple[Fault, slice]], Floats]:
    parts, spans, severities, start = [], [], [], 0
    for fault in catalogue().values():
        grid = severity_grid(fault, SEVERITY_STEPS)
        acting = grid
        if grid is not None and fault.late:  # each severity twice: not set in yet, and set in
            grid = np.repeat(np.asarray(severity_grid(fault, SEVERITY_STEPS // 2)), 2)
            acting = np.where(np.arange(len(grid)) % 2, grid, 1.0)
        size = 1 if grid is None else len(grid)
        parts.append((apply_fault(healthy_state(airway), airway, fault, acting), size))
        severities.append(np.full(1, np.nan) if grid is None else grid)
        spans.append((fault, slice(start, start + size)))
        start += size
    columns = {}
    for field in fields(AirwayState):
        tail = (8,) if field.name == "resistance" else ()
        columns[field.name] = np.concatenate(
            [np.broadcast_to(getattr(state, field.name), (size, *tail)) for state, size in parts]
        )
    return AirwayState(**columns), spans, np.concatenate(severities)


def felt_weights(output: Floats, healthy: Floats) -> dict[str, Floats]:
    """Weight of what is felt, by flow, from outputs (H, OUTPUTS) and the healthy ones (OUTPUTS,)."""
    return {name: lost_flow_weight(output[:, column] / healthy[column]) for name, column in FELT_COLUMN.items()}


def swap_weights(machine: Machine, state: AirwayState) -> dict[str, Floats]:
    """Weight of each swap, (H,) by name."""
    fan = machine.airway.fan
    usual = healthy_gains(machine.airway)
    found = gains(state, machine.airway, solve(state, fan))
    return {name: gained_flow_weight(gain, usual[name]) for name, gain in found.items()}


def _looks(
    machine: Machine, state: AirwayState, spans: list[tuple[Fault, slice]], severity: Floats,
    index: NDArray[np.intp], output: Floats, healthy: Floats,
) -> Floats:  # fmt: skip
    weights = LookWeights(
        severity=np.concatenate([severity_weight(fault, severity[here]) for fault, here in spans]),
        flow_speaks=np.array([felt_by_flow(fault) for fault, _ in spans])[index],
        flow=felt_weights(output, healthy),
        swap=swap_weights(machine, state),
    )
    rows = look_row()
    most = max(len(checks()[name].results) for name in rows)
    looks = np.zeros((len(rows), most, len(severity)))
    for name, row in rows.items():
        check = checks()[name]
        looks[row, : len(check.results)] = look_probability(check, index, weights.of(check)).T
    return looks


@lru_cache(maxsize=64)
def hypotheses_of(machine: Machine, conditions: Conditions) -> Hypotheses:
    """Build, or give again, the hypotheses of a machine under given conditions."""
    state, spans, severity = _stacked(machine.airway)
    output, sensitivity = with_sensitivity(machine, state, conditions)
    healthy, healthy_sensitivity = with_sensitivity(machine, healthy_state(machine.airway), conditions)
    sizes = np.array([here.stop - here.start for _, here in spans])
    index = np.repeat(np.arange(len(spans)), sizes)
    return Hypotheses(
        spans=tuple(spans),
        fault_index=index,
        severity=severity,
        log_share=-np.log(sizes[index]),
        output=output,
        sensitivity=sensitivity,
        looks=_looks(machine, state, spans, severity, index, output, healthy[0]),
        healthy=healthy[0],
        healthy_sensitivity=healthy_sensitivity[0],
        predictable=tuple(kind for kind, column in KIND_COLUMN.items() if np.isfinite(healthy[0, column])),
    )
