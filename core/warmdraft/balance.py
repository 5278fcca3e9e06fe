"""Balancing a wheel in one plane: what its unbalance amounts to, and the masses that take it away.

A wheel that is out of balance shakes in step with it: the vibration is V = A · (U + T), all complex, U the unbalance
and T a trial mass on a vane, A how much of it arrives at the sensor. Runs with trial masses tell A and U by least
squares, with the phase of the vibration or, from three trial masses on, without it.

Sources: permissible residual unbalance U = 9549 · G · m / n, ISO 21940-11; influence coefficients with least squares,
Goodman 1964; balancing without phase as the meeting point of circles, common practice, no source.

May import air, errors. Imports numpy, scipy and the standard library.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.errors import BalanceError

#: A fan's rotor, by the standard; and that of a machine that stands as a whole on rubber (ISO 21940-11, table 1, from
#: memory).
USUAL_GRADE = 6.3
#: Least scatter of an amplitude, as a share of their mean: a phone or a simple meter repeats no better (own
#: assumption).
SCATTER = 0.03
#: So little of the unbalance on a second vane is not worth its clip, share (own assumption).
_NEGLIGIBLE = 0.04
#: An unbalance of so many times the heaviest trial mass was not moved by them in a way that can be told (own
#: assumption).
_UNMOVED = 50.0
#: Draws by which it is said how much is left, and their seed: the same runs give the same answer.
_DRAWS, _SEED = 4000, 1
_LEVELS = (0.05, 0.5, 0.95)
#: It is worth it when less than this is left.
_HALF = 0.5
#: Starts of the search without phases, around the wheel.
_STARTS = 12

Complex = NDArray[np.complex128]


@dataclass(frozen=True, slots=True)
class Run:
    """One run: a mass, kg, on a vane (0 and any vane: none), the vibration's amplitude in whatever unit, its phase."""

    mass_kg: float
    vane: int
    amplitude: float
    phase_deg: float | None = None


@dataclass(frozen=True, slots=True)
class Balance:
    """mass_kg at the radius, vane: where the heavy place is, whole or not. add: (vane, kg), whole vanes, at most two.

    left: of the unbalance with those added, share, 5, 50 and 95 %; sure: probability that less than half is left.
    """

    mass_kg: float
    vane: float
    add: tuple[tuple[int, float], ...]
    left: tuple[float, float, float]
    sure: float


def permissible_kg_m(grade_mm_s: float, mass_kg: float, speed_rpm: float) -> float:
    """Permissible residual unbalance, kg·m, of a rotor of this mass at this speed. Source: ISO 21940-11.

    >>> round(permissible_kg_m(6.3, 0.35, 1725) * 1e6, 1)  # g·mm
    12.2
    """
    return grade_mm_s * 1e-3 * mass_kg / _omega(speed_rpm)


def grade_mm_s(unbalance_kg_m: float, mass_kg: float, speed_rpm: float) -> float:
    """Balance quality that an unbalance amounts to, mm/s: the speed of the centre of mass. Source: ISO 21940-11.

    >>> round(grade_mm_s(0.005 * 0.08, 0.35, 1725))
    206
    """
    return unbalance_kg_m / mass_kg * _omega(speed_rpm) * 1e3


def turning_force_n(unbalance_kg_m: float, speed_rpm: float) -> float:
    """Force that goes round with an unbalance, N. Source: mechanics.

    >>> round(turning_force_n(0.005 * 0.08, 1725), 1)
    13.1
    """
    return unbalance_kg_m * _omega(speed_rpm) ** 2


def _omega(speed_rpm: float) -> float:
    return speed_rpm * 2 * math.pi / 60


def balance(vanes: int, runs: Sequence[Run]) -> Balance:
    """The unbalance and what to add. runs: the first without a mass; with phases one trial mass is enough, without them
    three. Raises BalanceError where they do not tell it."""
    first, *trials = runs
    if first.mass_kg > 0:
        raise BalanceError("the first run has a mass; begin with one without any")
    if first.amplitude <= 0:
        return Balance(0.0, 0.0, (), (0.0, 0.0, 0.0), 1.0)
    phased = all(run.phase_deg is not None for run in runs)
    if len(trials) < (1 if phased else 3):
        wanted = (
            "one with a trial mass" if phased else "three with trial masses on vanes apart, or the phase of each run"
        )
        raise BalanceError(f"so few runs do not tell it ({len(trials)} with a trial mass); give {wanted}")
    angle = 2 * math.pi / vanes
    at = np.array([run.mass_kg * np.exp(1j * angle * run.vane) for run in runs])
    drawn = _with_phase(runs, at) if phased else _without_phase(runs, at)
    found = complex(drawn[0])
    if not abs(found) <= _UNMOVED * np.abs(at).max():
        raise BalanceError("the trial masses changed too little to tell; take heavier ones")
    add = _on_vanes(-found, vanes)
    added = sum((mass * np.exp(1j * angle * vane) for vane, mass in add), 0j)
    left = np.abs(drawn[1:] + added) / np.abs(drawn[1:])
    low, middle, high = (float(share) for share in np.quantile(left, _LEVELS))
    vane = float(np.angle(found) / angle % vanes)
    return Balance(abs(found), vane, add, (low, middle, high), float(np.mean(left < _HALF)))


