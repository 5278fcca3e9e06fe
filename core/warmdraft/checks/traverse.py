"""Flow from air speeds in a round duct, one centre point or a log-Tchebycheff traverse; or from a bag and a watch."""

from __future__ import annotations

import math
from collections.abc import Sequence
from statistics import median

from warmdraft.errors import MachineError

#: Places of a traverse along a diameter, as shares of it from one wall. Source: ISO 3966, log-Tchebycheff, from memory.
LOG_TCHEBYCHEFF: dict[int, tuple[float, ...]] = {
    4: (0.043, 0.290, 0.710, 0.957),
    6: (0.032, 0.135, 0.321, 0.679, 0.865, 0.968),
}
#: Mean over centre speed in turbulent flow. From memory; 10 % uncertain, 20 % within five diameters of a bend.
CENTRE_TO_MEAN = 0.82
#: Two diameters at a right angle.
DIAMETERS = 2


def flow_of_traverse(speeds_m_s: Sequence[float], bore_m: float) -> float:
    """Volume flow, m³/s: the mean of the speeds times the bore's area.

    speeds_m_s: points of two diameters, 4 or 6 each. Raises MachineError for another number of them.

    >>> round(flow_of_traverse([9.25] * 12, 0.1016), 4)
    0.075
    """
    wanted = [DIAMETERS * points for points in LOG_TCHEBYCHEFF]
    if len(speeds_m_s) not in wanted:
        raise MachineError(
            f"{len(speeds_m_s)} speeds are no traverse; give {' or '.join(map(str, wanted))}: two diameters"
        )
    return math.fsum(speeds_m_s) / len(speeds_m_s) * math.pi * bore_m**2 / 4


def flow_of_centre(speed_m_s: float, bore_m: float) -> float:
    """Volume flow, m³/s, from the speed in the middle of the duct."""
    return CENTRE_TO_MEAN * speed_m_s * math.pi * bore_m**2 / 4


def flow_of_bag(seconds: Sequence[float], litres: float) -> float:
    """Volume flow, m³/s: the bag's volume by the middle of the times it took to fill.

    >>> flow_of_bag([2.4, 2.5, 2.9], 200)
    0.08
    """
    return litres / 1000 / median(seconds)
