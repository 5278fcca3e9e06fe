"""Which check is most worth doing next: expected information about the fault per minute of work.

A look's information follows from its table. An instrument's outcome is cut into bins of equal predicted probability,
so that the grid is fine where the hypotheses are.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks import NO_EVIDENCE, Check, Place, Taught, checks, place_of, reading_sd
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.choices import Choice, tries
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, Hypotheses, look_row
from warmdraft.diagnosis.minutes import Clock
from warmdraft.diagnosis.posterior import Fit, Singles, mixture_quantiles, normal_cdf
from warmdraft.faults import ZONES

#: Outcomes an instrument's reading is cut into.
OUTCOMES = 21
_TINY = 1e-300  # keeps logarithms of what cannot happen finite
#: A check is worth doing when it is expected to tell this much, bits, at this rate, bits a minute (own assumption).
WORTH_BITS = 0.03
WORTH_BITS_PER_MINUTE = 0.008
#: Gains closer than this, as a share, count as equal: then the shorter check goes first (own assumption).
CLOSE = 0.05
#: Checks named as a choice beside mending.
MOST_CHOICES = 3
#: Checks that share a way there, at most (own assumption).
MOST_SHARING = 2
#: A place a check would split holds at least this share of the check's information.
_SPLITS_SHARE = 0.15
_MOST_SPLITS = 3


@dataclass(frozen=True, slots=True)
class NextCheck:
    """A check and what it is expected to give.

    minutes: all that it costs from here, getting there and back and a share of waiting included; rate_in_round: bits a
    minute where the way there is shared; place: where one stands; round: counts from 1, all that is worth doing at one
    place; expected_minutes: to a mended machine where it is done next; sure_now, sure_after: of the likeliest place, on
    average; cause_now, cause_after: of the likeliest cause, on average.
    """

    check: str
    bits: float
    minutes: float
    hands_on_minutes: float
    bits_per_minute: float
    rate_in_round: float
    expected_minutes: float
    sure_now: float
    sure_after: float
    cause_now: float
    cause_after: float
    splits: tuple[str, ...]
    access: str
    place: Place
    round: int
    worth_it: bool


def _reading_outcomes(kinds: list[tuple[str, str]], hypotheses: Hypotheses, weight: Floats, readings: Fit) -> Singles:
    """P(outcome | hypothesis) of readings to come, (kinds, OUTCOMES, H); kinds: (kind, instrument) each."""
    columns = [KIND_COLUMN[kind] for kind, _ in kinds]
    jacobian = hypotheses.sensitivity[:, columns, :]
    mean = hypotheses.output[:, columns] + (jacobian @ readings.scatter_mean[:, :, None])[:, :, 0]
    errors = np.array([reading_sd(kind, instrument) for kind, instrument in kinds])
    spread = ((jacobian @ readings.scatter_covariance) * jacobian).sum(axis=-1)
    sd = np.sqrt((errors[:, 0] * np.abs(mean) + errors[:, 1]) ** 2 + np.maximum(spread, 0))
    edges = mixture_quantiles(mean, sd, weight, np.arange(1, OUTCOMES) / OUTCOMES)  # (OUTCOMES - 1, kinds)
    # single precision: the bins are cut for an average, and this is the largest table of a verdict
    inverse = (1 / sd.T[:, None]).astype(np.float32)
    below = normal_cdf((edges.T[:, :, None] - mean.T[:, None]).astype(np.float32) * inverse)
    outcomes = np.empty((below.shape[0], OUTCOMES, below.shape[2]), dtype=np.float32)
    outcomes[:, 0], outcomes[:, -1] = below[:, 0], 1 - below[:, -1]
    np.subtract(below[:, 1:], below[:, :-1], out=outcomes[:, 1:-1])
    return outcomes


def _entropy_bits(probability: Floats) -> Floats:
    """Entropy over the first axis."""
    return np.asarray(-(probability * np.log2(np.maximum(probability, _TINY))).sum(axis=0))


def _gains(
    of_checks: list[Check], joint: Floats, zone_of_fault: Floats, clock: Clock, mending: Floats
) -> list[NextCheck]:
    """What checks are expected to give. joint (faults, checks, outcomes); zone_of_fault (zones, faults), 0 or 1;
    mending (faults,): minutes to mend each."""
    outcome = joint.sum(axis=0)  # (checks, outcomes)
    now = joint.sum(axis=2)  # (faults, checks)
    after = joint / np.maximum(outcome, _TINY)
    bits = np.maximum(_entropy_bits(now) - (outcome * _entropy_bits(after)).sum(axis=-1), 0)
    places = np.tensordot(zone_of_fault, joint, axes=1)  # (zones, checks, outcomes)
    place_now = places.sum(axis=2)
    chance = np.maximum(place_now[:, :, None] * outcome, _TINY)
    pointwise = (places * np.log2(np.maximum(places, _TINY) / chance)).sum(axis=2)  # (zones, checks)
    ranked = np.argsort(-pointwise, axis=0, kind="stable")[:_MOST_SPLITS]
    floor = _SPLITS_SHARE * np.maximum(pointwise.sum(axis=0), 1e-12)
    sure_after = places.max(axis=0).sum(axis=-1)
    cause_after = joint.max(axis=0).sum(axis=-1)
    then, _ = tries(joint, mending)
    gains = []
    for i, check in enumerate(of_checks):
        minutes = clock.minutes(check)
        rate = float(bits[i]) / minutes
        gains.append(
            NextCheck(
                check=check.name,
                bits=float(bits[i]),
                minutes=minutes,
                hands_on_minutes=check.minutes,
                bits_per_minute=rate,
                rate_in_round=rate,
                expected_minutes=minutes + float(then[i].sum()),
                sure_now=float(place_now[:, i].max()),
                sure_after=float(sure_after[i]),
                cause_now=float(now[:, i].max()),
                cause_after=float(cause_after[i]),
                splits=tuple(ZONES[z] for z in ranked[:, i] if pointwise[z, i] > floor[i]),
                access=check.access,
                place=place_of(check),
                round=0,
                worth_it=bool(bits[i] >= WORTH_BITS and rate >= WORTH_BITS_PER_MINUTE),
            )
        )
    return gains


def machine_runs(case: Case) -> bool:
    """Whether the machine can be run for a check, as far as is known: tried, or complained of."""
    tried = next((finding.result for finding in reversed(case.findings) if finding.check == "what_runs"), None)
    if tried is not None and tried not in NO_EVIDENCE:
        return tried in ("all", "drum_no_heat")
    return "no_start" not in case.complaints or bool(case.readings)


def checks_left(case: Case, again: frozenset[str]) -> list[Check]:
    """The checks this person can still do: not done, not impossible here, of this machine and its complaints, with
    what is carried, by one who may. A kind of reading in `again` is asked for anew."""
    found = {finding.check for finding in case.findings}
    read = {(reading.kind, reading.instrument) for reading in case.readings if reading.kind not in again}
    kinds = {kind for kind, instrument in read if instrument is None}
    runs = machine_runs(case)
    return [
        check
        for name, check in checks().items()
        if name not in found
        and check.observes not in kinds
        and (check.observes, check.instrument) not in read
        and check.fits(case.machine.heat.energy, case.motors, case.complaints)
        and (runs or check.stopped)
        and (case.carries is None or check.instrument in case.carries or not check.observes)
        and (case.qualified is None or check.qualified is None or check.qualified in case.qualified)
    ]


def next_checks(
    hypotheses: Hypotheses, weight: Floats, readings: Fit, left: list[Check], clock: Clock, mending: Floats,
    taught: Taught,
) -> list[NextCheck]:  # fmt: skip
    """What each check left is expected to give, as far as the model can speak of it, best first.

    weight (H,): posterior of the hypotheses given; clock: what checks cost from here; mending (faults,):
    minutes to mend each; taught: the tables of looks.
    """
    faults = len(hypotheses.spans)
    weighted = np.zeros((len(weight), faults))
    weighted[np.arange(len(weight)), hypotheses.fault_index] = weight / weight.sum()
    zone_of_fault = np.array([[fault.zone == zone for fault, _ in hypotheses.spans] for zone in ZONES], dtype=float)
    instruments = [check for check in left if check.observes in hypotheses.predictable]
    looks = [check for check in left if check.results]
    joint = np.zeros((faults, len(instruments) + len(looks), OUTCOMES))
    if instruments:
        kinds = [(check.observes or "", check.instrument) for check in instruments]
        table = _reading_outcomes(kinds, hypotheses, weight, readings)
        joint[:, : len(instruments)] = np.moveaxis(table @ weighted.astype(np.float32), -1, 0)
    held = weighted.sum(axis=0)  # (faults,)
    come = hypotheses.come[[look_row()[check.name] for check in looks]] @ weighted  # (looks, faults)
    for place, (check, named) in enumerate(zip(looks, come, strict=True), len(instruments)):
        rows = taught.rows_of(check)
        joint[:, place, : len(check.results)] = (held - named)[:, None] * rows.rest + named[:, None] * rows.p
    return _ranked(_with_shared_ways(_gains(instruments + looks, joint, zone_of_fault, clock, mending), clock))


def choices_of(faults: list[str], probability: Floats, mending: Floats, checks_next: list[NextCheck]) -> list[Choice]:
    """Going on to mend, and the checks that most shorten it, least expected minutes first.

    faults: their names; probability, mending (faults,): of each, and minutes to mend it.
    """
    minutes, first = tries(probability, mending)
    mend = Choice("mend", faults[int(first)], float(mending[first]), float(minutes))
    least = sorted(checks_next, key=lambda row: row.expected_minutes)[:MOST_CHOICES]
    found = [mend] + [Choice("check", row.check, row.minutes, row.expected_minutes) for row in least]
    return sorted(found, key=lambda choice: choice.expected_minutes)


def _ranked(gains: list[NextCheck]) -> list[NextCheck]:
    """Best rate first; within CLOSE of the best left, the shortest."""
    left = sorted(gains, key=lambda g: (-g.bits_per_minute, g.minutes, g.check))
    out = []
    while left:
        close = [g for g in left if g.bits_per_minute >= (1 - CLOSE) * left[0].bits_per_minute]
        best = min(close, key=lambda g: (not g.worth_it, g.minutes, -g.bits_per_minute, g.check))
        left.remove(best)
        out.append(best)
    return _rounds(out)


def _with_shared_ways(gains: list[NextCheck], clock: Clock) -> list[NextCheck]:
    """The same with their rate in a round: a way that several checks worth doing share counts for each with its part,
    as far as so many are likely to be done. Who walks to the hood looks at more than one thing there."""
    ways = {gain.check: clock.unpaid(checks()[gain.check]) for gain in gains}
    shared = Counter(leg for gain in gains if gain.bits >= WORTH_BITS for leg in ways[gain.check])

    def spared(gain: NextCheck) -> float:
        return sum(
            minutes * (1 - 1 / min(max(shared[leg], 1), MOST_SHARING)) for leg, minutes in ways[gain.check].items()
        )

    return [replace(gain, rate_in_round=gain.bits / (gain.minutes - spared(gain))) for gain in gains]


def _rounds(ranked: list[NextCheck]) -> list[NextCheck]:
    """The same with rounds: from the best on, all that is worth doing where one stands is one round.

    What is not worth doing comes after all rounds.
    """
    places = list(dict.fromkeys(check.place for check in ranked if check.worth_it))
    last = len(places) + 1
    return [replace(check, round=places.index(check.place) + 1 if check.worth_it else last) for check in ranked]
