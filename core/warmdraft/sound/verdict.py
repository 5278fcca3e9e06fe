"""Which part it is: combs at the rates of a machine's parts, in the sound's lines and in how its loudness comes and
goes."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from warmdraft.air import Floats
from warmdraft.machine import Drive
from warmdraft.sound.combs import STRETCH_S, Lines, comb, lines_of, tone
from warmdraft.sound.hear import Heard
from warmdraft.sound.rates import SLIP, rates_of
from warmdraft.sound.told import PARTS, SoundVerdict, verdict_from

#: Teeth of a comb, and how far up it is looked for, Hz: a slow knock has many harmonics, a fast one few.
_TEETH = {"wheel": (3, 95.0), "roller": (5, 45.0), "idler": (5, 50.0), "belt": (14, 14.0), "drum": (14, 14.0)}
#: Slow rates need a noise that follows the fall of the spectrum closely, Hz.
_WITHIN_HZ = {"wheel": 2.0, "roller": 2.0, "idler": 2.0, "belt": 1.0, "drum": 1.0}
#: A scrape of the wheel is heard in bands from here on, Hz: below, its tones beat with the hum.
_SCRAPE_HZ = 300.0
#: Where each stands out: a tone in nats against the noise in ten hertz, combs in spreads. Recordings of a generator of
#: our own set them; others of it, held out, say how often they are right (tests/reference).
_TONE_STANDS, _COMB_STANDS, _SCRAPE_STANDS, _SLOW_STANDS = -0.7, 3.0, 3.4, 3.4
#: A tone that is less than this of all that is heard is no rumble, whatever stands beside it, nats: a hundredth.
_TONE_OF_ALL = -4.6
#: Combs of two parts share teeth (three turns of an idler are nearly one of the wheel): so much of the taller one's
#: height is taken off the other's.
_SHARED = 0.6
#: Two rates nearer than this, share, may be one (own assumption).
_SAME = 0.005
#: A wheel on a belt of its own turns at so many times its motor's rate; the mains are heard at these, Hz, as narrow as
#: this (common practice, no source).
_BY_EAR, _MAINS_HZ, _MAINS_WITHIN = (0.5, 2.2), (50.0, 60.0, 100.0, 120.0), 0.012
#: Harmonics of a rub stand within this of its first, nats.
_HARMONICS = 1.2


@dataclass(frozen=True, slots=True)
class _Combs:
    """Best height of each part's comb over the bands, of the wheel's in the high ones; the rates they stand at, and the
    band, None where it stands in the sound's own lines."""

    height: dict[str, float]
    rate: dict[str, float]
    band: dict[str, int | None]


def _combs(heard: Heard, low: Lines, nominal: dict[str, float]) -> _Combs:
    height = dict.fromkeys(_TEETH, -math.inf)
    rate = dict(nominal)
    where: dict[str, int | None] = dict.fromkeys(_TEETH)
    spectra: dict[tuple[int, float], Lines] = {}
    for part, (teeth, top) in _TEETH.items():
        if part != "wheel":
            height[part], rate[part] = comb(low, nominal[part], teeth, top, True)
        for i, (band, frames) in enumerate(zip(heard.bands, heard.loudness, strict=True)):
            if part == "wheel" and band[0] < _SCRAPE_HZ:
                continue
            key = (i, _WITHIN_HZ[part])
            if key not in spectra:
                spectra[key] = knocks_of(frames, heard.frames_hz[i], _WITHIN_HZ[part])
            found, at = comb(spectra[key], nominal[part], teeth, top, part != "wheel")
            if found > height[part]:
                height[part], rate[part], where[part] = found, at, i
    return _Combs(height, rate, where)


def knocks_of(loudness: Floats, frames_hz: float, within_hz: float, stretch_s: float = STRETCH_S) -> Lines:
    """The spectrum of how a band's loudness comes and goes; in logarithms, so that a knock counts, not how loud."""
    return lines_of(np.log(loudness + 1e-9 * loudness.mean() + 1e-30), frames_hz, within_hz, stretch_s)


