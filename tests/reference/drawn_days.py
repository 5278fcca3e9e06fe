"""Days of a workshop of sixty stops and five vans: about a shop, most with a window, some that not everybody may do."""

from __future__ import annotations

import numpy as np

from warmdraft.day import Day, Stop, Van, Window, travel_minutes

#: A search that is long beside the usual one: so many times as long.
LONG = 4
SKILLS = ({"gas", "live"}, {"live"}, set(), {"gas"}, {"live"})
MORNING, AFTERNOON, WHOLE = Window(480, 720), Window(720, 1020), Window(480, 1020)


def _windows(rng: np.random.Generator) -> tuple[Window, ...]:
    drawn = rng.random()
    if drawn < 0.3:
        return (MORNING,)
    if drawn < 0.6:
        return (AFTERNOON,)
    if drawn < 0.7:
        from_hour = 480.0 + 60 * int(rng.integers(0, 7))
        return (Window(from_hour, from_hour + 120),)
    return (Window(480, 600), Window(900, 1020)) if drawn < 0.75 else (WHOLE,)


def day(seed: int, stops: int = 60, vans: int = 5) -> Day:
    rng = np.random.default_rng(seed)
    at = np.array([54.4, -3.0]) + rng.uniform(-1, 1, (stops + 1, 2)) * np.array([0.15, 0.25])
    at[0] = 54.4, -3.0
    made = []
    for number in range(stops):
        minutes, kind = float(rng.gamma(4, 7.5)), rng.random()
        needs = frozenset(["gas"] if kind < 0.15 else ["live"] if kind < 0.23 else [])
        parts = {"B-1": 1} if rng.random() < 0.2 else {}
        made.append(Stop(f"s{number}", number + 1, minutes, 0.4 * minutes, _windows(rng), needs, parts))
    crews = tuple(
        Van(f"v{k}", 0, 0, WHOLE, frozenset(SKILLS[k % len(SKILLS)]), {"B-1": 3} if k % 2 else {}, 60.0)
        for k in range(vans)
    )
    return Day(travel_minutes(at[:, 0], at[:, 1]), tuple(made), crews)
