"""The customer's record: frozen in each language, printed once, read by a link until that is withdrawn."""

import hashlib
import json
import uuid
from datetime import UTC, date, datetime

import pytest
from django.core import mail
from django.test import Client
from icalendar import Calendar
from tests.server.factories import AT, a_technician, job_facts, measured, to_the_end

from files.models import Picture
from machines.models import Machine, Place
from people.models import Workshop
from reports.models import Link, Print, Record
from reports.paper import html, laid_out, make_print
from upkeep.models import Due, Kind, Visit
from upkeep.services import look_back, renew
from upkeep.tasks import remind_of
from warmdraft.paper import customer_languages, says_for

pytestmark = pytest.mark.django_db
ANYBODY = Client


def handed_over(technician, said=None, **changes):
    """A job handed over; its id and the record."""
    job, _ = to_the_end(technician, **changes)
    answer = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT} | (said or {}))
    assert answer.status_code == 200, answer.content
    return job, answer.json()


def test_it_is_frozen_in_every_language_there_is():
    technician = a_technician()
    job, record = handed_over(technician, {"language": "de", "note": "Screen before every load."})
    assert record["language"] == "de"
    assert set(record["languages"]) == set(customer_languages())
    page = technician.get(f"/jobs/{job}/record/page").content.decode()
    assert '<html lang="de">' in page
    assert "Die kurze Leitung hinter dem Gerät war gequetscht." in page
    assert "Screen before every load." in page
    english = technician.get(f"/jobs/{job}/record/page?language=en").content.decode()
    assert "The short duct behind the machine was crushed." in english
    # the place is written to in that language from now on
    assert Place.objects.get().language == "de"


def test_a_language_that_is_not_there_is_refused():
    technician = a_technician()
    job, _ = to_the_end(technician)
    refused = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "language": "xx"})
    assert refused.status_code == 422
    assert "give one of en, de" in refused.json()["message"]


def test_what_somebody_wrote_is_shown_as_it_was_written_and_does_nothing():
    technician = a_technician()
    evil = '<script>alert("x")</script>'
    job, _ = handed_over(technician, {"note": evil, "link": True, "name": evil, "signature": "M10 20 L30 40"})
    for page in (technician.get(f"/jobs/{job}/record/page"), ANYBODY().get(f"/r/{Link.objects.get().token}")):
        text = page.content.decode()
        assert "<script" not in text
        assert "&lt;script&gt;" in text
        assert 'd="M10 20 L30 40"' in text
    refused = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "signature": '"/><script>'})
    assert refused.status_code == 422


def test_it_is_printed_by_the_worker_once_and_never_changes():
    technician = a_technician()
    job, record = handed_over(technician, {"size": "Letter"})
    asked = technician.get(f"/jobs/{job}/record/pdf?size=Letter")
    assert asked.status_code == 202
    for _ in range(2):
        make_print(record["id"], record["language"], "Letter")
    made = Print.objects.get()
    pdf = technician.get(f"/jobs/{job}/record/pdf?size=Letter")
    assert pdf.content.startswith(b"%PDF-")
    assert hashlib.sha256(pdf.content).hexdigest() == made.sha256


@pytest.mark.parametrize("size", ["A4", "Letter"])
@pytest.mark.parametrize("language", sorted(customer_languages()))
def test_a_print_has_one_to_three_pages(size, language):
    technician = a_technician()
    note = "Sweep the vent every spring, and look at the flap once a month. " * 12
    _, record = handed_over(technician, {"note": note, "link": True})
    pages = laid_out(Record.objects.get(id=record["id"]), language, size).pages
    assert 1 <= len(pages) <= 3
    width = {"A4": 210, "Letter": 215.9}[size]  # mm; a CSS pixel is 1/96 in
    assert pages[0].width * 25.4 / 96 == pytest.approx(width, abs=0.1)


