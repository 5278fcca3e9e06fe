"""The last third of a job, as people meet it: a proof that fails, the way back, the paper, the link, the next visit."""

import re
from urllib.parse import urlsplit

import pytest
from django.test import Client
from icalendar import Calendar
from playwright.sync_api import expect
from tests.browser.test_sure_story import BEFORE, SAFE, brings, opens

from reports.models import Record
from reports.paper import make_print

pytestmark = pytest.mark.django_db(transaction=True)


def on_with_it(bench, until):
    """The one button, until something is in sight; what it was is said where that is asked."""
    for _ in range(60):
        if until.first.is_visible():
            return
        asked = bench.page.get_by_role("button", name="Say what it was")
        if asked.first.is_visible() and bench.page.url.endswith("/close"):
            bench.page.get_by_role("button", name=re.compile("^It was")).click()
            expect(asked).to_have_count(0)
        else:
            bench.next()
        bench.page.wait_for_timeout(200)
    expect(until.first).to_be_visible()


def test_from_a_failed_proof_to_the_next_visit(bench, width):
    page = bench.page
    job = brings(bench, readings=BEFORE, causes=[{"kind": "working", "fault": "hood_blocked"}], marks=SAFE)
    opens(bench, job, "mend")
    measure = page.get_by_role("heading", name="Measure the flow at the outlet")
    on_with_it(bench, measure)
    # the wrong thing was mended: as much air as before
    bench.reads("106 cfm")
    expect(page.get_by_role("heading", name=re.compile("^No real change"))).to_be_visible()
    said = page.locator("div.fixed" if width == "phone" else "aside")
    expect(said.get_by_role("button", name="Not mended: back to Cause")).to_be_visible()
    bench.next()
    expect(page).to_have_url(re.compile("/cause"))
    # what was mended without any change is no longer what it most likely is
    expect(page.get_by_role("heading", name=re.compile("^Hood blocked"))).to_have_count(0)
    page.get_by_role("button", name=re.compile("Go with it.*Transition crushed")).click()
    expect(page.get_by_text("Working on: Transition crushed").or_(page.get_by_text("Chosen")).first).to_be_visible()
    # it ran in between: it is made safe once more, then mended, closed and measured anew
    on_with_it(bench, measure)
    bench.reads("168 cfm")
    expect(page.get_by_text(re.compile("^168 cfm, as healthy.*as promised")).first).to_be_visible()
    # the list says what is still asked for, in its order: the flap
    on_with_it(bench, page.get_by_role("button", name="full open"))
    page.get_by_role("button", name="full open").first.click()
    on_with_it(bench, page.get_by_role("button", name="Freeze the record"))
    hands_over(bench, job)
    the_link_until_it_is_withdrawn(bench, job)
    the_next_visit(bench)


def hands_over(bench, job):
    """In German, signed, with a link."""
    page = bench.page
    bench.press("button", "Deutsch")
    page.get_by_text("Let the customer sign").click()
    page.get_by_label("Who signs").fill("Maro Tindle")
    pad = page.get_by_role("img", name="Sign here with a finger")
    pad.scroll_into_view_if_needed()
    box = pad.bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + 160, box["y"] + 30, steps=6)
    page.mouse.up()
    bench.press("button", "Freeze the record")
    expect(page.get_by_role("heading", name="✓ Handed over")).to_be_visible()
    # the worker prints it
    record = Record.objects.get(job=job)
    expect(page.get_by_text("Being printed …")).to_be_visible()
    make_print(record.id, record.language, record.size)
    expect(page.get_by_role("link", name="PDF, A4")).to_be_visible()
    expect(page.get_by_text(re.compile("^Due again by"))).to_be_visible()


def the_link_until_it_is_withdrawn(bench, job):
    page = bench.page
    link = page.locator("a[href*='/r/']")
    path = urlsplit(link.inner_text()).path
    customer = page.context.browser.new_page()
    assert customer.goto(f"{bench.url}{path}").status == 200
    expect(customer.get_by_text("Die kurze Leitung hinter dem Gerät war gequetscht.")).to_be_visible()
    expect(customer.get_by_text("Durch Messen belegt")).to_be_visible()
    expect(customer.get_by_text("Maro Tindle")).to_be_visible()
    bench.press("button", "Withdraw the link")
    expect(link).to_have_count(0)
    assert customer.goto(f"{bench.url}{path}").status == 404
    customer.close()


def the_next_visit(bench):
    """Booked from what a calendar reads."""
    page = bench.page
    bench.to("/people")
    bench.press("button", "Make an address for it")
    address = page.get_by_text(re.compile(r"/calendar/.*\.ics")).inner_text()
    event = Calendar.from_ical(Client().get(urlsplit(address).path).content).walk("VEVENT")[0]
    page.goto(f"{bench.url}{urlsplit(str(event['url'])).path}")
    expect(page.get_by_role("heading", name=re.compile("^Due by"))).to_be_visible()
    expect(page.get_by_role("img", name="Flow over the years")).to_be_visible()
    expect(page.get_by_label("Next visit on")).to_have_value(event.decoded("dtstart").isoformat())
    bench.press("button", "Book the visit")
    expect(page.get_by_text("due for cleaning, nothing wrong").first).to_be_visible()
