"""Facts in force as evidence: numbers beside what each hypothesis predicts, looks beside their tables.

This is where everything measured, seen or computed elsewhere becomes something the posterior can weigh.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, Conditions, hot_factor
from warmdraft.checks import NO_EVIDENCE, Check, LookRows, checks, reading_bias, reading_sd, repeated_share
from warmdraft.diagnosis.case import Case, FindingFact, ReadingFact
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, Hypotheses
from warmdraft.faults import Told, log_priors
from warmdraft.meter import supply_of

#: Felt looks share one hand, heard ones one noise: the second and later of a job count this much in nats (own
#: assumption).
SHARED_SENSE = 0.5


@dataclass(frozen=True, slots=True)
class ReadingGroup:
    """Readings of one kind with one instrument in one state of the heat: they share what is the instrument's own error;
    the rest of it shrinks in their mean."""

    kind: str
    heat_on: bool
    instrument: str | None
    value: float
    ids: tuple[str, ...]
    times: int = 1


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
    """The room's air and the supply: what shifts predictions and is predicted by none. Repeats: their median.

    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> conditions_of(Case(machine, readings=(ReadingFact('supply_voltage', 230.0),))).supply_voltage_v
    230.0
    """

    def median(kind: str) -> float | None:
        values = [reading.value for reading in case.readings if reading.kind == kind]
        return float(np.median(values)) if values else None

    room = median("room_temperature")
    return Conditions(
        density_kg_m3=case.air.density_kg_m3,
        room_temperature_c=case.air.temperature_c if room is None else room,
        supply_voltage_v=median("supply_voltage"),
    )


def log_prior_of(case: Case) -> Floats:
    """Log prior of each fault on this machine, with what was said and what was tried; (faults,)."""
    return log_priors(told_of(case), case.taught.times)


def told_of(case: Case) -> Told:
    """What is known of a case before anything is measured or looked at.

    >>> from warmdraft.machine import profile
    >>> told_of(Case(profile('full-size-gas'))).holds
    ('any_machine', 'full-size-gas')
    """
    return Told(
        profile=case.machine.profile, energy=case.machine.heat.energy,
        supply=supply_of(case.machine.heat.supply_voltage_v), motors=case.motors,
        run_within_allowance=case.machine.airway.run_within_allowance, circumstances=case.circumstances,
        complaints=case.complaints, tried=case.tried,
    )  # fmt: skip


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
            times=len(same),
        )
        for (kind, heat_on, instrument), same in sorted(members.items(), key=lambda m: (order[m[0][0]], m[0][1:]))
    )


def reading_shift(groups: tuple[ReadingGroup, ...]) -> Floats:
    """What the model's cold, undisturbed value is multiplied by: the heat, and what the instrument holds up; (n,)."""
    return np.array(
        [(hot_factor(g.kind) if g.heat_on else 1.0) * reading_bias(g.instrument) for g in groups], dtype=float
    )


def numbers_against(groups: tuple[ReadingGroup, ...], predicted: Floats, sensitivity: Floats | None) -> Numbers:
    """Line up readings with what is predicted for them, cold and undisturbed: (H, n), sensitivity (H, n, 8) or none."""
    shift = reading_shift(groups)
    expected = predicted * shift
    errors = np.array([reading_sd(group.kind, group.instrument) for group in groups]).reshape(-1, 2)
    errors = errors * np.array([repeated_share(group.times) for group in groups])[:, None]
    return Numbers(
        groups=groups,
        value=np.array([group.value for group in groups]),
        expected=expected,
        sensitivity=np.zeros((0, 0, 0)) if sensitivity is None else sensitivity * shift[:, None],
        sd=errors[:, 0] * np.abs(expected) + errors[:, 1],
    )


def numbers_of(groups: tuple[ReadingGroup, ...], hypotheses: Hypotheses) -> Numbers:
    """Line up readings with the predictions of all hypotheses."""
    columns = [KIND_COLUMN[group.kind] for group in groups]
    return numbers_against(groups, hypotheses.output[:, columns], hypotheses.sensitivity[:, columns, :])


@dataclass(frozen=True, slots=True)
class Seen:
    """A finding that says something: its check and that check's table, how much speaks for each of its results, the
    share of its nats that counts."""

    finding: FindingFact
    check: Check
    rows: LookRows
    results: tuple[float, ...]
    share: float

    def nats(self, table: Floats) -> Floats:
        """Log-likelihood, (H,). table (results or more, H): P(result) of each hypothesis.

        Where a result is only likely, so much speaks for each: P(what was heard) is the sum of P(result) by them.
        """
        return np.asarray(self.share * np.log(np.array(self.results) @ table[: len(self.results)]))


def seen_in(case: Case) -> list[Seen]:
    """Findings that say something of this machine; the same check found again replaces what was found before.

    Felt looks share one hand, heard ones one noise: the first of a job counts whole, later ones less. What a recording
    tells comes before what an ear does.
    """
    seen, felt, heard = [], 0, 0
    latest = {finding.check: finding for finding in case.findings}
    for finding in sorted(latest.values(), key=lambda finding: not checks()[finding.check].recorded):
        check = checks()[finding.check]
        if finding.result in NO_EVIDENCE or not check.results or (check.one_motor and case.motors != 1):
            continue
        felt, heard = felt + (check.felt is not None), heard + check.heard
        again = (check.felt is not None and felt > 1) or (check.heard and heard > 1)
        results = finding.shares or tuple(float(result == finding.result) for result in check.results)
        share = SHARED_SENSE if again else 1.0
        seen.append(Seen(finding, check, case.taught.rows_of(check), results, share))
    return seen


def looks_of(seen: list[Seen], hypotheses: Hypotheses) -> list[Look]:
    """The findings as log-likelihoods of all hypotheses."""
    return [Look(one.finding, one.nats(hypotheses.look(one.check.name, one.rows).T)) for one in seen]
