"""The flow through the outlet as far as the facts tell it, and by what they do."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from warmdraft.air import Floats
from warmdraft.diagnosis.evidence import Numbers
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, Hypotheses
from warmdraft.diagnosis.posterior import Fit, mixture_quantiles

#: measured: somebody read a flow; follows: from other readings; unknown: nothing that was read tells it.
FlowKind = Literal["measured", "follows", "unknown"]
_READ_AS_FLOW = ("outlet_flow", "hood_flow")
#: Readings tell of the flow where nine in ten of it lie within this share of what a healthy machine moves (own choice).
_TOLD_WITHIN = 0.6
_LEVELS = np.array([0.05, 0.5, 0.95])


@dataclass(frozen=True, slots=True)
class Flow:
    """True flow at the outlet, m³/s: 5, 50 and 95 %."""

    kind: FlowKind
    low: float
    median: float
    high: float


def flow_of(outputs: Floats, hypotheses: Hypotheses, weight: Floats, readings: Fit, numbers: Numbers) -> Flow:
    """The flow given all facts. outputs: (H, OUTPUTS) of this machine under each hypothesis; numbers: what is believed
    of what was read."""
    column = KIND_COLUMN["outlet_flow"]
    moves = hypotheses.sensitivity[:, column]
    variance = np.einsum("he,hef,hf->h", moves, readings.scatter_covariance, moves)
    spread = np.sqrt(np.maximum(variance, 0))
    low, median, high = mixture_quantiles(outputs[:, [column]], spread[:, None], weight, _LEVELS)[:, 0]
    told = bool(numbers.groups) and high - low <= _TOLD_WITHIN * hypotheses.healthy[column]
    measured = any(group.kind in _READ_AS_FLOW for group in numbers.groups)
    kind: FlowKind = "measured" if measured else "follows" if told else "unknown"
    return Flow(kind, float(low), float(median), float(high))
