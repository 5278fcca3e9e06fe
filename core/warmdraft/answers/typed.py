"""What people type into a panel that keeps nothing, read in their own units."""

from __future__ import annotations

from warmdraft.errors import DocumentError, UnitError
from warmdraft.units import Dimension, parse_typed, to_si
from warmdraft.words import Words


def small_unit(words: Words) -> str:
    """What this person measures something small in."""
    return "in" if words.way_unit() == "ft" else "mm"


def typed_si(name: str, typed: str, dimension: Dimension, unit: str, empty: float | None = None) -> float:
    """What was typed, canonical; unit: where none was; empty: what nothing stands for. Raises DocumentError."""
    if empty is not None and not typed.strip():
        return empty
    try:
        return to_si(*parse_typed(typed, dimension, unit), dimension)
    except UnitError as error:
        raise DocumentError(f"$.{name}", str(error)) from None
