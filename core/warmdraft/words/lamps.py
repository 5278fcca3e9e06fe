"""Heat and supply have no place in the air's way: two lamps, each a state and a sentence."""

from __future__ import annotations

from typing import Any

from warmdraft.diagnosis import Case, Verdict
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.words.english import English

#: A zone this probable lights its lamp; below the second it is quiet once something speaks of it (own assumption).
SUSPECT = 0.25
#: Supply within this share of its rating is as it should be. Common practice, no source.
SUPPLY_TOLERANCE = 0.10
_SPEAK_OF_HEAT = {"heater_rise", "heater_current", "exhaust_temperature"}


def lamps(case: Case, verdict: Verdict, english: English) -> list[dict[str, Any]]:
    """[{"lamp", "state": "as_it_should"|"suspect"|"unknown", "text"}], heat then supply."""
    zones = dict(verdict.zones)
    leading = next(row for row in verdict.faults if row.zone in ("heat", "electrical"))
    spoken = any(reading.kind in _SPEAK_OF_HEAT for reading in case.readings)
    if zones["heat"] + zones["electrical"] >= SUSPECT:
        heat = {"state": "suspect", "text": english.fault(leading.fault)}
    elif spoken:
        heat = {"state": "as_it_should", "text": "as it should"}
    else:
        heat = {"state": "unknown", "text": "not measured"}
    rated = case.machine.heat.supply_voltage_v
    voltage = conditions_of(case).supply_voltage_v
    if voltage is None:
        supply = {"state": "unknown", "text": "not measured"}
    else:
        near = abs(voltage / rated - 1) <= SUPPLY_TOLERANCE
        supply = {"state": "as_it_should" if near else "suspect", "text": f"{voltage:.0f} of {rated:.0f} V"}
    return [{"lamp": "heat", **heat}, {"lamp": "supply", **supply}]
