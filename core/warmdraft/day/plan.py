"""The order of a day: stops to vans within their windows, hours, skills and parts, for the least driving.

Source: iterated local search with granular neighbourhoods (N. A. Wouda, L. Lan, W. Kool, INFORMS Journal on Computing
36, 2024, from memory), by PyVRP (docs/decisions/0041).
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product
from typing import Any

import numpy as np

from warmdraft.day.run import LEFT_OUT_COST, MISSING_PART_COST, OVERTIME_COST, Run, run_day
from warmdraft.day.stops import Day, Stop, Van

#: Rounds of the solver: sixty stops and five vans take some seconds, and the same day has the same answer.
ROUNDS = 5_000
#: So that few rounds come far: how long it remembers worse orders, stops it looks at about each, orders after which it
#: weighs again what may not be (tried on drawn days, `./warm bench days`; the library's own are for hours of search).
_REMEMBERS, _ABOUT, _WEIGHS_AFTER = 100, 20, 50
#: It counts in whole parts of a minute.
_PARTS = 60
#: What no van would ever drive, minutes: to a stop it may not go to. No more than that, for the solver begins to weigh
#: by the mean of all ways.
_NEVER = 1440


def plan_day(day: Day, rounds: int = ROUNDS, first: Run | None = None, seed: int = 1) -> Run:
    """The best order that is found of a day.

    rounds: of the solver; first: an order that is at hand, and no worse is given than it.
    """
    if not day.stops or not day.vans:
        return run_day(day, {})
    found = run_day(day, _solved(day, rounds, seed))
    return first if first is not None and first.cost < found.cost else found


def _solved(day: Day, rounds: int, seed: int) -> dict[str, list[str]]:
    """Orders by van."""
    # comes in slowly, and most that import this plan nothing
    from pyvrp import IteratedLocalSearchParams, Model, PenaltyParams, SolveParams
    from pyvrp.search import NeighbourhoodParams
    from pyvrp.stop import MaxIterations

    how = SolveParams(
        ils=IteratedLocalSearchParams(history_length=_REMEMBERS),
        penalty=PenaltyParams(solutions_between_updates=_WEIGHS_AFTER),
        neighbourhood=NeighbourhoodParams(num_neighbours=_ABOUT),
    )

    model = Model()
    # only what is driven to, for each van's minutes are a table of all places
    bases = {place: model.add_location(0, 0) for van in day.vans for place in (van.start, van.end)}
    depots = {place: model.add_depot(location) for place, location in bases.items()}
    clients: list[str] = []
    rooms: dict[str, Any] = {}  # a stop is a place of its own: two may stand at one door
    for stop in day.stops:
        rooms[stop.id] = model.add_location(0, 0)
        prize = round(LEFT_OUT_COST * stop.weight * _PARTS)
        group = model.add_client_group(required=False) if len(stop.windows) > 1 else None
        for window in stop.windows:
            model.add_client(
                rooms[stop.id], tw_early=round(window.early * _PARTS), tw_late=round(window.late * _PARTS),
                service_duration=round(stop.minutes * _PARTS), prize=prize, required=False, group=group,
            )  # fmt: skip
            clients.append(stop.id)
    for van in day.vans:
        _add_van(model, day, van, bases, depots, rooms)
    solution = model.solve(MaxIterations(rounds), seed=seed, params=how, collect_stats=False, display=False).best
    orders: dict[str, list[str]] = {van.id: [] for van in day.vans}
    if not solution.is_feasible():
        return orders
    for route in solution.routes():
        van = day.vans[route.vehicle_type()]
        orders[van.id] = [clients[visit.idx] for visit in route.schedule() if visit.is_client()]
    return orders


def _add_van(
    model: Any, day: Day, van: Van, bases: dict[int, Any], depots: dict[int, Any], rooms: dict[str, Any]
) -> None:
    """A van with its own way of counting: where it may not go is far, what it lacks costs."""
    profile = model.add_profile()
    model.add_vehicle_type(
        1, start_depot=depots[van.start], end_depot=depots[van.end], tw_early=round(van.hours.early * _PARTS),
        tw_late=round((van.hours.late + van.overtime) * _PARTS), profile=profile,
        shift_duration=round((van.hours.late - van.hours.early) * _PARTS), max_overtime=round(van.overtime * _PARTS),
        unit_overtime_cost=round(OVERTIME_COST),
    )  # fmt: skip
    ends: Sequence[tuple[int, Any, Stop | None]] = [
        *((place, location, None) for place, location in bases.items()),
        *((stop.place, rooms[stop.id], stop) for stop in day.stops),
    ]
    for (a, one, _), (b, other, stop) in product(ends, ends):
        if one is other:
            continue
        minutes = float(day.travel[a, b])
        if not np.isfinite(minutes) or (stop is not None and not van.may(stop)):
            minutes = _NEVER
        cost = minutes + (MISSING_PART_COST if stop is not None and van.lacks(stop) else 0.0)
        model.add_edge(one, other, distance=round(cost * _PARTS), duration=round(minutes * _PARTS), profile=profile)
