"""Foam and felt: how long they are cut, which glue stands the heat, what a gap in them passes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from warmdraft.errors import SealError

Cut = Literal["foam", "felt"]

#: What foam is cut longer than its edge, m: pressed together, its ends close (own assumption).
FOAM_OVERLAP_M = 0.010
#: What a glue has to stand beyond the hottest air it sees, K (own assumption).
MARGIN_K = 30.0


@dataclass(frozen=True, slots=True)
class Edge:
    """The edge that is sealed: round, by its diameter, or with corners, by its sides; m."""

    across_m: float
    down_m: float | None = None

    @property
    def length_m(self) -> float:
        """Once round. Raises SealError for an edge that is none.

        >>> Edge(0.1, 0.05).length_m
        0.30000000000000004
        """
        sides = [self.across_m] if self.down_m is None else [self.across_m, self.down_m]
        if not all(0.01 <= side <= 2.0 for side in sides):
            raise SealError(f"{min(sides):g} m is no edge of a dryer; give its sides or its diameter, 1 cm to 2 m")
        return math.pi * self.across_m if self.down_m is None else 2 * (self.across_m + self.down_m)


def cut_length(cut: Cut, edge: Edge, lap_m: float = 0.0) -> float:
    """How long to cut it, m. lap_m: what a felt's kind laps over itself; foam has its own overlap.

    >>> round(cut_length("felt", Edge(0.66), 0.0), 3), round(cut_length("foam", Edge(0.2, 0.1)), 3)
    (2.073, 0.61)
    """
    if not 0 <= lap_m <= 0.3:
        raise SealError(f"{lap_m:g} m is no lap; give 0 to 30 cm")
    return edge.length_m + (FOAM_OVERLAP_M if cut == "foam" else lap_m)


def glue_has_to_stand(hottest_c: float) -> float:
    """Temperature a glue's sheet has to name, degC; hottest_c: of the air it sees."""
    return hottest_c + MARGIN_K
