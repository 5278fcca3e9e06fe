"""What of a verdict is worth telling: own choices, in one place, for every screen."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.evidence import told_of
from warmdraft.diagnosis.next_check import NextCheck
from warmdraft.diagnosis.sure import Otherwise
from warmdraft.diagnosis.verdict import Verdict
from warmdraft.faults import CauseMove

Suspicion = Literal["likely", "suspect", "hardly", "not"]
Weighs = Literal["for", "against", "little"]
#: How suspect a place is called from what probability on; below the last nothing is said against it (own assumption).
_SUSPICION: tuple[tuple[float, Suspicion], ...] = ((0.5, "likely"), (0.15, "suspect"), (0.005, "hardly"))
SUSPICIONS: tuple[Suspicion, ...] = get_args(Suspicion)
#: The first so many faults are always told, the others from this probability on (own assumption).
_ALWAYS, _FAULT_WORTH = 2, 0.01
#: Two faults at once are told of from this share on (own assumption).
_PAIRS_WORTH = 0.25
#: That something is otherwise than told is told from this probability on (own assumption).
_OTHERWISE_WORTH = 0.4
#: Moves that are told of beside a verdict.
_MOST_LEARNED = 5
#: Evidence of less than this says little, nats (own assumption).
_LITTLE_NATS = 0.05

#: A check tells something new that is expected to make the likeliest place, or cause, surer by this share: half a
#: percent, which a screen rounds to one (own choice).
_NEWS = 0.005


@dataclass(frozen=True, slots=True)
class Gain:
    """How sure one is of the place, or where that is known well enough of the cause, now and after a check; the latter
    on average over what it may give."""

    of: Literal["place", "cause"]
    now: float
    after: float


def gain_of(check: NextCheck) -> Gain | None:
    """What is told of the gain of a check: of the place first; None where it tells nothing new.

    >>> from warmdraft.diagnosis import Case, diagnose
    >>> from warmdraft.machine import profile
    >>> gain_of(diagnose(Case(profile('full-size-electric'))).next_checks[0]).of
    'place'
    """
    of_place = Gain("place", check.sure_now, check.sure_after)
    of_cause = Gain("cause", check.cause_now, check.cause_after)
    return next((gain for gain in (of_place, of_cause) if gain.after - gain.now >= _NEWS), None)


def suspicion_of(probability: float) -> Suspicion:
    """How suspect a place is by the probability that the cause sits in it.

    >>> suspicion_of(0.6), suspicion_of(0.2), suspicion_of(0.001)
    ('likely', 'suspect', 'not')
    """
    return next((code for least, code in _SUSPICION if probability >= least), "not")


def faults_told(verdict: Verdict) -> frozenset[str]:
    """Faults that are told of.

    >>> from warmdraft.diagnosis import Case, diagnose
    >>> from warmdraft.machine import profile
    >>> verdict = diagnose(Case(profile('full-size-electric')))
    >>> verdict.faults[0].fault in faults_told(verdict)
    True
    """
    return frozenset(
        row.fault for i, row in enumerate(verdict.faults) if i < _ALWAYS or row.probability >= _FAULT_WORTH
    )


def otherwise_told(found: Otherwise) -> bool:
    """Whether it is likely enough to be told of that something is otherwise than told.

    >>> otherwise_told(Otherwise('high_up', 'full-size-electric', 0.7))
    True
    """
    return found.probability >= _OTHERWISE_WORTH


def pairs_told(verdict: Verdict) -> bool:
    """Whether two faults at once are likely enough to be told of.

    >>> from warmdraft.diagnosis import Case, diagnose
    >>> from warmdraft.machine import profile
    >>> pairs_told(diagnose(Case(profile('full-size-electric'))))
    False
    """
    return verdict.pair_share >= _PAIRS_WORTH


def learned_told(case: Case, verdict: Verdict) -> tuple[CauseMove, ...]:
    """What a workshop's own jobs taught of the faults that are told of, where it holds of this machine; the largest
    first.

    >>> from warmdraft.diagnosis import diagnose
    >>> from warmdraft.machine import profile
    >>> case = Case(profile('full-size-electric'))
    >>> learned_told(case, diagnose(case))
    ()
    """
    holds, told = told_of(case).holds, faults_told(verdict)
    moves = [row for row in case.taught.moves if row.holds in holds and row.fault in told and row.noticed]
    return tuple(moves[:_MOST_LEARNED])


def weighs(nats: float) -> Weighs:
    """Which way evidence speaks.

    >>> weighs(2.0), weighs(-2.0), weighs(0.01)
    ('for', 'against', 'little')
    """
    return "little" if abs(nats) < _LITTLE_NATS else "for" if nats > 0 else "against"
