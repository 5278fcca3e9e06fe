"""Recordings of a running machine: known by what is in them, listened to by a process of its own.

What a file holds may make a decoder stumble, or take minutes: it meets limits of time there and takes nobody along.
"""

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

import warmdraft
from files.kept import keep_once
from files.models import Recording
from people.may import Member
from shared.problems import ApiError
from shared.slots import CORES, Slots

#: Largest upload: a minute and a half at 48 kHz.
MOST_BYTES = 8_500_000
#: Longest that listening may take, s.
MOST_SECONDS = 120
#: Recordings listened to at once by this process.
listening = Slots(
    max(1, CORES // 2), 20.0, "Many recordings are listened to at this moment; try again in a little while."
)
#: How kinds of files begin, and what a browser is told they are.
_BEGIN = ((b"RIFF", "audio/wav"), (b"fLaC", "audio/flac"), (b"OggS", "audio/ogg"), (b"ID3", "audio/mpeg"),
          (b"\xff\xfb", "audio/mpeg"), (b"\xff\xf3", "audio/mpeg"))  # fmt: skip
_NO_SOUND = "This is no sound file that can be read; record it here, or choose a WAV, FLAC, OGG or MP3."


#: All that the process knows of where it runs.
_ALONE = {"PATH": os.environ.get("PATH", ""), "PYTHONPATH": str(Path(warmdraft.__file__).resolve().parent.parent),
          "OPENBLAS_NUM_THREADS": "1"}  # fmt: skip


class Unheard(Exception):
    """Nothing can be heard in a file; the sentence says why, and what to do."""


def _media_type(body: bytes) -> str:
    kind = next((kind for begin, kind in _BEGIN if body.startswith(begin)), None)
    if kind is None or (kind == "audio/wav" and body[8:12] != b"WAVE"):
        raise ApiError(422, "no_sound", _NO_SOUND, [{"path": "$", "message": _NO_SOUND}])
    return kind


def keep(who: Member, body: bytes) -> Recording:
    """Keep a recording for the workshop; the one that is there already where it is the same. Raises ApiError."""
    if len(body) > MOST_BYTES:
        raise ApiError(
            413, "too_large", f"The recording has {len(body) / 1e6:.1f} MB; at most {MOST_BYTES / 1e6:.1f} MB. Ten to "
            "twenty seconds are enough.",
        )  # fmt: skip
    kind = _media_type(body)
    return keep_once(who, Recording, body, media_type=kind)


def listen(data: bytes, job: dict[str, Any]) -> dict[str, Any]:
    """What the core tells of a recording of this job's machine, its curves among it. Raises Unheard."""
    with tempfile.NamedTemporaryFile("w", suffix=".json") as machine:
        json.dump(job, machine)
        machine.flush()
        asked = [sys.executable, "-m", "warmdraft", "sound", "--curves", "--machine", machine.name, "-"]
        try:
            done = subprocess.run(asked, input=data, capture_output=True, timeout=MOST_SECONDS, env=_ALONE)
        except subprocess.TimeoutExpired:
            raise Unheard("The recording takes too long to listen to; give a shorter one.") from None
    if done.returncode == 0:
        answer: dict[str, Any] = json.loads(done.stdout)
        return answer
    said = done.stderr.decode("utf-8", "replace").strip().rpartition("$: ")[2]
    raise Unheard(said[:1].upper() + said[1:] + "." if done.returncode == 2 and said else _NO_SOUND)
