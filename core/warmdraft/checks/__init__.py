"""The catalogue of checks: what each observes, where, how long it takes, and how likely each result is.

May import faults, airway, machine, units, errors. Imports numpy and the standard library.
"""

from warmdraft.checks.catalogue import (
    ACCESS,
    NO_EVIDENCE,
    Check,
    check_names,
    checks,
    instrument_names,
    instrument_words,
    instruments_for,
    reading_dimensions,
    reading_sd,
)
from warmdraft.checks.likelihood import look_log_likelihood

__all__ = [
    "ACCESS",
    "NO_EVIDENCE",
    "Check",
    "check_names",
    "checks",
    "instrument_names",
    "instrument_words",
    "instruments_for",
    "look_log_likelihood",
    "reading_dimensions",
    "reading_sd",
]
