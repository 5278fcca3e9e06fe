"""A drill from the ladder to its end, and a case that a lead makes of a job of the past."""

import re

import pytest
from playwright.sync_api import expect
from tests.browser.test_workshop_story import hands_over

from drills.models import Drill, DrillCase
from jobs.models import Found
from people.models import Workshop

pytestmark = pytest.mark.django_db(transaction=True)
#: A draw whose look speaks for what it is.
SEED = 3
#: A slow line: what is said of a cause takes its time.
SLOW = """() => {
  const send = window.fetch
  window.fetch = async (...asked) => {
    if (String(asked[0]?.url ?? asked[0]).includes('/causes/')) await new Promise((go) => setTimeout(go, 1500))
    return send(...asked)
  }
}"""


@pytest.fixture(autouse=True)
def same_draw(monkeypatch):
    """What the machine gives is drawn from a seed: here the same at every run."""
    monkeypatch.setattr("drills.services.secrets.randbelow", lambda _: SEED)


def does(page, check):
    """A check on the machine that is not there: what it gives is said, as after any look."""
    page.goto(re.sub(r"/jobs/([^/?]+).*", rf"/jobs/\1/measure?check={check}", page.url))
    page.get_by_role("button", name="Do it on the machine").click()
    field = page.locator("input[data-answer]")
    given = page.get_by_text("You find:")
    given.or_(field).first.wait_for()
    if given.is_visible():
        result = given.locator("b").inner_text()
        page.locator("button[data-answer]", has_text=result).first.click()
        expect(page.locator("button[data-answer][aria-pressed=true]")).to_contain_text(result)
        return result
    expect(field).not_to_have_value("")
    page.get_by_role("button", name="Save the reading").click()
    expect(field).to_have_value("")
    return None


def test_a_drill_is_worked_on_the_same_screens_and_told_at_its_end(bench):
    page = bench.page
    bench.sign_in()
    page.get_by_role("link", name="The workshop").click()
    page.get_by_role("link", name="Drills").click()
    page.get_by_role("button", name="Begin: Slow since it was moved").click()
    expect(page.get_by_text("A drill.")).to_be_visible()
    does(page, "outlet_flow")
    does(page, "behind_look")
    page.goto(re.sub(r"/measure.*", "/cause", page.url))
    page.evaluate(SLOW)  # and the drill is ended before it is there
    page.get_by_role("button", name=re.compile("Go with it.*Transition crushed")).click()
    expect(page.get_by_role("button", name=re.compile("Go with it.*Transition crushed"))).to_have_count(0)
    page.get_by_role("button", name="End the drill").click()
    expect(page.get_by_role("heading", name="Mended", exact=True)).to_be_visible()
    expect(page.get_by_text("It was:")).to_contain_text("Transition crushed")
    expect(page.get_by_role("region", name="Not safe").or_(page.locator("section", has_text="Not safe")).first
           ).to_contain_text("without anything measured")  # fmt: skip
    way = page.locator("section", has=page.get_by_role("heading", name=re.compile("^Your way")))
    expect(way.get_by_role("listitem")).to_have_count(3)
    expect(way.get_by_text("that was it")).to_be_visible()
    page.get_by_role("link", name="All drills").click()
    expect(page.get_by_role("link", name=re.compile("Slow since it was moved.*mended"))).to_be_visible()
    page.goto(f"{bench.url}/jobs")
    expect(page.get_by_role("heading", name=Workshop.objects.get(practice_of=None).name, level=1)).to_be_visible()
    expect(page.get_by_text("Slow since it was moved")).to_have_count(0)
    assert Drill.objects.get().answer["found"] and not Found.objects.exists()


def test_a_lead_makes_a_case_of_a_job_and_takes_it_away_again(bench):
    page = bench.page
    job = hands_over(bench)
    bench.sign_in()
    page.get_by_role("link", name="The workshop").wait_for()
    bench.to(f"/jobs/{job}/hand_over")
    page.get_by_text("Make a drill of it").click()
    page.get_by_label("What the case is called").fill("The one in the cellar")
    page.get_by_role("button", name="Set it for the workshop").click()
    expect(page.get_by_text("Set. Names")).to_be_visible()
    assert DrillCase.objects.get().document["suppose"][0]["fault"] == "transition_crushed"
    bench.to("/drills")
    page.get_by_role("button", name="Begin: The one in the cellar").click()
    expect(page.get_by_text("A drill.")).to_be_visible()
    page.get_by_role("button", name="Drills: back to the workshop").click()  # not over: it is gone on with
    page.get_by_role("button", name="Go on: The one in the cellar").click()
    page.get_by_role("button", name="End the drill").click()
    expect(page.get_by_role("heading", name="Not mended")).to_be_visible()
    bench.to("/drills")
    page.get_by_role("button", name="Take away: The one in the cellar").click()
    expect(page.get_by_role("button", name="Begin: The one in the cellar")).to_have_count(0)
