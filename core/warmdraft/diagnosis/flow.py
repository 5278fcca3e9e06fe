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
READ_AS_FLOW = ("outlet_flow", "hood_flow")
#: Readings tell of the flow where nine in ten of it lie within this share of what a healthy machine moves (own choice).
_TOLD_WITHIN = 0.6
#: Quantiles the flow is given by.
_LEVELS = np.array([0.05, 0.5, 0.95])
FLOW = KIND_COLUMN["outlet_flow"]


@dataclass(frozen=True, slots=True)
class Flow:
    """True flow at the outlet, m³/s: 5, 50 and 95 %."""

    kind: FlowKind
    low: float
    median: float
    high: float


def flow_under(hypotheses: Hypotheses, readings: Fit) -> tuple[Floats, Floats]:
    """True flow at the outlet under each hypothesis as far as the readings tell it, and its variance; (H,), m³/s."""
    moves = hypotheses.sensitivity[:, FLOW]
    mean = hypotheses.output[:, FLOW] + np.einsum("he,he->h", moves, readings.scatter_mean)
    return mean, np.einsum("he,hef,hf->h", moves, readings.scatter_covariance, moves)


def flow_quantiles(mean: Floats, variance: Floats, weight: Floats) -> tuple[float, float, float]:
    """5, 50 and 95 % of the flow over weighed hypotheses, all (H,)."""
    spread = np.sqrt(np.maximum(variance, 0))
    low, median, high = mixture_quantiles(mean[:, None], spread[:, None], weight, _LEVELS)[:, 0]
    return float(low), float(median), float(high)


def flow_of(hypotheses: Hypotheses, weight: Floats, readings: Fit, numbers: Numbers) -> Flow:
    """The flow given all facts. numbers: what is believed of what was read."""
    low, median, high = flow_quantiles(*flow_under(hypotheses, readings), weight)
    told = bool(numbers.groups) and high - low <= _TOLD_WITHIN * hypotheses.healthy[FLOW]
    measured = any(group.kind in READ_AS_FLOW for group in numbers.groups)
    kind: FlowKind = "measured" if measured else "follows" if told else "unknown"
    return Flow(kind, low, median, high)
