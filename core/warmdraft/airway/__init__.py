"""Flow and pressure of the air's way, for thousands of hypotheses at once, in closed form.

May import machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.airway.operating_point import AirFlow, solve
from warmdraft.airway.predict import HOT_RISE_FACTOR, READING_KINDS, TAPS, Conditions, TapOf, hot_factor, predict
from warmdraft.airway.profile import NODES, profile_rows
from warmdraft.airway.state import AirwayState, healthy_state

__all__ = [
    "HOT_RISE_FACTOR",
    "NODES",
    "READING_KINDS",
    "TAPS",
    "AirFlow",
    "AirwayState",
    "Conditions",
    "TapOf",
    "healthy_state",
    "hot_factor",
    "predict",
    "profile_rows",
    "solve",
]
