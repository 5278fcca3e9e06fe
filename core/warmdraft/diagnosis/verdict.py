"""The verdict: everything the facts in force say of the cause."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import READING_KINDS, Conditions
from warmdraft.diagnosis.attribution import Misfit, Speaks, for_and_against, inseparable, misfits, slip_log_evidence
from warmdraft.diagnosis.belief import believed, worth_weighing
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.choices import Choice
from warmdraft.diagnosis.consequences import Consequence, consequences
from warmdraft.diagnosis.draft_line import DraftLine, draft_line, implied
from warmdraft.diagnosis.evidence import (
    Numbers,
    conditions_of,
    log_prior_of,
    looks_of,
    numbers_of,
    reading_groups,
    seen_in,
)
from warmdraft.diagnosis.flow import Flow, flow_of
from warmdraft.diagnosis.hypotheses import KIND_COLUMN, OUTPUTS, Hypotheses, dynamic_pressure_pa, hypotheses_of
from warmdraft.diagnosis.minutes import Clock, clock_of
from warmdraft.diagnosis.next_check import NextCheck, checks_left, choices_of, next_checks
from warmdraft.diagnosis.pairs import weigh_pairs
from warmdraft.diagnosis.posterior import Fit, fit, log_joint, log_sum, normalised, sorted_quantiles, thinned
from warmdraft.diagnosis.slips import slip_of
from warmdraft.diagnosis.sure import Otherwise, Sure, otherwise_of, sure_of
from warmdraft.faults import ELEMENT_NAMES, ZONES

#: Changes whenever the same facts may give another verdict.
MODEL_VERSION = "8"
#: A fault less likely than this is not named as the cause of what got hot (own assumption).
NAMED_PROBABILITY = 0.3
#: What checks are expected to give is foreseen with so many hypotheses at most.
MOST_FORESEEN = 600
#: The severity interval leaves one chance in ten on either side.
SEVERITY_LEVELS = np.array([0.1, 0.5, 0.9])


@dataclass(frozen=True, slots=True)
class FaultVerdict:
    """One fault: its probability, given at most one fault, and its severity (low, median, high) or None."""

    fault: str
    zone: str
    element: str
    probability: float
    severity: tuple[float, float, float] | None


@dataclass(frozen=True, slots=True)
class OperatingPoint:
    """Where this machine runs, as the facts imply; m³/s and Pa."""

    flow_m3s: float
    fan_pressure_pa: float
    heater_flow_m3s: float
    outlet_flow_m3s: float
    vent_flow_m3s: float


@dataclass(frozen=True, slots=True)
class Verdict:
    """All lists complete and best first; probabilities given at most one fault, but for pair_share and sure; pairs
    among themselves. otherwise: ways it may be other than told, likeliest first."""

    zones: tuple[tuple[str, float], ...]
    sure: Sure
    otherwise: tuple[Otherwise, ...]
    elements: tuple[tuple[str, float], ...]
    faults: tuple[FaultVerdict, ...]
    inseparable: tuple[tuple[str, ...], ...]
    operating_point: OperatingPoint
    healthy_readings: dict[str, float]
    implied_readings: dict[str, float]
    flow: Flow
    draft_line: DraftLine
    next_checks: tuple[NextCheck, ...]
    choices: tuple[Choice, ...]
    for_and_against: tuple[Speaks, ...]
    misfits: tuple[Misfit, ...]
    pair_share: float
    pairs: tuple[tuple[tuple[str, str], float], ...]
    consequences: tuple[Consequence, ...]


def _totals(names: tuple[str, ...], of_fault: list[str], probability: Floats) -> tuple[tuple[str, float], ...]:
    total = dict.fromkeys(names, 0.0)
    for name, p in zip(of_fault, probability, strict=True):
        total[name] += float(p)
    return tuple(sorted(total.items(), key=lambda item: -item[1]))


def _severities(hypotheses: Hypotheses, joint: Floats) -> dict[str, tuple[float, float, float]]:
    """Severity quantiles given each fault that has a range; (low, median, high) by name."""
    found = {}
    for fault, here in hypotheses.spans:
        if fault.range is None or here.start == here.stop:
            continue
        size = hypotheses.severity[here]
        order = np.argsort(size, kind="stable")
        grid = size[order] if fault.either_sign else np.log(size[order])
        share = normalised(joint[here])[order]
        levels = sorted_quantiles(grid[:, None], share[:, None], SEVERITY_LEVELS)[:, 0]
        low, middle, high = levels if fault.either_sign else np.exp(levels)
        found[fault.name] = (float(low), float(middle), float(high))
    return found


def _operating_point(outputs: Floats) -> OperatingPoint:
    at = dict(zip(OUTPUTS, outputs, strict=True))
    return OperatingPoint(
        flow_m3s=float(at["wheel_flow"]),
        fan_pressure_pa=float(at["blower"] - at["lint_duct"]),
        heater_flow_m3s=float(at["heater_flow"]),
        outlet_flow_m3s=float(at["outlet_flow"]),
        vent_flow_m3s=float(at["hood_flow"]),
    )


def _with_slip(misfit: Misfit, numbers: Numbers, expected: Floats, conditions: Conditions) -> Misfit:
    """The same with what likely went wrong. expected (OUTPUTS,): what the other readings imply."""
    value = next(v for v, g in zip(numbers.value, numbers.groups, strict=True)
                 if (g.kind, g.ids) == (misfit.reading, misfit.ids))  # fmt: skip
    stream = dynamic_pressure_pa(float(expected[KIND_COLUMN["outlet_flow"]]), conditions.density_kg_m3)
    slip = slip_of(misfit.reading, float(value), misfit.expected_low, misfit.expected_high, stream)
    return replace(misfit, slip=slip)


@dataclass(frozen=True, slots=True)
class Weighed:
    """What the facts say, whoever asks: a verdict but for what comes next, and what that is foreseen with.

    hypotheses, weight, readings: as many as that takes, (H,), and their fit; probability, mending (faults,): of each,
    and minutes to mend it; again: kinds of reading that did not fit.
    """

    verdict: Verdict
    hypotheses: Hypotheses
    weight: Floats
    readings: Fit
    probability: Floats
    mending: Floats
    clock: Clock
    again: frozenset[str]


def diagnose(case: Case) -> Verdict:
    """Weigh the facts in force. Never fails on odd facts: what fits nothing is named in `misfits`.

    Source: Bayes' rule over one fault at a time with its severity, pairs beside; priors and errors from the tables.

    >>> from warmdraft.diagnosis import ReadingFact
    >>> from warmdraft.machine import profile
    >>> readings = (ReadingFact('outlet_flow', 0.045), ReadingFact('outlet_static_pressure', 330.0))
    >>> verdict = diagnose(Case(profile('full-size-electric'), readings=readings))
    >>> round(sum(p for zone, p in verdict.zones if zone in ('transition', 'run', 'hood')), 2)
    1.0
    """
    return with_next(weigh(case), case)


def with_next(found: Weighed, case: Case) -> Verdict:
    """A verdict with what comes next for whoever asks: with what they carry, and what they may do.

    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'))
    >>> with_next(weigh(case), case).next_checks == diagnose(case).next_checks
    True
    """
    nexts = next_checks(found.hypotheses, found.weight, found.readings, checks_left(case, found.again), found.clock,
                        found.mending, case.taught)  # fmt: skip
    names = [fault.name for fault, _ in found.hypotheses.spans]
    choices = choices_of(names, found.probability, found.mending, nexts)
    return replace(found.verdict, next_checks=tuple(nexts), choices=tuple(choices))


def weigh(case: Case) -> Weighed:
    """What the facts of a case say; what somebody carries or may do counts for nothing here.

    >>> from warmdraft.machine import profile
    >>> weigh(Case(profile('full-size-electric'))).verdict.next_checks
    ()
    """
    conditions = conditions_of(case)
    everything = hypotheses_of(case.machine, conditions, case.kinds, case.air_told)
    groups = reading_groups(case.readings, everything.predictable)
    seen, fault_prior = seen_in(case), log_prior_of(case)
    seen_of_all = log_joint(fault_prior[everything.fault_index] + everything.log_share, looks_of(seen, everything))
    hypotheses = everything.kept(worth_weighing(seen_of_all, groups, everything))
    looks = looks_of(seen, hypotheses)
    prior = fault_prior[hypotheses.fault_index] + hypotheses.log_share
    all_numbers = numbers_of(groups, hypotheses)
    numbers, readings = all_numbers, fit(all_numbers)
    heard = believed(numbers, readings, hypotheses)
    unread = log_joint(prior, looks)
    joint = unread + heard.together
    pairs = weigh_pairs(case.machine, conditions, fault_prior, groups, seen, log_sum(joint))
    unfit = misfits(unread, numbers, readings)
    if unfit and pairs.log_evidence > slip_log_evidence(unread, numbers, readings, hypotheses):
        unfit = []  # two faults at once explain what one does not
    if len(unfit) == 1:  # one reading fits nothing beside the others: the others are believed until it is taken again
        kept_groups = tuple(group for group in groups if (group.kind, group.ids) != (unfit[0].reading, unfit[0].ids))
        numbers = numbers_of(kept_groups, hypotheses)
        readings = fit(numbers)
        heard = believed(numbers, readings, hypotheses)
        joint = unread + heard.together
        pairs = weigh_pairs(case.machine, conditions, fault_prior, kept_groups, seen, log_sum(joint))
    weight = normalised(joint)
    probability: Floats = np.bincount(hypotheses.fault_index, weight, minlength=len(hypotheses.spans)).astype(float)
    order = np.argsort(-probability, kind="stable")
    spans = hypotheses.spans
    severities = _severities(hypotheses, joint)
    alike = inseparable(hypotheses, joint, probability, numbers, looks)
    kept, some_weight = thinned(weight, MOST_FORESEEN)
    some, some_readings = hypotheses.kept(kept), readings.kept(kept)
    outputs = implied(some, some_readings)
    expected = some_weight @ outputs / some_weight.sum()
    leading = next((group for group in alike if order[0] in group), (int(order[0]),))
    clock = clock_of(case)
    mending = np.array([clock.to_mend(fault.name) for fault, _ in spans])
    verdict = Verdict(
        zones=_totals(ZONES, [fault.zone for fault, _ in spans], probability),
        sure=sure_of(case, hypotheses, weight, pairs),
        otherwise=otherwise_of(hypotheses, weight),
        elements=_totals(ELEMENT_NAMES, [fault.element for fault, _ in spans], probability),
        faults=tuple(
            FaultVerdict(
                fault=spans[f][0].name,
                zone=spans[f][0].zone,
                element=spans[f][0].element,
                probability=float(probability[f]),
                severity=severities.get(spans[f][0].name),
            )
            for f in order
        ),
        inseparable=tuple(
            tuple(spans[f][0].name for f in group)
            for group in alike
        ),
        operating_point=_operating_point(expected),
        healthy_readings={kind: float(hypotheses.healthy[KIND_COLUMN[kind]]) for kind in hypotheses.predictable},
        implied_readings={kind: float(expected[KIND_COLUMN[kind]]) for kind in READING_KINDS
                          if kind in hypotheses.predictable},
        flow=flow_of(some, some_weight, some_readings, numbers),
        draft_line=draft_line(some, some_weight, probability, outputs, all_numbers, some_readings),
        next_checks=(),
        choices=(),
        for_and_against=tuple(for_and_against(hypotheses, prior, joint, numbers, heard, looks, leading)),
        misfits=tuple(_with_slip(misfit, all_numbers, expected, conditions) for misfit in unfit),
        pair_share=pairs.share,
        pairs=pairs.pairs,
        consequences=consequences(
            case,
            tuple(spans[f][0].name for f in order if probability[f] >= NAMED_PROBABILITY),
            float(expected[KIND_COLUMN["heater_rise"]]),
        ),
    )  # fmt: skip
    again = frozenset(misfit.reading for misfit in unfit)
    return Weighed(verdict, some, some_weight, some_readings, probability, mending, clock, again)
