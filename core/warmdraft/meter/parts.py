"""Parts and supplies as rows of data/meter.toml."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from warmdraft.errors import CatalogueError
from warmdraft.tables import table

Kind = Literal["continuity", "thermistor", "element", "insulation", "winding", "supply"]
_SUPPLY = "supply:"


@dataclass(frozen=True, slots=True)
class ElectricalPart:
    """One row: what a test of it is, and the words that lead the hands."""

    name: str
    kind: Kind
    circuit: str
    one_shot: bool
    opens_hot: bool
    consequence: str | None
    where: str
    isolate: str
    range: str
    good_digital: str
    good_analogue: str


@dataclass(frozen=True, slots=True)
class Supply:
    """Nominal volts of a supply."""

    name: str
    leg_leg_v: float
    leg_neutral_v: float


@lru_cache(maxsize=1)
def parts() -> dict[str, ElectricalPart]:
    """All parts by name. Raises CatalogueError for a row of an unknown kind."""
    found = {}
    for name, row in table("meter").items():
        if name.startswith(_SUPPLY):
            continue
        if row["kind"] not in ("continuity", "thermistor", "element", "insulation", "winding", "supply"):
            raise CatalogueError(f"meter.toml, {name}: kind '{row['kind']}' is unknown")
        found[name] = ElectricalPart(
            name=name, kind=row["kind"], circuit=row["circuit"], one_shot=row.get("one_shot", False),
            opens_hot=row.get("opens_hot", False), consequence=row.get("consequence"), where=row["where"],
            isolate=row["isolate"], range=row["range"], good_digital=row["good"]["digital"],
            good_analogue=row["good"]["analogue"],
        )  # fmt: skip
    return found


@lru_cache(maxsize=1)
def supplies() -> dict[str, Supply]:
    """All supplies by name."""
    return {
        name.removeprefix(_SUPPLY): Supply(name.removeprefix(_SUPPLY), row["leg_leg"], row["leg_neutral"])
        for name, row in table("meter").items()
        if name.startswith(_SUPPLY)
    }


def supply_of(rated_v: float) -> str:
    """The supply whose volts between legs come nearest a machine's rating.

    >>> supply_of(120.0)
    'one-leg-120'
    """
    return min(supplies().values(), key=lambda supply: abs(supply.leg_leg_v - rated_v)).name
