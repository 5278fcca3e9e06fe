"""A machine with a hidden fault: it gives readings with their noise, and looks by their tables, when somebody asks.

The same question asked in any order has the same answer: each is drawn from the case's seed and its own name.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, AirwayState, Conditions, healthy_state, hot_factor, predict
from warmdraft.checks import (
    OWN_ERROR_SHARE,
    Check,
    LookWeights,
    checks,
    come,
    felt_by_flow,
    pair_look_probability,
    reading_bias,
    reading_sd,
    rows_of,
    severity_weight,
)
from warmdraft.diagnosis import conditions_of
from warmdraft.diagnosis.hypotheses import felt_weights, outputs, swap_weights
from warmdraft.diagnosis.settings import ELEMENT_SCATTER
from warmdraft.errors import DrillError
from warmdraft.faults import catalogue, supposed_state
from warmdraft.machine import ELEMENTS
from warmdraft.work import JobFacts

#: Faults at once that a case may hide.
MOST_WRONG = 2


@dataclass(frozen=True)
class Hidden:
    """What nobody is told. facts: the job as it comes, nothing read yet; wrong: faults with their severity, None where
    they have none or sit at their middle; lies: kinds whose reading is so many times what it should be."""

    facts: JobFacts
    wrong: tuple[tuple[str, float | None], ...]
    seed: int
    lies: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not self.wrong or len(self.wrong) > MOST_WRONG:
            raise DrillError(f"a case hides one fault or {MOST_WRONG}; 'none' is one of them")
        unknown = next((kind for kind in self.lies if kind not in READING_KINDS), None)
        if unknown is not None:
            raise DrillError(f"'{unknown}' is no reading that can lie; give one of {', '.join(READING_KINDS)}")

    def left(self) -> set[str]:
        """Faults that have to be mended."""
        return {name for name, _ in self.wrong if name != "none"}


class World:
    """The machine of a case."""

    def __init__(self, hidden: Hidden) -> None:
        self.hidden = hidden

    def _rng(self, *asked: str) -> np.random.Generator:
        return np.random.default_rng([self.hidden.seed, *"/".join(asked).encode()])

    @cached_property
    def conditions(self) -> Conditions:
        """The air and the supply it stands in."""
        return conditions_of(self.hidden.facts.case())

    @cached_property
    def state(self) -> AirwayState:
        """Its airway: one machine of its kind, with what is wrong."""
        state = supposed_state(self.hidden.facts.machine.airway, self.hidden.wrong)
        scatter = self._rng("machine").standard_normal(len(ELEMENTS))
        for element, deviation in zip(ELEMENTS, scatter, strict=True):
            state = state.with_resistance_of(element, float(np.exp(ELEMENT_SCATTER * deviation)))
        return state

    def can(self, check: Check) -> bool:
        """Whether it can answer a check: not what is logged over a run or recorded."""
        if check.logs or check.recorded:
            return False
        return bool(check.results) or np.isfinite(self._true(check.observes or ""))

    def _true(self, kind: str) -> float:
        values = predict(self.hidden.facts.machine, self.state, self.conditions)[0]
        return float(values[list(READING_KINDS).index(kind)]) if kind in READING_KINDS else float("nan")

    def read(self, kind: str, instrument: str | None = None, heat_on: bool = False, times_before: int = 0) -> float:
        """What an instrument shows, canonical unit. times_before: how often it was read so already; what is the
        instrument's own error stays. Raises DrillError for a kind that this machine cannot be read for."""
        true = self._true(kind)
        if not np.isfinite(true):
            raise DrillError(f"'{kind}' cannot be read on this machine")
        share, absolute = reading_sd(kind, instrument)
        own = self._rng("own", kind, instrument or "").standard_normal()
        fresh = self._rng("fresh", kind, instrument or "", str(times_before)).standard_normal()
        error = np.sqrt(OWN_ERROR_SHARE) * own + np.sqrt(1 - OWN_ERROR_SHARE) * fresh
        shown = true * (hot_factor(kind) if heat_on else 1.0) * reading_bias(instrument)
        return float((shown + (share * abs(shown) + absolute) * error) * self.hidden.lies.get(kind, 1.0))

    def look(self, name: str) -> str:
        """What a look gives. Raises DrillError for what is no look, or cannot be answered here."""
        check = checks().get(name)
        if check is None or not check.results or not self.can(check):
            raise DrillError(f"'{name}' is no look that a drill can answer")
        return str(self._rng("look", name).choice(check.results, p=self._chances(check)))

    def _chances(self, check: Check) -> Floats:
        """P(result), (results,)."""
        names = list(catalogue())
        machine, rows = self.hidden.facts.machine, rows_of(check)
        output = outputs(machine, self.state, self.conditions)[0]
        healthy = outputs(machine, healthy_state(machine.airway), self.conditions)[0]
        sides = []
        for name, severity in self.hidden.wrong:
            fault = catalogue()[name]
            size = fault.middle_severity if severity is None else severity
            sides.append((
                np.array([names.index(name)]),
                LookWeights(
                    severity=severity_weight(fault, np.array([np.nan if size is None else size])),
                    flow_speaks=np.array([felt_by_flow(fault)]),
                    flow=felt_weights(output[None], healthy),
                    swap=swap_weights(machine, self.state),
                ),
            ))  # fmt: skip
        (first, weights), *others = sides
        if others:
            found = pair_look_probability(check, rows, first, others[0][0], (weights, others[0][1]))
        else:
            found = rows.probability(first, come(check, first, weights))
        return np.asarray(found[0])
