"""Pictures from cameras, made safe to keep: type by content, bombs refused, metadata gone."""

import hashlib
import io
import warnings
from dataclasses import dataclass

from django.conf import settings
from django.db.models import Sum
from django.http import Http404
from PIL import Image, ImageOps, UnidentifiedImageError

from config.problems import Problem
from files.models import Picture
from people.may import Member

#: Largest upload, and most pixels a picture may unfold into.
MOST_BYTES = 8_000_000
MOST_PIXELS = 50_000_000
#: Long side and quality of what is kept.
LONG_SIDE, QUALITY = 1600, 82
#: Read by what is in them, whatever they are called.
_KINDS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True, slots=True)
class Made:
    """A picture written anew."""

    data: bytes
    width: int
    height: int


def _no(message: str) -> Problem:
    return Problem(422, "no_picture", message, [{"path": "$", "message": message}])


def made_of(body: bytes) -> Made:
    """Decode, turn upright, shrink, write anew as JPEG. Raises Problem for what is no picture, or too much of one."""
    if len(body) > MOST_BYTES:
        raise Problem(413, "too_large", f"The photo has {len(body) / 1e6:.1f} MB; at most {MOST_BYTES / 1e6:.0f} MB.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow warns of large pictures; the limit below refuses them
            image = Image.open(io.BytesIO(body), formats=_KINDS)
            if image.width * image.height > MOST_PIXELS:
                raise _no(
                    f"The photo unfolds to {image.width * image.height / 1e6:.0f} megapixels; "
                    f"at most {MOST_PIXELS / 1e6:.0f}."
                )
            image.draft("RGB", (LONG_SIDE, LONG_SIDE))  # a JPEG is decoded no larger than it is needed
            upright = ImageOps.exif_transpose(image).convert("RGB")
    except UnidentifiedImageError:
        raise _no("This is no JPEG, PNG or WebP picture; take the photo again or choose another file.") from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, MemoryError, OverflowError, EOFError):
        raise _no("The picture is damaged and cannot be opened; take it again.") from None
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY, optimize=True)
    return Made(out.getvalue(), upright.width, upright.height)


def keep(who: Member, made: Made) -> Picture:
    """Keep a picture for the workshop; the one that is there already where it is the same."""
    sha256 = hashlib.sha256(made.data).hexdigest()
    known = Picture.objects.defer("data").filter(workshop=who.workshop, sha256=sha256).first()
    if known is not None:
        return known
    used = Picture.objects.filter(workshop=who.workshop).aggregate(total=Sum("size"))["total"] or 0
    if used + len(made.data) > settings.QUOTA_BYTES:
        raise Problem(
            413, "quota_full", f"The workshop keeps {used / 1e6:.0f} MB of photos; {settings.QUOTA_BYTES / 1e6:.0f} MB "
            "are the most. Take photos away that are no longer needed, or ask who runs the server for more.",
        )  # fmt: skip
    picture, _ = Picture.objects.get_or_create(
        workshop=who.workshop, sha256=sha256,
        defaults={"data": made.data, "size": len(made.data), "width": made.width, "height": made.height},
    )  # fmt: skip
    return picture


def picture_of(who: Member, sha256: str) -> Picture:
    """A picture of the workshop, or 404."""
    picture = Picture.objects.filter(workshop=who.workshop, sha256=sha256).first()
    if picture is None:
        raise Http404
    return picture
