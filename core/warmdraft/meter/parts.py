"""Parts as rows of data/meter.toml, supplies as rows of data/supplies.toml."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache
from typing import Any, Literal

from warmdraft.tables import rows

Kind = Literal["continuity", "thermistor", "element", "insulation", "winding", "resistance", "supply"]


@dataclass(frozen=True, slots=True)
class ElectricalPart:
    """One row: what a test of it is; the words that lead the hands are the renderer's.

    ohms: the resistances a good one has, ohms, where the kind is judged by them; else any.
    """

    name: str
    kind: Kind
    circuit: str
    one_shot: bool
    opens_hot: bool
    consequence: str | None
    ohms: tuple[float, float]


@dataclass(frozen=True, slots=True)
class Supply:
    """Nominal volts of a supply."""

    name: str
    leg_leg_v: float
    leg_neutral_v: float


def _part(name: str, row: dict[str, Any]) -> ElectricalPart:
    return ElectricalPart(
        name=name, kind=row["kind"], circuit=row["circuit"], one_shot=row.get("one_shot", False),
        opens_hot=row.get("opens_hot", False), consequence=row.get("consequence"),
        ohms=tuple(row.get("ohms", (0.0, math.inf))),
    )  # fmt: skip


@cache
def parts() -> dict[str, ElectricalPart]:
    """All parts by name.

    >>> parts()['thermal_fuse'].kind, parts()['thermal_fuse'].one_shot
    ('continuity', True)
    """
    return rows("meter", _part)


@cache
def supplies() -> dict[str, Supply]:
    """All supplies by name.

    Volts between legs, and from a leg to neutral.

    >>> next(iter(supplies().values())).leg_leg_v
    240.0
    """
    return rows("supplies", lambda name, row: Supply(name, row["leg_leg"], row["leg_neutral"]))


def supply_of(rated_v: float) -> str:
    """The supply whose volts between legs come nearest a machine's rating.

    >>> supply_of(120.0)
    'one-leg-120'
    """
    return min(supplies().values(), key=lambda supply: abs(supply.leg_leg_v - rated_v)).name
