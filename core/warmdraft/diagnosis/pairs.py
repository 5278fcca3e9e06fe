"""Two faults at once, where one does not explain what was read and seen.

Thousands of pairs are weighed roughly first, each reading by itself; those that could matter are then weighed as single
faults are, the scatter between machines shared by all readings.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, AirwayState, Conditions, healthy_state, solve
from warmdraft.checks import (
    LookWeights,
    felt_by_flow,
    gained_flow_weight,
    healthy_gains,
    pair_look_probability,
    severity_weight,
)
from warmdraft.checks.swaps import SWAPS
from warmdraft.diagnosis.evidence import Numbers, ReadingGroup, Seen, numbers_against
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, felt_weights, hypotheses_of, with_sensitivity
from warmdraft.diagnosis.posterior import fit, log_sum, normalised
from warmdraft.diagnosis.settings import healthy_scatter, usual_machine
from warmdraft.faults import Fault, apply_fault, catalogue, severity_grid
from warmdraft.machine import Machine

#: Share of jobs in which two things are wrong at once, before anything is measured (own assumption).
PAIR_PRIOR = 0.08
#: What is rarer than this beside other faults is nobody's second one (own assumption).
SECOND_FROM = 0.005
#: Severities each fault of a pair is tried at.
PAIR_STEPS = 4
#: Pairs weighed in full: the best so many by the rough weight.
_WEIGHED_IN_FULL = 384
#: Faults of these effects leave a mark on readings.
_ACTS = ("resistance_times", "leak_times", "bypass", "room_deficit", "outdoor_pressure", "head_lost", "speed_left",
         "power_left")  # fmt: skip
_OPENINGS = ("bypass",)
_OUTSIDE = ("room_deficit", "outdoor_pressure")


@dataclass(frozen=True, slots=True)
class PairHypotheses:
    """Pairs of one machine, P hypotheses of `names` pairs.

    pair, first, second (P,): indices into names and the catalogue of faults; severity_weight, flow_speaks: how far each
    of the two has come towards the tables of looks, and whether it is felt by the flow; log_share (P,): log of the
    hypothesis's share of its pair; output (P, OUTPUTS) and sensitivity (P, readings, 8) as for single faults, single
    precision; state: the airway of each.
    """

    names: tuple[tuple[str, str], ...]
    pair: NDArray[np.intp]
    first: NDArray[np.intp]
    second: NDArray[np.intp]
    severity_weight: tuple[Floats, Floats]
    flow_speaks: tuple[NDArray[np.bool_], NDArray[np.bool_]]
    log_share: Floats
    output: Floats
    sensitivity: NDArray[np.float32]
    variance: NDArray[np.float32]
    state: AirwayState


@dataclass(frozen=True, slots=True)
class PairVerdict:
    """How likely two faults at once are, and which; probabilities among the pairs, best first.

    log_evidence: log of the evidence of two faults, prior included.
    """

    share: float
    pairs: tuple[tuple[tuple[str, str], float], ...]
    log_evidence: float


def _members() -> list[Fault]:
    return [
        fault for fault in catalogue().values()
        if fault.of_the_air and fault.effect in _ACTS and fault.prior >= SECOND_FROM
    ]  # fmt: skip


def _couples() -> list[tuple[Fault, Fault]]:
    """Pairs that can be told apart from one fault: not of one element; a starved room hides an opening to it."""
    members = _members()
    return [
        (one, other)
        for i, one in enumerate(members)
        for other in members[i + 1 :]
        if (one.element != other.element or one.element == "none")
        and not ({*_OUTSIDE} & {one.effect, other.effect} and {*_OPENINGS} & {one.effect, other.effect})
        and {one.effect, other.effect} != {*_OUTSIDE}
    ]


@lru_cache(maxsize=32)
def pairs_of(machine: Machine, conditions: Conditions) -> PairHypotheses:
    """Build, or give again, the pairs of a machine under given conditions."""
    order = {name: place for place, name in enumerate(catalogue())}
    usual, states, rows = usual_machine(machine), [], []
    couples = _couples()
    for place, (one, other) in enumerate(couples):
        grids = [severity_grid(fault, PAIR_STEPS) for fault in (one, other)]
        tried = [np.array([np.nan]) if grid is None else grid for grid in grids]
        a, b = (side.reshape(-1) for side in np.meshgrid(*tried, indexing="ij"))
        state = healthy_state(usual.airway)
        for fault, severity, grid in ((one, a, grids[0]), (other, b, grids[1])):
            state = apply_fault(state, usual.airway, fault, None if grid is None else severity)
        size = len(a)
        states.append((state, size))
        rows.append((np.full(size, place), np.full(size, order[one.name]), np.full(size, order[other.name]),
                     severity_weight(one, a), severity_weight(other, b), np.full(size, -np.log(size))))  # fmt: skip
    columns = {}
    for field in fields(AirwayState):
        tail = (8,) if field.name == "resistance" else ()
        columns[field.name] = np.concatenate(
            [np.broadcast_to(getattr(state, field.name), (size, *tail)) for state, size in states]
        )
    whole = AirwayState(**columns)
    output, sensitivity = with_sensitivity(machine, whole, conditions, healthy_scatter(machine))
    pair, first, second, a, b, share = (np.concatenate(column) for column in zip(*rows, strict=True))
    speaks = np.array([felt_by_flow(fault) for fault in catalogue().values()])
    readings = sensitivity[:, : len(READING_KINDS)].astype(np.float32)
    return PairHypotheses(
        names=tuple((one.name, other.name) for one, other in couples),
        pair=pair, first=first, second=second, severity_weight=(a, b), log_share=share,
        flow_speaks=(speaks[first], speaks[second]),
        output=output, sensitivity=readings, variance=(readings**2).sum(axis=-1), state=whole,
    )  # fmt: skip


def weigh_pairs(
    machine: Machine, conditions: Conditions, log_prior: Floats, groups: tuple[ReadingGroup, ...], seen: list[Seen],
    single_log_evidence: float,
) -> PairVerdict:  # fmt: skip
    """Weigh all pairs against at most one fault.

    log_prior (faults,): of the single faults; single_log_evidence: log of the evidence of at most one fault, prior
    included.
    """
    order = {name: place for place, name in enumerate(catalogue())}
    couples = [(one.name, other.name) for one, other in _couples()]
    prior = np.array([log_prior[order[one]] + log_prior[order[other]] for one, other in couples])
    prior -= log_sum(prior)
    single = single_log_evidence + float(np.log(1 - PAIR_PRIOR))
    if not groups and not seen:  # no model is asked: nothing has been read or seen
        return _verdict(couples, prior, single)
    pairs = pairs_of(machine, conditions)
    joint = prior[pairs.pair] + pairs.log_share
    for one in seen:
        joint += _look(pairs, one, machine, conditions)
    log = joint + _rough_log_likelihood(pairs, groups)
    if groups:
        kept = np.argpartition(-log, min(_WEIGHED_IN_FULL, len(log) - 1))[:_WEIGHED_IN_FULL]
        log[kept] = joint[kept] + fit(_numbers(pairs, groups, kept)).log_likelihood
    among = np.full(len(couples), -np.inf)
    np.logaddexp.at(among, pairs.pair, log)
    return _verdict(couples, among, single)


def _verdict(couples: list[tuple[str, str]], log_weight: Floats, single: float) -> PairVerdict:
    """log_weight (pairs,): log evidence of each; single: that of at most one fault, prior included."""
    among = normalised(log_weight)
    total = log_sum(log_weight) + float(np.log(PAIR_PRIOR))
    ranked = np.argsort(-among, kind="stable")
    return PairVerdict(
        share=float(np.exp(total - np.logaddexp(total, single))),
        pairs=tuple((couples[i], float(among[i])) for i in ranked),
        log_evidence=total,
    )


def _rough_log_likelihood(pairs: PairHypotheses, groups: tuple[ReadingGroup, ...]) -> Floats:
    """Each reading by itself, scatter and instrument as one error; (P,)."""
    if not groups:
        return np.zeros(len(pairs.pair))
    columns = [KIND_COLUMN[group.kind] for group in groups]
    numbers = numbers_against(groups, pairs.output[:, columns], None)
    spread = numbers.sd**2 + pairs.variance[:, columns]
    return np.asarray(
        -0.5 * ((numbers.value - numbers.expected) ** 2 / spread + np.log(2 * np.pi * spread)).sum(axis=1)
    )


def _numbers(pairs: PairHypotheses, groups: tuple[ReadingGroup, ...], kept: NDArray[np.intp]) -> Numbers:
    columns = [KIND_COLUMN[group.kind] for group in groups]
    rows = pairs.sensitivity[kept][:, columns, :].astype(float)
    return numbers_against(groups, pairs.output[kept][:, columns], rows)


def _look(pairs: PairHypotheses, one: Seen, machine: Machine, conditions: Conditions) -> Floats:
    """Log P(what was seen), (P,)."""
    healthy = hypotheses_of(machine, conditions).healthy
    flow = felt_weights(pairs.output, healthy) if one.check.felt else {}
    swap: dict[str, Floats] = {}
    if one.check.swap:
        airway = machine.airway
        gain = SWAPS[one.check.swap].gain(pairs.state, airway, solve(pairs.state, airway.fan))
        swap[one.check.swap] = gained_flow_weight(gain, healthy_gains(airway)[one.check.swap])
    sides = [
        LookWeights(severity=weight, flow_speaks=pairs.flow_speaks[side], flow=flow, swap=swap)
        for side, weight in enumerate(pairs.severity_weight)
    ]
    table = pair_look_probability(one.check, one.rows, pairs.first, pairs.second, (sides[0], sides[1]))
    return one.nats(table.T)
