"""What mends a fault, and all that can be done to a part. May import faults, checks, errors, tables."""

from warmdraft.repair.acts import (
    ACT_KINDS,
    FINDS_OUT,
    NEEDS_NO_OPENING,
    Act,
    ActKind,
    ActStep,
    Stands,
    act_of_check,
    act_of_step,
    acts,
    along_of,
    name_of,
    part_and_act,
    parts_along,
    parts_worked_on,
)
from warmdraft.repair.lint import GRADES, free_share, lint_fault, severity_of
from warmdraft.repair.mends import Repair, mend_of_part, repair_of

__all__ = [
    "ACT_KINDS",
    "FINDS_OUT",
    "GRADES",
    "NEEDS_NO_OPENING",
    "Act",
    "ActKind",
    "ActStep",
    "Repair",
    "Stands",
    "act_of_check",
    "act_of_step",
    "acts",
    "along_of",
    "free_share",
    "lint_fault",
    "mend_of_part",
    "name_of",
    "part_and_act",
    "parts_along",
    "parts_worked_on",
    "repair_of",
    "severity_of",
]