def test_a_link_is_read_by_anybody_until_it_is_withdrawn():
    technician = a_technician()
    job, _ = handed_over(technician)
    assert technician.get(f"/jobs/{job}/link").json()["address"] == ""
    address = technician.put(f"/jobs/{job}/link", {"on": True}).json()["address"]
    assert technician.put(f"/jobs/{job}/link", {"on": True}).json()["address"] == address  # said twice is said once
    path = address.split("//", 1)[1].split("/", 1)[1]
    page = ANYBODY().get(f"/{path}")
    assert page.status_code == 200
    assert "The short duct behind the machine was crushed." in page.content.decode()
    assert page.headers["Cache-Control"] == "private, no-store"
    assert page.headers["Referrer-Policy"] == "no-referrer"
    assert "noindex" in page.headers["X-Robots-Tag"]
    assert ANYBODY().get(f"/{path}/record.pdf").content.startswith(b"%PDF-")
    german = ANYBODY().get(f"/{path}?language=de").content.decode()
    assert "Was nicht stimmte" in german
    technician.put(f"/jobs/{job}/link", {"on": False})
    for gone in (path, f"{path}/record.pdf", f"{path}/next.ics", "r/" + "x" * 43):
        assert ANYBODY().get(f"/{gone}").status_code == 404
    again = technician.put(f"/jobs/{job}/link", {"on": True}).json()["address"]
    assert again != address
    told = {row["what"] for row in technician.get(f"/jobs/{job}/history").json()}
    assert {"link_given", "link_withdrawn"} <= told


def test_a_link_shows_the_photos_of_its_record_and_no_other():
    technician = a_technician()
    _, record = handed_over(technician, {"link": True})
    token = Link.objects.get().token
    other = Picture.objects.create(workshop=technician.workshop, sha256="a" * 64, data=b"x", size=1, width=1, height=1)
    assert ANYBODY().get(f"/r/{token}/photo/{other.sha256}").status_code == 404
    row = Record.objects.get(id=record["id"])
    shown = {
        "url": f"/api/v1/photos/{other.sha256}",
        "of": "",
        "by": "",
        "at": AT,
        "width": 1,
        "height": 1,
        "wires": [],
    }
    row.snapshot = row.snapshot | {"photos": [shown]}
    row.save()
    assert ANYBODY().get(f"/r/{token}/photo/{other.sha256}").content == b"x"


def test_a_trainee_gives_no_link():
    lead = a_technician("lead")
    trainee = a_technician("trainee", lead.workshop)
    job, _ = handed_over(lead)
    assert trainee.put(f"/jobs/{job}/link", {"on": True}).status_code == 403


def test_opened_again_the_link_shows_the_new_edition_and_the_old_print_stands():
    technician = a_technician()
    job, first = handed_over(technician, {"link": True})
    make_print(first["id"], "en", "A4")
    before = Print.objects.get().sha256
    technician.put(f"/jobs/{job}/editions/{uuid.uuid4()}", {"why": "the customer asked", "at": AT})
    second = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT, "note": "Look at the flap."}).json()
    assert second["edition"] == 2
    page = ANYBODY().get(f"/r/{Link.objects.get().token}").content.decode()
    assert "Look at the flap." in page
    old = technician.get(f"/jobs/{job}/record/pdf?edition=1&size=A4")
    assert hashlib.sha256(old.content).hexdigest() == before


def test_as_data_it_is_json_and_csv():
    technician = a_technician()
    job, record = handed_over(technician)
    whole = json.loads(technician.get(f"/jobs/{job}/record/file?form=json").content)
    assert whole["sha256"] == record["sha256"]
    rows = technician.get(f"/jobs/{job}/record/file?form=csv").content.decode().splitlines()
    assert rows[0].startswith("kind,heat_on,before,after,healthy,unit")
    assert any(row.startswith("outlet_flow,False,") for row in rows)


def due_on(machine):
    return Due.objects.get(machine=machine).service_by


