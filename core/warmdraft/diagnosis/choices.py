"""Go on to mend, or check first: by the expected minutes to a mended machine.

Mending goes by a row of tries, what mends likeliest a minute first; each try costs opening, acts and proof, and is
needless where the fault is another. A check is worth what it saves of that row. Source: Heckerman, Breese, Rommelse
1995, decision-theoretic troubleshooting (expected cost of repair, myopic observation), from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from warmdraft.air import Floats

#: Tries at one visit; what is left after them costs a second one, in minutes (own assumptions).
TRIES, SECOND_VISIT_MINUTES = 3, 120.0


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to go on. subject: the check, or the fault that is mended first; minutes: what it costs itself;
    expected_minutes: all that is expected until the machine is mended."""

    do: Literal["check", "mend"]
    subject: str
    minutes: float
    expected_minutes: float


def tries(probability: Floats, cost: Floats) -> tuple[Floats, Floats]:
    """Expected minutes of mending by tries, and what is tried first.

    probability (faults, ...): of each, summing to the chance of what it stands for; cost (faults,), minutes. Answers
    (...) and (...), an index of faults; minutes are weighted by that chance.

    >>> minutes, first = tries(np.array([0.7, 0.3]), np.array([20.0, 5.0]))
    >>> float(minutes), int(first)  # five minutes at three in ten first, then twenty
    (19.0, 1)
    """
    spread = cost.reshape(-1, *(1,) * (probability.ndim - 1))
    order = np.argsort(-probability / spread, axis=0, kind="stable")[:TRIES]
    chance = np.take_along_axis(probability, order, axis=0)
    each = cost[order]
    left = probability.sum(axis=0) - np.cumsum(chance, axis=0)
    before = left + chance  # not mended before this try
    return np.asarray((each * before).sum(axis=0) + SECOND_VISIT_MINUTES * left[-1]), order[0]
