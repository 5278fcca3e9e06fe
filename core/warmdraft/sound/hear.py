"""A recording as what the judgement needs of it, block by block: its low part, and how loud each band is, moment by
moment. Ten minutes at 96 kHz pass through in little memory."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import fft, signal

from warmdraft.air import Floats

#: Rate that the low part is kept at, at least, Hz: three times the blade pass is nothing that rotates by itself.
LOW_HZ = 3000.0
#: Rate of the loudness of a band, Hz: three harmonics of the fastest part that turns are below its half.
FRAMES_HZ = 200.0
#: Bands of the loudness, Hz: each twice as high as the one before. The first two are too low for short frames; they are
#: taken from the low part.
BANDS = ((40.0, 110.0), (110.0, 300.0), (300.0, 600.0), (600.0, 1200.0), (1200.0, 2400.0), (2400.0, 4800.0),
         (4800.0, 8000.0))  # fmt: skip
_FROM_LOW = 2
#: A sample this near to full scale is cut off; quieter than this beside it, nothing is heard (own assumptions).
_FULL, SILENT = 0.999, 10 ** (-80 / 20)
#: Length of the filter before the low part, in samples of the low part; its edge as a share of half its rate.
_TAPS, _EDGE = 16, 0.8

Samples = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Heard:
    """What was heard. low (n,) at low_hz: full scale 1; loudness: for each of `bands`, power a frame (m,) at frames_hz.

    level: root mean square; clipped: share of samples at full scale.
    """

    seconds: float
    low: Samples
    low_hz: float
    bands: tuple[tuple[float, float], ...]
    loudness: tuple[Floats, ...]
    frames_hz: tuple[float, ...]
    level: float
    clipped: float


class Listener:
    """Takes blocks of one recording, in order; then tells what was heard."""

    def __init__(self, rate_hz: float) -> None:
        self.rate_hz = rate_hz
        self._step = max(1, int(rate_hz // LOW_HZ))
        taps = signal.firwin(_TAPS * self._step + 1, _EDGE / self._step) if self._step > 1 else np.ones(1)
        self._taps = taps.astype(np.float32)
        self._hop = round(rate_hz / FRAMES_HZ)
        self._window = signal.windows.hann(2 * self._hop, sym=False).astype(np.float32)
        bins = fft.rfftfreq(2 * self._hop, 1 / rate_hz)
        within = [(band, np.flatnonzero((bins >= band[0]) & (bins < band[1]))) for band in BANDS[_FROM_LOW:]]
        self._of_band = [(band, here) for band, here in within if len(here) > 1 and band[1] <= rate_hz / 2]
        self._left = np.zeros(0, np.float32)
        self._filtering = np.zeros(len(taps) - 1, np.float32)
        self._low: list[Samples] = []
        self._frames: list[Floats] = []
        self._count, self._power, self._cut = 0, 0.0, 0

    def take(self, block: Samples) -> None:
        """The next samples, mono, full scale 1; (n,), n a multiple of `whole` but for the last."""
        self._count += len(block)
        self._power += float(np.dot(block, block))
        self._cut += int(np.count_nonzero(np.abs(block) >= _FULL))
        joined = np.concatenate([self._filtering, block])
        found = signal.upfirdn(self._taps, joined, 1, self._step)
        skip = len(self._filtering) // self._step
        self._low.append(found[skip : skip + len(block) // self._step].astype(np.float32))
        self._filtering = joined[len(joined) - len(self._filtering) :]
        waiting = np.concatenate([self._left, block])
        frames = max(0, len(waiting) // self._hop - 1)
        if frames:
            cut = np.lib.stride_tricks.sliding_window_view(waiting, 2 * self._hop)[:: self._hop][:frames]
            spectrum = fft.rfft(cut * self._window, axis=1)
            power = spectrum.real**2 + spectrum.imag**2
            self._frames.append(np.stack([power[:, here].sum(axis=1) for _, here in self._of_band], axis=1))
        self._left = waiting[frames * self._hop :]

    @property
    def whole(self) -> int:
        """Blocks are taken in multiples of so many samples, so that the low part has no seams."""
        return self._step * self._hop

    def heard(self) -> Heard:
        """All of it."""
        low = np.concatenate(self._low) if self._low else np.zeros(0, np.float32)
        low_hz = self.rate_hz / self._step
        bands = list(BANDS[:_FROM_LOW])
        loudness, rate = _loudness_of(low, low_hz, bands)
        rates = [rate] * len(bands)
        frames = np.concatenate(self._frames) if self._frames else np.zeros((0, len(self._of_band)))
        for column, (band, _) in enumerate(self._of_band):
            bands.append(band)
            loudness.append(frames[:, column].astype(float))
            rates.append(self.rate_hz / self._hop)
        return Heard(
            seconds=self._count / self.rate_hz,
            low=low,
            low_hz=low_hz,
            bands=tuple(bands),
            loudness=tuple(loudness),
            frames_hz=tuple(rates),
            level=float(np.sqrt(self._power / max(self._count, 1))),
            clipped=self._cut / max(self._count, 1),
        )


def hear(blocks: Iterable[Samples], rate_hz: float) -> Heard:
    """What is heard in a recording. blocks: mono, full scale 1, of any length; rate_hz: samples a second.

    >>> tone = np.sin(2 * np.pi * 50 * np.arange(8000) / 8000).astype(np.float32)
    >>> round(hear([tone], 8000.0).level, 3)
    0.707
    """
    listener = Listener(rate_hz)
    left = np.zeros(0, np.float32)
    for block in blocks:
        left = np.concatenate([left, block])
        whole = len(left) - len(left) % listener.whole
        if whole:
            listener.take(left[:whole])
            left = left[whole:]
    if len(left):
        listener.take(left)
    return listener.heard()


def _loudness_of(low: Samples, low_hz: float, bands: Sequence[tuple[float, float]]) -> tuple[list[Floats], float]:
    """Power of each band of the low part by its analytic signal (Hilbert), averaged to frames; and their rate, Hz."""
    average = max(1, round(low_hz / FRAMES_HZ))
    length = fft.next_fast_len(max(len(low), 1))
    spectrum = fft.rfft(low, length)
    bins = fft.rfftfreq(length, 1 / low_hz)

    def loudness(band: tuple[float, float]) -> Floats:
        whole = np.zeros(length, np.complex64)
        here = (bins >= band[0]) & (bins < band[1])
        whole[: len(bins)][here] = 2 * spectrum[here]
        power = np.abs(fft.ifft(whole, overwrite_x=True)[: len(low)]) ** 2
        frames = len(power) // average
        return np.asarray(power[: frames * average].reshape(frames, average).mean(axis=1, dtype=float))

    return [loudness(band) for band in bands], low_hz / average
