"""What it costs to have a stop done otherwise: by another van, at another time."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from warmdraft.day.run import Run, run_day
from warmdraft.day.stops import Day

#: Orders by van: the stops of each, as they are driven.
Orders = Mapping[str, Sequence[str]]


@dataclass(frozen=True, slots=True)
class Moved:
    """A stop in another place. van: None where it is left out; position: its place in that van's order, from 0; costs:
    minutes more than as it is, below 0 where it is better; late: stops that are begun late then, and were not."""

    van: str | None
    position: int
    costs: float
    late: tuple[str, ...]


def moved(orders: Orders, stop: str, van: str | None, position: int) -> dict[str, list[str]]:
    """Orders with a stop at another place; van: None leaves it out; a position behind the last is the last.

    >>> moved({"a": ["1", "2"], "b": []}, "1", "b", 0)
    {'a': ['2'], 'b': ['1']}
    """
    found = {name: [row for row in order if row != stop] for name, order in orders.items()}
    if van is not None:
        found.setdefault(van, []).insert(position, stop)
    return found


def moves_of(day: Day, orders: Orders, stop: str) -> tuple[Moved, ...]:
    """For each van that may go, the best place for a stop in its order, and leaving it out; the cheapest first.

    Where it stands now is not among them. Raises DayError for orders that may not be, and for a stop there is not.
    """
    now = run_day(day, orders)
    wanted = day.stop(stop)
    found = []
    for van in day.vans:
        if not van.may(wanted):
            continue
        others = [row for row in orders.get(van.id, ()) if row != stop]
        here = list(orders.get(van.id, ()))
        tried = [
            _moved(day, orders, now, stop, van.id, position)
            for position in range(len(others) + 1)
            if [*others[:position], stop, *others[position:]] != here
        ]
        if tried:
            found.append(min(tried, key=lambda row: row.costs))
    if any(stop in order for order in orders.values()):
        found.append(_moved(day, orders, now, stop, None, 0))
    return tuple(sorted(found, key=lambda row: row.costs))


def _moved(day: Day, orders: Orders, now: Run, stop: str, van: str | None, position: int) -> Moved:
    then = run_day(day, moved(orders, stop, van, position))
    before = _late(now)
    return Moved(van, position, then.cost - now.cost, tuple(name for name in _late(then) if name not in before))


def _late(run: Run) -> list[str]:
    return [call.stop for tour in run.tours for call in tour.calls if call.late > 0]
