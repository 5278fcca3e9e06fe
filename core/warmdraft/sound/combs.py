"""Lines of a spectrum above its noise, and how well a comb of them stands at a part's rate."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy import ndimage, signal

from warmdraft.air import Floats
from warmdraft.sound.hear import Samples
from warmdraft.sound.rates import SLIP

#: Longest stretch that one spectrum is taken over, s: over a longer one a motor's speed has wandered (own assumption).
STRETCH_S = 20.0
#: The noise below a line is the median within this, Hz to either side (own assumption).
_NOISE_WITHIN_HZ = 2.0
_LEAST_BINS = 11
#: A comb is held against combs at rates from this share of its own to that, where no part turns.
_BESIDE = (0.72, 1.39)
_STEPS = 660
#: Least spread of what stands beside, nats: a floor under a lucky quiet (own assumption).
_LEAST_SPREAD = 0.08
#: A tooth counts at most so much, nats: one line makes no comb (own assumption).
_TALLEST = 4.0
#: What a tone at a rate of turning is heard against, Hz (own assumption).
TONE_BAND_HZ = 10.0
#: How far a speed wanders within a stretch, share (own assumption).
_WANDER = 0.003


@dataclass(frozen=True, slots=True)
class Lines:
    """A spectrum. hz (n,), power (n,) a bin, above (n,): nats of power above the noise around."""

    hz: Floats
    power: Floats
    above: Floats

    @property
    def step_hz(self) -> float:
        """Between two bins."""
        return float(self.hz[1])


def lines_of(
    series: Floats | Samples, rate_hz: float, within_hz: float = _NOISE_WITHIN_HZ, stretch_s: float = STRETCH_S
) -> Lines:
    """The spectrum of a series, (n,), by Welch's method over stretches of at most stretch_s, and its noise.

    Source: Welch 1967; the noise by a running median, which lines do not move.

    >>> t = np.arange(4000) / 100
    >>> found = lines_of(np.sin(2 * np.pi * 7 * t) + np.random.default_rng(1).normal(0, 1, 4000), 100.0)
    >>> float(found.hz[np.argmax(found.above)])
    7.0
    """
    stretch = min(len(series), int(stretch_s * rate_hz))
    hz, power = signal.welch(series, rate_hz, "hann", stretch, stretch // 2, detrend="linear")
    power = power.astype(float)
    logs = np.log(power + 1e-30)
    bins = max(_LEAST_BINS, int(2 * within_hz / hz[1]) | 1)
    return Lines(hz, power, logs - ndimage.median_filter(logs, bins, mode="nearest"))


def comb(lines: Lines, rate_hz: float, teeth: int, top_hz: float, but_one: bool) -> tuple[float, float]:
    """How far the comb at a rate stands out of combs beside it, in their spreads; and the rate where it stands best.

    rate_hz: where it is looked for, within SLIP; teeth: harmonics, as far as top_hz; but_one: without the tallest
    tooth, which may be another part's.
    """
    shares = np.geomspace(*_BESIDE, _STEPS)
    at = rate_hz * shares[:, None] * np.arange(1, teeth + 1)
    within = at <= min(top_hz, float(lines.hz[-1]))
    tall = np.where(within, np.minimum(np.interp(at, lines.hz, lines.above), _TALLEST), 0.0)
    height = (tall.sum(axis=1) - but_one * tall.max(axis=1)) / np.maximum(within.sum(axis=1) - but_one, 1)
    usual = np.median(height)
    spread = 1.4826 * np.median(np.abs(height - usual)) + _LEAST_SPREAD
    near = np.flatnonzero(np.abs(shares - 1) <= SLIP)
    best = near[np.argmax(height[near])]
    return float((height[best] - usual) / spread), float(rate_hz * shares[best])


@dataclass(frozen=True, slots=True)
class Tone:
    """The strongest line about a rate: where, and its power in nats against the noise in TONE_BAND_HZ around it
    (`above`) and against all of the spectrum (`of_all`)."""

    hz: float
    above: float
    of_all: float


def tone(lines: Lines, rate_hz: float) -> Tone:
    """The strongest line within SLIP of a rate.

    >>> t = np.arange(9000) / 300
    >>> hum = np.sin(2 * np.pi * 29 * t) + np.random.default_rng(1).normal(0, 1, 9000)
    >>> round(tone(lines_of(hum, 300.0), 28.75).hz, 1)
    29.0
    """
    near = np.flatnonzero(np.abs(lines.hz / rate_hz - 1) <= SLIP)
    if not len(near):
        return Tone(rate_hz, -np.inf, -np.inf)
    peak = int(near[np.argmax(lines.above[near])])
    width = max(1, round(_WANDER * rate_hz / lines.step_hz))
    here = slice(max(0, peak - width), peak + width + 1)
    noise = lines.power[peak] / np.exp(lines.above[peak])
    # what of the peak is noise too does not count
    line = max(float(lines.power[here].sum() - noise * (here.stop - here.start)), 1e-30) * lines.step_hz
    whole = float(lines.power.sum()) * lines.step_hz
    return Tone(float(lines.hz[peak]), float(np.log(line / (noise * TONE_BAND_HZ))), float(np.log(line / whole)))
