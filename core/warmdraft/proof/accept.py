"""Whether the machine may go: a decision with its risk, from everything read and seen after the work.

The question is one of conformity: does this machine's true flow at the outlet reach what is asked of it? Its
distribution follows from the airway model: what was read, how machines of a model differ, and what may be left of the
fault. Accepting asks for far more than even odds (a guard band), so that a poor instrument never passes more easily.
Source: JCGM 106:2012, 8.3 (decision rules with guard bands, specific risk), from memory.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from warmdraft.air import Floats
from warmdraft.airway import Conditions, healthy_state
from warmdraft.checks import checks
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.draft_line import implied
from warmdraft.diagnosis.evidence import (
    Look,
    conditions_of,
    log_prior_of,
    looks_of,
    numbers_of,
    reading_groups,
    seen_in,
)
from warmdraft.diagnosis.flow import FLOW, flow_quantiles, flow_under
from warmdraft.diagnosis.hypotheses import NODE_COLUMNS, Hypotheses, hypotheses_in, with_sensitivity
from warmdraft.diagnosis.posterior import Fit, fit, log_joint, normalised
from warmdraft.diagnosis.settings import STEPS, STEPS_SPREAD, Setting, healthy_scatter
from warmdraft.machine import Machine
from warmdraft.repair import BUILD, OF_A_RUN, Act, acts, part_and_act, repair_of

Decision = Literal["accept", "measure_more", "reject"]
#: What shows something: an instrument's reading, a look, a meter, a log, a recording.
Shows = Literal["reading", "look", "meter", "log", "sound"]

#: What is asked of the flow at the outlet, as a share of what this machine's profile gives when healthy (contract).
LIMIT_SHARE = 0.90
#: How sure one has to be that it is reached to accept, and below what one rejects (contract).
ACCEPT_FROM, REJECT_BELOW = 0.95, 0.5
#: Repairs after which something of the fault is left, and machines in which something else is wrong (own assumptions).
LEFT_PRIOR, OTHER_PRIOR = 0.4, 0.10
#: A line is proven when what it mended is left with so little, and disproven with so much, probability; something else
#: is named when anything is wrong with so much: as far as what was read could show it, by so many standard deviations
#: at its worst; from even odds on whatever was read (own assumptions).
PROVEN_BELOW, DISPROVEN_FROM, NAMED_FROM, SHOWS_FROM, EVEN = 0.1, 0.38, 0.45, 2.0, 0.5
#: What is left of a fault that was heard before the work is heard again, but for so much: recordings with half the
#: noise are right in more (tests/reference). A noise is a fault's own that is so much likelier with it than with
#: nothing wrong (own assumptions).
NOT_HEARD_AGAIN, ITS_OWN = 0.08, 3.0
#: Faults that are no fault of this machine to be left over: nothing, and what nobody knows.
NOT_LEFT = ("none", "nothing_known")
_ERF = np.vectorize(math.erf, otypes=[float])


@dataclass(frozen=True, slots=True)
class Line:
    """What was mended, and whether it is shown to be so. fault: what it was to take away, None where it mends no fault
    of its own; left: probability that something of that is left; by: what shows it, None
    while nothing does."""

    fault: str | None
    part: str
    act: str
    left: float | None
    proven: bool | None
    by: Shows | None


@dataclass(frozen=True, slots=True)
class Acceptance:
    """The decision. conformity: probability that the true flow reaches limit_m3s; flow_m3s: 5, 50 and 95 %."""

    decision: Decision
    conformity: float
    limit_m3s: float
    flow_m3s: tuple[float, float, float]
    lines: tuple[Line, ...]


@dataclass(frozen=True, slots=True)
class After:
    """Everything known after the work, as weighed hypotheses: weight (H,), readings: their fit; flow, variance (H,):
    the true flow at the outlet under each, given the readings; apart (faults,): by how many standard deviations each
    fault, at its worst, moves what was read."""

    hypotheses: Hypotheses
    weight: Floats
    readings: Fit
    flow: Floats
    variance: Floats
    apart: Floats
    limit: float
    #: log-likelihood of all readings, and of each sort of look, under each hypothesis, by what it came from.
    said: dict[Shows, Floats]

    def amiss(self, fault: str) -> float:
        """How much of a fault there is: its share of what may be wrong, times how bad."""
        return amiss(self.hypotheses, self.weight, fault)

    @property
    def readings_speak(self) -> bool:
        """Whether any reading was taken after the work."""
        return "reading" in self.said

    def conformity(self) -> float:
        """P(true flow ≥ limit)."""
        apart = (self.flow - self.limit) / np.sqrt(2 * np.maximum(self.variance, 1e-18))
        return float(np.clip(self.weight @ (0.5 + 0.5 * _ERF(apart)), 0, 1))

    def nodes(self) -> Floats:
        """Gauge pressure at NODES, Pa, (NODES,)."""
        return np.asarray(self.weight @ implied(self.hypotheses, self.readings)[:, NODE_COLUMNS])

    def element_of(self, name: str) -> str:
        """Where in the air's way a fault sits."""
        return next(fault.element for fault, _ in self.hypotheses.spans if fault.name == name)

    def of_fault(self) -> dict[str, float]:
        """Probability that something of each fault is left."""
        spans = self.hypotheses.spans
        left = np.bincount(self.hypotheses.fault_index, self.weight, minlength=len(spans))
        return {fault.name: float(p) for (fault, _), p in zip(spans, left, strict=True)}