def _with_phase(runs: Sequence[Run], at: Complex) -> Complex:
    """The unbalance, and as many draws of it as its scatter has: (1 + _DRAWS,)."""
    seen = np.array([run.amplitude * np.exp(1j * math.radians(run.phase_deg or 0.0)) for run in runs])
    design = np.stack([np.ones_like(at), at], axis=1)
    normal = design.conj().T @ design
    fitted, *_ = np.linalg.lstsq(design, seen, rcond=None)
    free = len(runs) - 2
    rest = float(np.sum(np.abs(seen - design @ fitted) ** 2)) / max(free, 1)
    scatter = max(math.sqrt(rest) if free else 0.0, SCATTER * float(np.mean(np.abs(seen))))
    spread = np.linalg.cholesky(np.linalg.inv(normal)) * scatter
    rng = np.random.default_rng(_SEED)
    noise = rng.standard_normal((_DRAWS, 2)) + 1j * rng.standard_normal((_DRAWS, 2))
    draws = np.concatenate([fitted[None], fitted + noise @ spread.T / math.sqrt(2)])
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(draws[:, 0] / draws[:, 1])


def _without_phase(runs: Sequence[Run], at: Complex) -> Complex:
    """The same from amplitudes alone: each is a circle about minus its mass; they meet in the unbalance."""
    seen = np.array([run.amplitude for run in runs])
    heaviest = float(np.abs(at).max())
    circles = np.stack([np.abs(at) ** 2, at.real, at.imag], axis=1)[1:]
    if np.linalg.matrix_rank(circles, tol=1e-9 * heaviest) < 3:
        raise BalanceError("the trial masses stand in too few places to tell; put them on three vanes apart")
    starts = [
        np.array([math.log(seen[0] / size), size * math.cos(turn), size * math.sin(turn)])
        for size in heaviest * np.array([0.3, 1.0, 3.0])
        for turn in 2 * math.pi * np.arange(_STARTS) / _STARTS
    ]
    fits = [_fitted(start, seen, at) for start in starts]
    known, rest = min(fits, key=lambda fit: fit[1])
    slope = _slope(known, at)
    free = len(runs) - 3
    scatter = max(math.sqrt(rest / free) if free else 0.0, SCATTER * float(np.mean(seen)))
    try:
        spread = np.linalg.cholesky(np.linalg.inv(slope.T @ slope)) * scatter
    except np.linalg.LinAlgError:
        raise BalanceError("the trial masses changed too little to tell; take heavier ones") from None
    draws = known + np.random.default_rng(_SEED).standard_normal((_DRAWS, 3)) @ spread.T
    every = np.concatenate([known[None], draws])
    return np.asarray(every[:, 1] + 1j * every[:, 2])


def _fitted(start: Floats, seen: Floats, at: Complex) -> tuple[Floats, float]:
    """Least squares from a start; (log of the influence, U), and the sum of squares."""
    # imported where it is wanted: it takes longer to come in than most of the core's work in all
    from scipy.optimize import least_squares

    found = least_squares(
        lambda known: _off(known, seen, at), start, jac=lambda known: -_slope(known, at), method="lm"
    )  # fmt: skip
    return found.x, 2 * float(found.cost)


def _off(known: Floats, seen: Floats, at: Complex) -> Floats:
    return np.asarray(seen - np.exp(known[0]) * np.abs(complex(known[1], known[2]) + at))


def _slope(known: Floats, at: Complex) -> Floats:
    """How amplitudes move with (log of the influence, U), (runs, 3)."""
    whole = complex(known[1], known[2]) + at
    size = np.maximum(np.abs(whole), 1e-30)
    gain = np.exp(known[0])
    return np.stack([gain * size, gain * whole.real / size, gain * whole.imag / size], axis=1)


def _on_vanes(wanted: complex, vanes: int) -> tuple[tuple[int, float], ...]:
    """A mass anywhere as masses on the two whole vanes beside it; one where the other is hardly any."""
    angle = 2 * math.pi / vanes
    place = float(np.angle(wanted) / angle % vanes)
    before = math.floor(place)
    ahead = (place - before) * angle
    back = angle - ahead
    # law of sines in the parallelogram of the two
    parts = ((before % vanes, math.sin(back)), ((before + 1) % vanes, math.sin(ahead)))
    masses = [(vane, abs(wanted) * share / math.sin(angle)) for vane, share in parts]
    kept = [(vane, mass) for vane, mass in masses if mass > _NEGLIGIBLE * abs(wanted)]
    return tuple(kept) if len(kept) == 2 else ((kept[0][0], abs(wanted)),)
