"""Readings beside each other and beside healthy."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from warmdraft.airway import READING_KINDS, hot_factor
from warmdraft.checks import NINE_IN_TEN, reading_sd
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import ReadingGroup, conditions_of, reading_groups
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, hypotheses_of

Standing = Literal["as_healthy", "low", "high"]
ProofCode = Literal["not_measured", "proven", "better", "unchanged"]


@dataclass(frozen=True, slots=True)
class Comparison:
    """One kind of reading. All in its canonical unit; healthy figures for the heat it was read with.

    before, after: None where it was not read; standing: the latest against the healthy band.
    """

    kind: str
    heat_on: bool
    healthy: float
    healthy_low: float
    healthy_high: float
    before: float | None
    after: float | None
    standing: Standing


@dataclass(frozen=True, slots=True)
class Proof:
    """Whether the work is shown to have helped.

    code: not_measured (nothing after), proven (flow back in the healthy band), better (more air, not yet healthy),
    unchanged; regained: share of the missing flow that came back, None where it cannot be said.
    """

    code: ProofCode
    regained: float | None
    rows: tuple[Comparison, ...]


def compare(before: Case, after: Case) -> tuple[Comparison, ...]:
    """Every kind read before or after, in the catalogue's order; the same kind hot and cold are two rows.

    Values in canonical units, with the interval in which nine of ten healthy machines read.

    >>> from warmdraft.diagnosis import Case, ReadingFact
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> of = lambda flow: Case(machine, readings=(ReadingFact('outlet_flow', flow),))
    >>> before, after = (of(flow) for flow in (0.05, 0.08))
    >>> [row.standing for row in compare(before, after)]
    ['as_healthy']
    """
    # what it is held against is the machine as its profile has it, not every vent that is lawful
    airway = replace(before.machine.airway, unknown=())
    hypotheses = hypotheses_of(replace(before.machine, airway=airway), conditions_of(before))

    def grouped(case: Case) -> dict[tuple[str, bool], list[ReadingGroup]]:
        rows: dict[tuple[str, bool], list[ReadingGroup]] = {}
        for group in reading_groups(case.readings, hypotheses.predictable):
            rows.setdefault((group.kind, group.heat_on), []).append(group)
        return rows

    was, now = grouped(before), grouped(after)
    rows = []
    for kind, heat_on in sorted({*was, *now}, key=lambda key: (list(READING_KINDS).index(key[0]), key[1])):
        hot = hot_factor(kind) if heat_on else 1.0
        column = KIND_COLUMN[kind]
        healthy = float(hypotheses.healthy[column]) * hot
        groups = now.get((kind, heat_on)) or was[kind, heat_on]
        share, absolute = reading_sd(kind, groups[0].instrument)
        scatter = float(np.sqrt((hypotheses.healthy_sensitivity[column] ** 2).sum())) * hot
        band = NINE_IN_TEN * float(np.hypot(share * abs(healthy) + absolute, scatter))
        latest = float(np.mean([group.value for group in groups]))
        standing: Standing = "low" if latest < healthy - band else "high" if latest > healthy + band else "as_healthy"
        rows.append(
            Comparison(
                kind=kind,
                heat_on=heat_on,
                healthy=healthy,
                healthy_low=healthy - band,
                healthy_high=healthy + band,
                before=_mean(was.get((kind, heat_on))),
                after=_mean(now.get((kind, heat_on))),
                standing=standing,
            )
        )
    return tuple(rows)


def _mean(groups: list[ReadingGroup] | None) -> float | None:
    return float(np.mean([group.value for group in groups])) if groups else None


def proof(before: Case, after: Case) -> Proof:
    """Judge the work by the flow at the outlet, or at the hood where only that was read.

    >>> from warmdraft.diagnosis import Case, ReadingFact
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> of = lambda flow: Case(machine, readings=(ReadingFact('outlet_flow', flow),))
    >>> before, after = (of(flow) for flow in (0.05, 0.08))
    >>> found = proof(before, after)
    >>> found.code, round(found.regained, 1)
    ('proven', 1.0)
    """
    rows = compare(before, after)
    flow = next((r for kind in ("outlet_flow", "hood_flow") for r in rows if r.kind == kind and r.after), None)
    if flow is None or flow.after is None:
        return Proof("not_measured", None, rows)
    regained = None
    if flow.before is not None and flow.before < flow.healthy_low:
        regained = (flow.after - flow.before) / (flow.healthy - flow.before)
    if flow.standing != "low":
        return Proof("proven", regained, rows)
    gained = flow.before is not None and flow.after > flow.before * (1 + 2 * reading_sd(flow.kind, None)[0])
    return Proof("better" if gained else "unchanged", regained, rows)
