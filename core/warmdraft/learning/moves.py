"""What counts make of our tables: times by which they make causes likelier, and rows of looks moved towards them.

Our own numbers count like so many jobs seen before. A time t by which something becomes likelier has, before any job,
the density t^(a−1)·exp(−a·t) about 1, worth a jobs, and a kink of one job at 1: what a single odd job says moves
nothing, what two say begins to. The times that together explain the counts best are found one after the other.

Source: gamma prior on the ratio of counted to expected (Clayton and Kaldor 1987, "Empirical Bayes estimates of
age-standardized relative risks", from memory), the kink as in Tibshirani 1996; own choice of strengths.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from warmdraft.air import Floats
from warmdraft.checks import LookRows, Taught, checks, rows_by_key
from warmdraft.faults import ANY_MACHINE, NOTICED_FROM, CauseMove, catalogue, prior_shares, prior_weights
from warmdraft.learning.counts import Counts

#: Our own numbers count like so many jobs (own choice).
WORTH_JOBS = 50.0
#: And each of them like so many counts at least, however rare: of causes on any machine, of causes where something
#: holds, of what a check gives (own choice: then no job moves a verdict by much).
LEAST_OF_CAUSE, LEAST_WHERE_HOLDS, LEAST_OF_LOOK = 6.0, 12.0, 6.0
#: A job's surplus that counts for nothing: one alone may be odd.
ODD_JOBS = 1.0
#: Rounds over all times until they move no more.
_ROUNDS, _STILL = 60, 1e-4


@dataclass(frozen=True, slots=True)
class LookMove:
    """A check's row gives a result with another share: counted so often of so many."""

    check: str
    row: str
    result: str
    ours: float
    taught: float
    counted: float
    of: float

    @property
    def noticed(self) -> bool:
        """Whether it is worth telling of."""
        return abs(float(np.log(self.taught / self.ours))) >= NOTICED_FROM


@dataclass(frozen=True, slots=True)
class Lessons:
    """What counts teach: how a case is judged by them, and every move of a table, largest first."""

    taught: Taught
    jobs: float
    causes: tuple[CauseMove, ...]
    looks: tuple[LookMove, ...]

    def worth_telling(self) -> Lessons:
        """The same with only the moves that anybody would notice."""
        return replace(
            self,
            causes=tuple(row for row in self.causes if row.noticed),
            looks=tuple(row for row in self.looks if row.noticed),
        )


def times_of(counted: Floats, expected: Floats, worth: Floats) -> Floats:
    """How many times as often as expected, shrunk towards once; any shape.

    counted; expected, by our tables; worth: so many counts our tables stand for.

    >>> times_of(np.array([1.0, 3.0, 0.0]), np.array([0.1, 3.0, 9.0]), np.array(6.0)).round(2).tolist()
    [1.0, 1.0, 0.47]
    """
    more = (counted + worth - ODD_JOBS) / (expected + worth)
    less = (counted + worth + ODD_JOBS) / (expected + worth)
    return np.where(more > 1, more, np.where(less < 1, less, 1.0))


def lessons_of(counts: Counts) -> Lessons:
    """What counts teach of our tables.

    >>> lessons_of(Counts()).causes
    ()
    """
    causes = tuple(_cause_moves(counts))
    looks, rows = _look_moves(counts)
    return Lessons(Taught(causes, rows), counts.jobs, causes, looks)


def _cause_moves(counts: Counts) -> Iterable[CauseMove]:
    if not counts.causes:
        return []
    names = list(catalogue())
    told = list({one: None for one, _ in counts.causes})
    place = {one: number for number, one in enumerate(told)}
    found = np.zeros((len(told), len(names)))  # (kinds of job, faults)
    for (one, fault), number in counts.causes.items():
        found[place[one], names.index(fault)] += number
    weighed = [prior_weights(one) for one in told]
    weights, unspoken = np.array([w for w, _ in weighed]), np.array([quiet for _, quiet in weighed])
    holds = sorted({held for one in told for held in one.holds}, key=lambda held: (held != ANY_MACHINE, held))
    where = {held: np.array([number for number, one in enumerate(told) if held in one.holds]) for held in holds}
    jobs = found.sum(axis=1)
    log_times = {held: np.zeros(len(names)) for held in holds}
    total = np.zeros_like(weights)  # logarithms of the times of each kind of job

    def expected(held: str) -> Floats:
        at = where[held]
        return np.asarray(jobs[at] @ prior_shares(weights[at] * np.exp(total[at]), unspoken[at]))

    counted = {held: found[where[held]].sum(axis=0) for held in holds}
    ours = {held: expected(held) for held in holds}
    worth = {
        held: np.maximum(
            WORTH_JOBS * ours[held] / jobs[where[held]].sum(),
            LEAST_OF_CAUSE if held == ANY_MACHINE else LEAST_WHERE_HOLDS,
        )
        for held in holds
    }
    for _ in range(_ROUNDS):
        moved = 0.0
        for held in holds:
            before = np.exp(log_times[held])
            log = np.log(times_of(counted[held], expected(held) / before, worth[held]))
            moved = max(moved, float(np.abs(log - log_times[held]).max()))
            total[where[held]] += log - log_times[held]
            log_times[held] = log
        if moved < _STILL:
            break
    moves = [
        CauseMove(held, names[f], float(np.exp(log_times[held][f])), float(counted[held][f]),
                  float(expected(held)[f] / np.exp(log_times[held][f])), float(jobs[where[held]].sum()))
        for held in holds for f in np.flatnonzero(log_times[held])
    ]  # fmt: skip
    return sorted(moves, key=lambda move: -abs(np.log(move.times)))


def _look_moves(counts: Counts) -> tuple[tuple[LookMove, ...], Mapping[str, LookRows]]:
    by_row: dict[str, dict[str, dict[str, float]]] = {}
    for (check, row, result), number in counts.looks.items():
        by_row.setdefault(check, {}).setdefault(row, {})[result] = number
    moves, tables = [], {}
    for name, found in by_row.items():
        look = checks()[name]
        rows = dict(look.rows)
        for row, results in found.items():
            ours = np.array(rows[row])
            counted = np.array([results.get(result, 0.0) for result in look.results])
            expected = counted.sum() * ours
            worth = np.maximum(WORTH_JOBS * ours, LEAST_OF_LOOK)
            taught = ours * times_of(counted, expected, worth)
            taught /= taught.sum()
            rows[row] = tuple(float(p) for p in taught)
            moves += [
                LookMove(name, row, result, float(was), float(now), float(number), float(counted.sum()))
                for result, was, now, number in zip(look.results, ours, taught, counted, strict=True)
                if now != was
            ]
        tables[name] = rows_by_key(look, rows, list(catalogue()))
    return tuple(sorted(moves, key=lambda move: -abs(np.log(move.taught / move.ours)))), tables
