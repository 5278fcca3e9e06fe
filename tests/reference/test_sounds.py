"""How often the sound bench is right, on recordings of an independent generator that nothing was set by.

Signal to noise is that of what is wrong against all else between 20 Hz and 2 kHz, by power. Moderate is −3 dB: the
fault is half as strong as the healthy machine's noise; half of that in amplitude is −9 dB. Own choices.
"""

import io
from collections import Counter

import numpy as np
import pytest
import soundfile

from demo.sounds import SOURCES, Drive, Room, recorded
from warmdraft.jobfile.recording import read_recording
from warmdraft.machine import profile
from warmdraft.sound.hear import hear
from warmdraft.sound.verdict import judge_sound

MODERATE, HALF = -3.0, -9.0
#: Recordings of each source in each room here; ./warm bench sounds takes more.
EACH = 6
#: Seeds of recordings that no threshold was set by.
HELD_OUT = 700_000
DRIVE = profile("full-size-electric").drive


def judged(source, seed, snr, room, lossy=None):
    wave, fs, _ = recorded(source, seed, snr, room)
    if lossy is None:
        return judge_sound(hear([wave.astype(np.float32)], float(fs)), DRIVE).verdict
    file = io.BytesIO()
    soundfile.write(file, wave, fs, format=lossy[0], subtype=lossy[1])
    file.seek(0)
    return judge_sound(read_recording(file), DRIVE).verdict


def test_a_wheel_on_a_belt_of_its_own_is_found_by_ear():
    """Nobody knows its pulleys: the rate is the sound's own; at moderate loudness, over three ratios."""
    wrong, sure, n = Counter(), 0, 0
    for ratio in (0.8, 1.3, 1.7):
        for source in SOURCES:
            for seed in range(EACH):
                room = Room(fs=16_000, seconds=12, echo_s=0.2, drive=Drive(ratio=ratio))
                wave, fs, _ = recorded(source, 7000 + seed, MODERATE, room)
                found = judge_sound(hear([wave.astype(np.float32)], float(fs)), DRIVE, wheel_known=False).verdict
                n += 1
                wrong[source, found.source] += found.source != source
                sure += found.source != source and found.scores[0][1] > 0.9
    assert wrong.total() <= 0.1 * n and sure <= 0.01 * n, wrong


@pytest.mark.parametrize("usual", ["idler_worn", "roller_flat", "belt_lump"])
def test_what_every_machine_of_a_kind_sounds_like_accuses_none(usual):
    """Beside two healthy ones, what is usual is taken for a fault no more, and what is wrong beside it is found."""
    room = Room(fs=16_000, usual=usual)
    healthy = [dict(judged("nothing_stands_out", HELD_OUT + 90 + i, MODERATE, room).stands) for i in range(2)]
    alone, beside, sure, n = 0, 0, 0, 0
    for source in (source for source in SOURCES if source != usual):
        for i in range(EACH):
            found = judged(source, HELD_OUT + i, MODERATE, room)
            held = found.beside(healthy)
            alone, beside, n = alone + (found.source == source), beside + (held.source == source), n + 1
            sure += held.source != source and held.scores[0][1] > 0.9
    assert alone <= 0.6 * n and beside >= 0.85 * n and sure == 0, (alone, beside, sure, n)


def told(snr, room, each, lossy=None):
    """Share that is right; share that is wrong and over 0.9; what was taken for what."""
    wrong, sure, count = Counter(), 0, each * len(SOURCES)
    for source in SOURCES:
        for i in range(each):
            found = judged(source, HELD_OUT + i, snr, room, lossy)
            if found.source != source:
                wrong[source, found.source] += 1
                sure += found.scores[0][1] > 0.9
    return 1 - wrong.total() / count, sure / count, wrong


#: Each with one thing in it; nothing of a machine is heard above 8 kHz, so most take the least that tells.
ROOMS = {
    "a quiet place": Room(),
    "room echo": Room(fs=16_000, echo_s=0.6),
    "a second machine": Room(fs=16_000, second_machine=True),
    "a phone's automatic gain": Room(fs=16_000, gain_control=True),
    "44.1 kHz": Room(fs=44_100),
    "the plainest faults": Room(fs=16_000, plain=True),
    "white noise": Room(fs=16_000, plain=True, white=True),
    "all at once": Room(fs=44_100, echo_s=0.6, second_machine=True, gain_control=True),
}


@pytest.mark.parametrize("room", ROOMS)
def test_it_is_right_at_moderate_and_at_half_the_signal_and_never_sure_and_wrong(room):
    right, sure_wrong, wrong = told(MODERATE, ROOMS[room], EACH)
    assert right >= 0.95 and sure_wrong <= 0.01, wrong
    right, sure_wrong, wrong = told(HALF, ROOMS[room], EACH)
    assert right >= 0.85 and sure_wrong <= 0.01, wrong


@pytest.mark.parametrize("lossy", [("OGG", "OPUS"), ("OGG", "VORBIS"), ("MP3", "MPEG_LAYER_III")])
def test_a_lossy_recording_is_heard_as_well(lossy):
    right, sure_wrong, wrong = told(MODERATE, Room(), 4, lossy)
    assert right >= 0.95 and sure_wrong <= 0.02, wrong


@pytest.mark.parametrize("name", ["full-size-electric-50hz", "compact-electric-50hz", "full-size-gas"])
def test_each_machine_is_heard_at_its_own_speeds(name):
    known = profile(name).drive
    drive = Drive(
        known.motor_speed_rpm, known.speed_ratio, known.vanes, known.motor_pulley_diameter_m, known.drum_diameter_m,
        known.roller_diameter_m, known.idler_diameter_m, known.belt_length_m,
    )  # fmt: skip
    mains = 50.0 if name.endswith("50hz") else 60.0
    wrong = Counter()
    for source in SOURCES:
        for i in range(4):
            wave, fs, _ = recorded(source, HELD_OUT + i, MODERATE, Room(fs=16_000, drive=drive, mains_hz=mains))
            found = judge_sound(hear([wave.astype(np.float32)], float(fs)), known).verdict.source
            wrong[source, found] += found != source
    assert wrong.total() <= 0.05 * 4 * len(SOURCES), wrong
