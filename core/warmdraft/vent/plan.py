"""A plan of where a machine stands: what is in the way of a new run, where it may begin, where its hood may go.

The machine's back looks along +y; x runs to the right as one faces the wall behind it, z up. Cells count from the left,
front, lowest corner. The grid ends where the room does; a face that is said to be outdoors is a wall for a hood.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal, get_args

from warmdraft.tables import rows
from warmdraft.vent.allowance import CodeProfile
from warmdraft.vent.route import HEADINGS, Cell, Heading, Opening, ahead

Outlet = Literal["back", "left", "right", "base"]
OUTLETS: tuple[Outlet, ...] = get_args(Outlet)
#: Width, depth and height of a machine, m (common practice, no source: 27 by 30 by 38 in).
MACHINE_M = (0.69, 0.76, 0.97)
#: Room an outlet to the side wants between cabinet and wall, m (10 in; common practice, no source).
SIDE_ROOM_M = 0.254
#: How far the ground outside lies below the floor, m, where nobody says (own assumption).
GROUND_BELOW_M = 0.3
#: Where each outlet's air leaves to.
OUT_OF: dict[Outlet, Heading] = {"back": "+y", "left": "-x", "right": "+x", "base": "-z"}
#: Which part of a layout stands for an outlet that is moved; the back needs none.
MOVED: dict[Outlet, str] = {"left": "side_outlet", "right": "side_outlet", "base": "base_outlet"}
#: Faces of the grid a hood may go into; below the floor there is no outdoors.
FACES: tuple[Heading, ...] = tuple(heading for heading in HEADINGS if heading != "-z")


@dataclass(frozen=True, slots=True)
class ThingKind:
    """A kind of thing that stands in the way. stands_m: from where to where it reaches, from the floor up or, where it
    hangs, from the ceiling down; opening: a way air can come back in by."""

    stands_m: tuple[float, float]
    hangs: bool
    opening: bool


@lru_cache(maxsize=1)
def thing_kinds() -> dict[str, ThingKind]:
    """Our kinds of things by name.

    >>> thing_kinds()["window"].opening
    True
    """

    def kind(_: str, row: dict[str, Any]) -> ThingKind:
        low, high = row["stands"]
        return ThingKind((low, high), row.get("hangs", False), row.get("opening", False))

    return rows("plan_things", kind)


@dataclass(frozen=True, slots=True)
class Thing:
    """Something in the way: a box of cells, both corners in it."""

    kind: str
    low: Cell
    high: Cell

    def cells(self) -> Iterator[Cell]:
        """Every cell of it."""
        for x in range(self.low[0], self.high[0] + 1):
            for y in range(self.low[1], self.high[1] + 1):
                for z in range(self.low[2], self.high[2] + 1):
                    yield (x, y, z)

    def distance_m(self, cell: Cell, cell_m: float) -> float:
        """From the middle of a cell to the nearest of its edges, m."""
        apart = [
            max(low - place - 0.5, 0.0, place - high - 0.5)
            for low, place, high in zip(self.low, cell, self.high, strict=True)
        ]
        return math.hypot(*apart) * cell_m


def levels_of(kind: str, levels: int, cell_m: float, floor: int = 0) -> tuple[int, int]:
    """Lowest and highest cell of a thing of which only the place on the floor is drawn.

    >>> levels_of("joist", 8, 0.3), levels_of("wall", 8, 0.3), levels_of("window", 8, 0.3)
    ((7, 7), (0, 7), (3, 6))
    """
    low_m, high_m = thing_kinds()[kind].stands_m
    count = levels - floor
    low, high = math.floor(low_m / cell_m + 1e-9), min(count, math.ceil(high_m / cell_m - 1e-9)) - 1
    if thing_kinds()[kind].hangs:
        low, high = count - 1 - max(high, 0), count - 1 - low
    low = min(low, count - 1)
    return floor + low, floor + max(high, low)


@dataclass(frozen=True, slots=True)
class Plan:
    """Where a machine stands. machine: its left, front, lowest cell; floor: the cell it stands on, above 0 where there
    is room below the floor; outdoors: faces a hood may go into; holes: where one is already; ground_m: how far
    the ground outside lies below the floor; way_unit: what it is drawn in, ft or m."""

    size: Cell
    cell_m: float
    machine: Cell
    things: tuple[Thing, ...]
    outdoors: tuple[Heading, ...]
    holes: tuple[Opening, ...]
    code_profile: CodeProfile
    ground_m: float
    way_unit: str

    @property
    def floor(self) -> int:
        """The level the machine stands on."""
        return self.machine[2]

    @property
    def stands(self) -> Thing:
        """The machine itself, in whole cells."""
        far = [at + max(1, round(side / self.cell_m)) - 1 for at, side in zip(self.machine, MACHINE_M, strict=True)]
        inside = [min(place, most - 1) for place, most in zip(far, self.size, strict=True)]
        return Thing("machine", self.machine, (inside[0], inside[1], inside[2]))

    def blocked(self) -> dict[Cell, str]:
        """What each cell that nothing goes through is taken by: the kind of the thing, or the machine."""
        taken = {cell: thing.kind for thing in self.things for cell in thing.cells()}
        return taken | dict.fromkeys(self.stands.cells(), "machine")

    def begins(self, outlet: Outlet) -> Opening | None:
        """Where a run from an outlet begins; None where the grid ends there."""
        low, high = self.stands.low, self.stands.high
        middle = ((low[0] + high[0]) // 2, high[1], low[2])
        side = {"back": middle, "left": (low[0], high[1], low[2]), "right": high[:2] + low[2:], "base": middle}
        heading = OUT_OF[outlet]
        cell = ahead(side[outlet], heading)
        inside = all(0 <= place < most for place, most in zip(cell, self.size, strict=True))
        return Opening(cell, heading) if inside else None

    def room_m(self, outlet: Outlet) -> float:
        """Free length straight on from an outlet, m."""
        begin = self.begins(outlet)
        taken = self.blocked()
        free = 0
        while (
            begin
            and begin.cell not in taken
            and all(0 <= place < most for place, most in zip(begin.cell, self.size, strict=True))
        ):
            free += 1
            begin = Opening(ahead(begin.cell, begin.heading), begin.heading)
        return free * self.cell_m

    @property
    def faces(self) -> tuple[Heading, ...]:
        """Faces that a run may end in."""
        return tuple(dict.fromkeys((*self.outdoors, *(hole.heading for hole in self.holes))))

    def ends(self, face: Heading) -> list[Opening]:
        """Where a run may end in a face: where a hood may go, and where a hole is already."""
        new = self.hoods(face) if face in self.outdoors else []
        return [*(hole for hole in self.holes if hole.heading == face), *new]

    def hoods(self, face: Heading) -> list[Opening]:
        """Where a hood may go into a face: not through anything, away from openings and from the ground outside."""
        taken, openings = self.blocked(), [thing for thing in self.things if thing_kinds()[thing.kind].opening]
        axis = "xyz".index(face[1])
        last = self.size[axis] - 1 if face[0] == "+" else 0
        found = []
        for x in range(self.size[0]):
            for y in range(self.size[1]):
                for z in range(self.floor, self.size[2]):
                    cell = (x, y, z)
                    if cell[axis] != last or cell in taken:
                        continue
                    above = (z - self.floor + 0.5) * self.cell_m + self.ground_m
                    if face != "+z" and above < self.code_profile.hood_above_ground_m - 1e-9:
                        continue
                    apart = min((thing.distance_m(cell, self.cell_m) for thing in openings), default=math.inf)
                    if apart >= self.code_profile.hood_from_openings_m - 1e-9:
                        found.append(Opening(cell, face))
        return found
