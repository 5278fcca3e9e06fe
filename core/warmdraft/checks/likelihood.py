"""P(result of a look | fault, severity), for all hypotheses at once.

Rows hold at a fault's middle severity and fade to `rest` below it: P = (1 − w)·rest + w·row. What is felt fades with
the flow, w = (1 − Q/Q_healthy)/0.33; a swap with what it gains, w = (gain − healthy gain)/0.4. Own assumption
(decision 0006).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.checks.catalogue import REST, Check
from warmdraft.faults import CauseMove, Fault, Times, catalogue

#: Loss of flow at which a hand or an eye is as sure as it gets (own assumption).
FELT_LOSS = 0.33
#: Gain of flow by a swap at which a hand is as sure as it gets (own assumption).
FELT_GAIN = 0.4
#: Openings let the air by: a hand feels their flow as it does that of what holds the air up.
_FELT_OPENINGS = ("transition_detached", "exhaust_pipe_parted")


def severity_weight(fault: Fault, severity: Floats) -> Floats:
    """How far a fault has come towards what the tables describe, 0 to 1; 1 for faults without severity."""
    middle = fault.middle_severity
    if middle is None:
        return np.ones_like(severity)
    if fault.effect in ("resistance_times", "leak_times"):
        weight = np.log(severity) / np.log(middle)
    elif fault.effect in ("speed_left", "power_left"):
        weight = (1 - severity) / (1 - middle)
    else:
        weight = np.abs(severity) / middle
    return np.asarray(np.clip(weight, 0, 1))


def felt_by_flow(fault: Fault) -> bool:
    """Whether a felt look fades with the flow for this fault, rather than with its severity."""
    return "AIR" in fault.groups or fault.name in _FELT_OPENINGS


@dataclass(frozen=True, slots=True, eq=False)
class LookRows:
    """A look's table by fault: p (faults, results), named (faults,): whether the table speaks of the fault."""

    p: Floats
    named: NDArray[np.bool_]
    rest: Floats

    def probability(self, fault_index: NDArray[np.intp], weight: Floats) -> Floats:
        """P(result) of each hypothesis, (H, results). fault_index (H,); weight (H,): how far it has come towards the
        table, 0 where that does not name its fault."""
        return np.asarray(self.rest + weight[:, None] * (self.p[fault_index] - self.rest))


def rows_of(check: Check) -> LookRows:
    """Our own table in the order of the catalogue of faults."""
    return _rows(check, tuple(catalogue()))


@lru_cache(maxsize=256)
def _rows(check: Check, names: tuple[str, ...]) -> LookRows:
    return rows_by_key(check, check.rows, names)


def rows_by_key(check: Check, rows: Mapping[str, Sequence[float]], names: Sequence[str]) -> LookRows:
    """A table of a check as it is by key, see Check.key_of, in the order of the names of faults."""
    keys = [check.key_of(name) for name in names]
    return LookRows(
        p=np.array([rows[key] for key in keys]),
        named=np.array([key != REST for key in keys]),
        rest=np.array(rows[REST]),
    )


@dataclass(frozen=True, slots=True, eq=False)
class Taught:
    """What jobs made of our tables: no two are equal but one with itself.

    moves: which causes they make likelier, by how many jobs, the largest first; looks: the tables of the checks they
    moved; times: the moves as priors take them.
    """

    moves: tuple[CauseMove, ...]
    looks: Mapping[str, LookRows]
    times: Times = field(init=False)

    def __post_init__(self) -> None:
        times: dict[str, dict[str, float]] = {}
        for move in self.moves:
            times.setdefault(move.holds, {})[move.fault] = move.times
        object.__setattr__(self, "times", times)

    def rows_of(self, check: Check) -> LookRows:
        """A check's table."""
        return self.looks.get(check.name) or rows_of(check)


#: Our own tables as they are.
UNTAUGHT = Taught((), {})


@dataclass(frozen=True, slots=True)
class LookWeights:
    """How far each hypothesis has come towards the tables, (H,) each: by severity, by the flow felt, by a swap's gain.

    flow and swap are by name; flow_speaks (H,): whether the flow decides for this fault.
    """

    severity: Floats
    flow_speaks: NDArray[np.bool_]
    flow: dict[str, Floats]
    swap: dict[str, Floats]

    def of(self, check: Check) -> Floats:
        """The weight that this look goes by."""
        if check.swap is not None:
            return self.swap[check.swap]
        if check.felt is not None:
            return np.where(self.flow_speaks, self.flow[check.felt], self.severity)
        return self.severity


def lost_flow_weight(share_of_healthy: Floats) -> Floats:
    """Weight of what is felt, from the flow as a share of the healthy one."""
    return np.asarray(np.clip((1 - share_of_healthy) / FELT_LOSS, 0, 1))


def gained_flow_weight(gain: Floats, healthy_gain: float) -> Floats:
    """Weight of a swap, from flow swapped over flow before."""
    return np.asarray(np.clip((gain - healthy_gain) / FELT_GAIN, 0, 1))


def come(check: Check, fault_index: NDArray[np.intp], weights: LookWeights) -> Floats:
    """How far each hypothesis has come towards the table of a look, (H,): not at all where that does not name its
    fault. fault_index (H,)."""
    return np.where(rows_of(check).named[fault_index], weights.of(check), 0.0)


def pair_look_probability(check: Check, rows: LookRows, first: NDArray[np.intp], second: NDArray[np.intp],
                          weights: tuple[LookWeights, LookWeights]) -> Floats:  # fmt: skip
    """P(result) with two faults at once, (H, results): as the one shows it that the table names; the mean where it
    names both. Own assumption. weights: of the first and of the second."""
    sides = [rows.probability(index, come(check, index, weight)) for index, weight in zip((first, second), weights,
                                                                                          strict=True)]  # fmt: skip
    named = np.stack([rows.named[first], rows.named[second]]).astype(float)
    share = np.where(named.any(axis=0), named / np.maximum(named.sum(axis=0), 1), 0.5)
    return np.asarray(share[0][:, None] * sides[0] + share[1][:, None] * sides[1])
