"""The vent drawn anew, as people meet it: with a finger at the machine, with keys at the desk, where no way leads."""

import re

import pytest
from playwright.sync_api import Page, expect
from tests.browser.conftest import WIDTHS, Bench, _someone
from tests.browser.test_sure_story import SAFE, brings, opens, reading
from tests.browser.test_works_story import picture

pytestmark = pytest.mark.django_db(transaction=True)

BEFORE = [reading("outlet_flow", 92, "cfm"), reading("outlet_static_pressure", 1.6, "inH2O")]
LONG = {
    "diameter": {"value": 4, "unit": "in"},
    "pieces": [
        {"piece": "straight", "length": {"value": 40, "unit": "ft"}, "material": "galvanised"},
        *[{"piece": "elbow", "angle": 90, "style": "mitred"}] * 3,
        {"piece": "hood", "style": "flap"},
    ],
}


class Touch(Bench):
    """A phone: nothing but fingers on it."""

    def press(self, role: str, name, **more) -> None:
        self.interactions += 1
        self.page.get_by_role(role, name=name, **more).first.tap()

    def next(self) -> None:
        self.interactions += 1
        self.page.locator("div.fixed button.btn-primary").first.tap()

    def on_plan(self, view: str, x: int, y: int, columns: int, rows: int) -> None:
        """A finger on a cell, counted from the left and from below."""
        self.interactions += 1
        cells = self.page.locator(f"svg[data-view={view}] rect[data-cells]")
        cells.scroll_into_view_if_needed()
        box = cells.bounding_box()
        at = {"x": (x + 0.5) / columns * box["width"], "y": (rows - 0.5 - y) / rows * box["height"]}
        cells.tap(position=at)


@pytest.fixture
def touch(live_server, page: Page):
    yield Touch(page, live_server.url, _someone("Ada Fell"))


def ways(page: Page):
    return page.get_by_role("region", name="Ways out").locator("[data-way-card]")


@pytest.mark.browser_context_args(has_touch=True, viewport=WIDTHS["phone"])
def test_with_a_finger_from_the_plan_to_the_proof(touch):
    page = touch.page
    causes = [{"kind": kind, "fault": "run_overlong"} for kind in ("working", "confirmed")]
    job = brings(touch, readings=BEFORE, vent=LONG, causes=causes, marks=SAFE)
    opens(touch, job, "measure?view=run")
    touch.press("link", "Draw a new run")
    touch.press("button", "Begin the plan")
    expect(ways(page)).to_have_count(1)
    # a window behind, a joist over it all; two more walls are outdoors
    touch.press("button", "window")
    expect(page.get_by_text("Tap one end of it, then the other.")).to_be_visible()
    touch.on_plan("facing", 7, 3, 12, 8)
    expect(page.get_by_text("Tap its other end.")).to_be_visible()
    touch.on_plan("facing", 9, 5, 12, 8)
    touch.press("button", "joist or beam")
    touch.on_plan("above", 0, 3, 12, 8)
    touch.on_plan("above", 11, 3, 12, 8)
    touch.press("button", "the right", exact=True)
    touch.press("button", "above", exact=True)
    expect(ways(page)).to_have_count(3)
    expect(ways(page).first).to_contain_text("Out of the back, through the wall behind")
    # taken back and put there again: nothing is lost
    touch.press("button", "Undo")
    expect(ways(page)).to_have_count(2)
    touch.press("button", "above", exact=True)
    expect(ways(page)).to_have_count(3)
    roof = ways(page).filter(has_text="through the roof")
    roof.get_by_role("button", name=re.compile("through the roof")).tap()
    expect(page.locator("svg[data-view=facing] [data-way='back +z']")).to_be_visible()
    expect(roof).to_contain_text("a ladder each time")
    # the choice, on paper for the van
    right = ways(page).filter(has_text="through the wall on the right")
    right.get_by_role("button", name="Choose this way").tap()
    expect(page.get_by_text("Chosen: it stands in the list of works.")).to_be_visible()
    promise = re.search(r"Gives (\d+) cfm ± (\d+) cfm", right.inner_text())
    assert promise
    flow, either_way = map(int, promise.groups())
    touch.press("link", "Paper for the van")
    expect(page.get_by_role("heading", name="The new run: Otter Ness kennels")).to_be_visible()
    expect(page.locator("[data-bars] li").first).to_contain_text("rigid duct")
    expect(page.get_by_text("No screw into the air's way")).to_be_visible()
    expect(page.locator("svg [data-way='back +x']").first).to_be_visible()
    touch.press("link", "Back to the plan")
    touch.press("link", "Back to the job")
    # built, by the one button
    for _ in range(30):
        if page.get_by_role("heading", name=re.compile("Measure the flow at the outlet|^Prove")).first.is_visible():
            break
        touch.next()
        page.wait_for_timeout(250)
    page.goto(f"{touch.url}/jobs/{job}/prove")
    touch.reads(f"{flow} cfm")
    expect(page.get_by_text(re.compile(f"^As promised: .* where {flow} cfm was expected"))).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("^Proven"))).to_be_visible()
    expect(
        page.get_by_text("Build the new run: gone, by the readings")
        .or_(page.get_by_text("Vent run too long: gone, by the readings"))
        .first
    ).to_be_visible()
    assert either_way < 15


