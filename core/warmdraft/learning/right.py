"""How right verdicts were: what was said of the likeliest cause, beside how often it was so."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks import NINE_IN_TEN

#: Stretches of what was said that are looked at together: fifths tell apart what a hundred jobs can.
STRETCHES = 5


@dataclass(frozen=True, slots=True)
class Stretch:
    """Verdicts of which much the same was said. low, high: from where to where; said: on average; right: share that
    was so, right_low to right_high where that share truly lies, nine in ten."""

    low: float
    high: float
    jobs: int
    said: float
    right: float
    right_low: float
    right_high: float


@dataclass(frozen=True, slots=True)
class Rightness:
    """How right verdicts were. first: share of jobs whose cause stood first; said: what was said of the first, on
    average; log_loss: mean −log of what was said of what it was, nats; off: by how much what was said and how often it
    was so lie apart, on average over the stretches."""

    jobs: int
    first: float
    said: float
    log_loss: float
    off: float
    stretches: tuple[Stretch, ...]


def wilson(right: float, of: float) -> tuple[float, float]:
    """Where a share truly lies, nine in ten, that was seen `right` times of `of`.

    Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference, JASA 22, 1927.

    >>> tuple(round(end, 2) for end in wilson(7, 10))
    (0.44, 0.87)
    """
    square = NINE_IN_TEN**2 / of
    share = right / of
    middle = (share + square / 2) / (1 + square)
    half = math.sqrt(square * (share * (1 - share) + square / 4)) / (1 + square)
    return max(0.0, middle - half), min(1.0, middle + half)


def rightness(said: Sequence[float], first: Sequence[bool], of_truth: Sequence[float]) -> Rightness | None:
    """How right verdicts were; None of none.

    said (jobs,): probability of the likeliest cause; first: whether it was that; of_truth: probability of what it was.

    >>> found = rightness([0.9, 0.9, 0.3], [True, True, False], [0.9, 0.9, 0.2])
    >>> [(row.jobs, row.right) for row in found.stretches]
    [(1, 0.0), (2, 1.0)]
    """
    if not said:
        return None
    told: Floats = np.array(said, dtype=float)
    hit: Floats = np.array(first, dtype=float)
    place = np.minimum((told * STRETCHES).astype(int), STRETCHES - 1)
    stretches = []
    for number in range(STRETCHES):
        here = place == number
        jobs = int(here.sum())
        if jobs:
            right = float(hit[here].sum())
            stretches.append(
                Stretch(
                    number / STRETCHES, (number + 1) / STRETCHES, jobs, float(told[here].mean()), right / jobs,
                    *wilson(right, jobs),
                )
            )  # fmt: skip
    return Rightness(
        jobs=len(told),
        first=float(hit.mean()),
        said=float(told.mean()),
        log_loss=float(-np.log(np.maximum(np.array(of_truth, dtype=float), np.finfo(float).tiny)).mean()),
        off=sum(row.jobs * abs(row.said - row.right) for row in stretches) / len(told),
        stretches=tuple(stretches),
    )