#: From where a severity counts, by what a fault does; nothing where it is not named.
_NEUTRAL = {"resistance_times": 1.0, "leak_times": 1.0, "speed_left": 1.0, "power_left": 1.0}


def amiss(hypotheses: Hypotheses, weight: Floats, fault: str) -> float:
    """How much of a fault there is on average, in its severity's own measure; weight (H,). 0 where it has none."""
    row, here = next((row, here) for row, here in hypotheses.spans if row.name == fault)
    away = np.abs(hypotheses.severity[here] - _NEUTRAL.get(row.effect or "", 0.0))
    return float(weight[here] @ np.nan_to_num(away))


def whole_setting(machine: Machine, conditions: Conditions) -> Setting:
    """The machine as its profile has it, not with every vent that is lawful; faults in their whole range."""
    known = replace(machine, airway=replace(machine.airway, unknown=()))
    return Setting("as_told", known, conditions, 1.0, STEPS, healthy_scatter(known))


def _remains(machine: Machine, conditions: Conditions) -> Hypotheses:
    """The same with what a repair may have left of each fault."""
    return hypotheses_in(replace(whole_setting(machine, conditions), steps=STEPS_SPREAD, remains=True))


def _once_mended(before: Case, machine: Machine | None) -> tuple[Floats, Floats]:
    """What a mended machine reads, (OUTPUTS,), and how that moves with what sets this one apart, (OUTPUTS, 8). machine:
    what the work makes of it, where that is more than a repair."""
    if machine is None:
        hypotheses = hypotheses_in(whole_setting(before.machine, conditions_of(before)))
        return hypotheses.healthy, hypotheses.healthy_sensitivity
    made = whole_setting(machine, conditions_of(before))
    healthy, moves = with_sensitivity(made.machine, healthy_state(made.machine.airway), made.conditions, made.scatter)
    return healthy[0], moves[0]


def promised(before: Case, cause: str | None, machine: Machine | None = None) -> tuple[Floats, Floats] | None:
    """What this machine should read once it is mended, cold, and how sure that is, a standard deviation; (OUTPUTS,)
    each: its own scatter as far as the readings before the work tell it. machine: with what is built anew, None where
    that is nothing. None where nothing was read."""
    hypotheses = hypotheses_in(whole_setting(before.machine, conditions_of(before)))
    if not reading_groups(before.readings, hypotheses.predictable):
        return None
    weight, readings = _of_cause(before, hypotheses, cause)
    healthy, moves = _once_mended(before, machine)
    spread = np.einsum("oe,hef,of,h->o", moves, readings.scatter_covariance, moves, weight)
    return np.asarray(healthy + moves @ (weight @ readings.scatter_mean)), np.sqrt(spread)