def test_with_keys_at_the_desk_a_way_is_drawn_closed_and_opened_again(desk):
    page = desk.page
    job = brings(desk, readings=BEFORE)
    opens(desk, job, "vent")
    desk.press("button", "Begin the plan")
    expect(ways(page)).to_have_count(1)
    above = page.get_by_role("application", name=re.compile("From above"))
    # a wall that is not to be drilled, between the machine and the wall behind: from corner to corner by the arrows
    desk.press("button", "wall not to be drilled")
    above.focus()
    for _ in range(7):
        page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    for _ in range(11):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(ways(page)).to_have_count(0)
    expect(page.get_by_text("No way leads outdoors.")).to_be_visible()
    closed = page.get_by_role("list", name="Where no way leads")
    expect(closed).to_contain_text("Out of the back: a wall not to be drilled stands right there.")
    # it is moved forward a step: a cell is free, and still nothing leads through
    desk.press("button", "machine", exact=True)
    above.focus()
    page.keyboard.press("ArrowDown")
    for _ in range(5):
        page.keyboard.press("ArrowDown")
    for _ in range(6):
        page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    expect(closed).to_contain_text("nowhere for a hood")
    desk.press("button", "the left", exact=True)
    expect(ways(page)).to_have_count(1)
    expect(ways(page).first).to_contain_text("through the wall on the left")
    # built otherwise it loses otherwise, and the allowance is another
    lost = ways(page).first.inner_text()
    page.get_by_text("Built of 4 in").click()
    desk.press("button", "mitred", exact=True)
    expect(ways(page).first).not_to_contain_text(lost.splitlines()[1])
    # what was drawn is kept at once, also where one leaves right away
    desk.press("button", "above", exact=True)
    desk.to(f"/jobs/{job}/vent/paper")
    desk.to(f"/jobs/{job}/vent")
    expect(page.get_by_role("button", name="above", exact=True)).to_have_attribute("aria-pressed", "true")


def test_the_room_and_a_shared_duct_are_told_as_one_types(bench):
    page = bench.page
    job = brings(bench, plan={"cells": [12, 8, 8], "cell": {"value": 1, "unit": "ft"}, "machine": [5, 5, 0]})
    opens(bench, job, "vent")
    expect(page.get_by_text("Nothing is drawn to go to: say which walls are outdoors.")).to_be_visible()
    page.get_by_text("Behind the machine, and air for the room").click()
    room = page.get_by_role("region", name="Behind the machine")
    expect(room.get_by_text("Its back stays 12 in from the wall: mark that on the floor.")).to_be_visible()
    room.get_by_label("Pipes and hoses stand out").fill("14")
    expect(room.get_by_text("Its back stays 15 in from the wall")).to_be_visible()
    expect(room.get_by_text("What stands out from the wall asks for it.")).to_be_visible()
    air = page.get_by_role("region", name="Air for the room")
    air.get_by_label("Opening to outdoors").fill("30")
    air.get_by_role("button", name="a closet").click()
    expect(air.get_by_text("call the licensed person")).to_be_visible()
    page.get_by_text("A duct shared with other machines").click()
    riser = page.get_by_role("table")
    expect(riser.get_by_role("row", name=re.compile("^All of them"))).to_be_visible()
    page.get_by_label("Machines", exact=True).fill("2")
    expect(riser.get_by_role("columnheader")).to_have_count(4)
    page.get_by_label("From one to the next").fill("far")
    expect(page.get_by_role("alert").filter(has_text="storey")).to_be_visible()


def test_a_photo_of_the_wall_lies_under_it_to_scale(bench, width):
    page = bench.page
    job = brings(bench, plan={"cells": [12, 8, 8], "cell": {"value": 1, "unit": "ft"}, "machine": [5, 5, 0]})
    opens(bench, job, "vent")
    page.get_by_text("A photo of the wall under it").click()
    page.get_by_label("Photo", exact=True).set_input_files(
        {"name": "wall.png", "mimeType": "image/png", "buffer": picture()}
    )
    bench.press("button", "Lay this photo under it")
    under = page.locator("svg[data-view=facing] image")
    expect(under).to_have_attribute("height", "160")

    def point(x: float, y: float) -> None:
        cells = page.locator("svg[data-view=facing] rect[data-cells]")
        cells.scroll_into_view_if_needed()
        box = cells.bounding_box()
        cells.click(position={"x": x / 12 * box["width"], "y": (8 - y) / 8 * box["height"]})

    before = float(under.get_attribute("width"))
    bench.press("button", "A width that is known")
    point(2, 1)
    expect(page.get_by_text("Tap its other end.")).to_be_visible()
    point(6, 1)
    page.get_by_label("How far apart they are, ft").fill("2")
    bench.press("button", "Draw it to scale")
    expect(page.get_by_text("Say how long that is.")).to_have_count(0)
    assert float(under.get_attribute("width")) == pytest.approx(before / 2, rel=0.05)
    bench.press("button", "Move it")
    point(2, 1)
    point(5, 3)
    expect(page.get_by_text("Tap where it belongs.")).to_have_count(0)
    assert float(under.get_attribute("x")) == pytest.approx((1 + 3) * 20, abs=6)
    bench.press("button", "Undo")
    assert float(under.get_attribute("x")) == pytest.approx(20, abs=6)
    bench.press("button", "Take the photo away")
    expect(under).to_have_count(0)
