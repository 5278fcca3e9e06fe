"""A whole workshop out and in again, hashes and all; and deleted for good, with a receipt."""

import hashlib
import io
import json
import uuid
import zipfile
from datetime import timedelta

import pytest
from django.core import mail
from django.utils import timezone
from tests.server.factories import AT, a_technician, to_the_end
from tests.server.test_bundle import picture
from tests.server.test_day import a_day, planned

from jobs.models import Happening, Job, Photo, Reading, Summary
from people.models import Act, Membership, Person, Role, Workshop
from reports.models import Record
from warmdraft.errors import DocumentError
from whole import leaving
from whole.bring import bring_in
from whole.models import KeptRecord, Leaving, Receipt
from whole.out import MANIFEST, write_out
from whole.rows import LEFT_BEHIND, models_of_workshops, rows_of, taken_out, way_to_workshop

pytestmark = pytest.mark.django_db
PASSWORD = "a long password"


def a_workshop():
    """A lead with a day that is planned, a job that is handed over, and a drill."""
    who, _, _ = a_day()
    planned(who)
    job, _ = to_the_end(who)
    photo = f"/api/v1/jobs/{job}/photos/{uuid.uuid4()}?at=2026-11-25T09:00:00Z"
    assert who.client.put(photo, picture(), content_type="image/jpeg").status_code == 200
    assert who.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT}).status_code == 200
    assert who.put(f"/drills/{uuid.uuid4()}", {"case": "moved_in_spring"}).status_code == 200
    return who, job


def out_of(who):
    target = io.BytesIO()
    write_out(who.workshop, target)
    return target.getvalue()


def gone(who):
    """Asked for, waited for, done."""
    asked = {"name": who.workshop.name, "password": PASSWORD, "keep_years": 10}
    assert who.put("/workshop/leaving", asked).status_code == 200
    Leaving.objects.update(due_at=timezone.now() - timedelta(minutes=1))
    return leaving.delete_due()


def changed(data, name, change):
    """A ZIP with one of its files changed, and its hash as if nothing had been."""
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        files = {info.filename: packed.read(info) for info in packed.infolist()}
    files[name] = change(files[name])
    manifest = json.loads(files[MANIFEST])
    if name in manifest.get("sha256", {}):
        manifest["sha256"][name] = hashlib.sha256(files[name]).hexdigest()
        files[MANIFEST] = json.dumps(manifest).encode()
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as packed:
        for key, value in files.items():
            packed.writestr(key, value)
    return io.BytesIO(made.getvalue())


def test_every_model_of_a_workshop_is_known_and_has_a_way_to_it():
    labels = {model._meta.label for model in models_of_workshops()}
    assert labels > LEFT_BEHIND
    assert {model._meta.label for model in taken_out()} == labels - LEFT_BEHIND
    for model in models_of_workshops():
        rows_of(model, uuid.uuid4()).exists()  # the way leads there
        assert way_to_workshop(model).endswith("workshop")


def test_out_and_in_again_is_the_same_workshop():
    who, job = a_workshop()
    before = {model._meta.label: rows_of(model, who.workshop).count() for model in taken_out()}
    moments = dict(Reading.objects.values_list("id", "received_at"))
    answer, snapshot = who.get(f"/jobs/{job}").json(), Record.objects.get().snapshot
    data = out_of(who)
    gone(who)
    assert not Job.objects.exists()
    workshop = bring_in(io.BytesIO(data))
    assert {model._meta.label: rows_of(model, workshop).count() for model in taken_out()} == before
    assert dict(Reading.objects.values_list("id", "received_at")) == moments
    assert Record.objects.get().snapshot == snapshot
    lead = Membership.objects.get(workshop=workshop)
    assert lead.role == Role.LEAD and not lead.person.has_usable_password()
    # their account was emptied when the workshop went: they are there again by their mail
    who.client.force_login(lead.person)
    again = who.get(f"/jobs/{job}").json()
    assert again["verdict"] == answer["verdict"] and len(again["photos"]) == 1
    assert who.client.get(again["photos"][0]["url"]).status_code == 200
    late = Reading.objects.order_by("seq").last().seq
    fresh = who.opens()
    who.reads(fresh, "outlet_flow", "90", "cfm")
    assert Reading.objects.get(job=fresh).seq > late and not Summary.objects.filter(job=job).exists()


def test_no_password_and_no_address_that_opens_something_goes_out():
    who, job = a_workshop()
    assert who.put("/calendar", {"on": True}).status_code == 200
    address = who.put(f"/jobs/{job}/link", {"on": True}).json()["address"]
    with zipfile.ZipFile(io.BytesIO(out_of(who))) as packed:
        text = b"".join(packed.read(info) for info in packed.infolist()).decode(errors="replace")
        sums = json.loads(packed.read(MANIFEST))["sha256"]
        assert all(hashlib.sha256(packed.read(name)).hexdigest() == sha256 for name, sha256 in sums.items())
    assert "argon2" not in text and address.rsplit("/", 1)[1] not in text
    assert "moved_in_spring" not in text


