"""How far readings are believed: one of them may be plainly wrong, and what is wrong may be nothing that is known."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.diagnosis.evidence import Numbers, ReadingGroup, numbers_against, reading_shift
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, Hypotheses
from warmdraft.diagnosis.posterior import Fit

#: Share of jobs in which a reading is mistyped or mistaken, and the factor it may then lie within (own assumptions).
SLIP_PRIOR = 0.04
SLIP_RANGE = 100.0
#: Where nobody knows what is wrong, a reading lies about the healthy one, half of all within this share of it (own
#: assumption).
UNHEARD_OF_SPREAD = 0.5


@dataclass(frozen=True, slots=True)
class Believed:
    """Log-likelihoods of readings of which one may be plainly wrong, whichever.

    together (H,): of all; first (H, n): of each when it is heard before the others; last (H, n): what each adds to the
    others.
    """

    together: Floats
    first: Floats
    last: Floats


def anywhere(numbers: Numbers, healthy: Floats) -> Floats:
    """Log-density of a reading that is plainly wrong, log-uniform over SLIP_RANGE about its size; (n,).

    healthy (n,): what a healthy machine would read; nothing at all is no likelier a slip than that.
    """
    least = numbers.sd.min(axis=0) if len(numbers.sd) else np.ones(len(numbers.value))
    size = np.maximum(np.maximum(np.abs(numbers.value), np.abs(healthy)), least)
    return np.asarray(-np.log(np.log(SLIP_RANGE) * size))


def healthy_of(numbers: Numbers, hypotheses: Hypotheses) -> Floats:
    """What a healthy machine would read beside these readings, (n,)."""
    columns = [KIND_COLUMN[group.kind] for group in numbers.groups]
    return np.asarray(hypotheses.healthy[columns] * reading_shift(numbers.groups))


def alone_log_likelihood(numbers: Numbers) -> Floats:
    """Log-density of each reading by itself, the scatter integrated; (H, n)."""
    variance = numbers.sd**2 + (numbers.sensitivity**2).sum(axis=-1)
    return np.asarray(-0.5 * ((numbers.value - numbers.expected) ** 2 / variance + np.log(2 * np.pi * variance)))


def believed(numbers: Numbers, readings: Fit, hypotheses: Hypotheses) -> Believed:
    """How likely the readings are when one of them may be plainly wrong.

    A fault that nobody has heard of says of readings only that they lie about the healthy ones.
    """
    n = len(numbers.groups)
    if n == 0:
        return Believed(readings.log_likelihood, np.zeros((len(hypotheses), 0)), np.zeros((len(hypotheses), 0)))
    healthy = healthy_of(numbers, hypotheses)
    slip, kept = anywhere(numbers, healthy), float(np.log(1 - SLIP_PRIOR))
    swapped = slip - readings.left_out_log_likelihood()  # (H, n): a slip in the place of a reading among the others
    one, each = float(np.log(SLIP_PRIOR)), float(np.log(SLIP_PRIOR / n))
    together = readings.log_likelihood + np.logaddexp(kept, each + np.logaddexp.reduce(swapped, axis=1))
    first = np.logaddexp(kept + alone_log_likelihood(numbers), one + slip)
    if n == 1:
        last = together[:, None]
    else:
        others = readings.log_likelihood[:, None] - readings.left_out_log_likelihood()
        rest = np.stack([np.logaddexp.reduce(np.delete(swapped, i, axis=1), axis=1) for i in range(n)], axis=1)
        last = together[:, None] - (others + np.logaddexp(kept, each + rest))
    unheard_of = np.array([fault.effect == "unheard_of" for fault, _ in hypotheses.spans])[hypotheses.fault_index]
    scale = UNHEARD_OF_SPREAD * np.exp(-slip) / np.log(SLIP_RANGE)
    broad = -np.log(np.pi * scale * (1 + ((numbers.value - healthy) / scale) ** 2))
    first[unheard_of] = last[unheard_of] = broad
    together[unheard_of] = broad.sum()
    return Believed(together, first, last)


#: Hypotheses weighed in full: the best so many by the rough weight, and the best of each fault.
WEIGHED_IN_FULL = 900


def worth_weighing(log_weight: Floats, groups: tuple[ReadingGroup, ...], hypotheses: Hypotheses) -> NDArray[np.intp]:
    """The hypotheses that could matter, each reading by itself against scatter and instrument; in rising order.

    log_weight (H,): before the readings.
    """
    if len(hypotheses) <= WEIGHED_IN_FULL or not groups:
        return np.arange(len(hypotheses))
    columns = [KIND_COLUMN[group.kind] for group in groups]
    numbers = numbers_against(groups, hypotheses.output[:, columns], None)
    spread = numbers.sd**2 + hypotheses.variance[:, columns]
    apart = (numbers.value - numbers.expected) ** 2 / spread
    wrong = anywhere(numbers, healthy_of(numbers, hypotheses)) + np.log(SLIP_PRIOR)
    each = np.maximum(-0.5 * (apart + np.log(2 * np.pi * spread)), wrong)
    rough = log_weight + each.sum(axis=1)
    best = np.argpartition(-rough, WEIGHED_IN_FULL)[:WEIGHED_IN_FULL]
    of_each = [here.start + int(np.argmax(rough[here])) for _, here in hypotheses.spans]
    return np.union1d(best, of_each)
