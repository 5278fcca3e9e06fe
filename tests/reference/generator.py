"""An independent generator of jobs: its own airway, its own solver, its own priors typed from the physics page.

Imports nothing from the core. Used to ask whether the diagnosis is as good as it could be: the same draws are judged
here by Bayes with the scatter integrated by sampling.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

RATED = 0.075
DROPS = {"inlet": 25.0, "drum": 30.0, "screen": 55.0, "duct": 35.0, "pipe": 25.0, "transition": 12.0, "run": 45.0,
         "hood": 25.0}  # fmt: skip
P0, QFREE = 440.0, 0.13
RHO, CP, POWER, VOLTS, SPEED = 1.2, 1006.0, 5400.0, 240.0, 1725.0
SCATTER = 0.12

# name: (prior, low, high, what it multiplies or takes)
FAULTS = {
    "lint_screen_blinded": (0.10, 3, 40, "screen"),
    "lint_duct_packed": (0.10, 3, 60, "duct"),
    "lint_duct_seal_leaking": (0.04, 4, 20, "seal_duct"),
    "drum_seal_leaking": (0.05, 3, 12, "seal_drum"),
    "blower_wheel_fouled": (0.10, 0.15, 0.7, "head"),
    "blower_wheel_slipping": (0.05, 0.45, 0.9, "speed"),
    "exhaust_pipe_blocked": (0.04, 4, 60, "pipe"),
    "transition_crushed": (0.14, 8, 200, "transition"),
    "transition_detached": (0.03, 1, 4, "detached"),
    "vent_run_packed": (0.14, 2.5, 40, "run"),
    "hood_blocked": (0.12, 4, 100, "hood"),
    "heat_source_weak": (0.06, 0.3, 0.75, "power"),
    "none": (0.06, 1, 1, None),
}
NAMES = list(FAULTS)
PRIOR = np.array([FAULTS[n][0] for n in NAMES])
PRIOR = PRIOR / PRIOR.sum()

# kind: (share, absolute)
KINDS = {
    "outlet_flow": (0.08, 1e-3), "outlet_static_pressure": (0.06, 3), "blower_inlet_suction": (0.06, 3),
    "screen_duct_suction": (0.06, 3), "wall_static_pressure": (0.06, 3), "hood_static_pressure": (0.06, 3),
    "hood_flow": (0.10, 1e-3), "vent_off_flow": (0.08, 1e-3), "screen_out_flow": (0.08, 1e-3),
    "heater_rise": (0.06, 2), "heater_current": (0.03, 0.3), "blower_speed": (0.01, 5),
}  # fmt: skip
SETS = {
    "collar": ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction"),
    "taps": ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction", "screen_duct_suction",
             "wall_static_pressure"),
    "all": tuple(KINDS),
}  # fmt: skip


def _flow_at(total_in, total_out, p0, slope):
    """Wheel flow where the fan's parabola meets the two sides' resistance."""
    return np.sqrt(p0 / (total_in + total_out + slope))


def readings(fault: str, severity: np.ndarray, scatter: np.ndarray) -> np.ndarray:
    """Noise-free readings, (n, len(KINDS)); severity (n,), scatter (n, 8) log-factors in the order of DROPS."""
    n = len(severity)
    r = {name: d / RATED**2 * np.exp(scatter[:, i]) for i, (name, d) in enumerate(DROPS.items())}
    g_drum = np.full(n, 0.08 * RATED / np.sqrt(55.0))
    g_duct = np.full(n, 0.03 * RATED / np.sqrt(145.0))
    g_off, head, free, speed, power = np.zeros(n), np.ones(n), np.ones(n), np.ones(n), np.ones(n)
    target = FAULTS[fault][3]
    if target in r:
        r[target] = r[target] * severity
    elif target == "seal_drum":
        g_drum = g_drum * severity
    elif target == "seal_duct":
        g_duct = g_duct * severity
    elif target == "detached":
        g_off = severity * RATED / np.sqrt(82.0)
    elif target == "head":
        head, free = 1 - severity, 1 - severity / 2
    elif target == "speed":
        speed = severity
    elif target == "power":
        power = severity

    def run(screen, after):
        way = r["inlet"] + r["drum"]
        in_drum = 1 / (1 / np.sqrt(way) + g_drum) ** 2
        lane = in_drum + screen + r["duct"]
        suction = 1 / (1 / np.sqrt(lane) + g_duct) ** 2
        slope = P0 * head / (QFREE * free) ** 2
        q = _flow_at(suction, r["pipe"] + after, P0 * head * speed**2, slope)
        inlet_side = suction * q**2
        lane_flow = np.sqrt(inlet_side / lane)
        heater = np.sqrt(in_drum * lane_flow**2 / way)
        return q, inlet_side, in_drum * lane_flow**2 + screen * lane_flow**2, heater, after * q**2

    vent = r["transition"] + r["run"] + r["hood"]
    joint = 1 / (1 / np.sqrt(vent) + g_off) ** 2
    q, suction, behind_screen, heater, collar = run(r["screen"], joint)
    q_vent = np.sqrt(collar / vent)
    out = {
        "outlet_flow": q, "outlet_static_pressure": collar, "blower_inlet_suction": suction,
        "screen_duct_suction": behind_screen,
        "wall_static_pressure": (r["run"] + r["hood"]) * q_vent**2, "hood_static_pressure": r["hood"] * q_vent**2,
        "hood_flow": q_vent, "vent_off_flow": run(r["screen"], np.full(n, 2.0 / RATED**2))[0],
        "screen_out_flow": run(np.zeros(n), joint)[0], "heater_rise": POWER * power / (RHO * CP * heater),
        "heater_current": POWER * power / VOLTS, "blower_speed": SPEED * speed,
    }  # fmt: skip
    return np.stack([np.broadcast_to(out[k], n) for k in KINDS], axis=-1)


@dataclass
class Draws:
    """Jobs drawn: the true fault's index (n,), and what was read (n, len(KINDS))."""

    truth: np.ndarray
    read: np.ndarray


