"""Nothing starves the rest: pictures, layouts, instruments, streams, what is kept have an end in memory and time."""

import io
import re
import resource
import threading
import time
import uuid
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import connection
from django.utils import timezone
from PIL import Image
from tests.core.test_limits import tangled
from tests.server.factories import a_technician
from tests.server.test_files import adds, picture, png_that_unfolds, served
from tests.server.test_people import entered

from files import pictures
from files.models import Picture
from instruments import asked
from instruments.asked import Asked
from instruments.scpi import Instrument, InstrumentTrouble, LiveReading
from jobs.answer import kept
from jobs.answer.kept import Kept
from jobs.live import streams
from jobs.models import Log, Photo
from jobs.tasks import A_DAY, sweep
from shared import slots
from warmdraft.teardown import layout_document

pytestmark = pytest.mark.django_db


def flat_webp(side: int) -> bytes:
    """A few bytes that unfold into a picture of one colour."""
    out = io.BytesIO()
    Image.new("RGB", (side, side), (9, 9, 9)).save(out, "WEBP", lossless=True, quality=0, method=0)
    return out.getvalue()


def with_scans(scans: int) -> bytes:
    """A JPEG whose first scan is written again and again."""
    whole = picture(progressive=True)
    start = whole.index(b"\xff\xda")
    return whole[:start] + whole[start:-2] * scans + whole[-2:]


@pytest.mark.parametrize(
    ("body", "said"),
    [
        (flat_webp(5_000), "megapixels"),
        (png_that_unfolds(1, 50_000_000), "megapixels"),
        (png_that_unfolds(7_071, 7_071), "megapixels"),
        (picture(12_400, 8), "megapixels"),
        (with_scans(70), "scans"),
        (b"\xff\xd8\xff" + b"\0" * 1_000, "no JPEG, PNG or WebP|damaged"),
    ],
)
def test_what_unfolds_beyond_any_need_is_refused_in_little_memory(body, said):
    who = a_technician()
    job = who.opens()
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    answered = adds(who, job, body)
    assert answered.status_code == 422 and re.search(said, answered.json()["message"]), answered.content
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 50_000  # kB: it was drawn elsewhere
    assert not Picture.objects.exists()


def test_a_picture_that_takes_too_much_takes_nobody_along(monkeypatch):
    """The process that draws dies of its own limits; the request says so."""
    monkeypatch.setattr(pictures.sys, "executable", "/bin/false")
    who = a_technician()
    answered = adds(who, who.opens(), picture())
    assert answered.status_code == 422 and "too much memory or time" in answered.json()["message"]


def test_pictures_wait_for_a_slot_and_are_told_when_there_is_none(monkeypatch):
    monkeypatch.setattr(pictures.drawing, "patience_s", 0.05)
    monkeypatch.setattr(pictures.drawing, "free", threading.BoundedSemaphore(1))
    who = a_technician()
    job = who.opens()
    with pictures.drawing.free:
        answered = adds(who, job, picture())
    assert answered.status_code == 503 and answered.headers["Retry-After"]
    assert adds(who, job, picture()).status_code == 200


def test_nothing_of_a_cameras_words_survives():
    exif = Image.Exif()
    exif[0x010F] = "Maker of cameras"
    body = picture(comment=b"taken at 2 Ness Lane", exif=exif)
    assert b"2 Ness Lane" in body
    who = a_technician()
    url = adds(who, who.opens(), body).json()["photos"][0]["url"]
    _, data = served(who, url)
    assert (
        b"Ness" not in data and b"Maker" not in data and Image.open(io.BytesIO(data)).info.get("comment") in (None, b"")
    )