def promised_flow(before: Case, cause: str | None, machine: Machine | None = None) -> tuple[float, float, float]:
    """The true flow at the outlet once it is mended and nothing of it is left: 5, 50 and 95 %, m³/s. machine: with what
    is built anew, a run for one; None where that is nothing.

    >>> from warmdraft.machine import profile
    >>> low, median, high = promised_flow(Case(profile('full-size-electric')), None)
    >>> low < median < high
    True
    """
    hypotheses = hypotheses_in(whole_setting(before.machine, conditions_of(before)))
    weight, readings = _of_cause(before, hypotheses, cause)
    healthy, sensitivity = _once_mended(before, machine)
    moves = sensitivity[FLOW]
    mean = healthy[FLOW] + readings.scatter_mean @ moves
    return flow_quantiles(mean, moves @ readings.scatter_covariance @ moves, weight)


def amiss_before(before: Case, cause: str) -> float:
    """How much of its cause there was before the work, by the readings: in its severity's own measure."""
    hypotheses = hypotheses_in(whole_setting(before.machine, conditions_of(before)))
    return amiss(hypotheses, _of_cause(before, hypotheses, cause)[0], cause)


def _of_cause(before: Case, hypotheses: Hypotheses, cause: str | None) -> tuple[Floats, Fit]:
    """Hypotheses weighed by what was known before the work, of the cause alone where one is named."""
    weight, readings, _ = weighed(before, hypotheses, log_prior_of(before))
    if cause is None:
        return weight, readings
    of_cause = np.array([fault.name == cause for fault, _ in hypotheses.spans])[hypotheses.fault_index]
    return normalised(np.log(np.where(of_cause, weight, 0) + 1e-300)), readings


def weighed(
    case: Case, hypotheses: Hypotheses, log_prior: Floats, looks: list[Look] | None = None
) -> tuple[Floats, Fit, dict[Shows, Floats]]:
    """Posterior (H,), the readings' fit, and what each sort of fact says of each hypothesis. looks: the case's, where
    they are known."""
    looks = looks_of(seen_in(case), hypotheses) if looks is None else looks
    readings = fit(numbers_of(reading_groups(case.readings, hypotheses.predictable), hypotheses))
    said: dict[Shows, Floats] = {"reading": readings.log_likelihood} if case.readings else {}
    for look in looks:
        sort = sort_of(look.finding.check)
        said[sort] = said.get(sort, 0.0) + look.log_likelihood
    prior = log_prior[hypotheses.fault_index] + hypotheses.log_share
    return normalised(log_joint(prior, looks) + readings.log_likelihood), readings, said


def _heard_again(
    looks: Sequence[Look], before: Case, after: Case, causes: Sequence[str], hypotheses: Hypotheses
) -> list[Look]:
    """What was seen and heard after the work. Where a cause was heard on this machine before it, and nothing is now,
    that speaks against what is left of it more than on a machine of which nobody knows whether it would be heard."""
    was = {finding.check: finding for finding in before.findings if not finding.shares}
    mended = np.array([fault.name in causes for fault, _ in hypotheses.spans])[hypotheses.fault_index]
    none = next(here.start for fault, here in hypotheses.spans if fault.name == "none")
    found = []
    for seen, look in zip(seen_in(after), looks, strict=True):
        then, results = was.get(seen.check.name), list(seen.check.results)
        if seen.check.heard and then is not None and seen.finding.result == results[0] and then.result in results[1:]:
            likely = hypotheses.look(seen.check.name, seen.rows)[:, results.index(then.result)]
            own = mended & (likely >= ITS_OWN * likely[none])
            least = np.where(own, seen.share * np.log(NOT_HEARD_AGAIN), np.inf)
            look = replace(look, log_likelihood=np.minimum(look.log_likelihood, least))
        found.append(look)
    return found


_SHOWN_BY: dict[str | None, Shows] = {None: "look", "meter": "meter", "logs": "log", "sounds": "sound"}


