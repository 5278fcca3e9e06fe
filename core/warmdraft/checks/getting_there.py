"""What it takes to get to a check: rows of data/getting_there.toml."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from warmdraft.checks.catalogue import Check
from warmdraft.tables import table

Place = Literal["outside", "hood", "behind", "inside"]
#: What is done first wherever one looks from behind, or in from above.
_OF_ACCESS = {"outside": (), "behind": ("pull_out",), "top_off": ("lift_lid",), "open": ()}


@dataclass(frozen=True, slots=True)
class Leg:
    """Something done once to get to checks. minutes: there and back; reaches: the part it opens the machine to;
    operation: what a layout calls it."""

    name: str
    minutes: float
    reaches: str | None
    operation: str | None


@cache
def legs() -> dict[str, Leg]:
    """All of them by name."""
    return {
        name: Leg(name, float(row["minutes"]), row.get("reaches"), row.get("operation"))
        for name, row in table("getting_there").items()
    }


@cache
def legs_to(check: Check) -> tuple[Leg, ...]:
    """What has to be done for a check before anything else."""
    return tuple(legs()[name] for name in (*_OF_ACCESS[check.access], *check.first))


def place_of(check: Check) -> Place:
    """Where one stands for it."""
    if check.access in ("top_off", "open"):
        return "inside"
    if check.access == "behind":
        return "behind"
    return "hood" if "walk_to_hood" in check.first else "outside"
