"""Which way a wheel comes off is asked at the step, drawn from where one kneels, and kept for the way back."""

import pytest
from playwright.sync_api import expect
from tests.browser.test_bench_story import a_wheel_job, go_on_to

pytestmark = pytest.mark.django_db(transaction=True)


def asked(who, question: str):
    """The bench of the wheel, opened at its step."""
    bench = who.page.get_by_role("group").filter(has_text=question).first
    bench.get_by_text(question).click()
    return bench


def test_a_left_hand_wheel_from_the_front_without_a_line(bench):
    page = bench.page
    job = a_wheel_job(bench, "door_screen_bulkhead")
    page.goto(f"{bench.url}/jobs/{job}/open")
    go_on_to(bench, "Hold the shaft's flat")
    page.context.set_offline(True)  # nobody has a line behind a machine
    wheel = asked(bench, "Which way does it come off?")
    expect(wheel.get_by_text("under a nut · a wheel · looking at the free end")).to_be_visible()
    expect(wheel.get_by_role("status")).to_contain_text("Say which way it runs")
    wheel.get_by_role("button", name="clockwise", exact=True).click()
    said = wheel.get_by_role("status")
    expect(said).to_contain_text("turn it clockwise")
    expect(said).to_contain_text("left-hand thread")
    expect(said).to_contain_text("power driver")
    wheel.get_by_text("It does not move", exact=True).click()
    expect(wheel.locator("ol > li").first).to_contain_text("Penetrating oil")
    page.context.set_offline(False)


def test_a_rear_wheel_whose_mark_is_against_the_rule(desk):
    page = desk.page
    job = a_wheel_job(desk, "top_screen_rear_duct")
    page.goto(f"{desk.url}/jobs/{job}/open")
    go_on_to(desk, "Hold the shaft, turn the wheel off")
    wheel = asked(desk, "Which way does it come off?")
    wheel.get_by_role("button", name="counterclockwise", exact=True).click()
    said = wheel.get_by_role("status")
    expect(said).to_contain_text("turn it counterclockwise")
    expect(said).to_contain_text("right-hand thread")
    wheel.get_by_role("button", name="L, or left-hand").click()
    expect(said).to_contain_text("turn it clockwise")
    expect(said).to_contain_text("The rule says counterclockwise. The mark wins")
    # on the way back the same is known, and how tight it goes
    desk.next()
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    desk.to(f"/jobs/{job}/close")
    go_on_to(desk, "Wheel on by hand")
    back = asked(desk, "Which way does it go on, and how tight?")
    expect(back.get_by_role("status")).to_contain_text("On again counterclockwise")
    expect(back.get_by_text("Tight: By hand to the stop, then one firm check")).to_be_visible()


def test_a_vane_that_is_gone_changes_the_list_and_its_way(bench):
    page = bench.page
    job = a_wheel_job(bench, "rear_shaft_clamp")
    page.goto(f"{bench.url}/jobs/{job}/open")
    go_on_to(bench, "Clamp screw")
    bench.next()
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/mend")
    page.get_by_role("button", name="a vane cracked, bent or gone").click()
    works = page.get_by_role("region", name="List of works").or_(page.locator("section", has_text="List of works")).last
    expect(works.get_by_text("Replace the wheel")).to_be_visible()
    line = works.get_by_role("listitem").filter(has_text="Clean the wheel")
    expect(line.first).to_contain_text("not needed")
    page.get_by_role("button", name="flat of the clamp rounded").click()
    expect(works.get_by_text("Replace the wheel's clamp")).to_be_visible()
    expect(bench.page.locator("main p.text-2xl").first).to_contain_text("Housing, duct and screen slot clean first")
