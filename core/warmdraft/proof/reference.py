"""A machine that was measured healthy once is its own reference from then on.

What its readings said of its elements then is kept as a mean and a covariance of the logarithms of its drops: whatever
two healthy machines of a model differ by, and whatever lawful vent nobody drew, is known of this one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from warmdraft.air import AirState
from warmdraft.diagnosis.case import Case, ReadingFact
from warmdraft.diagnosis.evidence import conditions_of
from warmdraft.diagnosis.hypotheses import hypotheses_in
from warmdraft.diagnosis.settings import STEPS_SPREAD, Setting, healthy_scatter, usual_machine
from warmdraft.machine import Machine
from warmdraft.proof.accept import log_remains_prior, weighed

#: Nothing wrong has to be at least this probable for readings to be a reference, of so many kinds (own assumptions).
HEALTHY_FROM, LEAST_KINDS = 0.6, 2
#: What each element may have moved since, log-standard deviation (own assumption).
DRIFT = 0.05


def own_reference(machine: Machine, readings: Sequence[ReadingFact], air: AirState | None = None) -> Machine:
    """The machine as its own readings of when it was healthy show it; as it was where they do not show it healthy.

    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> own = own_reference(machine, (ReadingFact('outlet_flow', 0.0805), ReadingFact('outlet_static_pressure', 95.0)))
    >>> own.airway.own is not None
    True
    """
    return _own(machine, tuple(readings), air or AirState())


@lru_cache(maxsize=256)
def _own(machine: Machine, readings: tuple[ReadingFact, ...], air: AirState) -> Machine:
    case = Case(machine, air=air, readings=readings)
    usual = usual_machine(machine)
    scatter = healthy_scatter(machine)
    hypotheses = hypotheses_in(Setting("as_told", usual, conditions_of(case), 1.0, STEPS_SPREAD, scatter, remains=True))
    names = [fault.name for fault, _ in hypotheses.spans]
    if len({reading.kind for reading in readings if reading.kind in hypotheses.predictable}) < LEAST_KINDS:
        return machine
    weight, found, _ = weighed(case, hypotheses, log_remains_prior(hypotheses, case))
    none = hypotheses.spans[names.index("none")][1].start
    if weight[none] < HEALTHY_FROM:
        return machine
    spread = np.array(scatter)
    covariance = spread @ found.scatter_covariance[none] @ spread.T + DRIFT**2 * np.eye(len(spread))
    drops = np.array(usual.airway.drops_pa) * np.exp(spread @ found.scatter_mean[none])
    own = tuple(tuple(float(x) for x in row) for row in np.linalg.cholesky(covariance))
    airway = replace(machine.airway, drops_pa=tuple(float(drop) for drop in drops), unknown=(), own=own)
    return replace(machine, airway=airway)
