"""The catalogue of faults: what each does to the airway, how likely it is before anything is measured.

May import airway, machine, air, errors. Imports numpy and the standard library.
"""

from warmdraft.faults.catalogue import ELEMENT_NAMES, ZONES, Fault, catalogue, fault_names
from warmdraft.faults.effect import apply_fault, remains_grid, severity_grid, supposed_state
from warmdraft.faults.pinch import open_share_of
from warmdraft.faults.priors import circumstance_names, complaint_names, log_priors, stops_the_job

__all__ = [
    "ELEMENT_NAMES",
    "ZONES",
    "Fault",
    "apply_fault",
    "catalogue",
    "circumstance_names",
    "complaint_names",
    "fault_names",
    "log_priors",
    "open_share_of",
    "remains_grid",
    "severity_grid",
    "stops_the_job",
    "supposed_state",
]
