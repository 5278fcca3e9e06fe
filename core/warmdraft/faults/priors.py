"""How likely each fault is before anything is measured or looked at."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.faults.catalogue import catalogue
from warmdraft.tables import table

#: What is not of the air may hold at most this much of the prior until a complaint speaks for it (own assumption).
NOT_OF_THE_AIR_SHARE = 0.05
#: Prior of a run that is known to be too long, relative as in faults.toml; and what is left of a fault that the run's
#: own pieces rule out (own assumptions).
LONG_RUN_PRIOR = 0.15
RULED_OUT = 0.02
#: What a complaint or a circumstance may be about: a machine that gets too hot, takes long, is heard, fades as it runs.
About = Literal["hot", "slow", "noise", "time"]
ABOUT: tuple[About, ...] = get_args(About)
#: What is left of a fault that was mended without any change (own assumption).
TRIED_LEFT = 0.1


def circumstance_names() -> tuple[str, ...]:
    """Circumstances that move priors."""
    return tuple(table("circumstances"))


def complaint_names() -> tuple[str, ...]:
    """Complaints people come with."""
    return tuple(table("complaints"))


def about(said: Iterable[str]) -> frozenset[About]:
    """What complaints and circumstances are about, as far as it has to be shown to be gone after the work.

    >>> sorted(about(["rumbles", "overheats", "pets"]))
    ['hot', 'noise']
    """
    known = table("complaints") | table("circumstances")
    return frozenset(known[name]["about"] for name in said if "about" in known[name])


def lint_times(circumstances: Iterable[str]) -> float:
    """How many times faster than its kind a machine fills with lint under these circumstances.

    >>> lint_times(["pets", "moved_lately"])
    1.5
    """
    return math.prod(float(table("circumstances")[name].get("lint", 1.0)) for name in sorted(set(circumstances)))


#: Loads a week where nobody says (own assumption: a household of three or four).
USUAL_LOADS_PER_WEEK = 5.0


def loads_taken(counted: float | None, circumstances: Iterable[str]) -> float:
    """Loads a week that a machine is taken to dry: as counted, else as people say.

    >>> loads_taken(None, []), loads_taken(None, ["many_loads"]), loads_taken(3, ["many_loads"])
    (5.0, 9.0, 3)
    """
    if counted is not None:
        return counted
    told = [float(row["loads"]) for name in circumstances if "loads" in (row := table("circumstances")[name])]
    return max(told, default=USUAL_LOADS_PER_WEEK)


def stops_the_job(complaint: str) -> bool:
    """Whether a complaint asks for something before anything else is done."""
    return "stop" in table("complaints")[complaint]


#: How many times likelier each fault is where something holds of a machine: by what holds, then by fault.
Times = Mapping[str, Mapping[str, float]]
#: What holds of every machine.
ANY_MACHINE = "any_machine"
#: A move by less than a twentieth is not told to people (own choice).
NOTICED_FROM = 0.05


@dataclass(frozen=True, slots=True)
class CauseMove:
    """Where `holds` holds, a fault is so many times likelier: counted so often of so many jobs, where our tables and
    the other moves had let expect `expected`."""

    holds: str
    fault: str
    times: float
    counted: float
    expected: float
    jobs: float

    @property
    def noticed(self) -> bool:
        """Whether it is worth telling of."""
        return abs(math.log(self.times)) >= NOTICED_FROM


@dataclass(frozen=True, slots=True)
class Told:
    """What is known of a machine before anything is measured or looked at.

    profile, energy, supply: its kind, what heats it, how it is fed, where they are known; motors: how many turn drum
    and blower; run_within_allowance: what is known of the run as it was built; tried: faults that were mended and
    nothing changed.
    """

    profile: str = ""
    energy: str | None = None
    supply: str | None = None
    motors: int = 1
    run_within_allowance: bool | None = None
    circumstances: frozenset[str] = frozenset()
    complaints: frozenset[str] = frozenset()
    tried: frozenset[str] = frozenset()

    @property
    def holds(self) -> tuple[str, ...]:
        """What holds of it that may make faults likelier, by name."""
        kind = (self.profile,) if self.profile else ()
        return (ANY_MACHINE, *kind, *sorted(self.circumstances), *sorted(self.complaints))


def prior_weights(told: Told) -> tuple[Floats, NDArray[np.bool_]]:
    """Weight of each fault by our own tables, of any sum, and whether it is not of the air and nothing speaks for it;
    (faults,) each, in the catalogue's order.

    A complaint moves a fault of the air mildly, circumstances more. A run that is too long stands in for "nothing
    wrong", which such a machine cannot be.
    """
    rows, said = table("circumstances"), table("complaints")
    within = told.run_within_allowance
    weights = []
    unspoken = []
    for name, fault in catalogue().items():
        weight = fault.prior
        if within is not None and fault.as_built:
            weight = LONG_RUN_PRIOR if not within else weight * RULED_OUT
        elif within is False and name == "none":
            weight *= RULED_OUT
        if fault.motors not in (told.motors, None):
            weight *= RULED_OUT**2
        if fault.energy is not None and told.energy not in (fault.energy, None):
            weight *= RULED_OUT**2
        if fault.supply is not None and told.supply not in (fault.supply, None):
            weight *= RULED_OUT
        if name in told.tried:
            weight *= TRIED_LEFT
        for circumstance in sorted(told.circumstances):
            weight *= rows[circumstance]["times"].get(name, 1.0)
        for complaint in sorted(told.complaints):
            weight *= said[complaint].get("times", {}).get(name, 1.0)
        factors = [fault.complaints[complaint] for complaint in told.complaints if complaint in fault.complaints]
        weights.append(weight * max(factors, default=1.0))
        unspoken.append(not fault.of_the_air and not factors)
    return np.array(weights), np.array(unspoken)


def prior_shares(weights: Floats, unspoken: NDArray[np.bool_]) -> Floats:
    """Weights as probabilities, (..., faults) each: what nothing speaks for holds at most its share of them."""
    quiet = np.where(unspoken, weights, 0.0)
    held, others = quiet.sum(axis=-1, keepdims=True), np.where(unspoken, 0.0, weights).sum(axis=-1, keepdims=True)
    most = NOT_OF_THE_AIR_SHARE / (1 - NOT_OF_THE_AIR_SHARE) * others
    kept = np.minimum(1.0, most / np.maximum(held, np.finfo(float).tiny))
    capped = np.where(unspoken, weights * kept, weights)
    return np.asarray(capped / capped.sum(axis=-1, keepdims=True))


def log_priors(told: Told, times: Times | None = None) -> Floats:
    """Log prior of each fault in the catalogue's order; (faults,). Sums to 1 as probabilities.

    times: what a workshop's own jobs have taught beside our tables.

    >>> plain, taught = log_priors(Told()), log_priors(Told(), {ANY_MACHINE: {"hood_blocked": 2.0}})
    >>> bool(taught[list(catalogue()).index("hood_blocked")] > plain[list(catalogue()).index("hood_blocked")])
    True
    """
    weights, unspoken = prior_weights(told)
    for held in told.holds:
        own = (times or {}).get(held)
        if own:
            weights = weights * np.array([own.get(name, 1.0) for name in catalogue()])
    return np.asarray(np.log(prior_shares(weights, unspoken)))
