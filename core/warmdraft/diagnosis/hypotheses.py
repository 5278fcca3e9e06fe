"""The hypotheses of one machine: every fault at every severity, what each predicts, and how it moves with the machine.

Built once per distinct machine and conditions, and kept.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.airway import NODES, READING_KINDS, TAPS, AirFlow, AirwayState, Conditions, healthy_state, predict, solve
from warmdraft.checks import (
    LookRows,
    LookWeights,
    checks,
    come,
    felt_by_flow,
    gained_flow_weight,
    gains,
    healthy_gains,
    lost_flow_weight,
    severity_weight,
)
from warmdraft.diagnosis.settings import Scatter, Setting, healthy_scatter, settings_of
from warmdraft.faults import Fault, apply_fault, catalogue, remains_grid, severity_grid
from warmdraft.machine import Airway, Machine

#: Bore that the tube stands in, m (4 in). Common practice, no source.
_BORE_M = 0.1016
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

    settings: the ways it may be that are held here, setting (H,) the index into them; spans: each fault with its
    stretch of hypotheses; severity (H,), NaN where the fault has none; log_share (H,): log of the hypothesis's share of
    its fault, the setting's included; output (H, OUTPUTS), sensitivity (H, OUTPUTS, 8): change of an output per
    standard deviation of each element, variance (H, OUTPUTS): the sum of its squares; come (checks, H): how far each
    has come towards the tables of the checks in `look_row`'s order; healthy (OUTPUTS,) and healthy_sensitivity
    (OUTPUTS, 8); predictable: kinds this machine can be read for.
    """

    settings: tuple[Setting, ...]
    setting: NDArray[np.intp]
    spans: tuple[tuple[Fault, slice], ...]
    fault_index: NDArray[np.intp]
    severity: Floats
    log_share: Floats
    output: Floats
    sensitivity: Floats
    variance: Floats
    come: Floats
    healthy: Floats
    healthy_sensitivity: Floats
    predictable: tuple[str, ...]

    def __len__(self) -> int:
        return len(self.severity)

    def come_of(self, check: str) -> Floats:
        """How far each has come towards the table of a look, (H,)."""
        return np.asarray(self.come[look_row()[check]])

    def look(self, check: str, rows: LookRows) -> Floats:
        """P(result) of a look by its table, (H, results)."""
        return rows.probability(self.fault_index, self.come_of(check))

    def kept(self, kept: NDArray[np.intp]) -> Hypotheses:
        """The same for some of the hypotheses, given in rising order; a fault may have none left."""
        if len(kept) == len(self):
            return self
        rows = ("setting", "fault_index", "severity", "log_share", "output", "sensitivity", "variance")
        some = {name: getattr(self, name)[kept] for name in rows}
        spans = _spans([fault for fault, _ in self.spans], some["fault_index"])
        return replace(self, come=self.come[:, kept], spans=spans, **some)


_Flow = TypeVar("_Flow", float, Floats)


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


def with_sensitivity(
    machine: Machine, state: AirwayState, conditions: Conditions, scatter: Scatter, facing: bool = False
) -> tuple[Floats, Floats]:
    """Outputs (H, OUTPUTS) and their change per standard deviation of each of the eight scatters (H, OUTPUTS, 8)."""
    nudged = outputs(machine, state.nudged(_LOG_STEP), conditions)  # (H, 9, OUTPUTS)
    if facing:
        nudged = _facing(nudged, conditions.density_kg_m3)
    base = nudged[:, 0]
    slope = np.swapaxes(nudged[:, 1:] - base[:, None], 1, 2) / _LOG_STEP  # (H, OUTPUTS, elements)
    return base, np.ascontiguousarray(slope @ np.array(scatter))


def dynamic_pressure_pa(flow_m3s: _Flow, density_kg_m3: float) -> _Flow:
    """What a tube that faces the stream shows on top, ρ/2·v² in a 4 in bore, Pa; any shape."""
    return density_kg_m3 / 2 * (flow_m3s / (np.pi * _BORE_M**2 / 4)) ** 2


def _facing(output: Floats, density_kg_m3: float) -> Floats:
    """Outputs as a tube that faces the stream shows them."""
    shown = output.copy()
    stream = dynamic_pressure_pa(output[..., KIND_COLUMN["outlet_flow"]], density_kg_m3)
    for kind, tap in TAPS.items():
        shown[..., KIND_COLUMN[kind]] += tap.sign * stream
    return shown