def sort_of(check: str) -> Shows:
    """What shows something when this check does."""
    row = checks()[check]
    if row.observes:
        return "reading"
    return _SHOWN_BY[row.given_under]


def log_remains_prior(hypotheses: Hypotheses, case: Case, suspected: Floats | None = None) -> Floats:
    """What may be wrong after a repair, before anything is read: something of what was suspected, something else, or
    nothing; logarithms, (faults,). suspected (faults,): weights of any size; what is usual where nobody suspects."""
    names = [fault.name for fault, _ in hypotheses.spans]
    counts = np.array([name not in NOT_LEFT for name in names], dtype=float)
    usual = np.exp(log_prior_of(case)) * counts
    suspected = usual if suspected is None else suspected * counts
    prior = OTHER_PRIOR * usual / usual.sum()
    if suspected.sum() > 0:
        prior = prior + LEFT_PRIOR * suspected / suspected.sum()
    prior[names.index("none")] = 1 - prior.sum()
    with np.errstate(divide="ignore"):
        return np.asarray(np.log(prior))


def after_work(before: Case, after: Case, causes: Sequence[str]) -> After:
    """Weigh what may be left after the work. causes: what was mended; empty where nobody said.

    Before anything is read after it, a repair has left something of what it was for in LEFT_PRIOR of jobs, of the
    causes, or of what the readings before made of it; in OTHER_PRIOR something else is wrong.
    """
    hypotheses = _remains(after.machine, conditions_of(after))
    if causes:
        suspected = np.array([float(fault.name in causes) for fault, _ in hypotheses.spans])
    else:
        whole = hypotheses_in(whole_setting(before.machine, conditions_of(before)))
        weight, _, _ = weighed(before, whole, log_prior_of(before))
        suspected = np.bincount(whole.fault_index, weight, minlength=len(whole.spans)).astype(float)
    looks = _heard_again(looks_of(seen_in(after), hypotheses), before, after, causes, hypotheses)
    weight, readings, said = weighed(after, hypotheses, log_remains_prior(hypotheses, before, suspected), looks)
    flow, variance = flow_under(hypotheses, readings)
    return After(
        hypotheses=hypotheses,
        weight=weight,
        readings=readings,
        flow=flow,
        variance=variance,
        apart=_apart(after, hypotheses),
        limit=LIMIT_SHARE * float(hypotheses.healthy[FLOW]),
        said=said,
    )


def _apart(after: Case, hypotheses: Hypotheses) -> Floats:
    """By how many standard deviations each fault, at its worst, moves what was read or seen; (faults,)."""
    numbers = numbers_of(reading_groups(after.readings, hypotheses.predictable), hypotheses)
    none = next(here.start for fault, here in hypotheses.spans if fault.name == "none")
    if not numbers.groups:
        return np.zeros(len(hypotheses.spans))
    spread = np.sqrt(numbers.sd[none] ** 2 + (numbers.sensitivity[none] ** 2).sum(axis=-1))
    moved = (np.abs(numbers.expected - numbers.expected[none]) / spread).max(axis=1)  # (H,)
    return np.array([moved[here].max() for _, here in hypotheses.spans])


def lines_of(
    known: After, after: Case, causes: Sequence[str], mended: Sequence[Act], came_back: bool
) -> tuple[Line, ...]:  # fmt: skip
    """A line for each cause, one for what is likeliest there while more speaks for something than for nothing, and one
    for each act that was done besides.

    came_back: the flow was short before, and is what it has to be: that shows whatever held it up to be gone.
    """
    of_fault = known.of_fault()
    lines = [_line(known, name, mended) for name in causes if name not in NOT_LEFT]
    if came_back:
        lines = [
            replace(line, proven=True, by="reading")
            if line.proven is None
            and line.fault is not None
            and ((line.part, line.act) == part_and_act(BUILD) or _holds_up(known, line.fault))
            else line
            for line in lines
        ]
    shows = {fault.name: apart for (fault, _), apart in zip(known.hypotheses.spans, known.apart, strict=True)}
    likeliest = max((name for name in of_fault if name not in NOT_LEFT), key=of_fault.__getitem__)
    shown = any(line.proven is False for line in lines)
    if not shown and likeliest not in causes and 1 - of_fault["none"] >= NAMED_FROM and shows[likeliest] >= SHOWS_FROM:
        lines.append(_line(known, likeliest, mended, named=True))
    told = {(line.part, line.act) for line in lines}
    return (*lines, *(_besides(after, act) for act in mended if (act.part, act.act) not in told and not act.finds_out))


