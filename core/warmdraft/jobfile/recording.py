"""A recording: a WAV, or what else a phone brings, read block by block."""

from __future__ import annotations

from collections.abc import Iterator
from typing import BinaryIO

import numpy as np
import soundfile

from warmdraft.errors import DocumentError
from warmdraft.sound.hear import SILENT, Heard, Samples, hear

#: A recording is at least and at most this long, s, and sampled within this, Hz.
SECONDS, RATE_HZ = (3.0, 600.0), (4000, 96_000)
_BLOCK = 1 << 18
_WANTED = "give a WAV (PCM or float, mono or stereo, 4 to 96 kHz, 3 s to 10 min)"


def read_recording(stream: BinaryIO) -> Heard:
    """What is heard in a file, read block by block. Raises DocumentError: no sound file, too short or long, silent."""
    try:
        file = soundfile.SoundFile(stream)
    except soundfile.LibsndfileError:
        raise DocumentError("$", f"this is no sound file that can be read; {_WANTED}") from None
    with file:
        if file.channels > 2:
            raise DocumentError("$", f"the recording has {file.channels} channels; {_WANTED}")
        if not RATE_HZ[0] <= file.samplerate <= RATE_HZ[1]:
            raise DocumentError("$", f"the recording is sampled at {file.samplerate} Hz; {_WANTED}")
        seconds = file.frames / file.samplerate
        if not SECONDS[0] <= seconds <= SECONDS[1]:
            raise DocumentError(
                "$", f"the recording is {seconds:.1f} s long; {_WANTED}; ten to twenty seconds are best"
            )
        heard = hear(_mono(file), float(file.samplerate))
    if heard.seconds < SECONDS[0]:
        raise DocumentError("$", f"the file ends after {heard.seconds:.1f} s, before its own end; record it again")
    if not heard.level > SILENT:
        raise DocumentError("$", "the recording is silent; is the microphone allowed and uncovered? Record it again")
    return heard


def _mono(file: soundfile.SoundFile) -> Iterator[Samples]:
    while True:
        try:
            block = file.read(_BLOCK, dtype="float32", always_2d=True)
        except soundfile.LibsndfileError:  # cut off within a compressed block: what there is counts
            return
        if not len(block):
            return
        if not np.isfinite(block).all():
            raise DocumentError("$", f"the recording holds samples that are no numbers; {_WANTED}")
        yield np.ascontiguousarray(block.mean(axis=1))
