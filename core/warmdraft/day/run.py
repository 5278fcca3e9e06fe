"""A day as it would go in a given order: when each stop begins, how likely it is late, what it costs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from warmdraft.air import Floats
from warmdraft.day.stops import Day, Stop, Van
from warmdraft.errors import DayError

#: What a minute costs beside one of driving: overtime, being late at a customer's, and a stop that is left out, in
#: minutes; what a part that is not in the van costs, another way for it (own choices).
OVERTIME_COST, LATE_COST, LEFT_OUT_COST, MISSING_PART_COST = 2.0, 2.0, 240.0, 45.0
#: How often a day is drawn to see how likely it is late, and from how many minutes on that counts.
DRAWS, LATE_FROM = 400, 10.0

#: Why a stop is in no tour: nobody that day may do it; nobody has the time.
Why = Literal["nobody_qualified", "no_time"]


@dataclass(frozen=True, slots=True)
class Call:
    """A stop in its tour; minutes of the day. arrive: there; begin: work, after any wait; leave: done; travel: driven
    there; late: begun so long after its window, where every job takes what is expected; late_chance: probability of
    beginning LATE_FROM or more too late; lacks: parts that are not in the van."""

    stop: str
    arrive: float
    begin: float
    leave: float
    travel: float
    late: float
    late_chance: float
    lacks: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Tour:
    """A van's way through the day. end: back; overtime: minutes after its hours."""

    van: str
    calls: tuple[Call, ...]
    start: float
    end: float
    travel: float
    overtime: float


@dataclass(frozen=True, slots=True)
class Missed:
    """A stop that nobody goes to, and why."""

    stop: str
    why: Why


@dataclass(frozen=True)
class Run:
    """A day as it would go. cost: minutes driven, and what else counts as such."""

    tours: tuple[Tour, ...]
    missed: tuple[Missed, ...]
    cost: float

    @cached_property
    def orders(self) -> dict[str, list[str]]:
        """Stops of each van in order."""
        return {tour.van: [call.stop for call in tour.calls] for tour in self.tours}


def run_day(day: Day, orders: Mapping[str, Sequence[str]]) -> Run:
    """How a day goes where the vans drive in these orders; stops that are in none are missed.

    A stop that a van may not go to, or that stands in two orders: DayError.
    """
    driven = [name for order in orders.values() for name in order]
    _check(day, orders, driven)
    tours = tuple(_tour(day, van, [day.stop(name) for name in orders.get(van.id, ())]) for van in day.vans)
    missed = tuple(
        Missed(stop.id, "no_time" if any(van.may(stop) for van in day.vans) else "nobody_qualified")
        for stop in day.stops if stop.id not in driven
    )  # fmt: skip
    cost = sum(_cost(tour) for tour in tours) + sum(LEFT_OUT_COST * day.stop(row.stop).weight for row in missed)
    return Run(tours, missed, cost)


def _check(day: Day, orders: Mapping[str, Sequence[str]], driven: list[str]) -> None:
    vans = {van.id: van for van in day.vans}
    for name, order in orders.items():
        if name not in vans:
            raise DayError(f"there is no van '{name}' that day")
        for stop in map(day.stop, order):
            if driven.count(stop.id) > 1:
                raise DayError(f"the stop '{stop.id}' stands in the order twice; each is driven to once")
            if not vans[name].may(stop):
                needs = ", ".join(sorted(stop.needs - vans[name].skills)) or f"the van '{stop.van}'"
                raise DayError(f"'{name}' may not go to '{stop.id}': it needs {needs}")


def _cost(tour: Tour) -> float:
    late = sum(call.late for call in tour.calls)
    parts = sum(MISSING_PART_COST for call in tour.calls if call.lacks)
    return tour.travel + OVERTIME_COST * tour.overtime + LATE_COST * late + parts


def _begins(windows: Sequence[tuple[float, float]], arrive: Floats) -> tuple[Floats, Floats]:
    """When work begins, and how much too late, by arrival: in the first window that is still open, else at once."""
    begin, late = arrive.copy(), arrive - windows[-1][1]
    undecided = np.ones(arrive.shape, dtype=bool)
    for early, until in windows:
        fits = undecided & (arrive <= until)
        begin[fits], late[fits] = np.maximum(arrive[fits], early), 0.0
        undecided &= ~fits
    return begin, np.maximum(late, 0.0)


def _tour(day: Day, van: Van, stops: list[Stop]) -> Tour:
    """Drawn DRAWS times, and once as expected: that stands first."""
    drawn = _work(stops)
    at = np.full(DRAWS + 1, van.hours.early)
    place, calls, driven = van.start, [], 0.0
    for stop, work in zip(stops, drawn, strict=True):
        travel = float(day.travel[place, stop.place])
        arrive = at + travel
        begin, late = _begins(sorted((w.early, w.late) for w in stop.windows), arrive)
        at = begin + work
        calls.append(
            Call(
                stop.id, float(arrive[0]), float(begin[0]), float(at[0]), travel, float(late[0]),
                float((late[1:] >= LATE_FROM).mean()), van.lacks(stop),
            )
        )  # fmt: skip
        place, driven = stop.place, driven + travel
    home = float(day.travel[place, van.end]) if stops else 0.0
    end = float(at[0]) + home
    # nobody has to leave before it is time to
    start = max(van.hours.early, calls[0].begin - calls[0].travel) if calls else van.hours.early
    return Tour(van.id, tuple(calls), start, end, driven + home, max(0.0, end - van.hours.late))


def _work(stops: list[Stop]) -> list[Floats]:
    """Minutes of work at each stop, (DRAWS + 1,): as expected first, then as it may turn out, gamma about it; the same
    draws for the same stops in any order."""
    found = []
    for stop in stops:
        work = np.full(DRAWS + 1, stop.minutes)
        if stop.sd_minutes > 0 and stop.minutes > 0:
            shape = (stop.minutes / stop.sd_minutes) ** 2
            rng = np.random.default_rng([len(stop.id), *stop.id.encode()])
            work[1:] = rng.gamma(shape, stop.minutes / shape, DRAWS)
        found.append(work)
    return found