def _severities(fault: str, n: int, rng) -> np.ndarray:
    _, low, high, _ = FAULTS[fault]
    return np.exp(rng.uniform(np.log(low), np.log(high), n))


def draw(n: int, rng) -> Draws:
    """n jobs from the priors, each on a machine of its own, read with noise."""
    truth = rng.choice(len(NAMES), size=n, p=PRIOR)
    exact = np.empty((n, len(KINDS)))
    for f, name in enumerate(NAMES):
        here = np.flatnonzero(truth == f)
        exact[here] = readings(name, _severities(name, len(here), rng), SCATTER * rng.standard_normal((len(here), 8)))
    share, absolute = np.array(list(KINDS.values())).T
    return Draws(truth, exact + (share * exact + absolute) * rng.standard_normal(exact.shape))


class SampledBayes:
    """Bayes in this very generator: severity and scatter integrated by sampling."""

    def __init__(self, samples: int, rng) -> None:
        self.exact = [readings(n, _severities(n, samples, rng), SCATTER * rng.standard_normal((samples, 8)))
                      for n in NAMES]  # fmt: skip

    def posterior(self, read: np.ndarray, kinds: tuple[str, ...]) -> np.ndarray:
        """P(fault | readings of these kinds) of each job, (n, faults)."""
        columns = [list(KINDS).index(k) for k in kinds]
        share, absolute = np.array([KINDS[k] for k in kinds]).T
        out = np.empty((len(read), len(NAMES)))
        for f, exact in enumerate(self.exact):
            mean = exact[:, columns]
            sd = share * mean + absolute
            for i, y in enumerate(read[:, columns]):
                log = (-0.5 * ((y - mean) / sd) ** 2 - np.log(sd)).sum(axis=1)
                top = log.max()
                out[i, f] = np.log(PRIOR[f]) + top + np.log(np.exp(log - top).mean())
        out = np.exp(out - out.max(axis=1, keepdims=True))
        return out / out.sum(axis=1, keepdims=True)
