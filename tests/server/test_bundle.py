"""A whole job out as a ZIP of plain files, and in again: photos, recordings, ids included; a bad one brings nothing."""

import hashlib
import io
import json
import uuid
import zipfile

import numpy as np
import pytest
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from tests.server.factories import AT, a_technician, measured, to_the_end

from files.models import Recording
from jobs.models import Job, Photo, Reading, Sound
from reports.models import Record
from reports.paper import make_print

pytestmark = pytest.mark.django_db


def picture():
    out = io.BytesIO()
    Image.new("RGB", (64, 48), (200, 80, 30)).save(out, "JPEG")
    return out.getvalue()


def recording():
    out = io.BytesIO()
    wave = 0.1 * np.sin(2 * np.pi * 180 * np.arange(8000 * 4) / 8000)
    soundfile.write(out, wave, 8000, format="WAV")
    return out.getvalue()


def attached(technician, job):
    """A photo on the record and a recording; their ids."""
    photo, sound = str(uuid.uuid4()), str(uuid.uuid4())
    put = technician.client.put
    query = f"at={AT.replace('+', '%2B')}"
    assert put(f"/api/v1/jobs/{job}/photos/{photo}?{query}", picture(), content_type="image/jpeg").status_code == 200
    answer = put(f"/api/v1/jobs/{job}/sounds/{sound}?{query}&part=front", recording(), content_type="audio/wav")
    assert answer.status_code == 200, answer.content
    note = {"on_record": True, "wires": [], "at": AT}
    assert technician.put(f"/jobs/{job}/photos/{photo}/notes/{uuid.uuid4()}", note).status_code == 200
    return photo, sound


def sent(technician, data):
    return technician.client.post("/api/v1/jobs/bundle", {"file": SimpleUploadedFile("job.zip", data)})


def packed(files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, data in files.items():
            made.writestr(name, data)
    return out.getvalue()


def opened(data):
    with zipfile.ZipFile(io.BytesIO(data)) as made:
        return {name: made.read(name) for name in made.namelist()}


@pytest.fixture
def whole():
    """A technician, and a job with all that can hang on one; the ZIP of it."""
    technician = a_technician()
    job, _ = to_the_end(technician)
    photo, sound = attached(technician, job)
    record = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).json()
    make_print(record["id"], "en", "A4")
    return technician, job, photo, sound, technician.get(f"/jobs/{job}/bundle").content


def test_it_is_plain_files_whose_sums_are_right(whole):
    _, job, _, _, data = whole
    files = opened(data)
    assert json.loads(files["job.json"])["format"] == "warm-draft/job"
    assert files["records/edition-1-en-A4.pdf"].startswith(b"%PDF-")
    assert json.loads(files["records/edition-1.json"])["job"] == job
    assert files["readings.csv"].decode().splitlines()[0] == "time,kind,value,unit,phase"
    assert sum(name.startswith(("photos/", "sounds/")) for name in files) == 2
    for line in files["SHA256SUMS"].decode().splitlines():
        told, name = line.split("  ", 1)
        assert hashlib.sha256(files[name]).hexdigest() == told


def test_in_again_it_is_the_same_job_with_its_photos_and_recordings(whole):
    technician, job, photo, sound, data = whole
    other = a_technician()
    # another workshop has none of its ids: there it is a job of its own only where they are free
    assert sent(other, data).status_code == 404
    Record.objects.all().delete()
    Sound.objects.all().delete()
    Photo.objects.all().delete()
    Recording.objects.all().delete()
    Reading.objects.update(supersedes=None)
    Job.objects.all().delete()
    answer = sent(technician, data)
    assert answer.status_code == 200, answer.content
    back = answer.json()
    assert back["id"] == job
    assert [row["id"] for row in back["photos"]] == [photo]
    assert back["photos"][0]["on_record"]
    assert Sound.objects.get(id=sound).recording is not None
    assert sent(technician, data).json()["id"] == job  # twice is once
    assert Photo.objects.count() == 1


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda files: b"PK nothing", "no ZIP of a job"),
        (lambda files: packed({name: data for name, data in files.items() if name != "job.json"}), "no job.json"),
        (lambda files: packed(files | {"job.json": files["job.json"] + b" "}), "not what it was"),
        (lambda files: packed(files | {"attachments.json": b"{}", "SHA256SUMS": b""}), "attachments.json"),
        (lambda files: packed(files | {f"x{k}": b"" for k in range(600)}), "more than 500 files"),
        (lambda files: packed(files | {"big": bytes(10_000_000)}), "more than 9 MB"),
    ],
)
def test_a_bad_one_is_refused_with_what_is_wrong_and_brings_nothing(spoil, says):
    technician = a_technician()
    job, _ = measured(technician)
    files = opened(technician.get(f"/jobs/{job}/bundle").content)
    before = Job.objects.count()
    refused = sent(technician, spoil(files))
    assert refused.status_code == 422
    assert says in refused.json()["message"]
    assert Job.objects.count() == before


def test_a_trainee_brings_none_in():
    lead = a_technician("lead")
    job, _ = measured(lead)
    data = lead.get(f"/jobs/{job}/bundle").content
    assert sent(a_technician("trainee", lead.workshop), data).status_code == 403
