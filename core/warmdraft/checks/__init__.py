"""The catalogue of checks: what each observes, where, how long it takes, and how likely each result is.

May import faults, airway, machine, units, errors. Imports numpy and the standard library.
"""

from warmdraft.checks.catalogue import (
    ACCESS,
    CHECK_FILES,
    NINE_IN_TEN,
    NO_EVIDENCE,
    OPENING_MINUTES,
    Check,
    check_names,
    checks,
    instrument_names,
    instruments_for,
    kinds_read_by,
    reading_bias,
    reading_sd,
)
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
    "OPENING_MINUTES",
    "SWAPS",
    "Check",
    "LookWeights",
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
    "look_probability",
    "lost_flow_weight",
    "pair_look_probability",
    "reading_bias",
    "reading_sd",
    "severity_weight",
]
