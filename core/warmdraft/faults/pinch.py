"""A crushed transition: from how much it resists to how much of its area is left."""

from __future__ import annotations

import math

from warmdraft.air import REFERENCE_DENSITY_KG_M3
from warmdraft.machine import Airway
from warmdraft.vent import pinch_coefficient

#: Bore of a transition, m (4 in). Common practice, no source.
TRANSITION_BORE_M = 0.1016


def open_share_of(severity: float, airway: Airway) -> float:
    """Open area of a crushed transition, a share: where 1 + K·p_v/drop is the severity, at this machine's rated flow.

    severity: times the transition's healthy resistance, 1 or more. K after Weisbach, see pinch_coefficient; found by
    bisection, for K falls as it opens. Between 0.02 and 1.

    >>> from warmdraft.machine import profile
    >>> round(open_share_of(18.0, profile("full-size-electric").airway), 2)
    0.5
    """
    speed = airway.rated_flow_m3s / (math.pi * TRANSITION_BORE_M**2 / 4)
    heads = REFERENCE_DENSITY_KG_M3 / 2 * speed**2 / airway.drop_pa("transition")
    low, high = 0.02, 1.0
    for _ in range(30):
        middle = (low + high) / 2
        if 1 + pinch_coefficient(middle) * heads > severity:
            low = middle
        else:
            high = middle
    return low
