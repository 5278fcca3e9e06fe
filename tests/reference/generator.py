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


HEALTHY = {name: d / RATED**2 for name, d in DROPS.items()}


@dataclass
class Airway:
    """One airway per sample: resistances by name, leaks, fan and heat; all (n,)."""

    r: dict[str, np.ndarray]
    g_drum: np.ndarray
    g_duct: np.ndarray
    g_off: np.ndarray
    head: np.ndarray
    free: np.ndarray
    speed: np.ndarray
    power: np.ndarray


def airway(faults: list[tuple[str, np.ndarray]], scatter: np.ndarray) -> Airway:
    """The airway with faults (name, severity (n,)) on machines scattered by (n, 8) log-factors in DROPS' order."""
    n = len(scatter)
    one = np.ones(n)
    made = Airway(
        r={name: value * np.exp(scatter[:, i]) for i, (name, value) in enumerate(HEALTHY.items())},
        g_drum=np.full(n, 0.08 * RATED / np.sqrt(55.0)), g_duct=np.full(n, 0.03 * RATED / np.sqrt(145.0)),
        g_off=np.zeros(n), head=one, free=one, speed=one, power=one,
    )  # fmt: skip
    for fault, severity in faults:
        put_in(made, fault, severity, RATED / np.sqrt(82.0))
    return made


def put_in(made: Airway, fault: str, severity: np.ndarray, joint: float) -> None:
    """Put a fault into an airway. joint: conductance of a transition off its collar, as large as its own way."""
    target = FAULTS[fault][3]
    if target in made.r:
        made.r[target] = made.r[target] * severity
    elif target == "seal_drum":
        made.g_drum = made.g_drum * severity
    elif target == "seal_duct":
        made.g_duct = made.g_duct * severity
    elif target == "detached":
        made.g_off = severity * joint
    elif target == "head":
        made.head, made.free = 1 - severity, 1 - severity / 2
    elif target == "speed":
        made.speed = severity
    elif target == "power":
        made.power = severity


def before_the_wheel(r: dict[str, np.ndarray], a: Airway) -> tuple[np.ndarray, ...]:
    """Resistances of inlet and drum, of them beside the drum's seal, on to the wheel, and beside the duct's seal."""
    way = r["inlet"] + r["drum"]
    in_drum = 1 / (1 / np.sqrt(way) + a.g_drum) ** 2
    lane = in_drum + r["screen"] + r["duct"]
    return way, in_drum, lane, 1 / (1 / np.sqrt(lane) + a.g_duct) ** 2


def flows(a: Airway, **changed: np.ndarray | float) -> dict[str, np.ndarray]:
    """Flows and pressures; changed: resistances put in another's place, or g_off."""
    r = a.r | {k: v for k, v in changed.items() if k in a.r}
    off = changed.get("g_off", a.g_off)
    way, in_drum, lane, suction = before_the_wheel(r, a)
    vent = r["transition"] + r["run"] + r["hood"]
    after = 1 / (1 / np.sqrt(vent) + off) ** 2
    slope = P0 * a.head / (QFREE * a.free) ** 2
    q = np.sqrt(P0 * a.head * a.speed**2 / (suction + r["pipe"] + after + slope))
    lane_flow = np.sqrt(suction * q**2 / lane)
    vent_flow = np.sqrt(after * q**2 / vent)
    return {
        "wheel": q, "suction": suction * q**2, "behind_screen": (in_drum + r["screen"]) * lane_flow**2,
        "lane": lane_flow, "heater": np.sqrt(in_drum * lane_flow**2 / way), "collar": after * q**2,
        "vent": vent_flow, "wall": (r["run"] + r["hood"]) * vent_flow**2, "before_hood": r["hood"] * vent_flow**2,
    }  # fmt: skip


VENT_OFF = {"transition": 2.0 / RATED**2, "run": 0.0, "hood": 0.0, "g_off": 0.0}


def readings_of(a: Airway) -> np.ndarray:
    """Noise-free readings, (n, len(KINDS))."""
    at = flows(a)
    out = {
        "outlet_flow": at["wheel"], "outlet_static_pressure": at["collar"], "blower_inlet_suction": at["suction"],
        "screen_duct_suction": at["behind_screen"], "wall_static_pressure": at["wall"],
        "hood_static_pressure": at["before_hood"], "hood_flow": at["vent"],
        "vent_off_flow": flows(a, **VENT_OFF)["wheel"], "screen_out_flow": flows(a, screen=0.0)["wheel"],
        "heater_rise": POWER * a.power / (RHO * CP * at["heater"]), "heater_current": POWER * a.power / VOLTS,
        "blower_speed": SPEED * a.speed,
    }  # fmt: skip
    return np.stack([np.broadcast_to(out[k], len(a.head)) for k in KINDS], axis=-1)


def readings(fault: str, severity: np.ndarray, scatter: np.ndarray) -> np.ndarray:
    """Noise-free readings of one fault, (n, len(KINDS))."""
    return readings_of(airway([(fault, severity)], scatter))


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
