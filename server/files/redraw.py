"""Draws a picture anew, in a process of its own: `python -m files.redraw`, the upload on standard input.

A few bytes can unfold into gigabytes, or take minutes: here they meet limits of memory and time and take nobody along.
Prints width and height on a line, then the JPEG; or exits with a reason of REASONS. Needs Pillow alone.
"""

import contextlib
import io
import resource
import sys
import warnings

#: Most pixels, and most on a side, that a picture may unfold into: the client shrinks to a tenth of it.
MOST_PIXELS, MOST_SIDE = 16_000_000, 12_000
#: Scans of a progressive JPEG: usual are about ten; each costs as much as a picture of its own.
MOST_SCANS = 64
#: Memory of this process, bytes, and its time on a core, s.
MOST_MEMORY, MOST_SECONDS = 700_000_000, 10
#: Long side and quality of what is kept.
LONG_SIDE, QUALITY = 1600, 82
#: Read by what is in them, whatever they are called.
_KINDS = ("JPEG", "PNG", "WEBP")

#: Exit codes and what they mean.
REASONS = {3: "no_picture", 4: "damaged", 5: "too_many_pixels", 6: "too_many_scans"}
_CODES = {reason: code for code, reason in REASONS.items()}


class _No(Exception):
    pass


def redrawn(body: bytes) -> tuple[int, int, bytes]:
    """Decode, turn upright, shrink, write anew as JPEG without a word of the old file; width, height, bytes."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    warnings.simplefilter("ignore")  # Pillow warns of large pictures; the limits refuse them
    try:
        image = Image.open(io.BytesIO(body), formats=_KINDS)
        if image.width * image.height > MOST_PIXELS or max(image.size) > MOST_SIDE:
            raise _No("too_many_pixels")
        if image.format == "JPEG" and body.count(b"\xff\xda") > MOST_SCANS:  # start of scan, never within one
            raise _No("too_many_scans")
        image.draft("RGB", (LONG_SIDE, LONG_SIDE))  # a JPEG is decoded no larger than it is needed
        upright = ImageOps.exif_transpose(image).convert("RGB")
    except UnidentifiedImageError:
        raise _No("no_picture") from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, MemoryError, OverflowError, EOFError):
        raise _No("damaged") from None
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    out = io.BytesIO()
    upright.info.clear()
    upright.save(out, "JPEG", quality=QUALITY, optimize=True, comment=b"", exif=b"", icc_profile=None)
    return upright.width, upright.height, out.getvalue()


def main() -> int:
    """Read, draw, write."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_SECONDS, MOST_SECONDS))
    try:
        width, height, data = redrawn(sys.stdin.buffer.read())
    except _No as no:
        return _CODES[str(no)]
    with contextlib.suppress(BrokenPipeError):
        sys.stdout.buffer.write(b"%d %d\n" % (width, height) + data)
    return 0


if __name__ == "__main__":
    sys.exit(main())
