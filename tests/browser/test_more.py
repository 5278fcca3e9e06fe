"""More of a day's work: taking back, a known place, a burnt smell, the phone's stages, a trainee, the left hand."""

import re

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import WIDTHS, _someone
from tests.browser.test_story import make_it_safe, open_a_job

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_reading_is_taken_back_and_the_line_opens_again(desk):
    page = desk.page
    open_a_job(desk)
    page.keyboard.type("g3")  # the check most worth doing stands ready
    expect(page.get_by_role("heading", name="Measure the suction behind the screen").first).to_be_visible()
    page.goto(re.sub(r"/measure.*", "/measure?check=outlet_static_pressure", page.url))
    desk.reads("1.4")
    expect(page.get_by_label("Draft line")).to_contain_text("1.40 inH2O · healthy 0.38")
    page.get_by_role("button", name="Take back").click()
    expect(page.get_by_label("Draft line")).not_to_contain_text("1.40 inH2O")
    expect(page.get_by_role("button", name="Take back")).to_have_count(0)


def test_a_reading_taken_again_stands_in_for_the_first(desk):
    page = desk.page
    open_a_job(desk)
    page.keyboard.press("r")
    desk.reads("160")
    page.get_by_role("link", name="Again", exact=True).click()
    expect(page.get_by_text("Instead of 160 cfm")).to_be_visible()
    desk.reads("96")
    facts = page.get_by_role("region", name="Measure").get_by_role("listitem").filter(has_text="Take back")
    expect(facts.first).to_contain_text("96 cfm")
    expect(page.get_by_role("region", name="Measure")).not_to_contain_text("160 cfm")


def test_a_burnt_smell_stops_the_job_until_it_is_safe(desk):
    page = desk.page
    desk.sign_in()
    page.get_by_role("link", name=re.compile("New job")).click()
    page.get_by_label("Where?").fill("Theatre wardrobe")
    page.get_by_role("button", name="smells burnt").click()
    page.get_by_role("button", name="Open the job").click()
    expect(page.get_by_role("complementary").get_by_role("button", name="Stop: read this first")).to_be_visible()
    page.keyboard.type("g1")
    expect(page.get_by_role("alert")).to_contain_text("Off at the plug or the breaker")
    desk.next()
    expect(page.get_by_role("complementary").get_by_role("button", name="Make it safe")).to_be_visible()


def test_a_place_that_is_known_offers_its_machines(desk):
    page = desk.page
    open_a_job(desk)
    page.goto(f"{desk.url}/jobs/new")
    page.get_by_label("Where?").fill("otter ness KENNELS")
    expect(page.get_by_role("group", name="Which machine there?")).to_be_visible()
    page.get_by_role("button", name="unnamed").click()
    expect(page.get_by_role("group", name="What kind of machine?")).to_have_count(0)
    page.get_by_role("button", name="rumbles").click()
    page.get_by_role("button", name="Open the job").click()
    page.get_by_role("heading", name="Make it safe").wait_for()
    from machines.models import Machine

    assert Machine.objects.count() == 1


def test_a_new_job_without_a_place_says_what_is_missing(desk):
    page = desk.page
    desk.sign_in()
    page.get_by_role("link", name=re.compile("New job")).click()
    page.get_by_role("button", name="Open the job").click()
    expect(page.get_by_role("alert")).to_contain_text("Say where the machine stands")


