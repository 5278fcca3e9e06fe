"""Flow and pressure of the air's way, for thousands of hypotheses at once, in closed form.

May import machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.airway.kinds import (
    HOT_PRESSURE_FACTOR,
    READING_KINDS,
    TAPS,
    ReadingKind,
    TapOf,
    hot_factor,
    reading_dimensions,
    reading_kinds,
)
from warmdraft.airway.operating_point import AirFlow, solve
from warmdraft.airway.predict import Conditions, heater_power_w, predict
from warmdraft.airway.profile import NODES, profile_rows
from warmdraft.airway.state import AirwayState, healthy_state

__all__ = [
    "HOT_PRESSURE_FACTOR",
    "NODES",
    "READING_KINDS",
    "TAPS",
    "AirFlow",
    "AirwayState",
    "Conditions",
    "ReadingKind",
    "TapOf",
    "healthy_state",
    "heater_power_w",
    "hot_factor",
    "predict",
    "profile_rows",
    "reading_dimensions",
    "reading_kinds",
    "solve",
]
