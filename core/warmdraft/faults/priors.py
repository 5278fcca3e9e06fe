"""How likely each fault is before anything is measured or looked at."""

from __future__ import annotations

import numpy as np

from warmdraft.air import Floats
from warmdraft.faults.catalogue import catalogue
from warmdraft.tables import table

#: What is not of the air may hold at most this much of the prior until a complaint speaks for it (own assumption).
NOT_OF_THE_AIR_SHARE = 0.05
#: Prior of a run that is known to be too long, relative as in faults.toml; and what is left of a fault that the run's
#: own pieces rule out (own assumptions).
LONG_RUN_PRIOR = 0.15
RULED_OUT = 0.02
#: What is left of a fault that was mended without any change (own assumption).
TRIED_LEFT = 0.1


def circumstance_names() -> tuple[str, ...]:
    """Circumstances that move priors."""
    return tuple(table("circumstances"))


def complaint_names() -> tuple[str, ...]:
    """Complaints people come with."""
    return tuple(table("complaints"))


def stops_the_job(complaint: str) -> bool:
    """Whether a complaint asks for something before anything else is done."""
    return "stop" in table("complaints")[complaint]


def log_priors(
    circumstances: frozenset[str], complaints: frozenset[str], run_within_allowance: bool | None = None,
    supply: str | None = None, tried: frozenset[str] = frozenset(),
    motors: int = 1, energy: str | None = None,
) -> Floats:  # fmt: skip
    """Log prior of each fault in the catalogue's order; (faults,). Sums to 1 as probabilities.

    A complaint moves a fault of the air mildly, circumstances more. run_within_allowance: what is known of the run
    as it was built; too long, it stands in for "nothing wrong", which such a machine cannot be. supply: how the machine
    is fed, where it is known. tried: faults that were mended and nothing changed. motors: how many turn
    drum and blower. energy: what heats it, where it is known.
    """
    rows, said = table("circumstances"), table("complaints")
    weights = []
    unspoken = []
    for name, fault in catalogue().items():
        weight = fault.prior
        if run_within_allowance is not None and fault.as_built:
            weight = LONG_RUN_PRIOR if not run_within_allowance else weight * RULED_OUT
        elif run_within_allowance is False and name == "none":
            weight *= RULED_OUT
        if fault.motors not in (motors, None):
            weight *= RULED_OUT**2
        if fault.energy is not None and energy not in (fault.energy, None):
            weight *= RULED_OUT**2
        if fault.supply is not None and supply not in (fault.supply, None):
            weight *= RULED_OUT
        if name in tried:
            weight *= TRIED_LEFT
        for circumstance in sorted(circumstances):
            weight *= rows[circumstance]["times"].get(name, 1.0)
        for complaint in sorted(complaints):
            weight *= said[complaint].get("times", {}).get(name, 1.0)
        factors = [fault.complaints[complaint] for complaint in complaints if complaint in fault.complaints]
        weights.append(weight * max(factors, default=1.0))
        unspoken.append(not fault.of_the_air and not factors)
    prior = np.array(weights)
    quiet = np.array(unspoken)
    others = prior[~quiet].sum()
    most = NOT_OF_THE_AIR_SHARE / (1 - NOT_OF_THE_AIR_SHARE) * others
    if prior[quiet].sum() > most:
        prior[quiet] *= most / prior[quiet].sum()
    return np.asarray(np.log(prior / prior.sum()))
