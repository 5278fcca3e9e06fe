"""An independent generator of what a dryer sounds like with one thing wrong, made from its physics and from nothing of
the core: rates are worked out here once more, from the same drive data.

Every level, decay and width is our own assumption; the rates are kinematics.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import signal

Wave = NDArray[np.float64]
#: How loud what is usual of a kind is beside all else of it, by amplitude.
_USUAL = 0.6
SOURCES = ("wheel_unbalance", "wheel_rub", "roller_flat", "idler_worn", "belt_lump", "nothing_stands_out")


@dataclass(frozen=True)
class Drive:
    """A machine's drive, m and rpm; ratio: wheel to motor."""

    motor_rpm: float = 1725.0
    ratio: float = 1.0
    vanes: int = 36
    pulley: float = 0.0198
    drum: float = 0.685
    roller: float = 0.07
    idler: float = 0.06
    belt: float = 2.33

    def rates(self, off: float, creep: float) -> dict[str, float]:
        """Hz; off: the motor's speed beside its plate, creep: what the belt loses, shares."""
        motor = self.motor_rpm / 60 * (1 + off)
        speed = np.pi * self.pulley * motor * (1 - creep)
        return {"wheel": motor * self.ratio, "motor": motor, "drum": speed / (np.pi * self.drum),
                "roller": speed / (np.pi * self.roller), "idler": speed / (np.pi * self.idler),
                "belt": speed / self.belt}  # fmt: skip


@dataclass(frozen=True)
class Room:
    """What lies between machine and file. usual: what every machine of this kind sounds like, the healthy ones too."""

    fs: int = 48_000
    seconds: float = 12.0
    echo_s: float = 0.0
    second_machine: bool = False
    gain_control: bool = False
    lossy: str | None = None
    mains_hz: float = 60.0
    drive: Drive = field(default_factory=Drive)
    plain: bool = False
    white: bool = False
    usual: str = ""


def _noise(rng: np.random.Generator, n: int, fs: int, slope: float, low: float, high: float) -> Wave:
    """Noise with a spectrum that falls by a power of the frequency, of unit power."""
    f = np.fft.rfftfreq(n, 1 / fs)
    shape = np.where((f >= low) & (f <= high), np.maximum(f, low) ** (-slope / 2), 0.0)
    wave = np.fft.irfft(shape * np.exp(2j * np.pi * rng.random(len(f))), n)
    return np.asarray(wave / np.std(wave))


