"""Heat and supply have no place in the air's way: two lamps, each a state and what it says it of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.diagnosis.verdict import Verdict

LampState = Literal["as_it_should", "suspect", "unknown"]
#: A zone this probable lights its lamp; below the second it is quiet once something speaks of it (own assumption).
SUSPECT = 0.25
#: Supply within this share of its rating is as it should be. Common practice, no source.
SUPPLY_TOLERANCE = 0.10
_SPEAK_OF_HEAT = frozenset({"heater_rise", "heater_current", "exhaust_temperature"})


@dataclass(frozen=True, slots=True)
class Lamps:
    """heat, supply: their states; heat_fault: the likeliest of the heat; volts: None where nobody measured."""

    heat: LampState
    heat_fault: str
    supply: LampState
    volts: float | None
    rated_v: float


def lamps_of(case: Case, verdict: Verdict) -> Lamps:
    """Both lamps.

    >>> from warmdraft.diagnosis import ReadingFact, diagnose
    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'), readings=(ReadingFact('supply_voltage', 240.0),))
    >>> lamps_of(case, diagnose(case)).supply
    'as_it_should'
    """
    zones = dict(verdict.zones)
    leading = next(row for row in verdict.faults if row.zone in ("heat", "electrical"))
    heat: LampState = "unknown"
    if zones["heat"] + zones["electrical"] >= SUSPECT:
        heat = "suspect"
    elif any(reading.kind in _SPEAK_OF_HEAT for reading in case.readings):
        heat = "as_it_should"
    rated = case.machine.heat.supply_voltage_v
    volts = conditions_of(case).supply_voltage_v
    supply: LampState = "unknown"
    if volts is not None:
        supply = "as_it_should" if abs(volts / rated - 1) <= SUPPLY_TOLERANCE else "suspect"
    return Lamps(heat, leading.fault, supply, volts, rated)
