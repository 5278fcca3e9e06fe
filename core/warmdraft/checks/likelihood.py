"""P(result of a look | fault, severity), for all hypotheses at once.

Rows hold at a fault's middle severity and fade to `rest` below it: P = (1 − w)·rest + w·row. Felt looks fade with the
flow instead: w = (1 − Q/Q_healthy)/0.33. Own assumption (decision 0006).
"""

from __future__ import annotations

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks.catalogue import Check
from warmdraft.faults import Fault

#: Loss of flow at which a hand or an eye is as sure as it gets.
FELT_LOSS = 0.33


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
        weight = severity / middle
    return np.asarray(np.clip(weight, 0, 1))


def look_log_likelihood(
    check: Check, faults: list[tuple[Fault, slice]], severity: Floats, flow_share: Floats
) -> Floats:
    """Log P(result) of each hypothesis, (hypotheses, results).

    faults: each fault with its stretch of hypotheses; severity (hypotheses,); flow_share: flow at the hood over the
    healthy flow there, (hypotheses,).
    """
    rest = np.array(check.rows["rest"])
    out = np.tile(np.log(rest), (len(severity), 1))
    for fault, here in faults:
        if not check.names(fault.name):
            continue
        if check.felt:
            weight = np.clip((1 - flow_share[here]) / FELT_LOSS, 0, 1)
        else:
            weight = severity_weight(fault, severity[here])
        row = np.array(check.row_of(fault.name))
        out[here] = np.log((1 - weight)[:, None] * rest + weight[:, None] * row)
    return out
