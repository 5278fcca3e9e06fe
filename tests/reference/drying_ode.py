"""The drying model once more, written down as differential equations for a general solver. Imports no heat code."""

from __future__ import annotations

import numpy as np
from scipy.integrate import solve_ivp

# the constants of the model, typed again
NTU, CRITICAL, POWER_OF_HOLD, DRY = 1.6, 0.25, 0.75, 0.04
BOX, DRUM, FIBRE, WATER, LATENT, CP, CPV = 2500.0, 3000.0, 1340.0, 4186.0, 2.406e6, 1006.0, 1860.0
LAG_EXHAUST, LAG_LIMIT, LIMIT_DROP, MOTOR = 30.0, 20.0, 42.0, 220.0


def saturated_ratio(t: float, p: float) -> float:
    """Hyland and Wexler 1983, typed again from memory."""
    k = t + 273.15
    ln = (-5.8002206e3 / k + 1.3914993 - 4.8640239e-2 * k + 4.1764768e-5 * k**2 - 1.4452093e-8 * k**3
          + 6.5459673 * np.log(k))  # fmt: skip
    ps = np.exp(ln)
    return 0.621945 * ps / max(p - ps, 0.02 * p)


def dry_with_scipy(case, rtol: float = 1e-6) -> tuple[float, float]:
    """Minutes and kWh of a DryingCase that dries, by scipy's general solver with an event for each switching."""
    m, leak, load = case.heater_flow_kg_s, case.leak_flow_kg_s, case.load.dry_mass_kg
    eff = 1 - np.exp(-NTU)
    heat_rate = m * (CP + CPV * case.room_humidity_ratio)
    room = case.room_temperature_c
    cycling, limit = True, True
    t, burning = 0.0, 0.0
    y = np.array([room, room, load * case.load.moisture, room, room])

    def rhs(_, y, on):
        box, fabric, water, exhaust, sensor = y
        moisture = water / load
        activity = 1.0 if moisture >= CRITICAL else max(moisture / CRITICAL, 0.0) ** POWER_OF_HOLD
        inlet = case.room_humidity_ratio + (case.vapour_kg_s / m if on else 0.0)
        out = max(eff * m * (activity * saturated_ratio(fabric, case.pressure_pa) - inlet), 0.0)
        drum_air = box - eff * (box - fabric)
        mixed = (m * drum_air + leak * room) / (m + leak)
        return [
            ((case.power_w if on else 0.0) - heat_rate * (box - room)) / BOX,
            (eff * heat_rate * (box - fabric) - out * LATENT) / (load * FIBRE + DRUM + water * WATER),
            -out,
            (mixed - exhaust) / LAG_EXHAUST,
            (box - sensor) / LAG_LIMIT,
        ]

    lim = case.limits
    while t < 4 * 3600:
        on = cycling and limit
        levels = (
            (2, DRY * load, -1),
            (3, lim.cycling_opens_c, 1) if cycling else (3, lim.cycling_closes_c, -1),
            (4, lim.high_limit_opens_c, 1) if limit else (4, lim.high_limit_opens_c - LIMIT_DROP, -1),
        )
        events = []
        for column, level, direction in levels:

            def event(_, y, on, column=column, level=level):
                return y[column] - level

            event.terminal, event.direction = True, direction
            events.append(event)
        done = solve_ivp(rhs, (t, 4 * 3600), y, events=events, args=(on,), rtol=rtol, atol=1e-6, max_step=60.0)
        burning += (done.t[-1] - t) if on else 0.0
        t, y = done.t[-1], done.y[:, -1]
        fired = [i for i, times in enumerate(done.t_events) if len(times)]
        if not fired or fired[0] == 0:
            break
        column, level, direction = levels[fired[0]]
        y[column] = level + 1e-9 * direction
        if fired[0] == 1:
            cycling = not cycling
        else:
            limit = not limit
    return t / 60, (burning * case.input_w + t * MOTOR) / 3.6e6