@dataclass(frozen=True, slots=True)
class Judged:
    """A verdict, and for each of PARTS the place among the bands where its comb stands tallest; None: in the lines."""

    verdict: SoundVerdict
    band: dict[str, int | None]


def wheel_by_ear(low: Lines, motor_hz: float) -> float:
    """Rate of a wheel that a belt of its own drives, Hz, where nobody knows its pulleys: the strongest line that is
    neither the motor's nor the mains'.

    >>> t = np.arange(60000) / 3000
    >>> wave = np.sin(2 * np.pi * 41 * t) + np.sin(2 * np.pi * 60 * t) + np.random.default_rng(1).normal(0, 3, 60000)
    >>> round(wheel_by_ear(lines_of(wave, 3000.0, 4.0), 28.75))
    41
    """
    within = (low.hz >= _BY_EAR[0] * motor_hz) & (low.hz <= _BY_EAR[1] * motor_hz)
    for rate, width in ((motor_hz, SLIP), (2 * motor_hz, SLIP), *((hum, _MAINS_WITHIN) for hum in _MAINS_HZ)):
        within &= np.abs(low.hz / rate - 1) > width
    return float(low.hz[np.argmax(np.where(within, low.above, -np.inf))])


def judge_sound(heard: Heard, drive: Drive, wheel_known: bool = True) -> Judged:
    """Which part of a machine makes the noise. wheel_known: else the wheel's rate is taken from the sound.

    heard: a recording of the empty, running machine; drive: its drive data.

    Source: orders of rotating machines (lines at multiples of a part's rate) and envelope analysis (what knocks once a
    turn makes the loudness of a band come and go at that rate).
    """
    plate = rates_of(drive)
    low = lines_of(heard.low, heard.low_hz, 4.0)
    nominal = {part: getattr(plate, part) for part in _TEETH}
    if not wheel_known:
        nominal["wheel"] = wheel_by_ear(low, plate.motor)
    first = tone(low, nominal["wheel"])
    harmonics = [tone(low, k * first.hz).above for k in (2, 3)]
    combs = _combs(heard, low, nominal)
    height = combs.height
    scrape, idler = height["wheel"], height["idler"]
    if idler > scrape:
        scrape -= _SHARED * max(0.0, idler - _COMB_STANDS)
    else:
        idler -= _SHARED * max(0.0, scrape - _COMB_STANDS)
    above = {
        "wheel_unbalance": min(first.above - _TONE_STANDS, first.of_all - _TONE_OF_ALL),
        "wheel_rub": max(scrape - _SCRAPE_STANDS, min(first.above, *harmonics) + _HARMONICS - _TONE_STANDS),
        "roller_flat": height["roller"] - _COMB_STANDS,
        "idler_worn": idler - _COMB_STANDS,
        "belt_lump": max(height["belt"], height["drum"]) - _SLOW_STANDS,
    }
    # a tone at the wheel's rate that is a tooth of a comb that stands is of that comb
    for part, source in (("roller", "roller_flat"), ("idler", "idler_worn")):
        turns = first.hz / combs.rate[part]
        if above[source] > 0 and abs(turns / round(turns) - 1) <= _SAME:
            above["wheel_unbalance"] = min(above["wheel_unbalance"], -above[source])
    # a wheel that rubs is heard once a turn as well: the scrape tells
    above["wheel_unbalance"] -= 2 * max(0.0, above["wheel_rub"])
    stands = {"wheel": max(above["wheel_unbalance"], above["wheel_rub"]), "drum": height["drum"] - _SLOW_STANDS,
              "roller": above["roller_flat"], "idler": above["idler_worn"],
              "belt": height["belt"] - _SLOW_STANDS}  # fmt: skip
    heard_at = combs.rate | ({"wheel": first.hz} if above["wheel_unbalance"] > 0 else {})
    rates = {part: heard_at[part] if stands[part] > 0 else None for part in PARTS}
    return Judged(verdict_from(above, rates), combs.band)
