"""How fast a machine fills with lint, from its own flows and from those of its kind.

With the flow as a share q of a healthy one, y = 1/q² is the resistance of the way as a multiple of the healthy one.
Cleaned, a machine stands at y = 1/c² with its clean flow c; from there y grows evenly with loads, at a rate g that is
the machine's own. Rates and clean flows are log-normal over machines and cleanings; what was measured is off by a
log-standard deviation s that nobody states, so it is inferred with the rest. Everything that is not known is a grid:
weights on it are exact up to the grid, and no draw is ever made.

Source: the model is this tool's own, after y ∝ Δp/Q² of fully turbulent flow (Darcy and Weisbach); its three prior
numbers stand in the contract of `warm-draft/upkeep`.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from warmdraft.air import Floats
from warmdraft.upkeep.visits import Kept, Span, spans_of

#: Median growth of y a load, its log-standard deviation over machines; log-sd of a clean flow about healthy (contract).
RATE_MEDIAN, RATE_SPREAD, CLEAN_SPREAD = 0.8 / 1000, 0.5, 0.05
#: What a workshop's own machines may differ by from these: log-sd of the median, of both spreads, of the clean flow's
#: middle (own assumptions).
MEDIAN_UNSURE, SPREAD_UNSURE, CLEAN_UNSURE = 0.5, 0.4, 0.05
#: What a flow is off by, log-standard deviation: middle, and how sure that is (own assumption: from a fixed station
#: with repeats to one reading by hand; the 8 % of the instruments' table are of two people with two of them).
OFF_BY, OFF_BY_UNSURE = 0.055, 0.8
#: What is not known of a kind, as normals: clean flow's middle, log of its spread, log of what readings are off by; and
#: median and log of the spread of rates. Mean and standard deviation of each.
_OF_FLOWS = ((0.0, CLEAN_UNSURE), (np.log(CLEAN_SPREAD), SPREAD_UNSURE), (np.log(OFF_BY), OFF_BY_UNSURE))
_OF_RATES = ((np.log(RATE_MEDIAN), MEDIAN_UNSURE), (np.log(RATE_SPREAD), SPREAD_UNSURE))
#: A grid has so many points over so many standard deviations either way, and is laid anew, where the machines leave
#: room, so often.
_POINTS, _WIDE, _PASSES = 5, 2.0, 4
_COARSE, _FINE, _WIDEST = 61, 121, 5.0
#: Points with less than this share of the likeliest one's weight are left out.
_LEAST = 0.02
#: So many machines of a kind say what there is to say.
MOST_MACHINES = 100


@dataclass(frozen=True, slots=True)
class Believed:
    """What is held likely of a kind of machine: weights of (middle, spread) of clean flows and of what readings are off
    by, (C,); and under each, of (median, spread) of rates, (C, R). Logarithms of shares and of y a load."""

    clean: Floats
    clean_spread: Floats
    off_by: Floats
    weight: Floats
    rate: Floats
    rate_spread: Floats
    rate_weight: Floats
    #: Machines that spoke.
    machines: int


@dataclass(frozen=True, slots=True)
class _Grid:
    """Points of what is not known, (N, dimensions), and the logarithm of the prior at each, (N,)."""

    points: Floats
    log_prior: Floats

    @classmethod
    def laid(cls, around: Sequence[tuple[float, float]], prior: Sequence[tuple[float, float]]) -> _Grid:
        """Over each (mean, standard deviation) of `around`."""
        axes = [mean + deviation * np.linspace(-_WIDE, _WIDE, _POINTS) for mean, deviation in around]
        points = np.stack([axis.ravel() for axis in np.meshgrid(*axes, indexing="ij")], axis=1)
        mean, deviation = np.array(prior).T
        return cls(points, -0.5 * (((points - mean) / deviation) ** 2).sum(axis=1))

    def moments(self, weight: Floats) -> list[tuple[float, float]]:
        """Mean and standard deviation of each dimension, at least a third of what lies between two points."""
        mean = weight @ self.points
        apart = np.array([np.ptp(axis) for axis in self.points.T]) / (_POINTS - 1)
        deviation = np.maximum(np.sqrt(weight @ (self.points - mean) ** 2), apart / 3)
        return list(zip(mean.tolist(), deviation.tolist(), strict=True))


_COLUMNS = ("clean", "clean_spread", "off_by", "weight", "rate", "rate_spread", "rate_weight")


def believed_as_plain(known: Believed) -> dict[str, Any]:
    """What is held of a kind, to be kept: lists of numbers.

    >>> believed_from_plain(believed_as_plain(believed(()))).machines
    0
    """
    return {name: getattr(known, name).tolist() for name in _COLUMNS} | {"machines": known.machines}


def believed_from_plain(kept: Mapping[str, Any]) -> Believed:
    """The same again, as it was kept.

    >>> believed_from_plain(believed_as_plain(believed(()))).rate.shape
    (1,)
    """
    columns: dict[str, Any] = {name: np.array(kept[name], dtype=float) for name in _COLUMNS}
    return Believed(**columns, machines=int(kept["machines"]))


def _contract() -> Believed:
    """What holds without any machine of the kind: the contract's numbers as they stand."""
    off = _Grid.laid(_OF_FLOWS[2:], _OF_FLOWS[2:])
    weight, alike = np.exp(off.log_prior), np.ones(off.log_prior.size)
    return Believed(0 * alike, CLEAN_SPREAD * alike, np.exp(off.points[:, 0]), weight / weight.sum(),
                    np.array([np.log(RATE_MEDIAN)]), np.array([RATE_SPREAD]), alike[:, None], 0)  # fmt: skip


