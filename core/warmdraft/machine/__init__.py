"""What is true of one machine: its airway, fan, heat and drive, and the profiles a job starts from.

May import units, air, errors. Imports numpy and the standard library.
"""

from warmdraft.machine.model import ELEMENTS, Airway, Drive, Fan, Heat, Limits, Machine
from warmdraft.machine.profiles import DEFAULT_PROFILE, profile, profile_names

__all__ = [
    "DEFAULT_PROFILE",
    "ELEMENTS",
    "Airway",
    "Drive",
    "Fan",
    "Heat",
    "Limits",
    "Machine",
    "profile",
    "profile_names",
]
