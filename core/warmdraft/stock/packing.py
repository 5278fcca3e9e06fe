"""Pieces into the lengths of a purchase, exactly: bin completion, the fullest first."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

Purchase = tuple[int, ...]  # how many of each stock
#: Work at most for one purchase: openings of a length, and how often it is begun in another order.
_WORK, _STARTS = 100, 8


class TooLong(Exception):
    """More work than it is given."""


class Packing:
    """Pieces into the lengths of a purchase, exactly. measure: steps that sums are looked for in; what does not fit in
    it, pieces counted a little short, does not fit."""

    def __init__(self, sizes: Sequence[int], wanted: Sequence[int], caps: Sequence[int], measure: int) -> None:
        self.caps, self.measure = caps, measure
        self.pieces = tuple(k for k, count in enumerate(wanted) for _ in range(count))
        self.sizes = sizes
        self.coarse = [size // measure for size in sizes]

    def packed(self, purchase: Purchase, spare: int) -> list[tuple[int, list[int]]] | None:
        """Each length and what it holds; None where it cannot be. Raises TooLong."""
        self.dead = set[tuple[tuple[int, ...], Purchase]]()
        rng = np.random.default_rng(0)
        for start in range(_STARTS):
            self.work, self.rng = _WORK, rng if start else None
            try:
                return self._rest(self.pieces, purchase, spare)
            except TooLong:
                pass
        raise TooLong

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
                    raise TooLong
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