def clean_given(known: Believed, left: float | None) -> tuple[Floats, Floats, Floats]:
    """Logarithm of the flow a cleaning left, under each of `known`: mean, variance, and log-likelihood of what was
    read of it, (C,) each."""
    if left is None:
        return known.clean, known.clean_spread**2, np.zeros(known.clean.size)
    apart, spread = np.log(left) - known.clean, known.clean_spread**2 + known.off_by**2
    share = known.clean_spread**2 / spread
    log = -0.5 * (apart**2 / spread + np.log(spread))
    return known.clean + share * apart, share * known.off_by**2, log


def _log_likelihood(spans: Sequence[Span], rates: Floats, known: Believed) -> Floats:
    """Of what a machine's spans showed, under each rate (logarithms, (A,)) and each of `known`; (C, A).

    Around the likeliest clean flow the flow found is taken as linear in it: clean flows differ by a few hundredths.
    """
    log = np.zeros((known.clean.size, rates.size))
    grown = np.exp(rates)
    for span in spans:
        mean, variance, seen = clean_given(known, span.left)
        clean = np.exp(-2 * mean)[:, None]
        found = clean + grown * span.loads
        spread = known.off_by[:, None] ** 2 + (clean / found) ** 2 * variance[:, None]
        apart = np.log(span.found) + 0.5 * np.log(found)
        log += seen[:, None] - 0.5 * (apart**2 / spread + np.log(spread))
    return log


def _density(rates: Floats, known: Believed) -> Floats:
    """Density of a machine's log rate under each (median, spread); (R, A)."""
    apart = (rates - known.rate[:, None]) / known.rate_spread[:, None]
    return np.asarray(np.exp(-0.5 * apart**2) / (known.rate_spread[:, None] * np.sqrt(2 * np.pi)))


def believed(fleet: Sequence[Kept]) -> Believed:
    """What a workshop's machines of a kind show of rates and clean flows; the contract's numbers where there is none.

    >>> believed(()).machines
    0
    """
    spoke = [machine for machine in fleet[:MOST_MACHINES] if spans_of(machine) or _left(machine) is not None]
    if not spoke:
        return _contract()
    flows, rates = _Grid.laid(_OF_FLOWS, _OF_FLOWS), _Grid.laid(_OF_RATES, _OF_RATES)
    for _ in range(_PASSES):
        joint = _joint(spoke, flows, rates)
        flows = _Grid.laid(flows.moments(joint.sum(axis=1)), _OF_FLOWS)
        rates = _Grid.laid(rates.moments(joint.sum(axis=0)), _OF_RATES)
    joint = _joint(spoke, flows, rates)
    weight = joint.sum(axis=1)
    known, some = _known(flows, rates), weight > _LEAST * weight.max()
    return Believed(
        clean=known.clean[some], clean_spread=known.clean_spread[some], off_by=known.off_by[some],
        weight=weight[some] / weight[some].sum(), rate=known.rate, rate_spread=known.rate_spread,
        rate_weight=joint[some] / weight[some, None], machines=len(spoke),
    )  # fmt: skip


