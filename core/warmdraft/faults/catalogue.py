"""Faults as rows of data/faults.toml."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Any

from warmdraft.machine import ELEMENTS
from warmdraft.tables import rows

#: What the collar can tell apart, in the air's order; then what is not in its way.
ZONES = (
    "room", "upstream", "blower", "exhaust_pipe", "transition", "run", "hood", "heat", "electrical", "drive", "use",
    "outdoors", "unknown", "none",
)  # fmt: skip
#: What the draft line warms: the elements with the blower between, and "none" for what has no place in the way.
ELEMENT_NAMES = (*ELEMENTS[:4], "blower", *ELEMENTS[4:], "none")


@dataclass(frozen=True, slots=True)
class Fault:
    """One row of the catalogue.

    range: severities it comes in, log-uniform (of either sign where it pushes or pulls), or None; at: the one severity
    of a fault without a range that acts; as_built: the run was so from the first day, and is known once its pieces are;
    late: it sets in during the run; supply, energy, motors: the only ones it comes with.
    """

    name: str
    zone: str
    element: str
    effect: str
    target: str | None
    prior: float
    range: tuple[float, float] | None
    at: float | None
    as_built: bool
    late: bool
    of_the_air: bool
    supply: str | None
    energy: str | None
    motors: int | None
    groups: frozenset[str]
    complaints: dict[str, float]
    consequences: tuple[str, ...]

    @property
    def either_sign(self) -> bool:
        """Whether it comes as a push and as a pull."""
        return self.effect == "outdoor_pressure"

    @property
    def middle_severity(self) -> float | None:
        """Geometric middle of the range: where the tables of checks hold."""
        return math.sqrt(self.range[0] * self.range[1]) if self.range else None


def _fault(name: str, row: dict[str, Any]) -> Fault:
    span = row.get("range")
    return Fault(
        name=name,
        zone=row["zone"],
        element=row["element"],
        effect=row["effect"],
        target=row.get("target"),
        prior=row["prior"],
        range=(float(span[0]), float(span[1])) if span else None,
        at=row.get("at"),
        as_built=row.get("as_built", False),
        late=row.get("late", False),
        of_the_air=row.get("air", True),
        supply=row.get("supply"),
        energy=row.get("energy"),
        motors=row.get("motors"),
        groups=frozenset(row["group"]),
        complaints=row.get("complaints", {}),
        consequences=tuple(row["consequences"]),
    )


@cache
def catalogue() -> dict[str, Fault]:
    """All faults by name."""
    return rows("faults", _fault)


def fault_names() -> tuple[str, ...]:
    """Names of all faults, in the catalogue's order."""
    return tuple(catalogue())
