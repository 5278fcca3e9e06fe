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

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import reduce
from math import gcd

import numpy as np

from warmdraft.errors import CutError
from warmdraft.stock.fillings import SLACK, Filling, Fillings, Floats
from warmdraft.stock.packing import Packing, Purchase, TooLong

#: Lengths are counted in steps of this, m, and may be wrong by as much together as rounding from feet makes them.
_STEP_M, _SLIP_STEPS = 1e-7, 20
#: Steps that a length is divided into at most where its fillings are tabled; coarser, pieces count a little short.
_TABLED = 8192
#: Work at most: purchases in a slice; of these, ones that are given up before the others are only packed, and of which
#: one that is too long has so much more money spent.
_PURCHASES, _HARD, _SKIPPED = 20_000, 4, 0.01
_WINDOW = 0.002  # purchases are looked at in slices of so much more money


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
    by_size: dict[int, list[float]] = {}
    for piece in pieces_m:
        by_size.setdefault(case.steps(piece), []).append(piece)
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
        self.fill = Fillings(self.sizes, self.wanted, self.caps, self.measure)

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
        least = worth[1] * (1 - SLACK)
        window = _WINDOW
        while True:
            slice_ = self._purchases(costs, bounds, least, least * (1 + window))
            if slice_ is None:
                if window < SLACK:
                    return self._any(), False
                window /= 4
                continue
            while slice_:
                purchase = slice_.pop(0)
                try:
                    packed, bound = self._packed(purchase)
                except TooLong:
                    self.hard = min(self.hard + 1, _HARD)
                    if self.hard < _HARD:
                        continue
                    least *= 1 + _SKIPPED  # nothing is proven any more: something that surely does
                    break
                if packed is not None:
                    return packed, not self.hard
                if bound is not None:
                    bounds.append(bound)
                    slice_ = [row for row in slice_ if bound[0] @ row >= bound[1] * (1 - SLACK)]
            else:
                least *= 1 + window
                window *= 1.5

    def _purchases(
        self, costs: Floats, bounds: Sequence[tuple[Floats, float]], least: float, most: float
    ) -> list[Purchase] | None:  # fmt: skip
        """Purchases that cost from least to less than most and that no bound rules out, the best first; None where
        there are too many."""
        worth = np.array([row for row, _ in bounds])
        wanted = np.array([need for _, need in bounds]) * (1 - SLACK)
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
        """Its lengths, filled; or what proves that they cannot be. Raises TooLong."""
        packing = Packing(self.sizes, self.wanted, self.caps, self.measure)
        spare = sum(n * cap for n, cap in zip(purchase, self.caps, strict=True)) - sum(
            n * size for n, size in zip(self.wanted, self.sizes, strict=True)
        )
        if spare < 0:
            return None, None
        try:
            filled = packing.packed(purchase, spare)
        except TooLong:
            if self.hard == _HARD:
                raise
            bound = self.fill.ruled_out(purchase)
            if bound is not None:
                return None, bound
            chosen = self.fill.of_known(purchase) or self.fill.of_all(purchase, spare)
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
