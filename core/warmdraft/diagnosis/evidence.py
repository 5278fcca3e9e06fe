"""Facts in force as evidence: numbers beside what each hypothesis predicts, looks beside their tables.

This is where everything measured, seen or computed elsewhere becomes something the posterior can weigh.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, Conditions, hot_factor
from warmdraft.checks import NO_EVIDENCE, checks, reading_sd
from warmdraft.diagnosis.case import Case, FindingFact, ReadingFact
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, Hypotheses

#: Felt looks share one hand or ear: the second and later in a job count this much in nats (own assumption).
SHARED_SENSE = 0.5


@dataclass(frozen=True, slots=True)
class ReadingGroup:
    """Readings of one kind with one instrument in one state of the heat: they share the instrument's error, so their
    mean counts once (own assumption)."""

    kind: str
    heat_on: bool
    instrument: str | None
    value: float
    ids: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Numbers:
    """The numeric evidence of a case against all hypotheses.

    value (n,), expected (H, n), sensitivity (H, n, 8), sd (H, n): instrument alone.
    """

    groups: tuple[ReadingGroup, ...]
    value: Floats
    expected: Floats
    sensitivity: Floats
    sd: Floats


@dataclass(frozen=True, slots=True)
class Look:
    """A look's finding, with its log-likelihood under each hypothesis, (H,)."""

    finding: FindingFact
    log_likelihood: Floats


def conditions_of(case: Case) -> Conditions:
    """The room's air and the supply: what shifts predictions and is predicted by none. Repeats: their median."""

    def median(kind: str) -> float | None:
        values = [reading.value for reading in case.readings if reading.kind == kind]
        return float(np.median(values)) if values else None

    room = median("room_temperature")
    return Conditions(
        density_kg_m3=case.air.density_kg_m3,
        room_temperature_c=case.air.temperature_c if room is None else room,
        supply_voltage_v=median("supply_voltage"),
    )


def reading_groups(readings: tuple[ReadingFact, ...], predictable: tuple[str, ...]) -> tuple[ReadingGroup, ...]:
    """Readings that speak, grouped; in an order of their own, so that theirs does not matter."""
    members: dict[tuple[str, bool, str], list[ReadingFact]] = {}
    for reading in readings:
        if reading.kind in predictable:
            members.setdefault((reading.kind, reading.heat_on, reading.instrument or ""), []).append(reading)
    order = {kind: place for place, kind in enumerate(READING_KINDS)}
    return tuple(
        ReadingGroup(
            kind=kind,
            heat_on=heat_on,
            instrument=instrument or None,
            value=float(np.mean(sorted(r.value for r in same))),
            ids=tuple(sorted(r.id for r in same if r.id)),
        )
        for (kind, heat_on, instrument), same in sorted(members.items(), key=lambda m: (order[m[0][0]], m[0][1:]))
    )


def numbers_of(groups: tuple[ReadingGroup, ...], hypotheses: Hypotheses) -> Numbers:
    """Line up readings with predictions. Heat shifts pressures and the rise; see airway.predict."""
    columns = [KIND_COLUMN[group.kind] for group in groups]
    hot = np.array([hot_factor(group.kind) if group.heat_on else 1.0 for group in groups])
    expected = hypotheses.output[:, columns] * hot
    errors = np.array([reading_sd(group.kind, group.instrument) for group in groups]).reshape(-1, 2)
    return Numbers(
        groups=groups,
        value=np.array([group.value for group in groups]),
        expected=expected,
        sensitivity=hypotheses.sensitivity[:, columns, :] * hot[:, None],
        sd=errors[:, 0] * np.abs(expected) + errors[:, 1],
    )


def looks_of(findings: tuple[FindingFact, ...], hypotheses: Hypotheses) -> list[Look]:
    """Findings that say something; the same check found again replaces what was found before."""
    last = {finding.check: finding for finding in findings}
    felt = 0
    looks = []
    for finding in last.values():
        check = checks()[finding.check]
        if finding.result in NO_EVIDENCE or not check.results:
            continue
        share = 1.0
        if check.felt:
            share = 1.0 if felt == 0 else SHARED_SENSE
            felt += 1
        column = check.results.index(finding.result)
        looks.append(Look(finding, share * hypotheses.looks[finding.check][:, column]))
    return looks
