"""Ways to fill a standard length, and linear and integer programmes over them (Gilmore and Gomory 1961)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import islice

import highspy
import numpy as np
import numpy.typing as npt

from warmdraft.stock.packing import Purchase, TooLong

Floats = npt.NDArray[np.float64]
Filling = tuple[int, ...]  # how many of each length of piece
SLACK = 1e-9  # relative, of a comparison of sums
#: Work at most: rounds of columns; for one purchase fillings, and nodes of the integer programme.
_ROUNDS, _FILLINGS, _NODES = 160, 6_000, 1_000
_NEAR = 2e-4  # relative: a bound that is good enough
_NOTHING = 1e-10  # what a programme calls nothing
_NONE, _NO_VALUE = np.array([], dtype=np.int32), np.array([])


class _Programme:
    """A linear programme over fillings: at least so many of each piece, at most so many lengths of each kind.

    Columns are added as they are found; the solver goes on from where it was.
    """

    def __init__(self, wanted: Sequence[int], kinds: int, costs: Floats, missing: Floats | None = None) -> None:
        """costs: of a filling by its kind; missing: of a piece that is in none, None where all have to be."""
        self.solver, self.costs, self.columns = _solver(), costs, set[tuple[int, Filling]]()
        self.sizes = len(wanted)
        for count in wanted:
            self.solver.addRow(float(count), highspy.kHighsInf, 0, _NONE, _NO_VALUE)
        for _ in range(kinds):
            self.solver.addRow(0.0, highspy.kHighsInf, 0, _NONE, _NO_VALUE)
        if missing is not None:
            for row, cost in enumerate(missing):
                self.solver.addCol(cost, 0.0, highspy.kHighsInf, 1, np.array([row], dtype=np.int32), np.ones(1))

    def add(self, fillings: Iterable[tuple[int, Filling]]) -> None:
        """More columns; those that are there already stay."""
        for kind, filling in fillings:
            if (kind, filling) not in self.columns:
                self.columns.add((kind, filling))
                rows = [row for row, count in enumerate(filling) if count]
                self.solver.addCol(
                    self.costs[kind], 0.0, highspy.kHighsInf, len(rows) + 1,
                    np.array([*rows, self.sizes + kind], dtype=np.int32),
                    np.array([*(filling[row] for row in rows), 1], dtype=float),
                )  # fmt: skip

    def allow(self, purchase: Purchase) -> None:
        """At most so many lengths of each kind."""
        for kind, count in enumerate(purchase):
            self.solver.changeRowBounds(self.sizes + kind, 0.0, float(count))

    def solved(self) -> tuple[float, Floats, Floats]:
        """The least cost; what a piece of each size is worth there, what one length more of a kind would save."""
        self.solver.run()
        duals = np.array(self.solver.getSolution().row_dual)
        least = float(self.solver.getInfo().objective_function_value)
        return least, np.maximum(0.0, duals[: self.sizes]), np.maximum(0.0, -duals[self.sizes :])


def _solver() -> highspy.Highs:
    solver = highspy.Highs()  # type: ignore[no-untyped-call]  # the library says no types of it
    for option, value in (("output_flag", False), ("threads", 1), ("random_seed", 0)):
        solver.setOptionValue(option, value)
    return solver


class Fillings:
    """Ways to fill a length that are known so far, and the programmes over them."""

    def __init__(self, sizes: Sequence[int], wanted: Sequence[int], caps: Sequence[int], measure: int) -> None:
        self.sizes, self.wanted, self.caps = sizes, wanted, caps
        self.coarse = [size // measure for size in sizes]
        self.tables = [cap // measure for cap in caps]
        self.known: dict[tuple[int, Filling], None] = {}
        for size in range(len(sizes)):
            for kind, cap in enumerate(caps):
                if sizes[size] <= cap:
                    count = min(wanted[size], cap // sizes[size])
                    self.known[kind, tuple(count if k == size else 0 for k in range(len(sizes)))] = None
        missing = np.array(sizes) / sizes[0]
        self.whether = _Programme(wanted, len(caps), np.zeros(len(caps)), missing)

    def best(self, worth: Sequence[float], of: Sequence[int] | None = None) -> list[tuple[float, Filling]]:
        """For each length the filling of most worth, of all pieces or so many of each; pieces counted a little short,
        so never less than can be."""
        room = max(self.tables)
        table = np.zeros(room + 1)
        taken: list[tuple[int, npt.NDArray[np.bool_]]] = []
        for size, (value, length, count) in enumerate(zip(worth, self.coarse, of or self.wanted, strict=True)):
            if value <= _NOTHING or length > room:
                continue
            for _ in range(count):
                more = table[: room + 1 - length] + value
                better = np.zeros(room + 1, dtype=bool)
                better[length:] = more > table[length:]
                table = table.copy()
                table[length:] = np.maximum(table[length:], more)
                taken.append((size, better))
        return [(float(table[most]), self._read(taken, most)) for most in self.tables]

    def _read(self, taken: Sequence[tuple[int, npt.NDArray[np.bool_]]], room: int) -> Filling:
        filling = [0] * len(self.sizes)
        for size, better in reversed(taken):
            if better[room]:
                filling[size] += 1
                room -= self.coarse[size]
        return tuple(filling)

    def bound(self, most: Sequence[float], worth: Sequence[float]) -> tuple[Floats, float]:
        """What every purchase has to hold: worth of the pieces, and the most a length holds of it."""
        return np.array(most), float(np.dot(worth, self.wanted))

    def priced(self, costs: Floats) -> tuple[Floats, float]:
        """What the pieces are worth where no length holds more than it costs: their sum is the least any purchase costs
        (Gilmore and Gomory 1961)."""
        programme = _Programme(self.wanted, len(self.caps), costs)
        found = self.bound([0.0] * len(self.caps), [0.0] * len(self.sizes))
        for _ in range(_ROUNDS):
            programme.add(self.known)
            least, worth, _ = programme.solved()
            best = self.best(list(worth))
            over = max(1.0, *(value / cost for (value, _), cost in zip(best, costs, strict=True)))
            bound = self.bound([value / over for value, _ in best], list(worth / over))
            found = max(found, bound, key=lambda row: row[1])
            fresh = {(kind, filling): None for kind, (value, filling) in enumerate(best)
                     if value > costs[kind] * (1 + SLACK)}  # fmt: skip
            # what is left below the least no purchase falls between, or few
            if bound[1] > least * (1 - _NEAR) or not fresh.keys() - self.known.keys():
                break
            self.known |= fresh | self._after(worth, max(fresh, key=lambda row: best[row[0]][0] / costs[row[0]]))
        return found

    def _after(self, worth: Floats, first: tuple[int, Filling]) -> dict[tuple[int, Filling], None]:
        """What fills lengths of a kind best once one filling is cut: the next rounds would come to it one by one."""
        kind, filling = first
        left, found = list(self.wanted), dict[tuple[int, Filling], None]()
        while any(filling):
            left = [count - taken for count, taken in zip(left, filling, strict=True)]
            filling = self.best(list(worth), left)[kind][1] if any(left) else ()
            if any(filling):
                found[kind, filling] = None
        return found

    def ruled_out(self, purchase: Purchase) -> tuple[Floats, float] | None:
        """A bound that this purchase does not meet, where its programme has one; None where it does not tell."""
        self.whether.allow(purchase)
        for _ in range(_ROUNDS):
            self.whether.add(self.known)
            missing, worth, rents = self.whether.solved()
            if missing < _NOTHING:
                return None
            best = self.best(list(worth))
            most, needed = self.bound([value for value, _ in best], list(worth))
            if most @ purchase < needed * (1 - 1e-7):
                return most, needed
            fresh = {(kind, filling): None for kind, (value, filling) in enumerate(best)
                     if value > rents[kind] + SLACK}  # fmt: skip
            if not fresh.keys() - self.known.keys():
                return None
            self.known |= fresh
        return None

    def of_known(self, purchase: Purchase) -> list[tuple[int, Filling]]:
        """Fillings known so far that make a purchase hold all pieces; empty where none are found. The tables count
        pieces a little short: what does not fit to the step is left out."""
        rows = [
            (kind, filling) for kind, filling in self.known
            if sum(n * size for n, size in zip(filling, self.sizes, strict=True)) <= self.caps[kind]
        ]  # fmt: skip
        return _chosen(rows, self.wanted, purchase) or []

    def of_all(self, purchase: Purchase, spare: int) -> list[tuple[int, Filling]]:
        """Fillings that make a purchase hold all pieces; empty where none do. Looked at are all that leave no more than
        it can spare and that no piece can be added to. Raises TooLong."""
        rows = list(islice((row for kind, count in enumerate(purchase) if count for row in self._full(kind, spare)),
                           _FILLINGS + 1))  # fmt: skip
        chosen = _chosen(rows, self.wanted, purchase) if len(rows) <= _FILLINGS else None
        if chosen is None:
            raise TooLong
        return chosen

    def _full(self, kind: int, spare: int) -> Iterator[tuple[int, Filling]]:
        """Fillings of a length that leave no more than is to spare and that nothing can be added to."""
        behind = [sum(n * s for n, s in zip(self.wanted[k:], self.sizes[k:], strict=True)) for k in
                  range(len(self.sizes) + 1)]  # fmt: skip
        # place, room, the shortest piece that was left out, how many of each
        waiting: list[tuple[int, int, int, Filling]] = [(0, self.caps[kind], self.caps[kind] + 1, ())]
        while waiting:
            at, room, shortest, filling = waiting.pop()
            if room - behind[at] > spare or room - behind[at] >= shortest:
                continue
            if at == len(self.sizes):
                if room < shortest:
                    yield kind, filling
                continue
            most = min(self.wanted[at], room // self.sizes[at])
            for take in range(most + 1):
                left_out = min(shortest, self.sizes[at]) if take < self.wanted[at] else shortest
                waiting.append((at + 1, room - take * self.sizes[at], left_out, (*filling, take)))


def _chosen(
    rows: Sequence[tuple[int, Filling]], wanted: Sequence[int], purchase: Purchase
) -> list[tuple[int, Filling]] | None:  # fmt: skip
    """Of these fillings some that fit a purchase and hold all pieces; empty where none do, None where it is too much to
    tell."""
    if not rows:
        return []
    programme = _Programme(wanted, len(purchase), np.zeros(len(purchase)))
    programme.add(rows)
    programme.allow(purchase)
    solver = programme.solver
    for column in range(len(rows)):
        solver.changeColIntegrality(column, highspy.HighsVarType.kInteger)
    solver.setOptionValue("mip_max_nodes", _NODES)
    solver.run()
    status = solver.getModelStatus()
    if status == highspy.HighsModelStatus.kInfeasible:
        return []
    if status != highspy.HighsModelStatus.kOptimal:
        return None
    counts = np.round(solver.getSolution().col_value).astype(int)
    return [row for row, count in zip(rows, counts, strict=True) for _ in range(count)]
