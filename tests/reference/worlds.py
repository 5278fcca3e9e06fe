"""Worlds that the core's model does not hold: what is really so differs from what the job tells of it.

A solver of its own, by bisection, with what the generator leaves out: pressure from outside at the hood, of either
sign, with openings beside it. Every world draws jobs of one fault from the generator's priors, reads them with noise,
and counts how often the tool is sure (0.9 and more) of a place that is not at fault, without a warning. Imports nothing
of the core's physics.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

import generator as g
from warmdraft.diagnosis import Case, ReadingFact, Verdict, diagnose, otherwise_told
from warmdraft.machine import Machine, profile

SURE = 0.9
BORE_AREA = np.pi * 0.1016**2 / 4
ZONE = {
    "lint_screen_blinded": "upstream", "lint_duct_packed": "upstream", "lint_duct_seal_leaking": "upstream",
    "drum_seal_leaking": "upstream", "blower_wheel_fouled": "blower", "blower_wheel_slipping": "blower",
    "exhaust_pipe_blocked": "exhaust_pipe", "transition_crushed": "transition", "transition_detached": "transition",
    "vent_run_packed": "run", "hood_blocked": "hood", "heat_source_weak": "heat", "none": "none",
}  # fmt: skip


@dataclass(frozen=True)
class Kind:
    """A kind of machine as it really is; figures typed from the physics page."""

    rated: float = g.RATED
    drops: tuple[float, ...] = tuple(g.DROPS.values())
    shutoff: float = g.P0
    free: float = g.QFREE
    speed: float = g.SPEED
    power: float = g.POWER
    volts: float = g.VOLTS
    leaks: tuple[float, float] = (0.08, 0.03)


FULL = Kind()
FULL_50HZ = Kind(0.066, (20, 24, 44, 28, 20, 9.6, 36, 20), 360, 0.115, 1425, 4600, 230)
COMPACT = Kind(0.038, (22, 24, 45, 28, 22, 10, 35, 20), 330, 0.068, 1425, 2200, 230, (0.09, 0.04))


@dataclass
class Truth(g.Airway):
    """Jobs as they really are, (n,) each: what a world changes before they are read."""

    kind: Kind
    outside: np.ndarray
    density: np.ndarray
    facing: bool = False


def truth_of(kind: Kind, fault: str, severity: np.ndarray, scatter: np.ndarray) -> Truth:
    """One fault on machines of a kind scattered by (n, 8) log-factors."""
    n, names = len(scatter), list(g.DROPS)
    one, drops = np.ones(n), dict(zip(g.DROPS, kind.drops, strict=True))
    made = Truth(
        {name: drops[name] / kind.rated**2 * np.exp(scatter[:, i]) for i, name in enumerate(names)},
        np.full(n, kind.leaks[0] * kind.rated / np.sqrt(sum(kind.drops[:2]))),
        np.full(n, kind.leaks[1] * kind.rated / np.sqrt(sum(kind.drops[:4]))),
        np.zeros(n), one, one, one, one, kind, np.zeros(n), np.full(n, g.RHO),
    )  # fmt: skip
    g.put_in(made, fault, severity, kind.rated / np.sqrt(sum(kind.drops[5:])))
    return made


def solved(t: Truth, **changed: np.ndarray | float) -> dict[str, np.ndarray]:
    """Flows and pressures by bisection on the collar's pressure; pressures at the real density."""
    r = t.r | {k: np.asarray(v) for k, v in changed.items() if k in t.r}
    off = np.asarray(changed.get("g_off", t.g_off))
    ratio = t.density / g.RHO
    outside = np.asarray(changed.get("outside", t.outside)) / ratio
    way, in_drum, lane, suction = g.before_the_wheel(r, t)
    vent = r["transition"] + r["run"] + r["hood"]
    shutoff = t.kind.shutoff * t.head * t.speed**2
    slope = t.kind.shutoff * t.head / (t.kind.free * t.free) ** 2

    def at(collar: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        through = np.sqrt(np.maximum(collar - outside, 0) / vent)  # the flap lets nothing back
        outlet = through + off * np.sign(collar) * np.sqrt(np.abs(collar))
        return through, outlet, collar + r["pipe"] * outlet * np.abs(outlet)

    low, high = np.full(len(t.head), -600.0), np.full(len(t.head), 900.0)
    for _ in range(60):
        middle = (low + high) / 2
        _, outlet, wheel_out = at(middle)
        too_much = wheel_out + (suction + slope) * outlet * np.abs(outlet) > shutoff
        low, high = np.where(too_much, low, middle), np.where(too_much, middle, high)
    collar = (low + high) / 2
    through, q, _ = at(collar)
    lane_flow = np.sqrt(suction * q**2 / lane)
    return {
        "wheel": q, "suction": suction * q**2 * ratio, "behind_screen": (in_drum + r["screen"]) * lane_flow**2 * ratio,
        "heater": np.sqrt(in_drum * lane_flow**2 / way), "collar": collar * ratio, "vent": through,
        "wall": ((r["run"] + r["hood"]) * through**2 + outside) * ratio,
        "before_hood": (r["hood"] * through**2 + outside) * ratio,
    }  # fmt: skip


def read(t: Truth, rng: np.random.Generator) -> np.ndarray:
    """What instruments show, noise and all, (n, len(KINDS))."""
    at, kind = solved(t), t.kind
    off = {"transition": 2.0 / kind.rated**2, "run": 0.0, "hood": 0.0, "g_off": 0.0, "outside": 0.0}
    facing = 0.5 * t.density * (at["wheel"] / BORE_AREA) ** 2 if t.facing else 0.0
    out = {
        "outlet_flow": at["wheel"], "outlet_static_pressure": at["collar"] + facing,
        "blower_inlet_suction": at["suction"] - facing, "screen_duct_suction": at["behind_screen"],
        "wall_static_pressure": at["wall"] + facing, "hood_static_pressure": at["before_hood"] + facing,
        "hood_flow": at["vent"], "vent_off_flow": solved(t, **off)["wheel"],
        "screen_out_flow": solved(t, screen=0.0)["wheel"],
        "heater_rise": kind.power * t.power / (t.density * g.CP * np.maximum(at["heater"], 1e-4)),
        "heater_current": kind.power * t.power / kind.volts, "blower_speed": kind.speed * t.speed,
    }  # fmt: skip
    exact = np.stack([np.broadcast_to(out[k], len(t.head)) for k in g.KINDS], axis=-1)
    share, absolute = np.array(list(g.KINDS.values())).T
    return exact + (share * np.abs(exact) + absolute) * rng.standard_normal(exact.shape)


@dataclass(frozen=True)
class World:
    """How jobs come to be, and what is told of them.

    kinds: of machines, drawn evenly; change: what is done to the truth; told: the machine the job names; also: places
    that are at fault beside the fault's own; healthy: nothing wrong is drawn, instead of any fault.
    """

    name: str
    kinds: tuple[Kind, ...] = (FULL,)
    change: Callable[[Truth, np.random.Generator], Truth] = field(default=lambda truth, _: truth)
    told: Callable[[], Machine] = field(default=lambda: not_told(profile("full-size-electric")))
    also: tuple[str, ...] = ()
    healthy: bool = False


def _outside(low: float, high: float) -> Callable[[Truth, np.random.Generator], Truth]:
    return lambda t, rng: replace(t, outside=rng.uniform(low, high, len(t.head)))


def _lawful(t: Truth, rng: np.random.Generator) -> Truth:
    """A run within the allowance: straight metres and bends at random, friction by the chart's slope, a transition."""
    n = len(t.head)
    bends = rng.integers(0, 4, n)
    feet = rng.uniform(5, 35 - 5 * bends)
    straight = t.kind.drops[6] / 12.7 * feet  # the profile's run is 12.7 ft of straight pipe
    bend = 1.2 * 0.5 * g.RHO * (t.kind.rated / BORE_AREA) ** 2 * 0.75  # mitred and smooth ones, mixed
    transition = rng.uniform(1.0, 4.0, n)
    r = t.r | {
        "run": (straight + bends * bend) / t.kind.rated**2 * np.exp(0.1 * rng.standard_normal(n)) * (
            t.r["run"] / (t.kind.drops[6] / t.kind.rated**2)),
        "transition": t.r["transition"] * transition,
    }  # fmt: skip
    return replace(t, r=r)


WORLDS = (
    World("home, vent given", told=lambda: profile("full-size-electric")),
    World("home, vent not told"),
    World("lawful vent, not told", change=_lawful),
    World("lawful vent, nothing wrong", change=_lawful, healthy=True),
    World("booster", change=_outside(-120, -40), also=("outdoors",)),
    World("riser or wind", change=_outside(10, 60), also=("outdoors",)),
    World("tube facing the stream", change=lambda t, _: replace(t, facing=True)),
    World("full size, 50 Hz, told 60 Hz", kinds=(FULL_50HZ,)),
    World("compact, told full size", kinds=(COMPACT,)),
    World("2000 m, not told", change=lambda t, _: replace(t, density=0.78 * t.density)),
)


def not_told(machine: Machine) -> Machine:
    """The machine with a vent that nobody drew."""
    return replace(machine, airway=replace(machine.airway, unknown=("transition", "run")))


@dataclass(frozen=True)
class Tally:
    """Shares of a world's jobs at one level of readings."""

    first: float
    said: float
    sure: float
    wrong: float
    warned: float
    vent: float


#: Other kinds a full-size electric machine may be taken for, as a job file has them.
KINDS_TOO = ((profile("full-size-electric-50hz"), 0.015), (profile("compact-electric-50hz"), 0.015))


def sure_of(verdict: Verdict) -> tuple[str, float]:
    """The place the tool is surest of."""
    return verdict.sure.zone, verdict.sure.probability


def tally(world: World, kinds: tuple[str, ...], draws: int, seed: int) -> Tally:
    """Draw jobs of a world and judge each with these kinds of reading."""
    rng = np.random.default_rng(seed)
    machine = world.told()
    faults = rng.choice(len(g.NAMES), size=draws, p=g.PRIOR) if not world.healthy else np.full(
        draws, g.NAMES.index("none"))  # fmt: skip
    first, said, sure, wrong, warned, vent = ([] for _ in range(6))
    for f in faults:
        fault = g.NAMES[f]
        kind = world.kinds[int(rng.integers(len(world.kinds)))]
        truth = truth_of(kind, fault, g._severities(fault, 1, rng), g.SCATTER * rng.standard_normal((1, 8)))
        values = read(world.change(truth, rng), rng)[0]
        facts = tuple(ReadingFact(k, float(values[list(g.KINDS).index(k)])) for k in kinds)
        verdict = diagnose(Case(machine, readings=facts, kinds=KINDS_TOO, air_told=False))
        zone, p = sure_of(verdict)
        right = zone == ZONE[fault] or zone in world.also
        first.append(right)
        said.append(p)
        sure.append(p >= SURE)
        is_warned = bool(verdict.misfits) or any(otherwise_told(row) for row in verdict.otherwise)
        wrong.append(p >= SURE and not right and not is_warned)
        warned.append(is_warned)
        vent.append(sum(q for z, q in verdict.zones if z in ("transition", "run", "hood")) >= 0.8)
    return Tally(*(float(np.mean(x)) for x in (first, said, sure, wrong, warned, vent)))
