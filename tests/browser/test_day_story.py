"""A day from its booked jobs to the next stop: planned, changed with what it costs, taken back, driven."""

import re
import uuid
from datetime import timedelta

import pytest
from django.utils import timezone
from icalendar import Calendar
from playwright.sync_api import expect
from tests.browser.test_sure_story import BEFORE, brings

from day.models import Ground, Plan
from day.planning import make
from jobs.models import Job
from machines.models import Place
from people.models import Workshop

pytestmark = pytest.mark.django_db(transaction=True)
NAMES = ("Old mill", "Boat house", "Quarry inn")


def books(bench):
    """Three jobs of today, each at a place of its own."""
    today = timezone.now().replace(hour=9, minute=0)
    for number, name in enumerate(NAMES):
        job = brings(bench, readings=BEFORE if number == 0 else [])
        row = Job.objects.select_related("machine").get(id=job)
        place = Place.objects.create(id=uuid.uuid4(), workshop_id=row.workshop_id, name=name, address="Lane 3")
        row.machine.place = place
        row.machine.save()
        Job.objects.filter(id=job).update(booked_for=today + timedelta(hours=2 * number))
    return today.date()


def plans(page):
    """Ask for a plan, and be the worker."""
    page.get_by_role("button", name=re.compile("^Plan (the day|it anew)")).click()
    expect(page.get_by_role("button", name="Being planned …")).to_be_visible()
    make(Plan.objects.get().pk)
    expect(page.get_by_role("button", name="Plan it anew")).to_be_visible()


def test_a_day_is_planned_changed_and_driven(bench, tmp_path):
    page = bench.page
    day = books(bench)
    bench.sign_in()
    page.get_by_role("link", name="The workshop").click()
    page.get_by_role("link", name="The day").click()
    expect(page.get_by_role("heading", name="Booked")).to_be_visible()
    page.get_by_label("vans start at").fill("The yard")
    page.get_by_label("latitude, longitude").fill("54.41, -3.01")
    page.get_by_role("button", name="Keep").first.click()
    expect(page.get_by_text("Kept.").first).to_be_visible()
    for name, driver in (("Red van", True), ("Blue van", False)):
        form = page.get_by_role("form", name="One more van")
        if not form.is_visible():
            page.get_by_text("One more van").click()
        form.get_by_label("van", exact=True).fill(name)
        if driver:
            form.get_by_label("who drives").select_option(index=1)
        form.get_by_role("button", name="Add").click()
        expect(page.get_by_role("form", name=name)).to_be_visible()
    table = tmp_path / "places.csv"
    table.write_text("place,latitude,longitude\nOld mill,54.40,-3.00\nBoat house,54.42,-3.05\nQuarry inn,54.36,-2.95\n")
    page.get_by_label("Table of places or ways").set_input_files(table)
    expect(page.get_by_text("3 rows taken")).to_be_visible()
    assert Ground.objects.count() == 3
    plans(page)
    expect(page.get_by_role("img", name=re.compile("Map of the day"))).to_be_visible()
    tours = page.get_by_role("list").get_by_role("button", name=re.compile("|".join(NAMES)))
    expect(tours).to_have_count(3)
    red = page.get_by_role("region", name="Red van").or_(page.get_by_role("region", name="Blue van"))
    first = red.get_by_role("button", name=re.compile("Old mill"))
    first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name=re.compile(r"^(Red|Blue) van, as stop 1.*(dearer|costs nothing)")).first.click()
    expect(dialog).to_have_count(0)
    status = page.get_by_role("region", name="Plan").get_by_role("status")
    expect(status).to_contain_text(re.compile("more than the best|driving"))
    page.get_by_role("region", name="Plan").get_by_role("button", name="Undo").click()
    expect(page.get_by_role("region", name="Plan").get_by_role("button", name="Undo")).to_have_count(0)
    assert Plan.objects.get(day=day).was == []
    # at home in the afternoon, by the van that is one's own: the plan goes by it
    page.get_by_role("button", name=re.compile("Old mill")).first.click()
    dialog.get_by_label("from").fill("15:00")
    dialog.get_by_label("begun by").fill("15:30")
    dialog.get_by_label("van").select_option(label="Red van")
    dialog.get_by_role("button", name="Keep").first.click()
    expect(dialog.get_by_text("Kept; the next plan")).to_be_visible()
    page.keyboard.press("Escape")
    plans(page)
    row = page.get_by_role("region", name="Red van").get_by_role("button", name=re.compile("Old mill"))
    expect(row).to_contain_text(re.compile(r"15:[0-3]\d"))
    with page.expect_download() as saved:
        page.get_by_role("region", name="Red van").get_by_role("link", name="As a calendar").click()
    events = Calendar.from_ical(saved.value.path().read_bytes()).walk("VEVENT")
    assert "Old mill" in {str(event["SUMMARY"]) for event in events}
    nearest = page.get_by_role("region", name="Next stop")
    expect(nearest.get_by_role("link", name="Open the job")).to_be_visible()
    nearest.get_by_role("link", name="Open the job").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text(re.compile("|".join(NAMES)))
    assert Workshop.objects.count() == 1
