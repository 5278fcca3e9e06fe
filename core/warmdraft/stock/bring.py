"""What to bring along: parts that may turn out to be needed, beside the price of coming a second time.

    expected cost of a set = what is carried for nothing + second trip · P(something left behind is needed)

Parts are needed independently of one another (own assumption). The best set is found among all of them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

#: What it costs to carry a part and bring it back, as a share of its price (own assumption).
CARRIED_SHARE = 0.05
#: And to order one first and send it back unused, beside its delivery, as a share of its price (own assumption).
ORDERED_SHARE = 0.15
#: Parts that are weighed at most: the most probable. Beyond them nothing is likely enough to matter.
MOST_WEIGHED = 12


@dataclass(frozen=True, slots=True)
class MayNeed:
    """A part that may be needed: how probably (1: for certain), its price, 0 where it is not known, and what it costs
    to order it first, None where one is at hand."""

    part: str
    probability: float
    price: float = 0.0
    delivery: float | None = None

    @property
    def carried(self) -> float:
        """What it costs to bring it for nothing."""
        if self.delivery is None:
            return CARRIED_SHARE * self.price
        return (CARRIED_SHARE + ORDERED_SHARE) * self.price + self.delivery


@dataclass(frozen=True, slots=True)
class Brought:
    """Whether to bring a part; spares: what bringing it spares on average, with the rest as it is advised."""

    part: str
    probability: float
    bring: bool
    spares: float


@dataclass(frozen=True, slots=True)
class Packing:
    """The best set; second_trip: the chance that one more is needed with it, and without anything."""

    rows: tuple[Brought, ...]
    second_trip: float
    second_trip_without: float


def what_to_bring(needs: Sequence[MayNeed], trip: float) -> Packing:
    """The set with the least expected cost; trip: what a second one costs.

    >>> [row.bring for row in what_to_bring([MayNeed("clamp", 0.3, 12.0), MayNeed("motor", 0.01, 180.0)], 60.0).rows]
    [True, False]
    """
    rows = sorted(needs, key=lambda row: -row.probability)[:MOST_WEIGHED]
    probability = np.array([row.probability for row in rows])
    carried = np.array([row.carried for row in rows]) * (1 - probability)
    # every set of parts: (2^n, n)
    brought = (np.arange(2 ** len(rows))[:, None] >> np.arange(len(rows))) & 1
    missed = 1 - np.prod(np.where(brought == 1, 1.0, 1 - probability), axis=1)
    costs = brought @ carried + trip * missed
    # of equal sets the larger: nobody regrets a part that lies in the van
    best = int(np.lexsort((-brought.sum(axis=1), np.round(costs, 9)))[0])
    spares = [float(costs[best & ~(1 << i)] - costs[best | (1 << i)]) for i in range(len(rows))]
    chosen = tuple(Brought(row.part, row.probability, bool(brought[best, i]), spares[i]) for i, row in enumerate(rows))
    return Packing(chosen, float(missed[best]), float(missed[0]))
