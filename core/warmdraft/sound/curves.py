"""What is drawn of a recording: its spectrum, how a band comes and goes, and what knocks in it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy import signal

from warmdraft.air import Floats
from warmdraft.sound.hear import Heard
from warmdraft.sound.told import PART_OF
from warmdraft.sound.verdict import Judged, knocks_of

#: What is drawn of the spectrum, and of the knocks, Hz; and of the time, s.
SPECTRUM_HZ, KNOCKS_HZ, TRACE_S = 160.0, 32.0, 10.0
#: Stretch of the spectrum, s: lines a quarter of a hertz apart are told from one another.
_STRETCH_S = 4.0
#: Stretch of the knocks, s: shorter than what is judged by, so that their mean is smooth for the eye. And how far below
#: the noise is still drawn, dB.
_KNOCKS_S, _FLOOR_DB = 6.0, -3.0
#: Points of the trace a second, and the fall of noise that knocks are held against, Hz.
_TRACE_HZ, _WITHIN_HZ = 50.0, 2.0
_DB = 10.0
_QUIET = 1e-14


@dataclass(frozen=True, slots=True)
class Curves:
    """spectrum_db: power of a bin against full scale, spectrum_step_hz apart from 0; trace_db: loudness of `band`
    against its own mean, trace_step_s apart; knocks_db: how far its coming and going stands above the noise,
    knocks_step_hz apart. bands: where each part is heard best, Hz, None in the lines below."""

    spectrum_step_hz: float
    spectrum_db: Floats
    band: tuple[float, float]
    trace_step_s: float
    trace_db: Floats
    knocks_step_hz: float
    knocks_db: Floats
    bands: dict[str, tuple[float, float] | None]


def curves_of(heard: Heard, judged: Judged) -> Curves:
    """The curves of a recording, with the band where what was found is heard best."""
    stretch = min(len(heard.low), int(_STRETCH_S * heard.low_hz))
    hz, power = signal.welch(
        heard.low, heard.low_hz, "hann", stretch, stretch // 2, detrend="linear", scaling="spectrum"
    )
    shown = hz <= SPECTRUM_HZ
    bands = {part: None if place is None else heard.bands[place] for part, place in judged.band.items()}
    place = judged.band.get(PART_OF.get(judged.verdict.source, ""))
    place = len(heard.bands) // 2 if place is None else place
    loudness, rate = heard.loudness[place], heard.frames_hz[place]
    knocks = knocks_of(loudness, rate, _WITHIN_HZ, _KNOCKS_S)
    slow = knocks.hz <= KNOCKS_HZ
    every = max(1, round(rate / _TRACE_HZ))
    seen = loudness[: int(TRACE_S * rate) // every * every]
    trace = seen[: len(seen) // every * every].reshape(-1, every).mean(axis=1)
    return Curves(
        spectrum_step_hz=float(hz[1]),
        spectrum_db=_DB * np.log10(power[shown] + _QUIET),
        band=heard.bands[place],
        trace_step_s=every / rate,
        trace_db=_DB * np.log10((trace + _QUIET) / (trace.mean() + _QUIET)),
        knocks_step_hz=knocks.step_hz,
        knocks_db=np.maximum(_DB / np.log(10) * knocks.above[slow], _FLOOR_DB),
        bands=bands,
    )
