"""What one more look or reading after the work would settle."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks import Check, LookRows, reading_sd, repeated_share
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import reading_groups
from warmdraft.diagnosis.flow import FLOW
from warmdraft.diagnosis.hypotheses import KIND_COLUMN
from warmdraft.diagnosis.minutes import clock_of
from warmdraft.diagnosis.next_check import checks_left
from warmdraft.diagnosis.posterior import mixture_quantiles, normal_cdf
from warmdraft.proof.accept import ACCEPT_FROM, DISPROVEN_FROM, PROVEN_BELOW, REJECT_BELOW, After, Line

#: How often a reading that was taken may be taken again.
MOST_TIMES = 3
#: Outcomes a reading to come is tried with, of equal probability.
_OUTCOMES = 15
_TRIED = (np.arange(_OUTCOMES) + 0.5) / _OUTCOMES
#: What settles less often than this is not proposed; and the minutes that settling it for certain is worth (own
#: assumptions).
WORTH_CHANCE, MINUTES_FOR_CHANCE = 0.2, 60.0
_MOST_NAMED = 3


@dataclass(frozen=True, slots=True)
class Settles:
    """A check that may settle what is open: how often to do it, the minutes that takes, and the chance that it does."""

    check: str
    times: int
    minutes: float
    chance: float


@dataclass(frozen=True, slots=True)
class _Outcomes:
    """What may come of a check: share (outcomes,), weight (H, outcomes) of each hypothesis then, and its true flow."""

    share: Floats
    weight: Floats
    flow: Floats
    variance: Floats


def settling(known: After, after: Case, lines: tuple[Line, ...]) -> tuple[Settles, ...]:
    """Checks that most likely settle everything that is open, the likeliest first; none where nothing is, or before
    anything was read after the work.

    A reading that was taken may be taken again, as far as that helps.
    """
    # what mends no fault of its own is shown where it is done; where more than that is left, the flow showed it
    lines = tuple(row for row in lines if row.left is not None and (not row.proven or row.left <= PROVEN_BELOW))
    decided = not REJECT_BELOW <= known.conformity() < ACCEPT_FROM
    if not (after.readings or after.findings) or (decided and all(line.proven is not None for line in lines)):
        return ()
    names = [fault.name for fault, _ in known.hypotheses.spans]
    places = np.array([names.index(line.fault or "none") for line in lines], dtype=int)
    of_fault = (known.hypotheses.fault_index == places[:, None]) * 1.0  # (lines, H)
    taken = {group.kind: group.times for group in reading_groups(after.readings, known.hypotheses.predictable)}
    clock, rows = clock_of(after), []
    for check in checks_left(after, frozenset(taken)):
        if check.observes in known.hypotheses.predictable:
            before = taken.get(check.observes or "", 0)
            tries = [(times, _of_reading(known, check, before, times)) for times in range(1, MOST_TIMES + 1)
                     if times == 1 or before]  # fmt: skip
        elif check.results:
            tries = [(1, _of_look(known, check, after.taught.rows_of(check)))]
        else:
            continue
        for times, outcomes in tries:
            chance = _chance(known, outcomes, of_fault)
            if chance >= WORTH_CHANCE:
                rows.append(Settles(check.name, times, clock.minutes(check) + (times - 1) * check.cost_minutes, chance))
    rows.sort(key=lambda row: (row.minutes / MINUTES_FOR_CHANCE - row.chance, row.check))
    first = {row.check: row for row in reversed(rows)}  # each check once, with the number of times that ranks best
    return tuple(row for row in rows if first[row.check] is row)[:_MOST_NAMED]


def _open(conformity: Floats, left: Floats) -> Floats:
    """How much is open once a check is done that shows it, by outcome: the flow and each line; conformity (outcomes,),
    left (lines, outcomes)."""
    flow = (conformity >= REJECT_BELOW) & (conformity < ACCEPT_FROM)
    return np.asarray(flow + ((left > PROVEN_BELOW) & (left < DISPROVEN_FROM)).sum(axis=0))


def _chance(known: After, found: _Outcomes, of_fault: Floats) -> float:
    """Probability that nothing is open once the check is done."""
    apart = (found.flow - known.limit) / np.sqrt(np.maximum(found.variance, 1e-18))
    reached = normal_cdf(apart.astype(np.float32))
    conformity = (found.weight * reached).sum(axis=0)
    return float(found.share @ (_open(conformity, of_fault @ found.weight) == 0))


def _of_reading(known: After, check: Check, before: int, times: int) -> _Outcomes:
    """A reading to come, given those there are; taken `before` times already."""
    kind = check.observes or ""
    moves = known.hypotheses.sensitivity[:, KIND_COLUMN[kind]]
    carried = np.einsum("hef,hf->he", known.readings.scatter_covariance, moves)
    mean = known.hypotheses.output[:, KIND_COLUMN[kind]] + np.einsum("he,he->h", moves, known.readings.scatter_mean)
    share, absolute = reading_sd(kind, check.instrument)
    error = (share * np.abs(mean) + absolute) ** 2
    if before:  # the instrument's own error is in the readings there are: only what is new of them counts
        was, then = repeated_share(before) ** 2, repeated_share(before + times) ** 2
        error = error / (1 / then - 1 / was)
    variance = error + np.einsum("he,he->h", moves, carried)
    read = mixture_quantiles(mean[:, None], np.sqrt(variance)[:, None], known.weight, _TRIED)[:, 0]
    apart = read - mean[:, None]  # (H, outcomes)
    log = -0.5 * (apart**2 / variance[:, None] + np.log(variance)[:, None])
    weight = known.weight[:, None] * np.exp(log - log.max(axis=0))
    to_flow = np.einsum("he,he->h", known.hypotheses.sensitivity[:, FLOW], carried)
    return _Outcomes(
        share=np.full(_OUTCOMES, 1 / _OUTCOMES),
        weight=weight / weight.sum(axis=0),
        flow=known.flow[:, None] + (to_flow / variance)[:, None] * apart,
        variance=(known.variance - to_flow**2 / variance)[:, None],
    )


def _of_look(known: After, check: Check, rows: LookRows) -> _Outcomes:
    """A look to come: each of its results, by its table."""
    weight = known.weight[:, None] * known.hypotheses.look(check.name, rows)
    share = weight.sum(axis=0)
    return _Outcomes(share, weight / np.maximum(share, 1e-300), known.flow[:, None], known.variance[:, None])