def _besides(after: Case, act: Act) -> Line:
    """An act that mends no fault of its own: shown by what it names that shows it, the last that was looked at."""
    proven, by = None, None
    for finding in after.findings:
        if finding.check in act.shows:
            said = as_it_should_be(finding.check, finding.result)
            proven, by = (proven, by) if said is None else (said, sort_of(finding.check))
    return Line(None, act.part, act.act, None, proven, by)


def as_it_should_be(check: str, result: str) -> bool | None:
    """Whether a result is what a mended machine gives; None where it says neither. The first result of a check is that
    of a good one; what asks for an act, or what a meter failed, is not.

    >>> as_it_should_be("meter_thermal_fuse", "failed"), as_it_should_be("hood_look", "clear")
    (False, True)
    """
    row = checks()[check]
    if not row.results or result == row.results[0]:
        return True if row.results else None
    asked = any(act.found.get(check, {}).get(result) == "must" for act in acts().values())
    return False if asked or (row.meters is not None and result == "failed") else None


def _holds_up(known: After, name: str) -> bool:
    """Whether a fault, at its worst, leaves less flow than is asked for."""
    here = next(here for fault, here in known.hypotheses.spans if fault.name == name)
    return bool(known.hypotheses.output[here, FLOW].min() < known.limit)


def _line(known: After, name: str, mended: Sequence[Act], named: bool = False) -> Line:
    """mended: all that was done; named: it is there, whatever its own share."""
    place, here = next((i, here) for i, (fault, here) in enumerate(known.hypotheses.spans) if fault.name == name)
    left = known.of_fault()[name]
    shows = known.apart[place] >= SHOWS_FROM
    disproven = named or left >= (DISPROVEN_FROM if shows else EVEN)
    proven = False if disproven else True if left <= PROVEN_BELOW else None
    repair = repair_of(name)
    anew = [act for act in mended if act.name == BUILD and known.element_of(name) in OF_A_RUN]
    act = next((act for act in (*anew, *mended) if act in (*anew, *repair.acts) and not act.finds_out), repair.main)
    return Line(name, act.part, act.act, left, proven, None if proven is None else _shown_by(known, here, proven))


def _shown_by(known: After, here: slice, proven: bool) -> Shows | None:
    """What speaks most for what a line is said to be: of nothing wrong against this fault, by sort of fact."""
    none = next(span for fault, span in known.hypotheses.spans if fault.name == "none")
    speaks: dict[Shows, float] = {}
    for sort, said in known.said.items():
        best = float(np.log(np.mean(np.exp(said[here] - said[here].max()))) + said[here].max())
        speaks[sort] = (float(said[none].max()) - best) * (1 if proven else -1)
    most = max(speaks, key=speaks.__getitem__, default=None)
    return most if most is not None and speaks[most] > 0 else None


def decision_of(conformity: float, lines: Sequence[Line]) -> Decision:
    """Accept, measure more, or reject."""
    if conformity >= ACCEPT_FROM and not any(line.proven is False for line in lines):
        return "accept"
    return "reject" if conformity < REJECT_BELOW else "measure_more"


def acceptance_of(
    known: After, after: Case, causes: Sequence[str], mended: Sequence[Act], gained: bool
) -> Acceptance:  # fmt: skip
    """The decision from everything known after the work. mended: all that was done; gained: the flow was short before
    and there is more of it, or what tells of it was off and came right."""
    conformity = known.conformity()
    lines = lines_of(known, after, causes, mended, gained and conformity >= ACCEPT_FROM)
    between = flow_quantiles(known.flow, known.variance, known.weight)
    return Acceptance(decision_of(conformity, lines), conformity, known.limit, between, lines)
