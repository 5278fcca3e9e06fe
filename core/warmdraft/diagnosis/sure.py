"""How sure of a place: two faults at once, what may pull at the hood, and what nobody thought of weighed beside."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.diagnosis.case import Case
from warmdraft.diagnosis.hypotheses import Hypotheses
from warmdraft.diagnosis.pairs import PairVerdict
from warmdraft.diagnosis.settings import SettingCode
from warmdraft.faults import ZONES, catalogue

#: A fan that pulls at the hood looks, from the collar, like a joint that has come apart, and no prior of it is known:
#: one is sure only if one would be were it so many times as likely. The machine-off reading settles it. Own assumption.
PULL_TIMES = 10.0
#: What settles it.
STILL_PRESSURE = "still_pressure"


@dataclass(frozen=True, slots=True)
class Sure:
    """The place one is surest of, and how sure: the probability that something is wrong there."""

    zone: str
    probability: float


def sure_of(case: Case, hypotheses: Hypotheses, weight: Floats, pairs: PairVerdict) -> Sure:
    """The likeliest place with everything weighed.

    weight (H,): posterior of at most one fault. A pair counts for both of its places.
    """
    pulls = np.array([fault.either_sign for fault, _ in hypotheses.spans])[hypotheses.fault_index]
    pulls &= hypotheses.severity < 0
    if not any(reading.kind == STILL_PRESSURE for reading in case.readings):
        weight = weight * np.where(pulls, PULL_TIMES, 1.0)
        weight = weight / weight.sum()
    of_fault = np.bincount(hypotheses.fault_index, weight, minlength=len(hypotheses.spans))
    total = dict.fromkeys(ZONES, 0.0)
    for (fault, _), probability in zip(hypotheses.spans, of_fault, strict=True):
        total[fault.zone] += (1 - pairs.share) * float(probability)
    for names, probability in pairs.pairs:
        for zone in {catalogue()[name].zone for name in names}:
            total[zone] += pairs.share * probability
    zone = max(total, key=total.__getitem__)
    return Sure(zone, min(total[zone], 1.0))


@dataclass(frozen=True, slots=True)
class Otherwise:
    """A way it may be other than told: what, with which kind of machine, and how likely."""

    code: SettingCode
    profile: str
    probability: float


def otherwise_of(hypotheses: Hypotheses, weight: Floats) -> tuple[Otherwise, ...]:
    """Ways it may be other than told, likeliest first. weight (H,): posterior."""
    of_setting = np.bincount(hypotheses.setting, weight, minlength=len(hypotheses.settings))
    total: dict[tuple[SettingCode, str], float] = {}
    for setting, probability in zip(hypotheses.settings, of_setting, strict=True):
        key = (setting.code, setting.machine.profile)
        total[key] = total.get(key, 0.0) + float(probability)
    found = [Otherwise(code, kind, p) for (code, kind), p in total.items() if code != "as_told"]
    return tuple(sorted(found, key=lambda row: -row.probability))
