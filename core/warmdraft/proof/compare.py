"""Readings beside each other, beside what was promised and beside healthy."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, hot_factor
from warmdraft.checks import NINE_IN_TEN, OWN_ERROR_SHARE, reading_sd, repeated_share
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import ReadingGroup, conditions_of, reading_groups
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, hypotheses_in
from warmdraft.proof.accept import promised, whole_setting

Standing = Literal["as_healthy", "low", "high", "not_again"]
Keeps = Literal["as_promised", "under_promise", "over_promise"]


@dataclass(frozen=True, slots=True)
class Comparison:
    """One kind of reading. All in its canonical unit; healthy and expected figures for the heat it was read with.

    before, after: None where it was not read; standing: what was read after the work against the healthy band,
    not_again where nothing was; stood: the same of what was read before it, None where nothing was; expected: what this
    machine should read once mended, None where nothing was read before; keeps: what was read after it against
    that, by more than both may be off, None where one is missing; change: after less before, with its interval of nine
    in ten, None where one of them is missing.
    """

    kind: str
    heat_on: bool
    healthy: float
    healthy_low: float
    healthy_high: float
    before: float | None
    after: float | None
    standing: Standing
    stood: Standing | None
    expected: float | None
    keeps: Keeps | None
    change: float | None
    change_low: float | None
    change_high: float | None


def _stands(value: float | None, healthy: float, band: float) -> Standing | None:
    if value is None:
        return None
    return "low" if value < healthy - band else "high" if value > healthy + band else "as_healthy"


def compare(before: Case, after: Case, cause: str | None = None) -> tuple[Comparison, ...]:
    """Every kind read before or after, in the catalogue's order; the same kind hot and cold are two rows.

    Values in canonical units, with the interval in which nine of ten healthy machines read.

    >>> from warmdraft.diagnosis import Case, ReadingFact
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> of = lambda flow: Case(machine, readings=(ReadingFact('outlet_flow', flow),))
    >>> before, after = (of(flow) for flow in (0.05, 0.08))
    >>> [(row.standing, round(row.change, 3)) for row in compare(before, after)]
    [('as_healthy', 0.03)]
    """
    built = after.machine if after.machine.airway != before.machine.airway else None  # the run may have been built anew
    hypotheses = hypotheses_in(whole_setting(after.machine, conditions_of(before)))
    mended = promised(before, cause, built)

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
        earlier, later = was.get((kind, heat_on), []), now.get((kind, heat_on), [])
        latest = later or earlier
        share, absolute = reading_sd(kind, latest[0].instrument)
        scatter = float(np.sqrt((hypotheses.healthy_sensitivity[column] ** 2).sum())) * hot
        band = NINE_IN_TEN * float(np.hypot(share * abs(healthy) + absolute, scatter))
        change, low, high = _change(earlier, later)
        expected = None if mended is None else float(mended[0][column]) * hot
        sure = 0.0 if mended is None else float(mended[1][column]) * hot
        rows.append(
            Comparison(
                kind=kind, heat_on=heat_on, healthy=healthy, healthy_low=healthy - band, healthy_high=healthy + band,
                before=_mean(earlier), after=_mean(later), standing=_stands(_mean(later), healthy, band) or "not_again",
                stood=_stands(_mean(earlier), healthy, band),
                expected=expected, keeps=_keeps(_mean(later), expected, sure, later),
                change=change, change_low=low, change_high=high,
            )
        )  # fmt: skip
    return tuple(rows)


def _keeps(after: float | None, expected: float | None, sure: float, groups: list[ReadingGroup]) -> Keeps | None:
    """sure: standard deviation of what was expected."""
    if after is None or expected is None:
        return None
    share, absolute = reading_sd(groups[0].kind, groups[0].instrument)
    band = NINE_IN_TEN * math.hypot(sure, (share * abs(expected) + absolute) * repeated_share(groups[0].times))
    stands = _stands(after, expected, band)
    return "under_promise" if stands == "low" else "over_promise" if stands == "high" else "as_promised"


def _mean(groups: list[ReadingGroup]) -> float | None:
    return float(np.mean([group.value for group in groups])) if groups else None


def _change(before: list[ReadingGroup], after: list[ReadingGroup]) -> tuple[float | None, float | None, float | None]:
    """After less before, with its interval of nine in ten: what is one instrument's own error is in both."""
    was, now = _mean(before), _mean(after)
    if was is None or now is None:
        return None, None, None
    same = {group.instrument for group in before} == {group.instrument for group in after}
    apart: Floats = np.array([_error(group, same) for group in (before[0], after[0])])
    sd = float(np.sqrt((apart**2).sum()))
    return now - was, now - was - NINE_IN_TEN * sd, now - was + NINE_IN_TEN * sd


def _error(group: ReadingGroup, same: bool) -> float:
    """Standard deviation of a mean; same: only what differs from one reading to the next."""
    share, absolute = reading_sd(group.kind, group.instrument)
    left = ((1 - OWN_ERROR_SHARE) / group.times) ** 0.5 if same else repeated_share(group.times)
    return (share * abs(group.value) + absolute) * left