def test_a_file_that_was_tampered_with_brings_nothing_in():
    who, _ = a_workshop()
    data = out_of(who)
    gone(who)
    stranger = a_technician("lead")
    stranger_job = stranger.opens()
    readings = "tables/jobs.reading.jsonl"

    def other_job(text):
        rows = [json.loads(line) for line in text.decode().splitlines()]
        rows[0]["fields"]["job"] = stranger_job
        return "\n".join(map(json.dumps, rows)).encode()

    def other_workshop(text):
        return text.replace(str(who.workshop.id).encode(), str(stranger.workshop.id).encode())

    for name, change, says in [
        (readings, other_job, "names a job that is not in it"),
        (readings, other_workshop, "names a workshop that is not in it"),
        (readings, lambda text: text.replace(b"jobs.reading", b"people.person"), "row"),
        (readings, lambda text: text.replace(b'"kind"', b'"knid"'), "row"),
        ("people.json", lambda _: b"[]", "who is not in it"),
        ("people.json", lambda _: b"{", "not as it was written out"),
        ("people.json", lambda text: text.replace(b'"name"', b'"nom"'), "not as it was written out"),
        (MANIFEST, lambda text: text.replace(b'"rows"', b'"lines"'), "not as it was written out"),
        (MANIFEST, lambda text: text.replace(b"warm-draft/workshop", b"something"), "give warm-draft/workshop"),
        (MANIFEST, lambda _: b"{}", "cannot be read"),
    ]:
        with pytest.raises(DocumentError, match=says):
            bring_in(changed(data, name, change))
        assert not Workshop.objects.filter(id=who.workshop.id).exists(), name
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        part = packed.getinfo("tables/jobs.happening.jsonl")
    begin = part.header_offset + 30 + len(part.filename)  # what is packed comes after its header and name
    for at in range(begin + 3, begin + part.compress_size, part.compress_size // 9):
        broken = bytearray(data)
        broken[at] ^= 0xFF
        with pytest.raises(DocumentError):
            bring_in(io.BytesIO(bytes(broken)))
    with pytest.raises(DocumentError, match="no ZIP"):
        bring_in(io.BytesIO(b"nothing"))
    assert Job.objects.get().id == uuid.UUID(stranger_job)


def test_a_workshop_that_is_here_is_not_brought_in_twice():
    who, _ = a_workshop()
    rows = Happening.objects.count()
    with pytest.raises(DocumentError, match="here already"):
        bring_in(io.BytesIO(out_of(who)))
    assert Happening.objects.count() == rows


def test_a_workshop_goes_after_its_waiting_time_and_leaves_a_receipt(settings, tmp_path):
    settings.MAIL = str(tmp_path)
    who, _ = a_workshop()
    address = who.person.email
    other = a_technician("lead")
    other_job = other.opens()
    record = Record.objects.get()
    asked = {"name": who.workshop.name, "password": PASSWORD, "keep_years": 10}
    told = who.put("/workshop/leaving", asked).json()
    assert told["due_at"] > (timezone.now() + timedelta(days=13)).isoformat()
    assert leaving.delete_due() == [] and Job.objects.count() > 3
    Leaving.objects.update(due_at=timezone.now())
    (receipt,) = leaving.delete_due()
    for model in models_of_workshops():
        assert not rows_of(model, who.workshop.id).exists(), model
    assert list(Workshop.objects.all()) == [other.workshop] and Job.objects.get().id == uuid.UUID(other_job)
    assert not Photo.objects.exists()
    person = Person.objects.get(id=who.person.id)
    assert "forgotten" in person.email and not person.is_active
    kept = KeptRecord.objects.get(receipt=receipt)
    assert kept.sha256 == record.sha256 and kept.until.month == 12
    assert receipt.document["records_kept"] == 1 and receipt.document["rows"]["jobs.Job"] == 4
    assert receipt.sha256 in mail.outbox[-1].body and mail.outbox[-1].to == [address]
    assert leaving.delete(who.workshop.id) is None and Receipt.objects.count() == 1
    KeptRecord.objects.update(until=timezone.localdate() - timedelta(days=1))
    assert leaving.let_go_of_records() == 1


def test_deleting_is_asked_for_by_name_and_password_and_taken_back():
    who, _ = a_workshop()
    ask = {"name": who.workshop.name, "password": PASSWORD}
    assert who.put("/workshop/leaving", ask | {"name": "another"}).status_code == 422
    assert who.put("/workshop/leaving", ask | {"password": "guessed"}).status_code == 422
    assert a_technician("technician", who.workshop).put("/workshop/leaving", ask).status_code == 403
    assert who.get("/workshop/leaving").json()["due_at"] is None
    first = who.put("/workshop/leaving", ask).json()
    assert who.put("/workshop/leaving", ask | {"keep_years": 3}).json() == first
    assert who.client.delete("/api/v1/workshop/leaving").json()["due_at"] is None
    assert not Leaving.objects.exists()
    assert set(Act.objects.values_list("what", flat=True)) >= {"leaving_asked", "leaving_taken_back"}


def test_a_lead_takes_the_workshop_out_and_nobody_else():
    who, _ = a_workshop()
    answer = who.client.get("/api/v1/workshop/whole")
    assert answer.status_code == 200
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as packed:
        assert json.loads(packed.read(MANIFEST))["id"] == str(who.workshop.id)
    technician = a_technician("technician", who.workshop)
    assert technician.client.get("/api/v1/workshop/whole").status_code == 403
