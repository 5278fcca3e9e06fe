"""The vent outside the machine: what a run and its hood lose at a given flow.

May import machine, air, units, errors.
"""

from warmdraft.vent.losses import (
    Elbow,
    Flexible,
    Hood,
    Piece,
    Pinch,
    Straight,
    VentRun,
    piece_drops_pa,
    run_and_hood_drop_pa,
)

__all__ = [
    "Elbow",
    "Flexible",
    "Hood",
    "Piece",
    "Pinch",
    "Straight",
    "VentRun",
    "piece_drops_pa",
    "run_and_hood_drop_pa",
]
