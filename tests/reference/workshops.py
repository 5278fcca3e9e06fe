"""Workshops whose truths are not our assumptions: what it mostly is there, what pets and the like do, what looks show.

Jobs are drawn by the generator's own airway and tables; what the workshop's first jobs teach is tried on its next.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from accuracy import LOOKS_CLOSED
from generator import KINDS, NAMES, PRIOR
from looks import CLASSES, TABLES, LookDraws, drawn
from warmdraft.checks import UNTAUGHT, Taught, checks
from warmdraft.diagnosis import Case, FindingFact, ReadingFact, diagnose
from warmdraft.learning import Counts, Rightness, counted, lessons_of, rightness, together
from warmdraft.machine import profile

MACHINE = profile("full-size-electric")
#: What holds of a machine in so many jobs, and what it makes likelier: ours as our table has them (typed anew).
CIRCUMSTANCES = {
    "pets": (0.35, {"blower_wheel_fouled": 2.5, "lint_duct_packed": 1.5, "lint_screen_blinded": 1.3,
                    "vent_run_packed": 1.3}),
    "soft_foil_transition": (0.25, {"transition_crushed": 2.5, "transition_detached": 1.5}),
    "fabric_softener_sheets": (0.3, {"lint_screen_blinded": 2.0}),
    "serviced_lately": (0.15, {"lint_duct_seal_leaking": 3.0, "drum_seal_leaking": 2.0, "transition_detached": 1.5,
                               "blower_wheel_slipping": 2.0}),
}  # fmt: skip
#: What is read on a job, and how many looks are taken, of those that open nothing.
READ, LOOKED = ("outlet_flow", "outlet_static_pressure"), 6


@dataclass(frozen=True)
class Workshop:
    """odds (faults,): of causes on any machine; by_holds: times (faults,) by circumstance; tables: of looks."""

    odds: np.ndarray
    by_holds: dict[str, np.ndarray]
    tables: dict

    def prior(self, holds: frozenset[str]) -> np.ndarray:
        weight = self.odds.copy()
        for name in sorted(holds):
            weight = weight * self.by_holds[name]
        return weight / weight.sum()


def workshop(unlike: float, rng) -> Workshop:
    """A workshop; unlike: log-standard deviation of its odds from ours, and of what looks show. 0: as we assume."""

    def moved(row: list[float]) -> list[float]:
        weight = np.array(row) * np.exp(unlike * rng.standard_normal(len(row)))
        return list(weight / weight.sum())

    odds = PRIOR * np.exp(unlike * rng.standard_normal(len(PRIOR)))
    by_holds = {
        name: np.array([times.get(fault, 1.0) for fault in NAMES])
        * np.exp(0.5 * unlike * rng.standard_normal(len(NAMES)))
        for name, (_, times) in CIRCUMSTANCES.items()
    }  # fmt: skip
    ours = {
        name: {**table, "rows": {key: list(checks()[name].rows.get(key, row)) for key, row in table["rows"].items()}}
        for name, table in TABLES.items()
    }
    tables = {name: {**row, "rows": {key: moved(p) for key, p in row["rows"].items()}} for name, row in ours.items()}
    return Workshop(odds, by_holds, tables)


def jobs_of(shop: Workshop, n: int, rng) -> list[tuple[Case, str]]:
    """Jobs of a workshop as they come, with what it was."""
    holds = [frozenset(name for name, (share, _) in CIRCUMSTANCES.items() if rng.random() < share) for _ in range(n)]
    truth = np.array([CLASSES.index((NAMES[rng.choice(len(NAMES), p=shop.prior(held))],)) for held in holds])
    jobs: LookDraws = drawn(truth, rng, shop.tables)
    cases = []
    for i, held in enumerate(holds):
        looks = rng.choice(LOOKS_CLOSED, size=LOOKED, replace=False)
        cases.append((
            Case(
                MACHINE,
                circumstances=held,
                readings=tuple(ReadingFact(k, float(jobs.read[i, list(KINDS).index(k)])) for k in READ),
                findings=tuple(FindingFact(look, checks()[look].results[jobs.seen[look][i]]) for look in looks),
            ),
            CLASSES[truth[i]][0],
        ))  # fmt: skip
    return cases


def verdicts(jobs: list[tuple[Case, str]], taught: Taught) -> tuple[list[float], list[bool], list[float]]:
    """What was said of the likeliest cause, whether it was that, and what was said of what it was."""
    said, first, of_truth = [], [], []
    for case, truth in jobs:
        faults = diagnose(replace(case, taught=taught)).faults
        said.append(faults[0].probability)
        first.append(faults[0].fault == truth)
        of_truth.append(next(row.probability for row in faults if row.fault == truth))
    return said, first, of_truth


def counts_of(jobs: list[tuple[Case, str]]) -> Counts:
    return together(counted(case, truth) for case, truth in jobs)


@dataclass(frozen=True)
class Learned:
    """How right verdicts were before and after a workshop's jobs were learned from, over all workshops drawn."""

    ours: Rightness
    taught: Rightness


def learn(unlike: float, shops: int, jobs: int, tried: int, seed: int) -> Learned:
    """So many workshops learn from their first jobs; tried: jobs of each that come after."""
    rng = np.random.default_rng(seed)
    before: tuple[list, list, list] = ([], [], [])
    after: tuple[list, list, list] = ([], [], [])
    for _ in range(shops):
        shop = workshop(unlike, rng)
        taught = lessons_of(counts_of(jobs_of(shop, jobs, rng))).taught
        new = jobs_of(shop, tried, rng)
        for found, tables in ((before, UNTAUGHT), (after, taught)):
            for column, more in zip(found, verdicts(new, tables), strict=True):
                column += more
    ours, then = rightness(*before), rightness(*after)
    assert ours and then
    return Learned(ours, then)
