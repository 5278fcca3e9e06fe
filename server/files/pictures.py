"""Pictures from cameras, made safe to keep: type by content, bombs refused, metadata gone."""

import os
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

from files.kept import keep_once
from files.models import Picture
from files.redraw import MOST_PIXELS, MOST_SCANS, MOST_SECONDS, MOST_SIDE, REASONS
from people.may import Member
from shared.problems import ApiError
from shared.slots import CORES, Slots

#: Largest upload.
MOST_BYTES = 8_000_000
#: Pictures drawn at once by this process.
drawing = Slots(max(1, CORES // 2), 20.0, "Many photos come in at this moment; try again in a little while.")

_SENTENCES = {
    "no_picture": "This is no JPEG, PNG or WebP picture; take the photo again or choose another file.",
    "damaged": "The picture is damaged and cannot be opened; take it again.",
    "too_many_pixels": f"The photo unfolds to more than {MOST_PIXELS / 1e6:.0f} megapixels or {MOST_SIDE} on a side, "
    "which is the most; make it smaller.",
    "too_many_scans": f"The photo is written in more than {MOST_SCANS} scans; save it as a plain JPEG.",
    "too_costly": "The picture takes too much memory or time to open; save it as a plain JPEG.",
}


@dataclass(frozen=True, slots=True)
class Made:
    """A picture written anew."""

    data: bytes
    width: int
    height: int


def _no(message: str) -> ApiError:
    return ApiError(422, "no_picture", message, [{"path": "$", "message": message}])


def made_of(body: bytes) -> Made:
    """Have a picture drawn anew by a process of its own. Raises ApiError for what is no picture, or too much of one."""
    if len(body) > MOST_BYTES:
        raise ApiError(413, "too_large", f"The photo has {len(body) / 1e6:.1f} MB; at most {MOST_BYTES / 1e6:.0f} MB.")
    try:
        with drawing:
            done = subprocess.run(
                [sys.executable, "-m", "files.redraw"], input=body, capture_output=True, timeout=3 * MOST_SECONDS,
                cwd=Path(__file__).resolve().parent.parent, env={"PATH": os.environ.get("PATH", "")},
            )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise _no(_SENTENCES["too_costly"]) from None
    if done.returncode:
        raise _no(_SENTENCES[REASONS.get(done.returncode, "too_costly")])
    size, _, data = done.stdout.partition(b"\n")
    width, height = map(int, size.split())
    return Made(data, width, height)


def keep(who: Member, made: Made) -> Picture:
    """Keep a picture for the workshop; the one that is there already where it is the same."""
    return keep_once(who, Picture, made.data, width=made.width, height=made.height)
