"""What mends a fault: its acts, narrowed by what was found and by the machine."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Any

from warmdraft.repair.acts import Act, acts
from warmdraft.tables import table

_NOTHING: Mapping[str, str] = {}


@dataclass(frozen=True, slots=True)
class Repair:
    """What a fault asks for; its acts: what takes it away first, then what goes with it."""

    fault: str
    acts: tuple[Act, ...]

    @property
    def main(self) -> Act:
        """What takes it away, of all that is done for it."""
        return next((act for act in self.acts if not act.finds_out), self.acts[0])

    @property
    def reach(self) -> tuple[str, ...]:
        """Parts to get to."""
        return tuple(dict.fromkeys(part for act in self.acts for part in act.reach))


def repair_of(
    fault: str, found: Mapping[str, str] = _NOTHING, energy: str | None = None, reached: Collection[str] = ()
) -> Repair:
    """The repair of a fault of the catalogue.

    found: results of checks, by check; energy: of the machine; reached: parts that its layout leads to. The first row
    of `narrowed` that holds says which acts it is.

    >>> [act.name for act in repair_of("switch_open", {"meter_belt_switch": "failed"}).acts]
    ['belt_switch.replace']
    """
    row = table("faults")[fault]
    names = next(
        (other["acts"] for other in row.get("narrowed", ()) if _holds(other, found, energy, reached)), row["acts"]
    )
    return Repair(fault, tuple(acts()[name] for name in names))


def _holds(
    row: Mapping[str, Any], found: Mapping[str, str], energy: str | None, reached: Collection[str]
) -> bool:  # fmt: skip
    return (
        all(found.get(check) == result for check, result in row.get("found", {}).items())
        and row.get("energy", energy) == energy
        and ("reached" not in row or row["reached"] in reached)
    )


def mend_of_part(metered: str) -> Act:
    """What a part asks for that a meter failed; metered: by the name it has there.

    >>> mend_of_part("motor_winding").name
    'motor.replace'
    """
    return acts()[table("meter")[metered]["mend"]]
