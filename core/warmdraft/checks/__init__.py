"""The catalogue of checks: what each observes, where, how long it takes, and how likely each result is.

May import faults, airway, machine, units, errors. Imports numpy and the standard library.
"""

from warmdraft.checks.catalogue import (
    ACCESS,
    CHECK_FILES,
    NINE_IN_TEN,
    NO_EVIDENCE,
    OWN_ERROR_SHARE,
    Check,
    check_names,
    checks,
    instrument_names,
    instruments_for,
    kinds_read_by,
    reading_bias,
    reading_sd,
    repeated_share,
)
from warmdraft.checks.getting_there import Leg, Place, legs, legs_to, place_of
from warmdraft.checks.likelihood import (
    LookWeights,
    felt_by_flow,
    gained_flow_weight,
    look_probability,
    lost_flow_weight,
    pair_look_probability,
    severity_weight,
)
from warmdraft.checks.swaps import SWAPS, gains, healthy_gains
from warmdraft.checks.traverse import LOG_TCHEBYCHEFF, flow_of_bag, flow_of_centre, flow_of_traverse

__all__ = [
    "ACCESS",
    "CHECK_FILES",
    "LOG_TCHEBYCHEFF",
    "NINE_IN_TEN",
    "NO_EVIDENCE",
    "OWN_ERROR_SHARE",
    "SWAPS",
    "Check",
    "Leg",
    "LookWeights",
    "Place",
    "check_names",
    "checks",
    "felt_by_flow",
    "flow_of_bag",
    "flow_of_centre",
    "flow_of_traverse",
    "gained_flow_weight",
    "gains",
    "healthy_gains",
    "instrument_names",
    "instruments_for",
    "kinds_read_by",
    "legs",
    "legs_to",
    "look_probability",
    "lost_flow_weight",
    "pair_look_probability",
    "place_of",
    "reading_bias",
    "reading_sd",
    "repeated_share",
    "severity_weight",
]
