"""What mends a fault: the parts to reach and the acts, in order. May import faults, errors."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.tables import table


@dataclass(frozen=True, slots=True)
class Act:
    """One thing done to mend; its words are the renderer's."""

    id: str
    minutes: float


@dataclass(frozen=True, slots=True)
class Repair:
    """What a fault asks for."""

    fault: str
    reach: tuple[str, ...]
    acts: tuple[Act, ...]


def repair_of(fault: str) -> Repair:
    """The repair of a fault of the catalogue."""
    row, acts = table("faults")[fault], table("acts")
    done = tuple(Act(name, float(acts[name]["minutes"])) for name in row["acts"])
    return Repair(fault, tuple(row["reach"]), done)
