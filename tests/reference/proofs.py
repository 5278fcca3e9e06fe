"""Repairs as they really went: fully, not at all; what the proof makes of the readings taken after them.

Machines, faults and readings come from the worlds' own solver; nothing of the core's physics.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

import generator as g
from warmdraft.diagnosis import Case, ReadingFact
from warmdraft.machine import profile
from warmdraft.proof import proof
from worlds import FULL, Truth, read, solved, truth_of

#: What is read before and after: what one can stand at without opening anything.
READ = ("outlet_flow", "outlet_static_pressure", "screen_duct_suction", "heater_rise", "hood_flow")
FLOW_ONLY = ("outlet_flow",)


@dataclass(frozen=True)
class Told:
    """Shares of repairs that are accepted, and of true flows that lie within the interval that is told of them."""

    accepted: float
    within: float


class Machine:
    """One machine as it really is, before a repair and after one that took its fault away, or did nothing."""

    def __init__(self, fault: str, rng: np.random.Generator, done: bool) -> None:
        self.rng = rng
        scatter, severity = g.SCATTER * rng.standard_normal((1, 8)), g._severities(fault, 1, rng)
        self.before = truth_of(FULL, fault, severity, scatter)
        self.scatter, self.severity = scatter, severity
        self.after = truth_of(FULL, "none", np.ones(1), scatter) if done else self.before

    def leave(self, fault: str, share: float) -> None:
        """The repair took all of the fault away but a share of it."""
        left = 1 + (self.severity - 1) * share if np.all(self.severity > 1) else 1 - (1 - self.severity) * share
        self.after = truth_of(FULL, fault, left, self.scatter)

    def case(self, truth: Truth, kinds: tuple[str, ...], instrument: str | None = None) -> Case:
        """It is read; instrument: of the flow."""
        values = dict(zip(g.KINDS, read(truth, self.rng)[0], strict=True))
        return Case(profile("full-size-electric"), readings=tuple(
            ReadingFact(kind, float(values[kind]), instrument=instrument if kind == "outlet_flow" else None)
            for kind in kinds))  # fmt: skip

    def flow(self) -> float:
        """The true flow at the outlet after the work, m³/s."""
        return float(solved(self.after)["wheel"][0])


def told(fault: str, draws: int, seed: int, kinds: tuple[str, ...] = READ, done: bool = True, named: bool = True,
         instrument: str | None = None) -> Told:  # fmt: skip
    """Many such jobs of one fault. named: whether the technician said what it was."""
    rng = np.random.default_rng(seed)
    accepted, within = [], []
    for _ in range(draws):
        machine = Machine(fault, rng, done)
        before, after = machine.case(machine.before, kinds), machine.case(machine.after, kinds, instrument)
        found = proof(before, after, (fault,) if named else ()).acceptance
        accepted.append(found.decision == "accept")
        within.append(found.flow_m3s[0] <= machine.flow() <= found.flow_m3s[2])
    return Told(float(np.mean(accepted)), float(np.mean(within)))


FAULTS = tuple(name for name in g.NAMES if name != "none")
#: Those that lower the flow at the outlet.
HOLD_UP = tuple(name for name in FAULTS if not name.endswith(("leaking", "detached", "weak")))


def weighted(shares: dict[str, float]) -> float:
    """The mean over faults by how common each is."""
    prior = {name: g.FAULTS[name][0] for name in shares}
    return sum(shares[name] * prior[name] for name in shares) / sum(prior.values())


#: What one reads standing behind the machine: three readings.
COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
#: How repairs end: fully, in part, not at all; own assumption, as are the parts.
ENDS, PART_LEFT = {"done": 0.6, "part": 0.2, "not": 0.2}, (0.1, 0.7)


@dataclass(frozen=True)
class Decided:
    """What was decided of many repairs, as the faults are common. wrongly: of the accepted, those whose true flow falls
    short; through: of those whose true flow does not, the accepted; said, true: conformity told of what is neither
    sure nor hopeless, and how often it held."""

    wrongly: float
    through: float
    said: float
    true: float


def decided(draws: int, seed: int, kinds: tuple[str, ...] = COLLAR) -> Decided:
    """Repairs that went fully, in part or not at all, read once with each of `kinds` before and after."""
    rng = np.random.default_rng(seed)
    rows = []
    for fault in FAULTS:
        for _ in range(draws):
            how = rng.choice(list(ENDS), p=list(ENDS.values()))
            machine = Machine(fault, rng, done=how == "done")
            if how == "part":
                machine.leave(fault, float(rng.uniform(*PART_LEFT)))
            before, after = machine.case(machine.before, kinds), machine.case(machine.after, kinds)
            found = proof(before, after, (fault,)).acceptance
            good = machine.flow() >= found.limit_m3s
            rows.append((g.FAULTS[fault][0], found.decision == "accept", good, found.conformity))
    weight, accepted, good, said = (np.array(column) for column in zip(*rows, strict=True))
    between = (said > 0.05) & (said < 0.95)
    return Decided(
        wrongly=float(weight @ (accepted & ~good) / (weight @ accepted)),
        through=float(weight @ (accepted & good) / (weight @ good)),
        said=float(weight @ (said * between) / (weight @ between)),
        true=float(weight @ (good & between) / (weight @ between)),
    )
