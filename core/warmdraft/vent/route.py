"""The way of a new run with the least pressure drop, on a grid: from an outlet to one of the ends, proven.

A run loses what its straights and its bends lose; all straights are alike, and so are all bends. So the fewest cells
are found for every number of bends (by layers: a sweep along each heading, then one more turn), and whatever a cell and
a bend lose, the best is among those few.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
import numpy.typing as npt

from warmdraft.errors import VentError

Heading = Literal["+x", "-x", "+y", "-y", "+z", "-z"]
HEADINGS: tuple[Heading, ...] = get_args(Heading)
Cell = tuple[int, int, int]
Ints = npt.NDArray[np.int64]

_NOWHERE = 1_000_000  # more cells than any grid has
_APART = 10 * _NOWHERE  # what a cell that is in the way sets those behind it off by


@dataclass(frozen=True, slots=True)
class Opening:
    """A place and the heading in which the air goes through it: where a run begins, or ends."""

    cell: Cell
    heading: Heading


@dataclass(frozen=True, slots=True)
class Way:
    """A way of a run: through which cells, how many straights of a cell and bends of 90° it has, to which of the ends.
    turns: for each bend its place in the path and the heading after it."""

    end: int
    cells: tuple[Cell, ...]
    turns: tuple[tuple[int, Heading], ...]
    heading: Heading

    @property
    def straights(self) -> int:
        """Moves from a cell to the next."""
        return len(self.cells) - 1

    @property
    def elbows(self) -> int:
        """Bends of 90°."""
        return len(self.turns)


def ahead(cell: Cell, heading: Heading, steps: int = 1) -> Cell:
    """The cell so many steps on.

    >>> ahead((1, 2, 3), "-z")
    (1, 2, 2)
    """
    axis, sign = _axis(heading)
    moved = list(cell)
    moved[axis] += sign * steps
    return (moved[0], moved[1], moved[2])


def _axis(heading: Heading) -> tuple[int, int]:
    return "xyz".index(heading[1]), 1 if heading[0] == "+" else -1


@dataclass(frozen=True, slots=True)
class _Layer:
    """Which of the states got nearer with one bend more, and how near: sorted, flat."""

    states: Ints
    cells: Ints


class Ways:
    """All ways from one start through a grid: for each number of bends the fewest cells to every place and heading.

    size: cells along x, y and z; blocked: cells nothing goes through.
    Raises VentError for a start that is blocked or outside.

    >>> ways = Ways((3, 3, 1), [(1, 1, 0)], Opening((0, 0, 0), "+x"))
    >>> found = ways.to([Opening((2, 2, 0), "+y")], straight=1.0, elbow=5.0)
    >>> found.cells, found.elbows
    (((0, 0, 0), (1, 0, 0), (2, 0, 0), (2, 1, 0), (2, 2, 0)), 1)
    """

    def __init__(self, size: Cell, blocked: Collection[Cell], start: Opening) -> None:
        self.size, self.start = size, start
        _inside(size, start.cell, "the start")
        self._free: npt.NDArray[np.bool_] = np.ones(size, dtype=bool)
        for cell in blocked:
            _inside(size, cell, "a blocked cell")
            self._free[cell] = False
        if not self._free[start.cell]:
            raise VentError(f"the start {list(start.cell)} is blocked; free it, or start elsewhere")
        self._layers: list[_Layer] = []
        self._spread()

    def _spread(self) -> None:
        best = np.full((len(HEADINGS), *self.size), _NOWHERE, dtype=np.int64)
        best[(HEADINGS.index(self.start.heading), *self.start.cell)] = 0
        offsets = self._offsets()
        while True:
            nearer = best.copy() if not self._layers else np.minimum(best, _turned(best))
            for number, heading in enumerate(HEADINGS):
                nearer[number] = _swept(nearer[number], heading, offsets[number])
            nearer[:, ~self._free] = _NOWHERE
            changed = np.flatnonzero(nearer < best) if self._layers else np.flatnonzero(nearer < _NOWHERE)
            if not changed.size:
                break
            self._layers.append(_Layer(changed, nearer.ravel()[changed]))
            best = nearer

    def _offsets(self) -> list[Ints]:
        """For each heading what makes a sweep count cells and stop at what is in the way."""
        found = []
        for heading in HEADINGS:
            axis, sign = _axis(heading)
            order = np.moveaxis(self._free, axis, -1)[..., ::sign]
            found.append(np.arange(order.shape[-1]) + _APART * np.cumsum(~order, axis=-1))
        return found

    def _cells_at(self, state: int, elbows: int) -> int:
        """The fewest cells to a state with so many bends at most."""
        for layer in reversed(self._layers[: elbows + 1]):
            at = int(np.searchsorted(layer.states, state))
            if at < layer.states.size and layer.states[at] == state:
                return int(layer.cells[at])
        return _NOWHERE

    def choices(self, end: Opening) -> list[tuple[int, int]]:
        """(bends, cells) of the ways to an end that no other beats in both; empty where there is none."""
        _inside(self.size, end.cell, "an end")
        state = self._state(end.cell, end.heading)
        found = []
        for elbows, layer in enumerate(self._layers):
            at = int(np.searchsorted(layer.states, state))
            if at < layer.states.size and layer.states[at] == state:
                found.append((elbows, int(layer.cells[at])))
        return found

    def to(self, ends: Sequence[Opening], straight: float, elbow: float) -> Way | None:
        """The way to any of the ends that costs least, by what a cell and a bend cost; None where there is none. Of
        equal ones that with fewer bends, then the first end's."""
        choices = [
            (cells * straight + elbows * elbow, elbows, number, cells)
            for number, end in enumerate(ends)
            for elbows, cells in self.choices(end)
        ]
        if not choices:
            return None
        least = min(choices)[0]
        _, elbows, number, cells = min(
            (choice for choice in choices if choice[0] <= least * (1 + 1e-12)), key=lambda choice: choice[1:]
        )
        return self._traced(ends[number], number, elbows, cells)

    def _state(self, cell: Cell, heading: Heading) -> int:
        return int(np.ravel_multi_index((HEADINGS.index(heading), *cell), (len(HEADINGS), *self.size)))

    def _traced(self, end: Opening, number: int, elbows: int, cells: int) -> Way:
        """Back from the end: each step to a state that explains this one's count."""
        path = [end.cell]
        back: list[tuple[int, Heading]] = []  # cells still to go at a bend, and the heading after it
        cell, heading = end.cell, end.heading
        while cells or elbows:
            before = ahead(cell, heading, -1)
            if (
                all(0 <= place < most for place, most in zip(before, self.size, strict=True)) and cells
                and self._cells_at(self._state(before, heading), elbows) == cells - 1
            ):  # fmt: skip
                cell, cells = before, cells - 1
                path.append(cell)
                continue
            back.append((cells, heading))
            elbows -= 1
            heading = next(
                other for other in HEADINGS
                if other[1] != heading[1] and self._cells_at(self._state(cell, other), elbows) == cells
            )  # fmt: skip
        return Way(number, tuple(reversed(path)), tuple(reversed(back)), end.heading)


