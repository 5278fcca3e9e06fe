"""The workshop as its lead meets it: what its jobs taught, the jobs behind it, how right it was, what waits."""

import json
import re
import uuid

import pytest
from django.test import Client
from playwright.sync_api import expect
from tests.browser.test_sure_story import BEFORE, SAFE, brings, reading

from jobs.answer.taught import sum_up
from jobs.models import Found
from people.models import Person, Workshop

pytestmark = pytest.mark.django_db(transaction=True)
AFTER = [reading("outlet_flow", 170, "cfm", phase="after"),
         reading("outlet_static_pressure", 0.38, "inH2O", phase="after")]  # fmt: skip


def hands_over(bench, fault="transition_crushed"):
    """A job of this workshop, mended, proven and handed over."""
    causes = [{"kind": kind, "fault": fault} for kind in ("working", "confirmed")]
    job = brings(bench, readings=[*BEFORE, *AFTER], causes=causes, marks=SAFE, circumstances=["pets"])
    client = Client()
    client.force_login(Person.objects.get(email=bench.email))
    said = {"at": "2026-11-26T10:00:00+00:00", "override": "nobody was there to say more"}
    answer = client.put(f"/api/v1/jobs/{job}/record/{uuid.uuid4()}", json.dumps(said), content_type="application/json")
    assert answer.status_code == 200, answer.content
    return job


def test_what_jobs_taught_is_seen_left_out_turned_off_and_given_on(bench, tmp_path):
    page = bench.page
    workshop = Workshop.objects.get()
    for _ in range(5):
        hands_over(bench)
    sum_up(workshop.id)
    fresh = brings(bench, readings=BEFORE, circumstances=["pets"])
    bench.sign_in()
    page.get_by_role("link", name="The workshop").click()
    right = page.locator("section", has_text="How right it was")
    expect(right).to_contain_text(re.compile(r"\d of 5 causes stood first"))
    expect(page.get_by_text("Nothing is late.").or_(page.get_by_text("day")).first).to_be_visible()
    page.get_by_role("link", name="What our jobs taught").click()
    expect(page.get_by_text("5 jobs of ours count")).to_be_visible()
    move = page.get_by_role("button", name=re.compile(r"^On any machine: transition crushed × 1\.\d, from 5 of 5 jobs"))
    move.click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("link")).to_have_count(5)
    dialog.get_by_role("button", name=re.compile("^Leave it out")).first.click()
    expect(dialog.get_by_role("button", name=re.compile("^Count it again"))).to_have_count(1)
    sum_up(workshop.id)
    page.keyboard.press("Escape")
    expect(page.get_by_text("4 jobs of ours count, 1 is left out")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^On any machine: transition.*from 4 of 4"))).to_be_visible()

    def crushed():
        page.goto(f"{bench.url}/jobs/{fresh}/cause")
        row = page.get_by_role("button", name=re.compile("Go with it.*Transition crushed"))
        row.wait_for()
        client = Client()
        client.force_login(Person.objects.get(email=bench.email))
        faults = client.get(f"/api/v1/jobs/{fresh}").json()["verdict"]["faults"]
        return next(row["probability"] for row in faults if row["fault"] == "transition_crushed")

    taught = crushed()
    expect(page.get_by_text(re.compile("^Long-haired pets: transition crushed × 1.* from 4 of 4 jobs"))).to_be_visible()
    page.goto(f"{bench.url}/desk/learned")
    page.get_by_role("button", name="Go by our own tables alone").click()
    expect(page.get_by_text("Verdicts go by our own tables alone")).to_be_visible()
    assert crushed() < taught
    page.goto(f"{bench.url}/desk/learned")
    with page.expect_download() as saved:
        page.get_by_role("link", name="Ours, as a file").click()
    file = tmp_path / "Across the lake.json"
    saved.value.save_as(file)
    assert json.loads(file.read_text())["jobs"] == 4
    page.get_by_label("Counts file").set_input_files(file)
    expect(page.get_by_text("Across the lake").first).to_be_visible()
    expect(page.get_by_role("listitem").filter(has_text="Across the lake")).to_contain_text("4 jobs")
    page.get_by_role("button", name=re.compile("^Take away")).click()
    expect(page.get_by_text("Across the lake")).to_have_count(0)
    assert Found.objects.count() == 5


def test_a_part_that_is_ordered_is_waited_for(bench):
    page = bench.page
    job = brings(bench, readings=BEFORE, causes=[{"kind": "working", "fault": "transition_crushed"}], marks=SAFE)
    bench.sign_in()
    client = Client()
    client.force_login(Person.objects.get(email=bench.email))
    ordered = {"part": "transition_duct", "state": "ordered", "number": "T-1", "at": "2026-11-26T10:00:00+00:00"}
    path = f"/api/v1/jobs/{job}/parts/{uuid.uuid4()}"
    assert client.put(path, json.dumps(ordered), content_type="application/json").status_code == 200
    page.get_by_role("link", name="The workshop").click()
    waits = page.locator("section", has_text="Waiting for a part")
    waits.get_by_role("link", name=re.compile("Otter Ness kennels")).click()
    page.wait_for_url(f"**/jobs/{job}**")
    page.goto(f"{bench.url}/jobs/{job}/cause")
    expect(page.get_by_text("On its way: T-1")).to_be_visible()
    page.get_by_role("button", name="Not ordered after all").click()
    expect(page.get_by_text("On its way: T-1")).to_have_count(0)
    page.goto(f"{bench.url}/desk")
    expect(page.get_by_text("No job waits for a part.")).to_be_visible()
