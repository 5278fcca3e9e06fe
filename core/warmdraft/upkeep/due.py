"""When a machine is due: the day its flow falls below what is asked of it, with an interval."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Literal

import numpy as np

from warmdraft.air import Floats
from warmdraft.upkeep.growth import RATE_MEDIAN, Believed, Growth, believed, clean_given, growth_of
from warmdraft.upkeep.visits import DAYS_A_WEEK, LIMIT_SHARE, Kept, Visit, in_order, spans_of

#: Nobody waits longer than this for a service, whatever the air says (common practice, no source: lint is fuel).
LONGEST_DAYS = 365
#: No date is told beyond this.
_FARTHEST_DAYS = 100 * LONGEST_DAYS
_QUANTILES = (0.05, 0.5, 0.95)
#: Points that stand for the flow a cleaning left, of equal probability: quantiles of a normal.
_CLEAN_POINTS = np.array([-1.593, -0.967, -0.589, -0.282, 0.0, 0.282, 0.589, 0.967, 1.593])

ReasonCode = Literal["own_flows", "kind", "usual", "loads", "circumstances", "year", "short_already"]


@dataclass(frozen=True, slots=True)
class Reason:
    """Why a date is what it is. times: how much faster than its kind is usually taken to fill; count: how many spans,
    machines, or loads a week speak."""

    code: ReasonCode
    times: float | None = None
    count: float | None = None


@dataclass(frozen=True, slots=True)
class Foreseen:
    """The flow on a day to come, as shares of a healthy one: 5, 50 and 95 %."""

    at: date
    shares: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Upkeep:
    """When a machine is due. due: 5, 50 and 95 %; service_by: the earlier of its middle and a year after the last
    visit; growth: of 1/q² a load, left: the share of a healthy flow that the last visit left, both at the middle;
    foreseen: from the last visit until it is due."""

    due: tuple[date, date, date]
    service_by: date
    growth: float
    left: float
    because: tuple[Reason, ...]
    foreseen: tuple[Foreseen, ...]


def upkeep(machine: Kept, fleet: Sequence[Kept] = (), limit_share: float = LIMIT_SHARE) -> Upkeep:
    """When a machine is due, by its own flows and those of its kind. Raises ValueError where it was never visited.

    >>> from warmdraft.upkeep.visits import Visit
    >>> found = upkeep(Kept((Visit(date(2026, 3, 2), left=1.0),), loads_per_week=20))
    >>> found.due[0] < found.due[1] < found.due[2], found.service_by.isoformat()
    (True, '2026-10-31')
    """
    return upkeep_among(machine, believed(fleet), limit_share)


def upkeep_among(machine: Kept, known: Believed, limit_share: float = LIMIT_SHARE) -> Upkeep:
    """The same where what is held of its kind is known: many machines are worked out with one of it."""
    if not machine.visits:
        raise ValueError("a machine that was never visited has no due date; give at least one visit")
    last = in_order(machine.visits)[-1]
    growth = growth_of(machine, known)
    clean = _left_clean(growth, last)
    # (C, A, P): each point of what was left counts alike
    weight = np.repeat(growth.weight[:, :, None] / _CLEAN_POINTS.size, _CLEAN_POINTS.size, axis=2)
    room = np.maximum(limit_share**-2 - np.exp(-2 * clean), 0.0)  # (C, P): what it may still grow by
    loads = room[:, None, :] / np.exp(growth.rates)[None, :, None]  # (C, A, P)
    days = [_days(n, machine.loads_per_week) for n in _quantiles(loads, weight)]
    low, median, high = (last.at + timedelta(days=count) for count in days)
    service_by = min(median, last.at + timedelta(days=LONGEST_DAYS))
    return Upkeep(
        due=(low, median, high),
        service_by=service_by,
        growth=growth.median,
        left=float(np.exp(np.sum(growth.known.weight * clean.mean(axis=1)))),
        because=_because(machine, growth, last, days[1], limit_share),
        foreseen=_foreseen(machine, growth, clean, weight, last.at, days[1]),
    )


def share_on(day: date, since: date, left: float, growth: float, loads_per_week: float) -> float:
    """The flow on a day, as a share of a healthy one, at the middle. since: the last visit; left: what it left; growth:
    of 1/q² a load.

    >>> share_on(date(2026, 1, 1), date(2026, 1, 1), 0.9, 8e-4, 5)
    0.9
    """
    loads = max((day - since).days, 0) / DAYS_A_WEEK * loads_per_week
    return float((left**-2 + growth * loads) ** -0.5)


def _left_clean(growth: Growth, last: Visit) -> Floats:
    """Log of the flow that the last visit left, at points of equal weight under each of what is believed; (C, P)."""
    mean, variance, _ = clean_given(growth.known, last.left)
    return np.asarray(mean[:, None] + np.sqrt(variance)[:, None] * _CLEAN_POINTS)


def _quantiles(values: Floats, weight: Floats) -> tuple[float, float, float]:
    order = np.argsort(values, axis=None)
    below = np.cumsum(weight.ravel()[order])
    low, median, high = np.minimum(np.searchsorted(below, _QUANTILES), below.size - 1)
    found = values.ravel()[order]
    return float(found[low]), float(found[median]), float(found[high])


def _days(loads: float, loads_per_week: float) -> int:
    if loads_per_week <= 0:
        return _FARTHEST_DAYS
    return int(min(loads / loads_per_week * DAYS_A_WEEK, _FARTHEST_DAYS))


def _because(machine: Kept, growth: Growth, last: Visit, days: int, limit_share: float) -> tuple[Reason, ...]:
    spans = len(spans_of(machine))
    reasons = []
    if spans:
        reasons.append(Reason("own_flows", growth.median / RATE_MEDIAN, spans))
    if growth.known.machines:
        reasons.append(Reason("kind", None, growth.known.machines))
    elif not spans:
        reasons.append(Reason("usual"))
    if machine.times != 1:
        reasons.append(Reason("circumstances", machine.times))
    reasons.append(Reason("loads", None, machine.loads_per_week))
    if last.left is not None and last.left < limit_share:
        reasons.append(Reason("short_already"))
    if days > LONGEST_DAYS:
        reasons.append(Reason("year"))
    return tuple(reasons)


def _foreseen(
    machine: Kept, growth: Growth, clean: Floats, weight: Floats, since: date, days: int
) -> tuple[Foreseen, ...]:  # fmt: skip
    """The flow from the last visit on, until it is due or a year has gone: eight days of it."""
    until = max(min(days, 2 * LONGEST_DAYS), LONGEST_DAYS)
    found = []
    for count in np.linspace(0, until, 8).astype(int):
        loads = count / DAYS_A_WEEK * machine.loads_per_week
        y = np.exp(-2 * clean)[:, None, :] + np.exp(growth.rates)[None, :, None] * loads
        found.append(Foreseen(since + timedelta(days=int(count)), _quantiles(y**-0.5, weight)))
    return tuple(found)
