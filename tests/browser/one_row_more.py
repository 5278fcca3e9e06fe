"""One row more of each catalogue, on the screen of a server that runs on them. Run by test_one_row_more, apart.

The core that is imported here has the rows of tests/more_rows.py; server and screens are as they are.
"""

import re
import uuid

import pytest
from playwright.sync_api import expect
from tests.browser.test_cause_story import open_a_job, tab

import warmdraft
from jobs.models import Job
from machines.models import Machine

pytestmark = pytest.mark.django_db(transaction=True)


def go(desk, path: str) -> None:
    desk.page.goto(f"{desk.url}/jobs/{Job.objects.get().id}/{path}")


def works_by(desk, fault: str) -> None:
    """Say the working cause as the screens do."""
    told = desk.page.evaluate(
        """async ([job, cause, fault]) => {
          const token = document.cookie.match(/csrftoken=([^;]+)/)[1]
          const body = JSON.stringify({ kind: 'working', fault, severity: null, at: new Date().toISOString() })
          const headers = { 'X-CSRFToken': token, 'Content-Type': 'application/json' }
          const answer = await fetch(`/api/v1/jobs/${job}/causes/${cause}`, { method: 'PUT', body, headers })
          return [answer.status, await answer.text()]
        }""",
        [str(Job.objects.get().id), str(uuid.uuid4()), fault],
    )
    assert told[0] == 200, told


def test_the_rows_are_there():
    assert "site-packages" not in warmdraft.__file__
    from warmdraft.faults import catalogue

    assert "drum_baffle_loose" in catalogue()


def test_a_complaint_and_a_circumstance_are_offered_and_heard(desk):
    open_a_job(desk, "whistles", "by the sea")
    go(desk, "complaint")
    expect(desk.page.get_by_role("button", name="whistles")).to_have_attribute("aria-pressed", "true")
    assert Job.objects.get().circumstances == ["by_the_sea"]


def test_a_check_is_asked_shown_and_answered(desk):
    open_a_job(desk, "takes for ever")
    go(desk, "measure?check=drum_light")
    expect(desk.page.get_by_role("heading", name="Shine a lamp through the drum's holes")).to_be_visible()
    expect(desk.page.get_by_role("img", name="Where: drum")).to_be_visible()
    desk.press("button", re.compile("few of them"))
    go(desk, "cause")
    expect(desk.page.get_by_role("main")).to_contain_text("Shine a lamp through the drum's holes")


def test_a_kind_of_reading_is_measured_drawn_and_logged(desk):
    open_a_job(desk, "takes for ever")
    go(desk, "measure?check=drum_suction")
    desk.reads("0.31")
    line = desk.page.get_by_label("Draft line")
    expect(line).to_contain_text(re.compile(r"suction 0\.31 inH2O · healthy 0\.2\d"))
    tab(desk.page, "Long run")
    expect(desk.page.get_by_role("main")).to_contain_text("suction behind the drum")


def test_an_instrument_is_carried_and_read_with(desk):
    open_a_job(desk, "takes for ever")
    go(desk, "measure?check=outlet_flow")
    expect(desk.page.get_by_role("main")).to_contain_text("hot wire")
    desk.press("button", re.compile("habits and sign-out"))
    expect(desk.page.get_by_role("button", name="hot wire")).to_be_visible()


def test_a_fault_and_an_act_are_a_cause_and_a_step(desk):
    open_a_job(desk, "takes for ever")
    works_by(desk, "drum_baffle_loose")
    go(desk, "prove")
    expect(desk.page.locator("body")).to_contain_text("Drum baffle loose")
    works_by(desk, "drum_seal_leaking")
    go(desk, "mend")
    expect(desk.page.get_by_role("main")).to_contain_text("Wash the felt with a damp cloth")


def test_a_code_profile_holds_a_run(desk):
    open_a_job(desk, "takes for ever")
    tab(desk.page, "Vent run")
    desk.press("button", "+ straight")
    expect(desk.page.get_by_role("main")).to_contain_text("Lake town, rigid 4 in")


def test_a_layout_is_a_way_in(desk):
    open_a_job(desk, "takes for ever")
    desk.page.goto(f"{desk.url}/jobs/new")
    desk.page.locator("select").select_option("lake_town")
    Machine.objects.update(layout="lake_town")
    works_by(desk, "blower_wheel_fouled")
    go(desk, "open")
    expect(desk.page.get_by_role("main")).to_contain_text("Lake town: Two motors")