def _phase(rng: np.random.Generator, rate: float, n: int, fs: int) -> Wave:
    """Turns since the start, with a slow wander of the speed, 0.2 %."""
    wander = np.cumsum(rng.normal(0, 1, n // fs + 3))
    wander = 0.002 * wander / max(1.0, np.abs(wander).max())
    speed = rate * (1 + np.interp(np.arange(n) / fs, np.arange(len(wander)), wander))
    return np.cumsum(speed) / fs + rng.random()


def _thumps(rng: np.random.Generator, turns: Wave, fs: int, pitch: float, decay: float, loud: Wave) -> Wave:
    """A knock each whole turn that rings at a pitch; every one a little early or late, a little louder or softer."""
    hits = np.flatnonzero(np.diff(np.floor(turns)) > 0)
    train = np.zeros(len(turns))
    for hit in hits:
        at = int(hit + rng.normal(0, 0.0015) * fs)
        if 0 <= at < len(train):
            train[at] += loud[hit] * rng.normal(1, 0.15)
    t = np.arange(int(6 * decay * fs)) / fs
    ring = np.exp(-t / decay) * np.sin(2 * np.pi * pitch * t) + 0.15 * np.exp(-t / 0.004) * rng.normal(0, 1, len(t))
    return np.asarray(signal.fftconvolve(train, ring)[: len(turns)])


def fault(source: str, rng: np.random.Generator, n: int, fs: int, rates: dict[str, float], vanes: int) -> Wave:
    """What one thing that is wrong adds, of unit power."""

    def turns(part: str) -> Wave:
        return _phase(rng, rates[part], n, fs)

    match source:
        case "wheel_unbalance":
            at = turns("wheel")
            wave = np.sin(2 * np.pi * at) + rng.uniform(0.05, 0.25) * np.sin(4 * np.pi * at + 1)
        case "wheel_rub":
            at = turns("wheel")
            width = rng.uniform(0.1, 0.3)
            scrape = np.exp(-(((at % 1.0) - 0.5) ** 2) / (2 * (width / 2.5) ** 2))
            wave = scrape * _noise(rng, n, fs, 0.5, 300, min(6000, 0.45 * fs))
            low = sum(rng.uniform(0.3, 1) / k**0.5 * np.sin(2 * np.pi * k * at + rng.random() * 6) for k in range(1, 6))
            wave = wave / np.std(wave) + rng.uniform(0.3, 1.0) * low / np.std(low)
            wave = wave + 0.2 * scrape * np.sin(2 * np.pi * vanes * at)
        case "roller_flat":
            drum = turns("drum")
            loud = 1 + rng.uniform(0.1, 0.7) * np.cos(2 * np.pi * drum)
            wave = _thumps(rng, turns("roller"), fs, rng.uniform(60, 260), rng.uniform(0.008, 0.03), loud)
        case "idler_worn":
            at = turns("idler")
            rough = np.exp(-(((at % 1.0) - 0.5) ** 2) / (2 * rng.uniform(0.05, 0.14) ** 2))
            wave = rough * _noise(rng, n, fs, 1.0, 250, min(4000, 0.45 * fs))
            wave = wave / np.std(wave)
            if rng.random() < 0.5:
                squeal = rough * np.sin(2 * np.pi * rng.uniform(700, min(2500, 0.4 * fs)) * np.arange(n) / fs)
                wave = wave + 0.7 * squeal / np.std(squeal)
        case "belt_lump":
            at = turns("belt")
            loud = np.ones(n)
            pitch, decay = rng.uniform(45, 180), rng.uniform(0.015, 0.05)
            wave = _thumps(rng, at, fs, pitch, decay, loud)
            wave = wave + rng.uniform(0.2, 0.8) * _thumps(rng, at + rng.uniform(0.2, 0.8), fs, pitch * 1.3, decay, loud)
        case _:
            return np.zeros(n)
    return np.asarray(wave / np.std(wave))


def machine(rng: np.random.Generator, n: int, fs: int, rates: dict[str, float], mains_hz: float, vanes: int) -> Wave:
    """A healthy machine: air, hum, its wheel's small residual unbalance, a little of everything; unit power."""
    wave = _noise(rng, n, fs, rng.uniform(0.6, 1.4), 12, 0.45 * fs)
    t = np.arange(n) / fs
    for k in (1, 2, 4):
        wave += rng.uniform(0.02, 0.2) / k * np.sin(2 * np.pi * 2 * k * mains_hz / 2 * t + rng.random() * 6)
    at = _phase(rng, rates["wheel"], n, fs)
    wave += rng.uniform(0.0, 0.06) * np.sin(2 * np.pi * at)
    wave += rng.uniform(0.0, 0.05) * np.sin(2 * np.pi * vanes * at)
    return np.asarray(wave / np.std(wave))


def through(wave: Wave, rng: np.random.Generator, room: Room) -> Wave:
    """Echo and a phone's automatic gain."""
    if room.echo_s:
        t = np.arange(int(room.echo_s * room.fs)) / room.fs
        tail = rng.normal(0, 1, len(t)) * 10 ** (-3 * t / room.echo_s)
        tail *= 0.6 / np.sqrt((tail**2).sum())
        tail[0] += 1.0
        wave = signal.fftconvolve(wave, tail)[: len(wave)]
    if room.gain_control:
        power = signal.lfilter([1 / (0.3 * room.fs)], [1, -(1 - 1 / (0.3 * room.fs))], wave**2)
        wave = wave / np.sqrt(power + 0.05 * np.mean(wave**2)) ** 0.8
    return wave


def recorded(source: str, seed: int, snr_db: float, room: Room | None = None) -> tuple[Wave, int, dict[str, float]]:
    """A recording, its rate, and the rates that were true.

    snr_db: power of what is wrong to the power of all else between 20 Hz and 2 kHz.
    """
    room = room or Room()
    rng = np.random.default_rng(seed)
    n, fs = int(room.seconds * room.fs), room.fs
    rates = room.drive.rates(rng.uniform(-0.025, 0.025), rng.uniform(0.0, 0.012))
    back = rng.normal(0, 1, n) if room.white else machine(rng, n, fs, rates, room.mains_hz, room.drive.vanes)
    if room.usual:
        always = fault(room.usual, rng, n, fs, rates, room.drive.vanes)
        back = back + _USUAL * np.std(back) * always
    if room.second_machine:
        other = room.drive.rates(rng.uniform(-0.025, 0.025), rng.uniform(0.0, 0.012))
        back = back + 0.7 * machine(rng, n, fs, other, room.mains_hz, room.drive.vanes)
    wrong = plain(source, rng, n, fs, rates) if room.plain else fault(source, rng, n, fs, rates, room.drive.vanes)
    band = signal.butter(4, (20, min(2000, 0.45 * fs)), "bandpass", fs=fs, output="sos")
    heard, others = (float(np.mean(signal.sosfilt(band, part) ** 2)) for part in (wrong, back))
    gain = np.sqrt(10 ** (snr_db / 10) * others / heard) if heard > 0 else 0.0
    wave = through(back + gain * wrong, rng, room)
    return 0.3 * wave / np.abs(wave).max(), fs, rates


def as_file(path: Any, wave: Wave, fs: int, **more: Any) -> None:
    """Written as a file that a phone or a technician would bring, or that a browser takes for its microphone."""
    import soundfile

    soundfile.write(path, wave, fs, **more)


def plain(source: str, rng: np.random.Generator, n: int, fs: int, rates: dict[str, float]) -> Wave:
    """The same faults in the plainest form: sums of harmonics and clicks, as a textbook draws them."""
    t = np.arange(n) / fs

    def harmonics(rate: float, count: int, fall: float) -> Wave:
        teeth = [np.sin(2 * np.pi * k * rate * t + rng.random() * 6) / k**fall for k in range(1, count + 1)]
        return np.asarray(np.sum(teeth, axis=0))

    def clicks(rate: float, pitch: float) -> Wave:
        at = _phase(rng, rate, n, fs)
        return _thumps(rng, at, fs, pitch, 0.02, np.ones(n))

    match source:
        case "wheel_unbalance":
            wave = harmonics(rates["wheel"], 1, 1.0)
        case "wheel_rub":
            wave = harmonics(rates["wheel"], int(rng.integers(4, 8)), 0.6)
        case "roller_flat":
            wave = clicks(rates["roller"], 120) * (1 + 0.5 * np.cos(2 * np.pi * rates["drum"] * t))
        case "idler_worn":
            wave = harmonics(rates["idler"], 6, 0.5) if rng.random() < 0.5 else clicks(rates["idler"], 400)
        case "belt_lump":
            wave = clicks(rates["belt" if rng.random() < 0.7 else "drum"], 90)
        case _:
            return np.zeros(n)
    return np.asarray(wave / np.std(wave))
