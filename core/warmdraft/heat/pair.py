"""A load on a healthy machine and on the one at hand, side by side."""

from __future__ import annotations

from warmdraft.airway import AirwayState, Conditions, healthy_state
from warmdraft.heat.case import drying_case
from warmdraft.heat.drying import DryingRun, Load, dry
from warmdraft.machine import Machine


def drying_pair(machine: Machine, now: AirwayState, conditions: Conditions, load: Load) -> tuple[DryingRun, DryingRun]:
    """(healthy, now), under the same conditions.

    >>> from warmdraft.airway import Conditions, healthy_state
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> healthy, now = drying_pair(machine, healthy_state(machine.airway), Conditions(), Load())
    >>> healthy.minutes == now.minutes
    True
    """
    healthy = healthy_state(machine.airway)
    return (
        dry(drying_case(machine, healthy, conditions, load)),
        dry(drying_case(machine, now, conditions, load)),
    )