def test_complaints_and_circumstances_change_what_is_likely(desk):
    page = desk.page
    open_a_job(desk)
    page.keyboard.type("g1")
    page.get_by_role("button", name="soft foil pipe behind the machine").click()
    expect(page.get_by_role("button", name="soft foil pipe behind the machine")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("button", name="drum does not turn").click()
    expect(page.get_by_role("heading", level=1).locator("..")).to_contain_text("drum does not turn")
    from jobs.models import Job

    assert Job.objects.get().circumstances == ["soft_foil_transition"]


def test_the_phone_has_its_stages_behind_one_button_and_its_pad(live_server, page):
    from tests.browser.conftest import Bench

    page.set_viewport_size(WIDTHS["phone"])
    phone = Bench(page, live_server.url, _someone("Ada Fell"))
    open_a_job(phone)
    make_it_safe(phone)
    page.get_by_role("button", name=re.compile("Make safe.*2 of 9")).click()
    stages = page.get_by_role("dialog", name="Stages")
    expect(stages.get_by_role("link", name=re.compile("Make safe"))).to_contain_text("done")
    stages.get_by_role("link", name=re.compile("Measure")).click()
    expect(page.get_by_role("heading", name="Measure the suction behind the screen").first).to_be_visible()
    for key in ("0", ".", "3", "delete the last digit", "2"):
        page.get_by_role("button", name=key, exact=True).click()
    expect(page.locator("input[data-answer]")).to_have_value("0.2")
    phone.press("button", "Save the reading")
    undo = page.get_by_role("button", name="Undo: suction behind the screen 0.2")
    expect(undo).to_be_visible()
    page.get_by_role("button", name=re.compile("Open the draft line")).click()
    expect(page.get_by_label("Draft line")).to_contain_text("0.20 inH2O")
    undo.click()
    expect(page.get_by_label("Draft line")).not_to_contain_text("0.20 inH2O")
    width = page.evaluate("() => document.documentElement.scrollWidth")
    assert width <= WIDTHS["phone"]["width"], "the page is wider than the phone"


def test_targets_are_large_enough_for_a_thumb(live_server, page):
    from tests.browser.conftest import Bench

    page.set_viewport_size(WIDTHS["phone"])
    phone = Bench(page, live_server.url, _someone("Ada Fell"))
    open_a_job(phone)
    for stage in ("complaint", "make_safe", "measure", "cause", "prove"):
        page.goto(re.sub(r"/[a-z_]+(\?.*)?$", f"/{stage}", page.url))
        page.get_by_label("Draft line").wait_for()
        small = page.evaluate(
            """() => [...document.querySelectorAll('button, a, select, input')].filter((e) => e.checkVisibility())
            .map((e) => [e.textContent, e.getBoundingClientRect()])
            .filter(([, box]) => box.width > 2 && box.height < 43.5).map(([text, box]) => `${text} ${box.height}`)"""
        )
        assert small == [], stage


def test_the_left_hand_finds_the_button_on_its_side(live_server, page):
    from tests.browser.conftest import Bench

    page.set_viewport_size(WIDTHS["phone"])
    phone = Bench(page, live_server.url, _someone("Ada Fell"))
    open_a_job(phone)
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="left hand").click()
    page.keyboard.press("Escape")
    bar = page.locator("div.fixed button")
    boxes = {text: bar.filter(has_text=text).first.bounding_box()["x"] for text in ("Make safe", "Done:")}
    assert boxes["Done:"] < boxes["Make safe"]


def test_a_trainee_is_told_who_may(live_server, page):
    from tests.browser.conftest import Bench

    page.set_viewport_size(WIDTHS["desk"])
    trainee = Bench(page, live_server.url, _someone("Wren Low", role="trainee"))
    open_a_job(trainee)
    page.keyboard.type("g9")
    expect(page.get_by_role("region", name="Hand over")).to_contain_text("ask a technician of the workshop")
    page.goto(f"{trainee.url}/jobs")
    expect(page.get_by_role("button", name="From a file")).to_be_disabled()


def test_a_deep_link_asks_for_the_sign_in_and_then_opens(desk):
    page = desk.page
    open_a_job(desk)
    address = page.url
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_label("E-mail").wait_for()
    page.goto(address)
    page.get_by_label("E-mail").fill(desk.email)
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("check both")
    page.get_by_label("Password").fill("a long password")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Make it safe").wait_for()
    assert page.url == address


def test_an_exported_job_comes_back_in_as_the_same(desk, tmp_path):
    page = desk.page
    open_a_job(desk)
    page.keyboard.type("g9")
    with page.expect_download() as download:
        page.get_by_role("link", name="The job as a file").click()
    file = tmp_path / "job.json"
    download.value.save_as(file)
    page.goto(f"{desk.url}/jobs")
    page.get_by_label("Job file").set_input_files(file)
    page.get_by_label("Draft line").wait_for()
    from jobs.models import Job

    assert Job.objects.count() == 1
    assert str(Job.objects.get().id) in page.url
