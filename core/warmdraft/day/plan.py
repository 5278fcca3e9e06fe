"""The order of a day: stops to vans within their windows, hours, skills and parts, for the least driving.

Source: iterated local search with granular neighbourhoods (N. A. Wouda, L. Lan, W. Kool, INFORMS Journal on Computing
36, 2024, from memory), by PyVRP (docs/decisions/0041).
"""

from __future__ import annotations

import warnings
from collections.abc import Sequence
from itertools import product
from typing import Any

import numpy as np

from warmdraft.day.run import LEFT_OUT_COST, MISSING_PART_COST, OVERTIME_COST, Run, run_day
from warmdraft.day.stops import Day, Stop, Van

#: A search may end in an order that no small change betters, and which one depends on how it begins: two that begin
#: unlike each other end, on drawn days, near the best that any long search found (`./warm bench days`). Each: how far
#: an order is shaken at most, how long a worse one is remembered, rounds. First no stop may be left out, for who gives
#: one up on the way seldom finds room for it again; what then gives some up, where there is no other way.
_SEARCHES = ((10, 300, 8_000), (25, 100, 2_000))
_GIVING_UP = (25, 100, 5_000)
#: Stops it looks at about each, and orders after which it weighs again what may not be.
_ABOUT, _WEIGHS_AFTER = 20, 50
#: The changes of an order that it tries: those of three stops at once take long and find little.
_CHANGES = (
    "Relocate1", "Relocate2", "Relocate3", "Swap11", "Swap21", "Swap22", "SwapTails", "RelocateAlternative",
    "ReplaceGroup", "InsertOptionalClient", "RemoveOptionalClient", "ReplaceOptionalClient",
)  # fmt: skip
#: It counts in whole parts of a minute.
_PARTS = 60
#: What no van would ever drive, minutes: to a stop it may not go to. No more than that, for the solver begins to weigh
#: by the mean of all ways.
_NEVER = 1440


def plan_day(day: Day, times: float = 1.0, first: Run | None = None) -> Run:
    """The best order that is found of a day; the same day has the same answer.

    times: as long as it is usually searched for; first: an order that is at hand, and no worse is given than it.
    """
    if not day.stops or not day.vans:
        return run_day(day, {})
    whole = [_solved(day, True, *how, times) for how in _SEARCHES]
    orders = [order for order in whole if order is not None]
    if not orders:
        orders = [_solved(day, False, *_GIVING_UP, times) or {}]
    found = [run_day(day, order) for order in orders]
    if first is not None:
        found.insert(0, first)
    return min(found, key=lambda run: run.cost)


def _solved(
    day: Day, all_of_them: bool, shaken: int, remembers: int, rounds: int, times: float
) -> dict[str, list[str]] | None:
    """Orders by van, as one search finds them; None where it finds nothing that may be."""
    # comes in slowly, and most that import this plan nothing
    from pyvrp import IteratedLocalSearchParams, Model, PenaltyParams, SolveParams, search
    from pyvrp.stop import MaxIterations

    how = SolveParams(
        ils=IteratedLocalSearchParams(history_length=remembers),
        penalty=PenaltyParams(solutions_between_updates=_WEIGHS_AFTER),
        neighbourhood=search.NeighbourhoodParams(num_neighbours=_ABOUT),
        perturbation=search.PerturbationParams(1, shaken),
        operators=[getattr(search, name) for name in _CHANGES],
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
        group = model.add_client_group(required=all_of_them) if len(stop.windows) > 1 else None
        for window in stop.windows:
            model.add_client(
                rooms[stop.id], tw_early=round(window.early * _PARTS), tw_late=round(window.late * _PARTS),
                service_duration=round(stop.minutes * _PARTS), prize=0 if all_of_them else prize,
                required=all_of_them and group is None, group=group,
            )  # fmt: skip
            clients.append(stop.id)
    for van in day.vans:
        _add_van(model, day, van, bases, depots, rooms)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # where not every stop can be gone to, a search that has to finds nothing
        stop_at = MaxIterations(max(1, round(rounds * times)))
        found = model.solve(stop_at, seed=1, params=how, collect_stats=False, display=False)
    solution = found.best
    orders: dict[str, list[str]] = {van.id: [] for van in day.vans}
    if not solution.is_feasible():
        return None
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
        start_late=round(van.hours.early * _PARTS),  # or what comes after hours would not be overtime
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
