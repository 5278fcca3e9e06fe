"""Machines that fill with lint in a world of their own: rates, clean flows and readings drawn one by one."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from warmdraft.upkeep import Kept, Visit, believed, upkeep_among

FIRST = date(2020, 1, 1)
LIMIT = 0.8


@dataclass(frozen=True)
class World:
    """median: growth of 1/q² a load; spread over machines; clean: log of a clean flow, its spread over cleanings;
    off_by: what a flow is read wrong by."""

    median: float = 0.8e-3
    spread: float = 0.5
    clean: float = 0.0
    clean_spread: float = 0.05
    off_by: float = 0.05

    def machine(self, rng: np.random.Generator, visits: int) -> tuple[Kept, date]:
        """A machine as its visits show it, and the day its flow truly falls short."""
        rate = self.median * np.exp(self.spread * rng.standard_normal())
        loads, at, seen, resistance = rng.uniform(3, 15), FIRST, [], 0.0
        for count in range(visits):
            found = resistance**-0.5 * self._read(rng) if count else None
            flow = np.exp(self.clean + self.clean_spread * rng.standard_normal())
            seen.append(Visit(at, found, flow * self._read(rng)))
            days = int(rng.uniform(200, 400))
            last, at = at, at + timedelta(days=days)
            resistance = flow**-2 + rate * days / 7 * loads
        left = max((LIMIT**-2 - flow**-2) / rate, 0.0)
        return Kept(tuple(seen), loads), last + timedelta(days=min(left / loads * 7, 36_000))

    def _read(self, rng: np.random.Generator) -> float:
        return float(np.exp(self.off_by * rng.standard_normal()))


def held(world: World, visits: int, machines: int, seed: int, fleet: int = 0) -> float:
    """Share of machines whose true day lies between what is said to be 5 and 95 %."""
    rng = np.random.default_rng(seed)
    known = believed([world.machine(rng, 3)[0] for _ in range(fleet)])
    drawn = [world.machine(rng, visits) for _ in range(machines)]
    said = [(upkeep_among(machine, known).due, true) for machine, true in drawn]
    return float(np.mean([low <= true <= high for (low, _, high), true in said]))
