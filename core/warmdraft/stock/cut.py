"""Pieces from standard lengths for the least money, then the least bought: proven.

What is bought is a number of each length, so the dearer of two purchases is never looked at first:

1. A bound from below: the linear programme over ways to fill one length, its columns found by a knapsack (Gilmore and
   Gomory 1961). Its prices of the pieces also bound any purchase: a length holds no more worth than its best filling.
2. Purchases in order of price and length, those left out that such a bound rules out.
3. Each is packed exactly: the longest piece that is left goes into some length, filled up as full as it goes, no more
   left over than the purchase has (bin completion). Where that takes too long, the programme of this purchase gives one
   more bound, or all fillings that leave little enough are enumerated and chosen among by an integer programme.

Work is bounded by counts, not by a clock: the same question has the same answer. What is not proven says so.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import reduce
from itertools import islice
from math import gcd

import highspy
import numpy as np
import numpy.typing as npt

from warmdraft.errors import CutError

Floats = npt.NDArray[np.float64]

#: Lengths are counted in steps of this, m, and may be wrong by as much together as rounding from feet makes them.
_STEP_M, _SLIP_STEPS = 1e-7, 20
#: Steps that a length is divided into at most where its fillings are tabled; coarser, pieces count a little short.
_TABLED = 8192
#: Work at most: rounds of columns; purchases in a slice; of these, ones that are given up before the others are only
#: packed, and of which one that is too long has so much more money spent.
_ROUNDS, _PURCHASES, _HARD, _SKIPPED = 160, 20_000, 4, 0.01
#: And for one purchase: openings of a length while packing it, and how often that is begun in another order; fillings,
#: nodes of the integer programme.
_WORK, _STARTS, _FILLINGS, _NODES = 100, 8, 6_000, 1_000
_WINDOW = 0.002  # purchases are looked at in slices of so much more money
_NEAR = 2e-4  # relative: a bound that is good enough
_SLACK = 1e-9  # relative, of a comparison of sums
_NOTHING = 1e-10  # what a programme calls nothing
_NONE, _NO_VALUE = np.array([], dtype=np.int32), np.array([])

Filling = tuple[int, ...]  # how many of each length of piece
Purchase = tuple[int, ...]  # how many of each stock


@dataclass(frozen=True, slots=True)
class Stock:
    """A standard length as it is sold, m, and its price."""

    length_m: float
    price: Decimal


@dataclass(frozen=True, slots=True)
class Bar:
    """One length that is bought: of which stock, the pieces cut from it in order, what is left of it; m."""

    stock: int
    pieces_m: tuple[float, ...]
    left_m: float


@dataclass(frozen=True, slots=True)
class Cuts:
    """What is bought and how it is cut. cost: the least, where optimal; waste_m: what is left over of all."""

    bars: tuple[Bar, ...]
    cost: Decimal
    waste_m: float
    optimal: bool


class _TooLong(Exception):
    """More work than it is given."""


def cut_list(stock: Sequence[Stock], pieces_m: Sequence[float], kerf_m: float = 0.0) -> Cuts:
    """The cheapest purchase that the pieces can be cut from, of equal ones the shortest; any number of each stock.

    kerf_m: what a cut takes; the last piece of a length takes none where it ends with it. Raises CutError for a piece
    that is longer than every stock.

    >>> cuts = cut_list([Stock(3.0, Decimal("15.5")), Stock(1.5, Decimal("9"))], [1.4, 1.4, 0.2, 1.3])
    >>> cuts.cost, [bar.pieces_m for bar in cuts.bars], cuts.optimal
    (Decimal('24.5'), [(1.4, 1.4, 0.2), (1.3,)], True)
    """
    longest = max((row.length_m for row in stock), default=0.0)
    for number, piece in enumerate(pieces_m):
        if piece > longest + _SLIP_STEPS * _STEP_M:
            raise CutError(
                f"piece {number} is {piece:g} m long, the longest stock {longest:g} m; give a longer one, or the piece "
                "in two", number,
            )  # fmt: skip
    if not pieces_m:
        return Cuts((), Decimal(0), 0.0, True)
    case = _Case(stock, pieces_m, kerf_m)
    bars, optimal = case.solved()
    cut = []
    left_of = list(np.argsort([-piece for piece in pieces_m], kind="stable"))
    by_size: dict[int, list[float]] = {}
    for number in left_of:
        by_size.setdefault(case.steps(pieces_m[number]), []).append(pieces_m[number])
    for kind, filling in bars:
        taken = tuple(by_size[case.sizes[k] - case.kerf].pop(0) for k in sorted(filling))
        left = stock[kind].length_m - sum(taken) - kerf_m * len(taken)
        cut.append(Bar(kind, taken, max(0.0, left) if left > _SLIP_STEPS * _STEP_M else 0.0))
    cut.sort(key=lambda bar: (bar.stock, [-piece for piece in bar.pieces_m]))
    cost = sum((stock[bar.stock].price for bar in cut), Decimal(0))
    return Cuts(tuple(cut), cost, sum(bar.left_m for bar in cut), optimal)


class _Case:
    """One question in whole numbers. sizes: lengths of pieces in steps, longest first, with their kerf; wanted: how
    many of each; kinds: stocks that no other beats; caps: their lengths with the kerf that the last piece saves."""

    def __init__(self, stock: Sequence[Stock], pieces_m: Sequence[float], kerf_m: float) -> None:
        self.kerf = self.steps(kerf_m)
        lengths = [self.steps(row.length_m) for row in stock]
        # a dearer one that is no longer is never bought, and of two that are the same the first is
        self.kinds = [
            kind for kind, row in enumerate(stock)
            if not any(
                (lengths[k] >= lengths[kind] and other.price < row.price)
                or (lengths[k] == lengths[kind] and (other.price, k) < (row.price, kind))
                for k, other in enumerate(stock)
            )
        ]  # fmt: skip
        sizes = [self.steps(piece) + self.kerf for piece in pieces_m]
        self.sizes = sorted(set(sizes), reverse=True)
        self.wanted = [sizes.count(size) for size in self.sizes]
        self.caps = [lengths[kind] + self.kerf + _SLIP_STEPS for kind in self.kinds]
        # money first, then length: one whole number
        prices = [stock[kind].price for kind in self.kinds]
        least = min((price.as_tuple().exponent for price in prices), key=int)
        cents = [int(price.scaleb(-int(least))) for price in prices]
        longest = max(lengths) * (len(pieces_m) + 1)
        self.costs = [cent * longest + lengths[kind] for cent, kind in zip(cents, self.kinds, strict=True)]
        whole = reduce(gcd, [*self.sizes, *(cap - _SLIP_STEPS for cap in self.caps)])
        self.measure = max(whole, -(-max(self.caps) // _TABLED))
        self.hard = 0  # purchases that were given up
        self.fill = _Fillings(self.sizes, self.wanted, self.caps, self.measure)

    @staticmethod
    def steps(length_m: float) -> int:
        return round(length_m / _STEP_M)

    def solved(self) -> tuple[list[tuple[int, list[int]]], bool]:
        """(kind of stock, sizes) of each length that is bought; whether nothing cheaper can do."""
        scale = float(max(self.costs))
        costs = np.array(self.costs) / scale
        bounds = [self.fill.bound([1.0 * cap for cap in self.caps], [float(size) for size in self.sizes])]
        worth = self.fill.priced(costs)
        bounds.append(worth)
        least = worth[1] * (1 - _SLACK)
        given_up = False
        window = _WINDOW
        while True:
            slice_ = self._purchases(costs, bounds, least, least * (1 + window))
            if slice_ is None:
                if window < _SLACK:
                    return self._any(), False
                window /= 4
                continue
            while slice_:
                purchase = slice_.pop(0)
                try:
                    packed, bound = self._packed(purchase)
                except _TooLong:
                    given_up = True
                    if self.hard < _HARD:
                        continue
                    least *= 1 + _SKIPPED  # nothing is proven any more: something that surely does
                    break
                if packed is not None:
                    return packed, not given_up
                if bound is not None:
                    bounds.append(bound)
                    slice_ = [row for row in slice_ if bound[0] @ row >= bound[1] * (1 - _SLACK)]
            else:
                least *= 1 + window
                window *= 1.5

    def _purchases(
        self, costs: Floats, bounds: Sequence[tuple[Floats, float]], least: float, most: float
    ) -> list[Purchase] | None:  # fmt: skip
        """Purchases that cost from least to less than most and that no bound rules out, the best first; None where
        there are too many."""
        worth = np.array([row for row, _ in bounds])
        wanted = np.array([need for _, need in bounds]) * (1 - _SLACK)
        best = [(worth[:, k:] / costs[k:]).max(axis=1) for k in range(len(costs))]
        found: list[Purchase] = []

        def choose(kind: int, counts: Purchase, cost: float, got: Floats) -> None:
            if kind == len(costs):
                if least <= cost < most and (got >= wanted).all():
                    found.append(counts)
                return
            if (got + best[kind] * (most - cost) < wanted).any() or len(found) > _PURCHASES:
                return
            for count in range(int((most - cost) / costs[kind]) + 1):
                choose(kind + 1, (*counts, count), cost + count * costs[kind], got + count * worth[:, kind])

        choose(0, (), 0.0, np.zeros(len(bounds)))
        if len(found) > _PURCHASES:
            return None
        return sorted(found, key=lambda row: sum(n * cost for n, cost in zip(row, self.costs, strict=True)))

    def _packed(self, purchase: Purchase) -> tuple[list[tuple[int, list[int]]] | None, tuple[Floats, float] | None]:
        """Its lengths, filled; or what proves that they cannot be. Raises _TooLong."""
        packing = _Packing(self.sizes, self.wanted, self.caps, self.measure)
        spare = sum(n * cap for n, cap in zip(purchase, self.caps, strict=True)) - sum(
            n * size for n, size in zip(self.wanted, self.sizes, strict=True)
        )
        if spare < 0:
            return None, None
        try:
            filled = packing.packed(purchase, spare)
        except _TooLong:
            if self.hard == _HARD:
                raise
            self.hard += 1
            bound = self.fill.ruled_out(purchase)
            if bound is not None:
                self.hard -= 1
                return None, bound
            chosen = self.fill.of_known(purchase) or self.fill.of_all(purchase, spare)
            self.hard -= 1  # that one was not
            filled = self._exactly(chosen) if chosen else None
        if filled is None:
            return None, None
        return [(self.kinds[k], sizes) for k, sizes in filled], None

    def _exactly(self, chosen: Sequence[tuple[int, Filling]]) -> list[tuple[int, list[int]]]:
        """Fillings that hold every piece at least, with no piece twice."""
        left = list(self.wanted)
        found = []
        for kind, filling in chosen:
            sizes = []
            for size, count in enumerate(filling):
                take = min(count, left[size])
                left[size] -= take
                sizes += [size] * take
            if sizes:
                found.append((kind, sizes))
        return found

    def _any(self) -> list[tuple[int, list[int]]]:
        """The longest first, each where it leaves least: good, and not proven."""
        bars: list[tuple[int, list[int], int]] = []
        by_worth = sorted(range(len(self.caps)), key=lambda k: self.costs[k] / self.caps[k])
        for size, count in enumerate(self.wanted):
            for _ in range(count):
                fits = [row for row in range(len(bars)) if bars[row][2] >= self.sizes[size]]
                if fits:
                    row = min(fits, key=lambda at: bars[at][2])
                    kind, sizes, left = bars[row]
                    bars[row] = (kind, [*sizes, size], left - self.sizes[size])
                else:
                    kind = next(k for k in by_worth if self.caps[k] >= self.sizes[size])
                    bars.append((kind, [size], self.caps[kind] - self.sizes[size]))
        return [(self.kinds[kind], sizes) for kind, sizes, _ in bars]


class _Packing:
    """Pieces into the lengths of a purchase, exactly. measure: steps that sums are looked for in; what does not fit in
    it, pieces counted a little short, does not fit."""

    def __init__(self, sizes: Sequence[int], wanted: Sequence[int], caps: Sequence[int], measure: int) -> None:
        self.caps, self.measure = caps, measure
        self.pieces = tuple(k for k, count in enumerate(wanted) for _ in range(count))
        self.sizes = sizes
        self.coarse = [size // measure for size in sizes]

    def packed(self, purchase: Purchase, spare: int) -> list[tuple[int, list[int]]] | None:
        """Each length and what it holds; None where it cannot be. Raises _TooLong."""
        self.dead = set[tuple[tuple[int, ...], Purchase]]()
        rng = np.random.default_rng(0)
        for start in range(_STARTS):
            self.work, self.rng = _WORK, rng if start else None
            try:
                return self._rest(self.pieces, purchase, spare)
            except _TooLong:
                pass
        raise _TooLong

    def _rest(self, pieces: tuple[int, ...], lengths: Purchase, spare: int) -> list[tuple[int, list[int]]] | None:
        if not pieces:
            return []
        if (pieces, lengths) in self.dead:
            return None
        first, others = pieces[0], pieces[1:]
        order = range(len(self.caps)) if self.rng is None else self.rng.permutation(len(self.caps))
        for kind in order:
            cap = self.caps[kind]
            if not lengths[kind] or self.sizes[first] > cap:
                continue
            left = (*lengths[:kind], lengths[kind] - 1, *lengths[kind + 1 :])
            for chosen in self._completed(others, cap - self.sizes[first], spare):
                self.work -= 1
                if self.work < 0:
                    raise _TooLong
                sizes = [others[k] for k in chosen]
                over = cap - self.sizes[first] - sum(self.sizes[size] for size in sizes)
                gone = set(chosen)
                rest = self._rest(tuple(p for k, p in enumerate(others) if k not in gone), left, spare - over)
                if rest is not None:
                    return [(kind, [first, *sizes]), *rest]
        self.dead.add((pieces, lengths))
        return None

    def _completed(self, pieces: tuple[int, ...], room: int, spare: int) -> Iterator[tuple[int, ...]]:
        """Places of pieces that fill the room up to what may be spared, the fullest first."""
        reach = [1]  # from the last piece on: which sums can be made, as bits
        for piece in reversed(pieces):
            reach.append(reach[-1] | reach[-1] << self.coarse[piece])
        reach.reverse()
        most = room // self.measure
        least = max(0, (room - spare) // self.measure - len(pieces))
        sums = reach[0] & ((1 << (most + 1)) - 1)
        while sums and (sum_ := sums.bit_length() - 1) >= least:
            sums &= (1 << sum_) - 1
            for chosen in self._making(pieces, reach, sum_):
                exact = sum(self.sizes[pieces[k]] for k in chosen)
                if room - spare <= exact <= room:
                    yield chosen

    def _making(self, pieces: tuple[int, ...], reach: Sequence[int], sum_: int) -> Iterator[tuple[int, ...]]:
        """Places of pieces that make a sum of the coarse measure; of equal pieces the first."""
        waiting: list[tuple[int, int, tuple[int, ...]]] = [(0, sum_, ())]
        while waiting:
            at, left, chosen = waiting.pop()
            if at == len(pieces):
                if left == 0:
                    yield chosen
                continue
            size = self.coarse[pieces[at]]
            beyond = at + 1
            while beyond < len(pieces) and pieces[beyond] == pieces[at]:
                beyond += 1
            if reach[beyond] >> left & 1:
                waiting.append((beyond, left, chosen))
            if size <= left and reach[at + 1] >> (left - size) & 1:
                waiting.append((at + 1, left - size, (*chosen, at)))


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


class _Fillings:
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
                     if value > costs[kind] * (1 + _SLACK)}  # fmt: skip
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
                     if value > rents[kind] + _SLACK}  # fmt: skip
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
        it can spare and that no piece can be added to. Raises _TooLong."""
        rows = list(islice((row for kind, count in enumerate(purchase) if count for row in self._full(kind, spare)),
                           _FILLINGS + 1))  # fmt: skip
        chosen = _chosen(rows, self.wanted, purchase) if len(rows) <= _FILLINGS else None
        if chosen is None:
            raise _TooLong
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
