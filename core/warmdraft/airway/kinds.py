"""Kinds of reading, as rows of data/readings.toml."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any, Literal, cast

from warmdraft.tables import rows
from warmdraft.units import Dimension

#: Hot air against cold, same machine: pressures (own assumption, from the mass flow at an exhaust of 1.06 kg/m³).
#: Volume flows stay.
HOT_PRESSURE_FACTOR = 0.88
_HOT: dict[str, float] = {"pressure": HOT_PRESSURE_FACTOR}


@dataclass(frozen=True, slots=True)
class TapOf:
    """Where a pressure reading sits: the node, and -1 where suction is read as a positive number."""

    node: str
    sign: int


@dataclass(frozen=True, slots=True)
class ReadingKind:
    """One row. given: tap, predicted, condition or told, see readings.toml; hot: times what it reads cold."""

    name: str
    dimension: Dimension
    given: Literal["tap", "predicted", "condition", "told"]
    tap: TapOf | None
    sd: tuple[float, float] | None
    hot: float
    logged: bool
    only_logged: bool

    @property
    def tells_flow(self) -> bool:
        """It is a flow, or moves with it while the machine runs."""
        return self.given == "tap" or self.dimension in ("flow", "temperature_difference")

    @property
    def weighed(self) -> bool:
        """The model says what it would be, so a verdict goes by it."""
        return self.given in ("tap", "predicted")


def _kind(name: str, row: dict[str, Any]) -> ReadingKind:
    dimension = cast(Dimension, row["dimension"])
    sd = row.get("sd")
    return ReadingKind(
        name=name,
        dimension=dimension,
        given=row["given"],
        tap=TapOf(row["tap"], -1 if row.get("suction") else 1) if row["given"] == "tap" else None,
        sd=(float(sd[0]), float(sd[1])) if sd else None,
        hot=row.get("hot", _HOT.get(dimension, 1.0)),
        logged=row.get("logged", False) or row.get("only_logged", False),
        only_logged=row.get("only_logged", False),
    )


@cache
def reading_kinds() -> dict[str, ReadingKind]:
    """All kinds by name, in the table's order.

    >>> reading_kinds()['outlet_static_pressure'].tap
    TapOf(node='exhaust_pipe', sign=1)
    """
    return rows("readings", _kind)


#: Kinds of reading the airway model predicts, in the order of the last axis of `predict`, with their dimension.
READING_KINDS: dict[str, Dimension] = {name: kind.dimension for name, kind in reading_kinds().items() if kind.weighed}
TAPS: dict[str, TapOf] = {name: kind.tap for name, kind in reading_kinds().items() if kind.tap is not None}


def reading_dimensions() -> dict[str, Dimension]:
    """Every reading kind a job may hold, with its dimension: what the airway predicts, the conditions, and times.

    >>> reading_dimensions()['outlet_flow'], reading_dimensions()['drying_minutes']
    ('flow', 'time')
    """
    return {name: kind.dimension for name, kind in reading_kinds().items() if not kind.only_logged}


def hot_factor(kind: str) -> float:
    """What a reading of this kind is multiplied by when the heat is on.

    Own assumption a kind, in readings.toml; 1 where heat does not matter.

    >>> round(hot_factor('outlet_static_pressure'), 2), hot_factor('blower_speed')
    (0.88, 1.0)
    """
    return reading_kinds()[kind].hot
