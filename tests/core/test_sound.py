"""The sound bench's parts: rates, lines, combs, files. How often it is right: tests/reference/test_sounds.py."""

import io
import itertools
import json
import math
import subprocess
import sys

import numpy as np
import pytest
import soundfile
from hypothesis import given, settings
from hypothesis import strategies as st
from pytest import approx
from scipy import signal

from demo.sounds import Room, recorded
from warmdraft.__main__ import main
from warmdraft.errors import DocumentError
from warmdraft.jobfile.recording import read_recording
from warmdraft.machine import profile
from warmdraft.sound import SOURCES, rates_of
from warmdraft.sound.combs import comb, lines_of, tone
from warmdraft.sound.hear import hear
from warmdraft.sound.verdict import judge_sound

DRIVE = profile("full-size-electric").drive


def test_rates_are_those_of_the_worked_example():
    # 1725 rpm, pulley 19.8 mm, drum 685 mm: the wheel turns 28.75 times a second, the drum 50 times a minute;
    # common practice, no source
    rates = rates_of(DRIVE)
    assert rates.wheel == approx(28.75) and rates.drum * 60 == approx(49.9, abs=0.1)
    assert rates.blade_pass == approx(36 * 28.75)
    # one belt: what passes the drum passes roller, idler and the belt's own length
    speed = math.pi * DRIVE.drum_diameter_m * rates.drum
    assert rates.roller * math.pi * DRIVE.roller_diameter_m == approx(speed)
    assert rates.idler * math.pi * DRIVE.idler_diameter_m == approx(speed)
    assert rates.belt * DRIVE.belt_length_m == approx(speed)
    slow = rates_of(DRIVE, motor_off=-0.02, belt_off=-0.01)
    assert slow.wheel / rates.wheel == approx(0.98) and slow.drum / rates.drum == approx(0.98 * 0.99)


def test_a_spectrum_is_that_of_the_signal_library_and_a_tone_has_its_power():
    rng = np.random.default_rng(3)
    t = np.arange(30_000) / 1000
    wave = 0.5 * np.sin(2 * np.pi * 30 * t) + rng.normal(0, 1, len(t))
    lines = lines_of(wave, 1000.0)
    hz, power = signal.welch(wave, 1000.0, "hann", 20_000, 10_000, detrend="linear")
    assert lines.hz == approx(hz) and lines.power == approx(power)
    # noise of 1²/500 Hz, a tone of 0.5²/2: ln(0.125 / (0.002 · 10))
    found = tone(lines, 30.2)
    assert found.above == approx(math.log(0.125 / 0.02), abs=0.3) and found.hz == approx(30.0, abs=0.06)
    assert found.of_all == approx(math.log(0.125 / 1.125), abs=0.1)


