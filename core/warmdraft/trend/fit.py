"""The shape of a series: steady, a fade that sets in, a slow decline from the start, or switching on and off.

Each shape is fitted by least squares and weighed by the Bayesian information criterion. Source: Schwarz 1978. The
noise is learned from the series itself; points that follow each other share it, which thins their number (own
assumption).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from warmdraft.air import Floats
from warmdraft.trend.series import Series

SHAPES = ("steady", "fade", "slow_decline", "cycling")
#: Points closer than this, minutes, tell the same: they are averaged (own assumption).
_THIN_MINUTES = 0.25
#: Before this share of the log a fall counts as from the start; a fade takes at least this long to tell, minutes
#: (own assumption).
_EARLY = 0.12
#: A loss below this share is no fade anyone would find (own assumption).
LEAST_DROP = 0.05
#: Least standard deviation of the noise as a share of the level: instruments' last digit (own assumption).
_LEAST_NOISE = 0.004
_GRID = 48
#: Switching is told from noise by staying so many points at a level (halves of white noise stay two), and by periods
#: that differ by less than this share (own assumptions).
_LEAST_RUN, _IRREGULAR = 3.5, 0.4


@dataclass(frozen=True, slots=True)
class Trend:
    """What a series does. probability of each of SHAPES; of the likeliest: when it sets in, how much it falls (share
    of the level at the start), its period, minutes; None where the shape has none. fitted: the line to draw."""

    kind: str
    shape: str
    probability: dict[str, float]
    start_minute: float | None
    drop: float | None
    period_minutes: float | None
    minutes: tuple[float, ...]
    fitted: tuple[float, ...]


def _thinned(series: Series) -> tuple[Floats, Floats]:
    t, y = np.array(series.minutes), np.array(series.values)
    t = t - t[0]
    slot = np.floor(t / max(_THIN_MINUTES, t[-1] / 400)).astype(int)
    _, start = np.unique(slot, return_index=True)
    count = np.diff([*start, len(t)])
    return np.add.reduceat(t, start) / count, np.add.reduceat(y, start) / count


def _line(columns: list[Floats], y: Floats) -> tuple[Floats, Floats]:
    """Least squares; coefficients and fit."""
    matrix = np.stack(columns, axis=1)
    coefficients = np.linalg.lstsq(matrix, y, rcond=None)[0]
    return np.asarray(coefficients), np.asarray(matrix @ coefficients)


def _bic(residual: Floats, level: float, parameters: int) -> float:
    n = len(residual)
    variance = max(float(residual @ residual) / n, (_LEAST_NOISE * abs(level)) ** 2)
    return n * float(np.log(variance)) + parameters * float(np.log(n))


def _fade(t: Floats, y: Floats) -> tuple[float, Floats]:
    """Best level – ramp – lower level; (set-in minute, fit)."""
    span = t[-1]
    starts = np.linspace(_EARLY * span, 0.9 * span, _GRID)
    best: tuple[float, float, Floats] | None = None
    for length in (0.02 * span, 0.1 * span, 0.2 * span, 0.4 * span, span):
        ramp = np.clip((t[None] - starts[:, None]) / length, 0, 1)  # (starts, n)
        centred = ramp - ramp.mean(axis=1, keepdims=True)
        weight = (centred**2).sum(axis=1)
        slope = np.where(weight > 1e-12, centred @ y / np.maximum(weight, 1e-12), 0.0)
        fit = y.mean() + slope[:, None] * centred
        left = ((y - fit) ** 2).sum(axis=1)
        left = np.where(slope < 0, left, np.inf)
        place = int(np.argmin(left))
        if np.isfinite(left[place]) and (best is None or left[place] < best[0]):
            best = (float(left[place]), float(starts[place]), fit[place])
    if best is None:
        return float(starts[0]), np.full_like(y, y.mean())
    return best[1], best[2]


def _cycling(t: Floats, y: Floats) -> tuple[float | None, Floats]:
    """Two levels, switched with a dead band between; (period, fit), period None where it does not come back."""
    low, high = np.quantile(y, [0.1, 0.9])
    middle, band = (low + high) / 2, (high - low) / 4
    on, state = np.empty(len(y), dtype=bool), bool(y[0] > middle)
    for i, value in enumerate(y):
        state = bool(value > middle - band) if state else bool(value > middle + band)
        on[i] = state
    ups = np.flatnonzero(~on[:-1] & on[1:])
    if len(ups) < 2 or on.all() or not on.any():
        return None, np.full_like(y, y.mean())
    fit = np.where(on, y[on].mean(), y[~on].mean())
    periods = np.diff(t[ups])
    if len(y) / (2 * len(ups)) < _LEAST_RUN or float(np.std(periods)) > _IRREGULAR * float(periods.mean()):
        return None, fit  # noise has two halves too, but they change at every point and without a beat
    return float(periods.mean()), fit


@lru_cache(maxsize=256)  # the case and the screen ask for the same log's
def trend_of(series: Series) -> Trend:
    """Weigh the shapes of a series.

    >>> t = tuple(range(60))
    >>> trend_of(Series("outlet_flow", t, tuple(0.07 if m < 40 else 0.05 for m in t))).shape
    'fade'
    """
    t, y = _thinned(series)
    level = float(np.median(y[: max(3, len(y) // 8)]))
    scale = abs(level) or 1.0
    steady = np.full_like(y, y.mean())
    (_, slope), decline = _line([np.ones_like(t), t], y)
    start, fade = _fade(t, y)
    period, cycling = _cycling(t, y)
    scores = {
        "steady": _bic(y - steady, scale, 1),
        "slow_decline": _bic(y - decline, scale, 2) if slope < 0 else np.inf,
        "fade": _bic(y - fade, scale, 4),
        "cycling": _bic(y - cycling, scale, 3) if period is not None else np.inf,
    }
    fits = {"steady": steady, "slow_decline": decline, "fade": fade, "cycling": cycling}
    drops = {"slow_decline": float(-slope * t[-1] / scale), "fade": float((fade[0] - fade[-1]) / scale)}
    for shape, drop in drops.items():
        if drop < LEAST_DROP:
            scores[shape] = np.inf  # it stays
    least = min(scores.values())
    weight = {shape: float(np.exp(-0.5 * min(score - least, 1400.0))) for shape, score in scores.items()}
    total = sum(weight.values())
    shape = max(SHAPES, key=lambda name: weight[name])
    return Trend(
        kind=series.kind,
        shape=shape,
        probability={name: weight[name] / total for name in SHAPES},
        start_minute=start if shape == "fade" else None,
        drop=drops.get(shape),
        period_minutes=period if shape == "cycling" else None,
        minutes=tuple(map(float, t)),
        fitted=tuple(map(float, fits[shape])),
    )