def test_handed_over_its_machine_is_due_within_a_year_and_more_loads_bring_it_forward():
    technician = a_technician()
    handed_over(technician)
    machine = Machine.objects.get()
    visit = Visit.objects.get()
    assert 0 < visit.found < visit.left < 0.1
    assert visit.cause == "transition_crushed"
    before = due_on(machine)
    assert 0 < (before - visit.day).days <= 365
    assert technician.put(f"/machines/{machine.id}/use", {"loads_per_week": 40}).status_code == 204
    assert due_on(machine) < before
    assert technician.put(f"/machines/{machine.id}/use", {"loads_per_week": -1}).status_code == 422


def test_the_story_of_a_machine_tells_who_was_inside_and_what_came_back():
    technician = a_technician()
    _, _ = handed_over(technician, title="First")
    machine, place = Machine.objects.get(), Place.objects.get()
    same = {
        "place": {"id": str(place.id), "name": place.name, "as_known": True},
        "machine": {"id": str(machine.id), "as_known": True},
    }
    job, _ = measured(technician, **job_at(same))
    story = technician.get(f"/machines/{machine.id}/history").json()
    assert sorted(row["edition"] for row in story["jobs"]) == [0, 1]
    finish(technician, job)
    story = technician.get(f"/machines/{machine.id}/history").json()
    assert story["last_inside"] == "Ada Fell"
    assert [row["callback"] for row in story["jobs"]].count(True) == 1
    assert story["upkeep"]["because"]
    assert story["qr"].startswith("<svg")
    wall = technician.get(f"/places/{place.id}/wall").json()
    assert [row["callbacks"] for row in wall["machines"]] == [1]
    assert 0.5 < wall["machines"][0]["share"] <= 1.1


@pytest.mark.parametrize(
    ("zone", "day"),
    [("UTC", date(2026, 11, 25)), ("Pacific/Auckland", date(2026, 11, 26)), ("America/Denver", date(2026, 11, 25))],
)
def test_a_day_is_the_workshops_own(zone, day):
    """Late in the evening it is tomorrow already on the other side of the world."""
    technician = a_technician()
    Workshop.objects.update(time_zone=zone)
    evening = datetime(2026, 11, 25, 22, 30, tzinfo=UTC)
    handed_over(technician, {"at": evening.isoformat()})
    story = technician.get(f"/machines/{Machine.objects.get().id}/history").json()
    assert [row["day"] for row in story["jobs"]] == [day.isoformat()]
    assert Visit.objects.get().day == day
    record = Record.objects.get()
    record.frozen_at = evening
    assert says_for("en").day(day) in html(record, "en")


def job_at(same):
    """What a job of the same machine changes of the usual one."""
    usual = job_facts()
    return {"place": usual["place"] | same["place"], "machine": usual["machine"] | same["machine"], "title": "Again"}


def finish(technician, job):
    technician.does(job, technician.get(f"/jobs/{job}").json()["safety"])
    answer = technician.finds(job, "working", "transition_crushed").json()
    technician.does(job, [step for stage in ("open", "mend", "close") for step in answer[stage]])
    technician.finds(job, "confirmed", "transition_crushed")
    technician.reads(job, "outlet_flow", "168", "cfm", phase="after")
    answer = technician.put(f"/jobs/{job}/record/{uuid.uuid4()}", {"at": AT})
    assert answer.status_code == 200, answer.content


def test_what_a_workshop_shows_of_a_kind_moves_what_is_usual():
    technician = a_technician()
    handed_over(technician)
    visit = Visit.objects.get()
    place = Place.objects.get()
    for k in range(12):  # machines that fill three times as fast as is usual, visited twice
        machine = Machine.objects.create(
            workshop=technician.workshop, place=place, profile=visit.profile, energy="electric",
            supply="plug",
        )  # fmt: skip
        for year in range(2):
            made = Visit(
                workshop=technician.workshop, machine=machine, by=technician.person, profile=visit.profile,
                healthy=visit.healthy, left=visit.healthy, found=visit.healthy * 0.62 if year else None,
                loads_per_week=13, day=visit.day.replace(year=2023 + year, month=1 + k % 12),
                job_id=technician.opens(),
            )  # fmt: skip
            made.save(force_insert=True)
    before = due_on(Machine.objects.get(id=visit.machine_id))
    renew(technician.workshop.id, visit.profile)
    assert Kind.objects.get().believed["machines"] == 13
    technician.put(f"/machines/{visit.machine_id}/use", {"loads_per_week": 5})
    assert due_on(Machine.objects.get(id=visit.machine_id)) < before


