"""The catalogue of faults: what each does to the airway, how likely it is before anything is measured.

May import airway, machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.faults.catalogue import ELEMENT_NAMES, ZONES, Fault, catalogue, fault_names
from warmdraft.faults.effect import apply_fault, remains_grid, severity_grid, supposed_state
from warmdraft.faults.pinch import open_share_of
from warmdraft.faults.priors import (
    ABOUT,
    ANY_MACHINE,
    NOTICED_FROM,
    USUAL_LOADS_PER_WEEK,
    About,
    CauseMove,
    Times,
    Told,
    about,
    circumstance_names,
    complaint_names,
    lint_times,
    loads_taken,
    log_priors,
    prior_shares,
    prior_weights,
    stops_the_job,
)

__all__ = [
    "ABOUT",
    "ANY_MACHINE",
    "ELEMENT_NAMES",
    "NOTICED_FROM",
    "USUAL_LOADS_PER_WEEK",
    "ZONES",
    "About",
    "CauseMove",
    "Fault",
    "Times",
    "Told",
    "about",
    "apply_fault",
    "catalogue",
    "circumstance_names",
    "complaint_names",
    "fault_names",
    "lint_times",
    "loads_taken",
    "log_priors",
    "open_share_of",
    "prior_shares",
    "prior_weights",
    "remains_grid",
    "severity_grid",
    "stops_the_job",
    "supposed_state",
]
