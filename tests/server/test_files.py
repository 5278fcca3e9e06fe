"""Photos: whatever comes in, what is kept is small, upright, of the workshop, and holds nothing but the picture."""

import io
import re
import struct
import uuid
import zlib
from datetime import timedelta

import pytest
from django.utils import timezone
from PIL import Image
from tests.server.factories import AT, a_technician

from files.models import Picture
from jobs.models import Photo
from jobs.tasks import sweep
from people.models import Role

pytestmark = pytest.mark.django_db


def picture(width=400, height=300, kind="JPEG", **more) -> bytes:
    out = io.BytesIO()
    Image.radial_gradient("L").resize((width, height)).convert("RGB").save(out, kind, **more)
    return out.getvalue()


def from_a_camera() -> bytes:
    """Turned on its side, with a name in its notes."""
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "Maker of cameras"
    return picture(exif=exif)


def png_that_unfolds(width: int, height: int) -> bytes:
    """A small file that says it is a huge picture."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    rows = zlib.compress(b"\0" * 4096)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def adds(who, job, body, photo=None, **query):
    given = "&".join(f"{k}={v}" for k, v in ({"at": AT.replace("+", "%2B")} | query).items())
    path = f"/api/v1/jobs/{job}/photos/{photo or uuid.uuid4()}?{given}"
    return who.client.put(path, body, content_type="image/jpeg")


def served(who, url):
    answer = who.client.get(url)
    return answer, b"".join(answer.streaming_content) if answer.status_code == 200 else b""


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photo_is_kept_small_and_streamed(kind):
    who = a_technician()
    job, photo, body = who.opens(), str(uuid.uuid4()), picture(3200, 1600, kind)
    (row,) = adds(who, job, body, photo, step="open.rear_panel").json()["photos"]
    assert (row["width"], row["height"], row["step"]) == (1600, 800, "open.rear_panel")
    answer, data = served(who, row["url"])
    assert answer["Content-Type"] == "image/jpeg" and "immutable" in answer["Cache-Control"]
    assert Image.open(io.BytesIO(data)).size == (1600, 800) and len(data) == int(answer["Content-Length"])
    assert adds(who, job, body, photo, step="open.rear_panel").status_code == 200  # a repeated write
    assert adds(who, job, picture(30, 30), photo, step="open.rear_panel").status_code == 409
    before = Picture.objects.count()
    adds(who, job, body)  # the same picture of something else: another photo, the same picture
    assert (Photo.objects.count(), Picture.objects.count()) == (2, before)


def test_the_cameras_notes_are_gone_and_the_picture_stands_upright():
    who = a_technician()
    (row,) = adds(who, who.opens(), from_a_camera()).json()["photos"]
    assert (row["width"], row["height"]) == (300, 400)
    _, data = served(who, row["url"])
    assert not Image.open(io.BytesIO(data)).getexif() and b"Maker of cameras" not in data


def test_a_photo_is_of_its_workshop_and_can_be_taken_back():
    who, stranger = a_technician(), a_technician()
    job = who.opens()
    (row,) = adds(who, job, picture()).json()["photos"]
    assert served(stranger, row["url"])[0].status_code == 404
    assert adds(stranger, job, picture()).status_code == 404
    taken = who.put(f"/jobs/{job}/facts/{row['id']}/withdrawn", {"withdrawn": True, "at": AT}).json()
    assert taken["photos"] == [] and Photo.objects.count() == 1


def test_a_photo_is_chosen_for_the_record_its_wires_marked_and_the_record_keeps_it():
    who, stranger = a_technician(role=Role.LEAD), a_technician()
    job = who.opens()
    (row,) = adds(who, job, picture(), step="open.rear_panel").json()["photos"]
    assert (row["on_record"], row["wires"]) == (False, [])
    note, other = f"/jobs/{job}/photos/{row['id']}/notes/{uuid.uuid4()}", f"/jobs/{job}/photos/{row['id']}/notes"
    said = {"on_record": True, "wires": [{"key": "thermal_fuse · lug", "x": 0.25, "y": 1.0}], "at": AT}
    for _ in range(2):  # a repeated write
        (now,) = who.put(note, said).json()["photos"]
        assert now["on_record"] and now["wires"] == said["wires"]
    assert stranger.put(f"{other}/{uuid.uuid4()}", said).status_code == 404
    for path, bad in (
        ("$.wires[1].key", said["wires"] * 2),
        ("$.wires[0].x", [{"key": "a", "x": 1.2, "y": 0}]),
        ("$.wires[0].key", [{"key": "", "x": 0, "y": 0}]),
    ):
        refused = who.put(f"{other}/{uuid.uuid4()}", said | {"wires": bad})
        assert refused.status_code == 422 and refused.json()["fields"][0]["path"] == path, refused.content
    record = who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"override": "sold", "at": AT}).json()
    (kept,) = record["snapshot"]["photos"]
    assert (kept["url"], kept["wires"][0]["x"], kept["by"]) == (row["url"], 0.25, row["by"])
    texts = [happened["text"] for happened in who.get(f"/jobs/{job}/history").json()]
    assert "put a photo on the record" in texts
    # opened again and left out: the first edition keeps its photo, the sweep leaves it
    who.put(f"/jobs/{job}/editions/{uuid.uuid4()}", {"why": "a word was wrong", "at": AT})
    left = who.put(f"{other}/{uuid.uuid4()}", said | {"on_record": False}).json()
    assert not left["photos"][0]["on_record"]
    who.put(f"/jobs/{job}/facts/{row['id']}/withdrawn", {"withdrawn": True, "at": AT})
    Photo.objects.update(withdrawn_at=timezone.now() - timedelta(days=3))
    Picture.objects.update(created_at=timezone.now() - timedelta(days=3))
    sweep(0)
    assert who.get(f"/jobs/{job}/record").json()["snapshot"]["photos"] == [kept]
    assert served(who, kept["url"])[0].status_code == 200
    assert who.put(f"{other}/{uuid.uuid4()}", said).status_code == 404  # what was taken back says nothing more


HOSTILE = {
    "nothing": b"",
    "text": b"<html><script>alert(1)</script>",
    "a picture that is a page": b"GIF89a<script>alert(1)</script>",
    "svg with a script": b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
    "cut off": picture()[:200],
    "head only": b"\xff\xd8\xff\xe0",
    "a bomb": png_that_unfolds(60_000, 60_000),
    "a wide bomb": png_that_unfolds(2_000_000_000, 1),
    "no width": png_that_unfolds(0, 10),
    "rows missing": png_that_unfolds(3000, 3000),
    "a gif": picture(kind="GIF"),
    "a bmp": picture(kind="BMP"),
    "a tiff": picture(kind="TIFF"),
    "an icon": picture(64, 64, kind="ICO"),
    "postscript": b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\nquit",
    "pdf": b"%PDF-1.7\n1 0 obj<</Type/Catalog>>endobj",
    "zip": b"PK\x03\x04" + b"\0" * 64,
    "elf": b"\x7fELF" + b"\0" * 64,
    "webp with nothing": b"RIFF\x10\0\0\0WEBPVP8 \0\0\0\0",
    "noise": bytes(range(256)) * 40,
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_is_no_picture_is_refused_in_words(name):
    who = a_technician()
    answer = adds(who, who.opens(), HOSTILE[name])
    assert answer.status_code == 422 and answer.json()["code"] == "no_picture", answer.content
    assert not Picture.objects.exists()


@pytest.mark.parametrize("megabytes", [8.5, 12])
def test_a_photo_that_is_too_large_is_refused_with_the_limit(megabytes):
    who = a_technician()
    answer = adds(who, who.opens(), b"\xff\xd8" + b"\0" * int(megabytes * 1e6))
    assert answer.status_code == 413 and re.search("[89] MB, which is|at most 8 MB", answer.json()["message"])


def test_a_full_workshop_says_so(settings):
    settings.QUOTA_BYTES = 20_000
    who = a_technician()
    job = who.opens()
    assert adds(who, job, picture(200, 150)).status_code == 200
    answer = adds(who, job, picture(1600, 1600, quality=95))
    assert answer.status_code == 413 and answer.json()["code"] == "quota_full"
    assert Photo.objects.count() == 1
