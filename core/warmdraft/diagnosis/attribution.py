"""What speaks for and against the likeliest fault, which readings fit nothing, and which faults look alike."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.diagnosis.belief import SLIP_PRIOR, Believed, anywhere, healthy_of
from warmdraft.diagnosis.evidence import Look, Numbers
from warmdraft.diagnosis.hypotheses import Hypotheses
from warmdraft.diagnosis.posterior import Fit, log_sum, mixture_quantiles, normalised
from warmdraft.diagnosis.slips import SlipCode

#: Readings that fit the best hypothesis worse than this share of healthy chance are said to fit nothing (own
#: assumption).
MISFIT_CHANCE = 0.003
#: Faults closer than this, nats of the readings at hand, look alike (own assumption).
ALIKE_NATS = 1.0
#: Faults less likely than this are not worth naming among those that look alike (own assumption).
ALIKE_PROBABILITY = 0.02


@dataclass(frozen=True, slots=True)
class Speaks:
    """One piece of evidence: log of how much it moved the odds of `towards`; negative speaks against."""

    evidence: str
    is_reading: bool
    ids: tuple[str, ...]
    towards: str
    nats: float


@dataclass(frozen=True, slots=True)
class Misfit:
    """A reading that no hypothesis explains beside the others; what they lead one to expect, canonical unit; slip: what
    likely went wrong with it."""

    reading: str
    ids: tuple[str, ...]
    expected_low: float
    expected_high: float
    slip: SlipCode | None = None


def _log_odds(log_weight: Floats, of_fault: NDArray[np.bool_]) -> float:
    return log_sum(log_weight[of_fault]) - log_sum(log_weight[~of_fault])


def for_and_against(
    hypotheses: Hypotheses, prior: Floats, joint: Floats, numbers: Numbers, heard: Believed, looks: list[Look],
    leading: tuple[int, ...],
) -> list[Speaks]:  # fmt: skip
    """How far each piece of evidence moves the odds of the leading fault, strongest for first.

    The mean of what it adds when it is heard first and when it is heard last (for two pieces, their Shapley value),
    so that two that say the same both get their due and their order does not matter.

    prior, joint (H,): log weights before and after all evidence; leading: indices of the leading fault and of those
    that nothing at hand tells from it, likeliest first.
    """
    group = np.isin(hypotheses.fault_index, leading)
    towards = hypotheses.spans[leading[0]][0].name
    nothing, whole = _log_odds(prior, group), _log_odds(joint, group)

    def moved(first: Floats, last: Floats) -> float:
        return ((_log_odds(prior + first, group) - nothing) + (whole - _log_odds(joint - last, group))) / 2

    rows = [
        Speaks(reading.kind, True, reading.ids, towards, moved(heard.first[:, i], heard.last[:, i]))
        for i, reading in enumerate(numbers.groups)
    ]
    for look in looks:
        ids = (look.finding.id,) if look.finding.id else ()
        nats = moved(look.log_likelihood, look.log_likelihood)
        rows.append(Speaks(look.finding.check, False, ids, towards, nats))
    return sorted(rows, key=lambda row: (-row.nats, row.evidence))


def chi_square_bound(degrees: int) -> float:
    """Value a chi-square passes with MISFIT_CHANCE. Source: Wilson and Hilferty 1931.

    >>> round(chi_square_bound(3), 1)  # exact: 13.9
    14.1
    """
    z = NormalDist().inv_cdf(1 - MISFIT_CHANCE)
    return float(degrees * (1 - 2 / (9 * degrees) + z * np.sqrt(2 / (9 * degrees))) ** 3)


def slip_log_evidence(unread: Floats, numbers: Numbers, readings: Fit, hypotheses: Hypotheses) -> float:
    """Log of the evidence that one reading, whichever, is a slip and at most one fault explains the others.

    unread (H,): log weights before the readings.
    """
    n = len(numbers.groups)
    left_out = readings.left_out_log_likelihood()
    without = [log_sum(unread + readings.log_likelihood - left_out[:, i]) for i in range(n)]
    slip = anywhere(numbers, healthy_of(numbers, hypotheses))
    return log_sum(np.array(without) + slip) + float(np.log(SLIP_PRIOR / max(n, 1)))


def misfits(unread: Floats, numbers: Numbers, readings: Fit) -> list[Misfit]:
    """Readings to ask for again, worst first; none while some hypothesis explains them all.

    unread (H,): log weights before the readings.

    A reading is named when the rest fit once it is left out; where no single one does that, the one whose leaving
    out helps most.
    """
    n = len(numbers.groups)
    if n == 0 or readings.chi_square.min() <= chi_square_bound(n):
        return []
    without = (readings.chi_square[:, None] - readings.left_out_residual**2 / readings.left_out_variance).min(axis=0)
    named = [i for i in np.argsort(without, kind="stable") if without[i] <= chi_square_bound(max(n - 1, 1))]
    rows = []
    for i in named or [int(np.argmin(without))]:
        weight = normalised(unread + readings.log_likelihood - readings.left_out_log_likelihood()[:, i])
        mean = numbers.value[i] - readings.left_out_residual[:, i]
        sd = np.sqrt(readings.left_out_variance[:, i])
        low, high = mixture_quantiles(mean[:, None], sd[:, None], weight, np.array([0.05, 0.95]))[:, 0]
        group = numbers.groups[i]
        rows.append(Misfit(group.kind, group.ids, float(low), float(high)))
    return rows


def inseparable(
    hypotheses: Hypotheses, joint: Floats, fault_probability: Floats, numbers: Numbers, looks: list[Look]
) -> list[tuple[int, ...]]:
    """Groups of likely faults that what has been measured and seen cannot tell apart, likeliest group first.

    Two faults look alike when each, where it is likeliest, is imitated by some severity of the other within
    ALIKE_NATS; groups are the connected ones. Fault indices.
    """
    likely = [int(f) for f in np.argsort(-fault_probability, kind="stable") if fault_probability[f] > ALIKE_PROBABILITY]
    if not numbers.groups and not looks:
        return []
    seen = np.zeros(len(hypotheses)) + sum(look.log_likelihood for look in looks)

    def nats_from(one: int) -> Floats:
        """Nats between this fault, where it is likeliest, and the nearest severity of every fault; (faults,)."""
        here = hypotheses.spans[one][1]
        best = here.start + int(np.argmax(joint[here]))
        apart = np.abs(seen - seen[best])
        if numbers.groups:
            difference = numbers.expected - numbers.expected[best]
            jacobian = numbers.sensitivity[best]
            covariance = jacobian @ jacobian.T + np.diag(numbers.sd[best] ** 2)
            apart = apart + 0.5 * np.einsum("hn,hn->h", difference @ np.linalg.inv(covariance), difference)
        nearest = np.full(len(hypotheses.spans), np.inf)
        np.minimum.at(nearest, hypotheses.fault_index, apart)
        return nearest

    apart = {one: nats_from(one) for one in likely}
    groups: list[set[int]] = []
    for position, one in enumerate(likely):
        joined = {one}
        for other in likely[:position]:
            if max(apart[one][other], apart[other][one]) < ALIKE_NATS:
                joined.add(other)
        touching = [group for group in groups if group & joined]
        groups = [group for group in groups if not group & joined] + [joined.union(*touching)]
    order = {f: place for place, f in enumerate(likely)}
    found = [tuple(sorted(group, key=order.__getitem__)) for group in groups if len(group) > 1]
    return sorted(found, key=lambda group: order[group[0]])