def _known(flows: _Grid, rates: _Grid) -> Believed:
    """The grids as what is believed, by the prior alone."""
    weight, rate_weight = np.exp(flows.log_prior), np.exp(rates.log_prior)
    return Believed(
        clean=flows.points[:, 0], clean_spread=np.exp(flows.points[:, 1]), off_by=np.exp(flows.points[:, 2]),
        weight=weight / weight.sum(), rate=rates.points[:, 0], rate_spread=np.exp(rates.points[:, 1]),
        rate_weight=np.tile(rate_weight / rate_weight.sum(), (weight.size, 1)), machines=0,
    )  # fmt: skip


def _joint(fleet: Sequence[Kept], flows: _Grid, rates: _Grid) -> Floats:
    """Weight of each point of both grids once these machines have spoken, (C, R)."""
    known = _known(flows, rates)
    widest = _WIDEST * float(known.rate_spread.max())
    own = np.linspace(known.rate.min() - widest, known.rate.max() + widest, 2 * _COARSE)
    density = _density(own, known) * (own[1] - own[0])  # (R, A)
    log = flows.log_prior[:, None] + rates.log_prior
    for machine in fleet:
        likely = _log_likelihood(spans_of(machine), own + np.log(machine.times), known)
        most = likely.max(axis=1, keepdims=True)
        log += most + np.log(np.exp(likely - most) @ density.T + 1e-300)
        last = _left(machine)
        if last is not None:
            log += clean_given(known, last)[2][:, None]
    joint = np.exp(log - log.max())
    return np.asarray(joint / joint.sum())


def _left(machine: Kept) -> float | None:
    """The flow that the last visit left, which no span speaks of yet."""
    return max(machine.visits, key=lambda visit: visit.at).left if machine.visits else None


@dataclass(frozen=True, slots=True)
class Growth:
    """A machine's own growth: log rates (A,), and the weight of each with each of `known`, (C, A)."""

    known: Believed
    rates: Floats
    weight: Floats

    @property
    def median(self) -> float:
        """Growth of y a load at the middle."""
        share = np.cumsum(self.weight.sum(axis=0))
        return float(np.exp(np.interp(0.5, share - self.weight.sum(axis=0) / 2, self.rates)))


def growth_of(machine: Kept, known: Believed) -> Growth:
    """How fast a machine fills, from its own spans, its kind's being the prior."""
    spans = spans_of(machine)
    middle, spread = float(known.weight @ known.rate_weight @ known.rate), float(known.rate_spread.max())
    around = np.log(machine.times) + middle + np.linspace(-1, 1, 2 * _COARSE) * _WIDEST * spread
    for _ in range(2):  # where its own flows leave little room, the grid is laid there once more
        weight = _weighed(spans, around, machine, known)
        share = weight.sum(axis=0)
        mean = float(share @ around)
        deviation = max(float(np.sqrt(share @ (around - mean) ** 2)), float(around[1] - around[0]))
        around = mean + np.linspace(-1, 1, _FINE) * _WIDEST * deviation
    return Growth(known, around, _weighed(spans, around, machine, known))


def _weighed(spans: Sequence[Span], rates: Floats, machine: Kept, known: Believed) -> Floats:
    prior = known.rate_weight @ _density(rates - np.log(machine.times), known)  # (C, A)
    log = _log_likelihood(spans, rates, known) + np.log(prior + 1e-300) + np.log(known.weight + 1e-300)[:, None]
    weight = np.exp(log - log.max())
    return np.asarray(weight / weight.sum())