def test_photos_that_are_taken_away_make_room_at_once_and_are_gone_after_a_day(settings):
    who = a_technician()
    job, first = who.opens(), str(uuid.uuid4())
    size = len(served(who, adds(who, job, picture(800, 600), first).json()["photos"][0]["url"])[1])
    settings.QUOTA_BYTES = size + 5_000
    other = picture(900, 500)
    assert adds(who, job, other).json()["code"] == "quota_full"
    who.put(f"/jobs/{job}/facts/{first}/withdrawn", {"withdrawn": True, "at": "2026-11-25T09:00:00Z"})
    assert adds(who, job, other).status_code == 200
    sweep(0)
    assert Photo.objects.count() == 2  # it can still be put back
    Photo.objects.filter(withdrawn=True).update(withdrawn_at=timezone.now() - A_DAY)
    Picture.objects.update(created_at=timezone.now() - 2 * A_DAY)
    sweep(0)
    assert Photo.objects.count() == Picture.objects.count() == 1


def test_a_tangled_layout_is_refused_in_seconds_and_a_plain_one_planned_once(monkeypatch):
    who = a_technician()
    refused = who.put(f"/layouts/{uuid.uuid4()}", {"document": tangled(160)})
    assert refused.status_code == 422 and "no quickest way is found" in refused.json()["message"]
    assert who.put(f"/layouts/{uuid.uuid4()}", {"document": layout_document("two_motors")}).status_code == 200
    too_many = who.put(f"/layouts/{uuid.uuid4()}", {"document": tangled(201)})
    assert too_many.status_code == 422 and "at most 200" in too_many.json()["message"]


def test_work_has_slots_gives_its_connection_back_and_says_when_it_is_busy(monkeypatch):
    told = []
    monkeypatch.setattr(slots, "give_connection_back", lambda: told.append("given back"))
    monkeypatch.setattr(slots.working, "patience_s", 0.05)
    monkeypatch.setattr(slots.working, "free", threading.BoundedSemaphore(1))
    who = a_technician()
    job = who.opens()
    with slots.working.free:
        for path in (f"/jobs/{job}/heat", f"/jobs/{job}/ways"):
            busy = who.get(path)
            assert busy.status_code == 503 and busy.json()["code"] == "busy", path
    assert who.get(f"/jobs/{job}/heat").status_code == 200 and "given back" in told


# -- instruments


METER = Instrument("clamp_meter", "clamp_meter", "10.0.0.9", 1, ("heater_current",))


@pytest.fixture
def instruments(monkeypatch):
    """Instruments asked in the background, all at their quickest; what was asked of them."""
    monkeypatch.setattr(asked, "EVERY", 0.05)
    monkeypatch.setattr(asked, "WANTED_FOR", 0.3)
    questions = []

    def answers(said):
        def read(instrument, kind):
            questions.append(kind)
            return said(instrument, kind)

        monkeypatch.setattr(asked, "read", read)
        return Asked()

    return answers, questions


def test_a_hundred_panels_ask_an_instrument_once_a_second(instruments, monkeypatch):
    answers, questions = instruments
    monkeypatch.setattr(asked, "MOST_WAITING", 200)
    shown = answers(lambda _, kind: time.sleep(0.02) or LiveReading(kind, 21.5, None))
    began = time.monotonic()
    with ThreadPoolExecutor(50) as pool:
        told = list(pool.map(lambda _: shown.latest(METER, "heater_current").value, range(100)))
    # once each 0.05 s while it lasted, whoever asked
    assert told == [21.5] * 100 and len(questions) <= (time.monotonic() - began) / 0.05 + 2
    time.sleep(0.5)
    asked_by_then = len(questions)
    time.sleep(0.3)
    assert len(questions) == asked_by_then  # nobody wants to know any more


def test_a_dead_instrument_costs_its_first_asker_alone(instruments, monkeypatch):
    answers, _ = instruments
    monkeypatch.setattr(asked, "MOST_WAITING", 1)
    silent = threading.Event()

    def dead(*_):
        silent.wait(10)
        raise InstrumentTrouble("The clamp meter does not answer: is it on, and its cable in?")

    shown = answers(dead)
    with ThreadPoolExecutor(6) as pool:
        told = [pool.submit(shown.latest, METER, "heater_current") for _ in range(6)]
        ends = time.monotonic() + 3
        while (busy := sum(future.done() for future in told)) < 5 and time.monotonic() < ends:
            time.sleep(0.05)
        silent.set()
        kinds = [type(future.exception()).__name__ for future in told]
    assert busy == 5 and sorted(kinds) == ["ApiError"] * 5 + ["InstrumentTrouble"]
    with pytest.raises(InstrumentTrouble, match="is it on"):
        shown.latest(METER, "heater_current")  # at once, from what it last said


