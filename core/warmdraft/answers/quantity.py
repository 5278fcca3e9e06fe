"""Quantities as answers give them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from warmdraft.air import Floats
from warmdraft.airway import NODES, reading_dimensions
from warmdraft.units import UNITS


@dataclass(slots=True)
class Quantity:
    """A number with its unit."""

    value: float
    unit: str


def quantity(value: float, unit: str) -> Quantity:
    """A quantity, whatever kind of number it comes as."""
    return Quantity(float(value), unit)


def maybe(value: float | None, unit: str) -> Quantity | None:
    """A quantity, or None where it cannot be said."""
    return None if value is None else quantity(value, unit)


def reading_quantity(kind: str, value: float) -> Quantity | None:
    """A number of a kind of reading in its canonical unit; None where this machine has no such reading (NaN)."""
    if value != value:
        return None
    return quantity(value, UNITS[reading_dimensions()[kind]].canonical)


@dataclass(slots=True)
class NodePressure:
    """A pressure at a place of the air's way, gauge."""

    at: str
    pressure: Quantity


def line(pressures: Floats | Iterable[float]) -> list[NodePressure]:
    """Pressures at all places of the way, room to outdoors."""
    return [NodePressure(node, quantity(p, "Pa")) for node, p in zip(NODES, pressures, strict=True)]