def _spans(faults: list[Fault], fault_index: NDArray[np.intp]) -> tuple[tuple[Fault, slice], ...]:
    edges = np.searchsorted(fault_index, np.arange(len(faults) + 1))
    return tuple((fault, slice(int(a), int(b))) for fault, a, b in zip(faults, edges, edges[1:], strict=False))


def _stacked(airway: Airway, steps: int, remains: bool) -> tuple[AirwayState, list[tuple[Fault, slice]], Floats]:
    parts, spans, severities, start = [], [], [], 0
    grid_of = remains_grid if remains else severity_grid
    for fault in catalogue().values():
        grid = grid_of(fault, steps)
        acting = grid
        if grid is not None and fault.late:  # each severity twice: not set in yet, and set in
            grid = np.repeat(np.asarray(grid_of(fault, steps // 2)), 2)
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


def _come(
    machine: Machine, state: AirwayState, spans: list[tuple[Fault, slice]], severity: Floats,
    index: NDArray[np.intp], output: Floats, healthy: Floats,
) -> Floats:  # fmt: skip
    weights = LookWeights(
        severity=np.concatenate([severity_weight(fault, severity[here]) for fault, here in spans]),
        flow_speaks=np.array([felt_by_flow(fault) for fault, _ in spans])[index],
        flow=felt_weights(output, healthy),
        swap=swap_weights(machine, state),
    )
    return np.array([come(checks()[name], index, weights) for name in look_row()])


@lru_cache(maxsize=512)
def hypotheses_in(setting: Setting) -> Hypotheses:
    """The hypotheses of one setting."""
    machine, conditions = setting.machine, setting.conditions
    state, spans, severity = _stacked(machine.airway, setting.steps, setting.remains)
    output, sensitivity = with_sensitivity(machine, state, conditions, setting.scatter, setting.facing)
    healthy, healthy_sensitivity = with_sensitivity(machine, healthy_state(machine.airway), conditions, setting.scatter)
    sizes = np.array([here.stop - here.start for _, here in spans])
    index = np.repeat(np.arange(len(spans)), sizes)
    return Hypotheses(
        settings=(setting,),
        setting=np.zeros(len(severity), dtype=np.intp),
        spans=tuple(spans),
        fault_index=index,
        severity=severity,
        log_share=np.log(setting.share) - np.log(sizes[index]),
        output=output,
        sensitivity=sensitivity,
        variance=(sensitivity**2).sum(axis=-1),
        come=_come(machine, state, spans, severity, index, output, healthy[0]),
        healthy=healthy[0],
        healthy_sensitivity=healthy_sensitivity[0],
        predictable=tuple(kind for kind, column in KIND_COLUMN.items() if np.isfinite(healthy[0, column])),
    )


@lru_cache(maxsize=64)
def hypotheses_of(
    machine: Machine, conditions: Conditions, kinds: tuple[tuple[Machine, float], ...] = (), air_told: bool = True
) -> Hypotheses:
    """Build, or give again, the hypotheses of a machine under given conditions, in every setting it may be in.

    healthy and healthy_sensitivity are those of the machine as told. kinds, air_told: see settings_of.
    """
    blocks = [hypotheses_in(setting) for setting in settings_of(machine, conditions, kinds, air_told)]
    order = np.argsort(np.concatenate([block.fault_index for block in blocks]), kind="stable")

    def together(name: str) -> Floats:
        return np.concatenate([getattr(block, name) for block in blocks])[order]

    index = together("fault_index").astype(np.intp)
    scatter = healthy_scatter(machine)
    healthy, healthy_sensitivity = with_sensitivity(machine, healthy_state(machine.airway), conditions, scatter)
    return Hypotheses(
        settings=tuple(block.settings[0] for block in blocks),
        setting=np.repeat(np.arange(len(blocks)), [len(block) for block in blocks])[order],
        spans=_spans([fault for fault, _ in blocks[0].spans], index),
        fault_index=index,
        severity=together("severity"),
        log_share=together("log_share"),
        output=together("output"),
        sensitivity=together("sensitivity"),
        variance=together("variance"),
        come=np.concatenate([block.come for block in blocks], axis=1)[:, order],
        healthy=healthy[0],
        healthy_sensitivity=healthy_sensitivity[0],
        predictable=blocks[0].predictable,
    )