def test_a_librarys_own_error_ends_no_thread(instruments):
    answers, _ = instruments
    shown = answers(lambda *_: 1 / 0)
    for _ in range(2):
        with pytest.raises(InstrumentTrouble, match="ZeroDivisionError"):
            shown.latest(METER, "heater_current")


# -- streams


@pytest.fixture
def ears(monkeypatch):
    mine = streams._Ears()
    monkeypatch.setattr(streams, "ears", mine)
    monkeypatch.setattr(mine, "_listen", lambda: None)
    yield mine
    mine.stop()


def test_one_person_holds_three_streams_and_others_get_theirs(ears):
    trainee, other = a_technician("trainee"), a_technician()
    job, theirs = trainee.opens(), other.opens()
    held = [trainee.get(f"/jobs/{job}/live") for _ in range(4)]
    assert [row.status_code for row in held] == [200, 200, 200, 503]
    assert other.get(f"/jobs/{theirs}/live").status_code == 200
    ears.leave(uuid.UUID(job), trainee.person.id, next(iter(ears.of_person[str(trainee.person.id)])))
    assert trainee.get(f"/jobs/{job}/live").status_code == 200


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("how", ["signed out", "ended elsewhere", "taken out"])
def test_a_stream_ends_with_its_sitting(how):
    lead = a_technician("lead")
    person = a_technician("technician", lead.workshop).person
    (client, _), (other, _) = entered(person.email), entered(person.email)
    job = lead.opens()
    stream = client.get(f"/api/v1/jobs/{job}/live")
    told = []

    def follow():
        told.extend(stream.streaming_content)
        connection.close()

    thread = threading.Thread(target=follow)
    thread.start()
    time.sleep(1.0)
    began = time.monotonic()
    match how:
        case "signed out":
            assert client.delete("/api/v1/session").status_code == 204
        case "ended elsewhere":
            row = next(row for row in other.get("/api/v1/me/sittings").json() if not row["this_one"])
            assert other.delete(f"/api/v1/me/sittings/{row['id']}").status_code == 204
        case _:
            lead.client.delete(f"/api/v1/people/{person.id}/membership")
    thread.join(timeout=streams.SIGN_OF_LIFE + 5)
    assert not thread.is_alive() and told
    if how != "taken out":  # that is seen at the next sign of life
        assert time.monotonic() - began < streams.SIGN_OF_LIFE - 1
    streams.ears.stop()
    streams.ears.stopping.clear()


# -- what is kept


def test_kept_answers_have_a_size_and_the_longest_unused_go_first():
    kept = Kept(1_000)
    for name in "abcd":
        kept.put(name, b"x" * 240)
    assert kept.get("a") is not None
    kept.put("e", b"x" * 240)
    assert kept.get("b") is None and kept.get("a") is not None and kept.bytes == 960
    kept.put("huge", b"x" * 900)
    assert kept.get("huge") is None and kept.bytes == 960
    kept.put("a", b"x" * 10)
    assert kept.bytes == 730


def test_a_log_stands_once_and_its_happening_says_only_how_long_it_ran():
    who = a_technician()
    job = who.opens()
    body = {"kind": "hood_flow", "unit": "cfm", "minutes": [i / 10 for i in range(5_000)], "values": [90.0] * 5_000,
            "at": "2026-11-25T09:00:00Z"}  # fmt: skip
    assert who.put(f"/jobs/{job}/logs/{uuid.uuid4()}", body).status_code == 200
    told = who.get(f"/jobs/{job}/history")
    assert len(told.content) < 4_000 and told.json()[-1]["text"].endswith("over 500 min")
    assert len(Log.objects.get().values) == 5_000
    assert kept._kept.bytes <= kept.MOST_BYTES
