"""Sure only when right, as a person meets it: a push at the hood, a long lawful run, a proof that asks for more."""

import json
import re

import pytest
from django.test import Client
from playwright.sync_api import expect

pytestmark = pytest.mark.django_db(transaction=True)


def brings(bench, **more):
    """A job of this person's, from a file; its id."""
    from people.models import Person

    client = Client()
    client.force_login(Person.objects.get(email=bench.email))
    document = {"format": "warm-draft/job", "version": 1, "complaints": ["long_drying"], "title": "Otter Ness kennels"}
    answer = client.post("/api/v1/jobs/import", json.dumps(document | more), content_type="application/json")
    assert answer.status_code == 200, answer.content
    return answer.json()["id"]


def reading(kind, value, unit, **more):
    return {"kind": kind, "value": value, "unit": unit} | more


BEFORE = [reading("outlet_flow", 106, "cfm"), reading("outlet_static_pressure", 1.4, "inH2O")]


def test_a_proof_asks_for_one_more_reading_and_then_accepts(bench, width):
    page = bench.page
    causes = [{"kind": kind, "fault": "transition_crushed"} for kind in ("working", "confirmed")]
    job = brings(bench, readings=BEFORE, causes=causes)
    bench.sign_in()
    page.get_by_role("link", name=re.compile("New job")).wait_for()
    page.goto(f"{bench.url}/jobs/{job}/prove")
    bench.reads("156 cfm")
    expect(page.get_by_role("heading", name=re.compile("^Better, but only"))).to_be_visible()
    expect(page.get_by_text("What would settle it: Measure the pressure at the outlet")).to_be_visible()
    expect(page.get_by_text("Transition crushed: not shown yet")).to_be_visible()
    # the form in sight is the one that would settle it
    expect(page.get_by_role("heading", name="Measure the pressure at the outlet").first).to_be_visible()
    bench.reads("0.38 in")
    expect(page.get_by_role("heading", name=re.compile("^Proven"))).to_be_visible()
    expect(page.get_by_text("Transition crushed: gone, by the readings")).to_be_visible()


SAFE = [
    {"step": f"make_safe.{act}", "state": "done", "at": "2026-11-26T08:00:00+00:00"}
    for act in ("load_out", "unplug", "cool", "hands")
]


def opens(bench, job, stage):
    bench.sign_in()
    bench.page.get_by_role("link", name=re.compile("New job")).wait_for()
    bench.page.goto(f"{bench.url}/jobs/{job}/{stage}")


def presses(bench, check, result):
    """Answer a look, through the list of other checks."""
    link = bench.page.get_by_role("link", name=re.compile(check)).first
    for folded in ("Other checks", "nothing new"):
        if not link.is_visible():
            bench.page.locator("summary").filter(has_text=folded).click()
    link.click()
    bench.page.get_by_role("button", name=result, exact=True).click()


def test_a_riser_that_pushes_back_is_found_by_the_reading_with_the_machine_off(bench, width):
    page = bench.page
    # 60 Pa at the hood from outside: little air, and a pressure at the collar that many things would make
    pushed = [reading("outlet_flow", 160, "cfm"), reading("outlet_static_pressure", 0.57, "inH2O")]
    job = brings(bench, readings=pushed, marks=SAFE)
    opens(bench, job, "measure")
    said = page.locator("div.fixed" if width == "phone" else "aside")
    # a minute by the tap that is there already
    expect(said.get_by_role("button", name=re.compile("Machine off: is the manometer"))).to_be_visible()
    bench.next()
    bench.reads("0.24 in")
    expect(page.get_by_role("status").first).to_contain_text("→")
    presses(bench, "Have the neighbour's machine switched", "the stream changes")
    expect(said.get_by_role("button", name=re.compile("Go with: pressure from outside"))).to_be_visible()


LONG_RUN = [
    reading("outlet_flow", 145, "cfm"), reading("outlet_static_pressure", 0.76, "inH2O"),
    reading("screen_duct_suction", 0.32, "inH2O"),
]  # fmt: skip


def test_a_lawful_long_run_is_not_blamed(desk):
    page = desk.page
    # 35 ft and two bends, nothing in it, and nobody drew it
    job = brings(desk, readings=LONG_RUN, marks=SAFE)
    opens(desk, job, "cause")
    expect(page.get_by_role("heading", name=re.compile("Not clear yet|Nothing"))).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("Held up after|Vent run packed"))).to_have_count(0)
    expect(page.locator("aside").get_by_role("button", name=re.compile("^Go with"))).to_have_count(0)


def test_what_this_machine_read_a_year_ago_puts_a_verdict_right(desk):
    """A long run of its own that was measured after a repair: what looks like a packed vent elsewhere is its usual."""
    from jobs.models import Job

    page = desk.page
    a_year_ago = [fact | {"phase": "after"} for fact in LONG_RUN]
    then = brings(desk, readings=[reading("outlet_flow", 60, "cfm"), *a_year_ago], title="a year ago",
                  causes=[{"kind": "confirmed", "fault": "lint_duct_packed"}])  # fmt: skip
    job = brings(desk, readings=LONG_RUN, marks=SAFE)
    opens(desk, job, "cause")
    expect(page.get_by_text("Held against what this machine itself read")).to_have_count(0)
    vent = page.get_by_role("button", name=re.compile("Go with it.*(Vent run packed|Hood blocked|Transition crushed)"))
    expect(vent.first).to_be_visible()
    # the same machine, met again
    old, now = Job.objects.get(id=then), Job.objects.get(id=job)
    Job.objects.filter(id=then).update(shut=True, booked_for=now.booked_for.replace(year=now.booked_for.year - 1))
    Job.objects.filter(id=job).update(machine=old.machine)
    page.reload()
    expect(page.get_by_text("Held against what this machine itself read when it was healthy")).to_be_visible()
    expect(vent).to_have_count(0)