def test_the_calendar_names_each_machines_day_until_it_is_withdrawn():
    lead = a_technician("lead")
    handed_over(lead)
    assert a_technician("technician", lead.workshop).put("/calendar", {"on": True}).status_code == 403
    address = lead.put("/calendar", {"on": True}).json()["address"]
    path = "/" + address.split("//", 1)[1].split("/", 1)[1]
    answer = ANYBODY().get(path)
    assert answer.headers["Content-Type"].startswith("text/calendar")
    event = Calendar.from_ical(answer.content).walk("VEVENT")[0]
    machine = Machine.objects.get()
    assert event.decoded("dtstart") == due_on(machine)
    assert str(machine.id) in str(event["url"])
    first = int(event["sequence"])
    lead.put(f"/machines/{machine.id}/use", {"loads_per_week": 30})
    moved = Calendar.from_ical(ANYBODY().get(path).content).walk("VEVENT")[0]
    assert moved["uid"] == event["uid"]
    assert int(moved["sequence"]) > first
    assert moved.decoded("dtstart") < event.decoded("dtstart")
    lead.put("/calendar", {"on": False})
    assert ANYBODY().get(path).status_code == 404


def test_a_customers_own_file_holds_the_next_visit():
    technician = a_technician()
    handed_over(technician, {"link": True, "language": "fr"})
    event = Calendar.from_ical(ANYBODY().get(f"/r/{Link.objects.get().token}/next.ics").content).walk("VEVENT")[0]
    assert event.decoded("dtstart") == due_on(Machine.objects.get())
    assert "entretenir" in str(event["summary"])


def test_a_reminder_is_sent_once_and_never_after_it_was_asked_to_stop():
    technician = a_technician()
    handed_over(technician, {"language": "de"})
    machine, place = Machine.objects.get(), Place.objects.get()
    remind_of(str(machine.id))
    assert mail.outbox == []  # nobody said where to
    reach = {"mail": "maro@lake.example", "language": "de"}
    assert technician.put(f"/places/{place.id}/reach", reach).status_code == 204
    for _ in range(2):
        remind_of(str(machine.id))
    sent = mail.outbox.pop()
    assert mail.outbox == []
    assert sent.to == ["maro@lake.example"]
    assert "fällig" in sent.subject
    stop = "/" + sent.body.rsplit("//", 1)[1].split("/", 1)[1].strip()
    asked = ANYBODY().get(stop)  # a program that looks at mails opens it, and nothing has happened
    assert not Place.objects.get().no_reminders
    assert "<form" in asked.content.decode()
    assert ANYBODY().post(stop).status_code == 200
    assert Place.objects.get().no_reminders
    Due.objects.update(service_by="2026-12-01")
    remind_of(str(machine.id))
    assert mail.outbox == []
    assert ANYBODY().post(stop[:-3] + "abc").status_code == 404


def test_no_one_sees_another_workshops_machines():
    handed_over(a_technician())
    machine, place = Machine.objects.get(), Place.objects.get()
    stranger = a_technician()
    for path in (f"/machines/{machine.id}/history", f"/places/{place.id}/wall"):
        assert stranger.get(path).status_code == 404
    assert stranger.put(f"/machines/{machine.id}/use", {"loads_per_week": 3}).status_code == 404
    assert stranger.put(f"/places/{place.id}/reach", {"mail": "a@b.example"}).status_code == 404


def test_jobs_that_were_handed_over_before_there_were_visits_are_looked_back_at():
    handed_over(a_technician())
    before = Visit.objects.values().get()
    Visit.objects.all().delete()
    Due.objects.all().delete()
    assert look_back() == 1
    assert Visit.objects.values().get() == before
    assert Due.objects.count() == 1
    assert look_back() == 0
