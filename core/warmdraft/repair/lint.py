"""How much lint there was, on a scale of five drawings, and what of a fault each stands for."""

from __future__ import annotations

from functools import cache

from warmdraft.faults import Fault, catalogue
from warmdraft.repair.acts import Act
from warmdraft.repair.mends import repair_of

#: Drawings of the scale: from bare to as full as it comes.
GRADES = 5
#: Acts that take lint away.
_TAKES_AWAY = ("clean", "clear")
#: Effects that grow with the lint there is.
_GROWS = ("resistance_times", "head_lost")


def lint_fault(act: Act) -> Fault | None:
    """The fault that the lint an act takes away makes; None where it makes none of its own.

    >>> from warmdraft.repair import acts
    >>> lint_fault(acts()["lint_duct.clean"]).name
    'lint_duct_packed'
    """
    return _by_act().get(act.name) if act.act in _TAKES_AWAY else None


@cache
def _by_act() -> dict[str, Fault]:
    """The first fault of the catalogue that grows with lint, by what takes it away."""
    found: dict[str, Fault] = {}
    for fault in catalogue().values():
        if fault.effect in _GROWS and fault.range:
            found.setdefault(repair_of(fault.name).main.name, fault)
    return found


def severity_of(fault: Fault, grade: int) -> float:
    """What a drawing stands for: nothing, then evenly to the most the fault comes in; by steps for a resistance, which
    grows by its multiples. grade: 0 to GRADES − 1.

    >>> from warmdraft.faults import catalogue
    >>> [round(severity_of(catalogue()["lint_duct_packed"], grade), 1) for grade in (0, 4)]
    [1.0, 60.0]
    """
    most = max(fault.range or (0.0,))
    share = grade / (GRADES - 1)
    return most**share if fault.effect == "resistance_times" else most * share


def free_share(fault: Fault, grade: int) -> float:
    """How much of the way a drawing leaves free: the root of a resistance (Δp ∝ 1/A²); of a wheel what it keeps."""
    severity = severity_of(fault, grade)
    return float(severity**-0.5) if fault.effect == "resistance_times" else 1 - severity