def _turned(best: Ints) -> Ints:
    """With one bend more: the best of the headings across each."""
    across = [[k for k, other in enumerate(HEADINGS) if other[1] != heading[1]] for heading in HEADINGS]
    return np.stack([best[others].min(axis=0) for others in across])


def _swept(best: Ints, heading: Heading, offsets: Ints) -> Ints:
    """Each place as near as the nearest behind it, one cell a step, not through what is in the way.

    A place's count less its own offset is the same all along a straight, and any behind what is in the way is larger
    than all before it: so the running minimum is the sweep.
    """
    axis, sign = _axis(heading)
    along = np.moveaxis(best, axis, -1)[..., ::sign]
    swept = np.minimum.accumulate(along - offsets, axis=-1) + offsets
    return np.moveaxis(np.minimum(swept, _NOWHERE)[..., ::sign], -1, axis)


def _inside(size: Cell, cell: Cell, what: str) -> None:
    if not all(0 <= place < most for place, most in zip(cell, size, strict=True)):
        last = [most - 1 for most in size]
        raise VentError(f"{what}, {list(cell)}, lies outside the grid; give cells from [0, 0, 0] to {last}")


def least_in_the_way(
    size: Cell, blocked: Collection[Cell], start: Opening, ends: Sequence[Opening]
) -> tuple[Cell, ...]:
    """Where no way leads: the fewest blocked cells that a way to any end would have to go through, in its order; empty
    where there is one. Bends and length do not count in it. Raises VentError where not even that is a way.

    >>> wall = [(1, y, 0) for y in range(3)]
    >>> least_in_the_way((3, 3, 1), wall, Opening((0, 1, 0), "+x"), [Opening((2, 1, 0), "+x")])
    ((1, 1, 0),)
    """
    free = np.ones(size, dtype=bool)
    for cell in blocked:
        free[cell] = False
    wanted = {end.cell for end in ends}
    came: dict[Cell, Cell | None] = {start.cell: None}
    now, later = deque([start.cell]), deque[Cell]()
    while now or later:
        if not now:
            now, later = later, now
        cell = now.popleft()
        if cell in wanted:
            return _blocked_along(cell, came, free)
        for heading in HEADINGS:
            there = ahead(cell, heading)
            if there not in came and all(0 <= place < most for place, most in zip(there, size, strict=True)):
                came[there] = cell
                (now if free[there] else later).append(there)
    raise VentError("there is no end; give one")


def _blocked_along(cell: Cell, came: dict[Cell, Cell | None], free: npt.NDArray[np.bool_]) -> tuple[Cell, ...]:
    found: list[Cell] = []
    at: Cell | None = cell
    while at is not None:
        if not free[at]:
            found.append(at)
        at = came[at]
    return tuple(reversed(found))