def test_what_a_band_does_moment_by_moment_is_what_the_library_says():
    fs = 8000
    t = np.arange(6 * fs) / fs
    beats = (1 + 0.8 * np.cos(2 * np.pi * 7 * t)) * np.sin(2 * np.pi * 200 * t)
    heard = hear([beats.astype(np.float32)], float(fs))
    band = heard.bands.index((110.0, 300.0))
    passed = signal.sosfiltfilt(signal.butter(4, (110, 300), "bandpass", fs=fs, output="sos"), beats)
    envelope = np.abs(signal.hilbert(passed)) ** 2
    hop = round(fs / heard.frames_hz[band])
    frames = len(heard.loudness[band])
    other = envelope[: frames * hop].reshape(frames, hop).mean(axis=1)
    middle = slice(frames // 10, -frames // 10)
    assert np.corrcoef(heard.loudness[band][middle], other[middle])[0, 1] > 0.99
    assert lines_of(heard.loudness[band], heard.frames_hz[band]).hz[
        np.argmax(lines_of(heard.loudness[band], heard.frames_hz[band]).above[5:]) + 5
    ] == approx(7.0, abs=0.2)


def test_the_low_part_is_what_a_resampler_of_the_library_gives():
    rng = np.random.default_rng(5)
    wave = signal.sosfilt(signal.butter(8, 900, fs=48_000, output="sos"), rng.normal(0, 0.1, 96_000))
    heard = hear([wave.astype(np.float32)], 48_000.0)
    other = signal.resample_poly(wave, 1, 16)
    middle = slice(200, min(len(heard.low), len(other)) - 200)
    lag = 8  # half the filter's taps, in samples of the low part
    assert np.corrcoef(heard.low[middle.start + lag : middle.stop + lag], other[middle])[0, 1] > 0.999


@settings(max_examples=20, deadline=None)
@given(st.lists(st.integers(1, 30_000), min_size=1, max_size=8), st.sampled_from([8000, 44_100, 48_000]))
def test_it_is_one_recording_however_it_is_cut(cuts, fs):
    wave = np.random.default_rng(7).normal(0, 0.1, 4 * fs).astype(np.float32)
    edges = sorted({0, len(wave), *(cut % len(wave) for cut in np.cumsum(cuts))})
    whole = hear([wave], float(fs))
    parts = hear([wave[a:b] for a, b in itertools.pairwise(edges)], float(fs))
    assert parts.low == approx(whole.low, abs=1e-6) and parts.level == approx(whole.level)
    assert all(one == approx(other, rel=1e-4) for one, other in zip(parts.loudness, whole.loudness, strict=True))


def test_one_line_makes_no_comb():
    t = np.arange(60_000) / 3000
    noise = np.random.default_rng(9).normal(0, 1, len(t))
    one = lines_of(noise + np.sin(2 * np.pi * 3 * 9.49 * t), 3000.0, 2.0)
    all_of_them = lines_of(noise + sum(0.3 * np.sin(2 * np.pi * k * 9.49 * t) for k in range(1, 6)), 3000.0, 2.0)
    assert comb(one, 9.49, 5, 50.0, True)[0] < 3 < comb(all_of_them, 9.49, 5, 50.0, True)[0]


def as_wav(wave, fs=48_000, kind="WAV", subtype="PCM_16", **more):
    out = io.BytesIO()
    soundfile.write(out, wave, fs, format=kind, subtype=subtype, **more)
    out.seek(0)
    return out


ROLLER, FS, TRUE = recorded("roller_flat", 4, 0.0)


@pytest.mark.parametrize(
    ("kind", "subtype"),
    [("WAV", "PCM_U8"), ("WAV", "PCM_16"), ("WAV", "PCM_24"), ("WAV", "PCM_32"), ("WAV", "FLOAT"), ("FLAC", "PCM_16"),
     ("OGG", "VORBIS"), ("OGG", "OPUS"), ("MP3", "MPEG_LAYER_III")],
)  # fmt: skip
def test_any_common_file_is_heard_alike(kind, subtype):
    found = judge_sound(read_recording(as_wav(ROLLER, FS, kind, subtype)), DRIVE).verdict
    assert found.source == "roller_flat" and dict(found.rates)["roller"] == approx(TRUE["roller"], rel=0.01)
    assert sum(score for _, score in found.scores) == approx(1.0)


@pytest.mark.parametrize("fs", [4000, 8000, 22_050, 44_100, 96_000])
def test_any_rate_is_heard_alike(fs):
    wave, fs, rates = recorded("wheel_unbalance", 2, 0.0, Room(fs=fs))
    for channels in (wave, np.stack([wave, wave], axis=1)):
        found = judge_sound(read_recording(as_wav(channels, fs)), DRIVE).verdict
        assert found.source == "wheel_unbalance" and dict(found.rates)["wheel"] == approx(rates["wheel"], rel=0.005)


NOISE = np.random.default_rng(1).normal(0, 0.1, 10 * 48_000)
PNG = b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 400


@pytest.mark.parametrize(
    ("file", "says"),
    [
        (io.BytesIO(b""), "no sound file"),
        (io.BytesIO(PNG), "no sound file"),
        (io.BytesIO(bytes(3_000_000)), "no sound file"),
        (io.BytesIO(as_wav(NOISE).getvalue()[:30]), "no sound file"),
        (as_wav(NOISE[: 2 * 48_000]), "2.0 s long"),
        (as_wav(np.zeros(10 * 48_000)), "is silent"),
        (as_wav(NOISE[: 8 * 2000], 2000), "sampled at 2000 Hz"),
        (as_wav(NOISE[:240_000].reshape(-1, 4), 8000), "4 channels"),
        (as_wav(np.where(np.arange(48_000 * 5) == 7, np.nan, 0.1), subtype="FLOAT"), "no numbers"),
        (as_wav(np.zeros(4000 * 601), 4000), "601.0 s long"),
    ],
    ids=["empty", "picture", "zeros", "cut", "short", "silent", "slow", "four channels", "nan", "long"],
)  # fmt: skip
def test_what_is_no_recording_is_refused_in_words(file, says):
    with pytest.raises(DocumentError, match=says):
        read_recording(file)


def cli(capsys, *arguments):
    status = main(["sound", *map(str, arguments)])
    told = capsys.readouterr()
    return status, [json.loads(line) for line in told.out.splitlines()], told.err


def test_the_command_line_tells_each_and_goes_on_past_a_bad_one(tmp_path, capsys):
    roller, loud, bad = tmp_path / "roller.wav", tmp_path / "loud.wav", tmp_path / "bad.wav"
    roller.write_bytes(as_wav(ROLLER, FS).getvalue())
    loud.write_bytes(as_wav(np.clip(40 * ROLLER[: 6 * FS], -1, 1), FS).getvalue())
    bad.write_bytes(PNG)
    job = tmp_path / "job.json"
    job.write_text(json.dumps({"format": "warm-draft/job", "version": 1, "machine": {"profile": "full-size-electric"}}))
    status, (one, other), said = cli(capsys, "--machine", job, roller, bad, loud)
    assert status == 2 and "bad.wav: $: this is no sound file" in said
    assert one["sources"][0]["source"] == one["verdict"] == "roller_flat"
    assert {row["source"] for row in one["sources"]} == set(SOURCES)
    assert set(one["measured_rates"]) == {"wheel", "drum", "roller", "idler", "belt"}
    assert f"{one['measured_rates']['roller']:.1f} Hz" in one["text"] and one["told_apart"] and not one["notes"]
    assert len(other["notes"]) == 2 and "cut off at its loudest" in other["notes"][0]
    status, _, said = cli(capsys, "--machine", tmp_path / "none.json", roller)
    assert status == 2 and "--machine" in said and "none.json: cannot be read" in said


@pytest.mark.slow  # ten minutes of sound
def test_ten_minutes_stay_under_three_hundred_megabytes(tmp_path):
    path, rng = tmp_path / "long.wav", np.random.default_rng(1)
    with soundfile.SoundFile(path, "w", 96_000, 2, "PCM_16") as file:
        for _ in range(60):
            file.write(np.repeat(rng.normal(0, 0.1, (480_000, 2)), 2, axis=0).astype(np.float32))
    # the peak of its own memory: ru_maxrss would be that of whoever began it
    code = ("import sys; from warmdraft.__main__ import main; main(['sound', sys.argv[1]]);"
            "print(*(line.split()[1] for line in open('/proc/self/status') if line.startswith('VmHWM')),"
            "file=sys.stderr)")  # fmt: skip
    done = subprocess.run([sys.executable, "-c", code, str(path)], capture_output=True, text=True, check=True)
    assert json.loads(done.stdout)["verdict"] == "nothing_stands_out"
    assert int(done.stderr.split()[-1]) < 300_000
