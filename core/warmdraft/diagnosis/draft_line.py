"""The numbers of the draft line: pressure room → outdoors, healthy, as the facts imply, and as each story has it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import NODES, TAPS, hot_factor
from warmdraft.checks import NINE_IN_TEN, reading_sd
from warmdraft.diagnosis.evidence import Numbers
from warmdraft.diagnosis.hypotheses import NODE_COLUMNS, Hypotheses
from warmdraft.diagnosis.posterior import Fit, mixture_quantiles

#: Stories told apart on the line: at most so many, each at least this likely (own assumption).
MOST_STORIES = 4
STORY_PROBABILITY = 0.04
#: A node is pinned when eight chances in ten leave it no wider than this share of the line's height, or these
#: pascals (own assumption).
PINNED_SHARE = 0.18
PINNED_PA = 20.0


@dataclass(frozen=True, slots=True)
class Story:
    """One way it could be: a fault, how likely, and the pressure at each node it implies, Pa (nodes,)."""

    fault: str
    probability: float
    pressure: Floats


@dataclass(frozen=True, slots=True)
class Point:
    """A measured pressure on the line, cold convention, Pa; low and high: nine chances in ten."""

    kind: str
    ids: tuple[str, ...]
    at: str
    pressure: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class DraftLine:
    """All arrays at NODES, gauge Pa. pinned: where the facts leave no choice."""

    healthy: Floats
    band_low: Floats
    band_high: Floats
    now: Floats
    now_low: Floats
    now_high: Floats
    pinned: tuple[bool, ...]
    stories: tuple[Story, ...]
    points: tuple[Point, ...]


def implied(hypotheses: Hypotheses, readings: Fit) -> Floats:
    """Each hypothesis's outputs for this very machine, as far as the readings tell, (H, OUTPUTS)."""
    return hypotheses.output + (hypotheses.sensitivity @ readings.scatter_mean[:, :, None])[:, :, 0]


def draft_line(
    hypotheses: Hypotheses, weight: Floats, fault_probability: Floats, implied_outputs: Floats, numbers: Numbers,
    readings: Fit,
) -> DraftLine:  # fmt: skip
    """Everything the draft line shows, from the posterior `weight` (H,)."""
    healthy = hypotheses.healthy[NODE_COLUMNS]
    band = NINE_IN_TEN * np.sqrt((hypotheses.healthy_sensitivity[NODE_COLUMNS] ** 2).sum(axis=-1))
    nodes = implied_outputs[:, NODE_COLUMNS]
    jacobian = hypotheses.sensitivity[:, NODE_COLUMNS, :]
    variance = ((jacobian @ readings.scatter_covariance) * jacobian).sum(axis=-1)
    sd = np.sqrt(np.maximum(variance, 0))
    low, now, high = mixture_quantiles(nodes, sd, weight, np.array([0.1, 0.5, 0.9]))
    width = max(PINNED_SHARE * float(np.ptp(now)), PINNED_PA)
    return DraftLine(
        healthy=healthy,
        band_low=healthy - band,
        band_high=healthy + band,
        now=now,
        now_low=low,
        now_high=high,
        pinned=tuple(bool(p) for p in (high - low) <= width),
        stories=_stories(hypotheses, weight, fault_probability, nodes),
        points=tuple(_points(numbers)),
    )


def _stories(hypotheses: Hypotheses, weight: Floats, probability: Floats, nodes: Floats) -> tuple[Story, ...]:
    told = []
    for f in np.argsort(-probability, kind="stable")[:MOST_STORIES]:
        if probability[f] < STORY_PROBABILITY:
            break
        share = np.where(hypotheses.fault_index == f, weight, 0.0)
        told.append(Story(hypotheses.spans[f][0].name, float(probability[f]), share @ nodes / share.sum()))
    return tuple(told)


def _points(numbers: Numbers) -> list[Point]:
    points = []
    for group in numbers.groups:
        tap = TAPS.get(group.kind)
        if tap is None:
            continue
        share, absolute = reading_sd(group.kind, group.instrument)
        error = NINE_IN_TEN * (share * abs(group.value) + absolute)
        hot = hot_factor(group.kind) if group.heat_on else 1.0
        low, high = group.value - error, group.value + error
        signed = sorted((tap.sign * low / hot, tap.sign * high / hot))
        points.append(Point(group.kind, group.ids, tap.node, tap.sign * group.value / hot, signed[0], signed[1]))
    order = {node: place for place, node in enumerate(NODES)}
    return sorted(points, key=lambda point: order[point.at])
