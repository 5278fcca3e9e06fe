"""What every screen keeps: it can be read by all, it is quick, it stands still, and it says what it should."""

import gzip
import json
import re
from pathlib import Path
from urllib.parse import urlparse

import pytest
from django.conf import settings
from playwright.sync_api import expect
from tests.browser.conftest import WIDTHS

pytestmark = pytest.mark.django_db(transaction=True)
ROOT = Path(__file__).resolve().parents[2]
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
STAGES = ("complaint", "make_safe", "measure", "cause", "open", "mend", "close", "prove", "hand_over")
#: Ways to find out, each on a job that has something to show.
VIEWS = (
    ("Ferry office", "view=meter"), ("Ferry office", "check=meter_thermal_fuse"), ("Watermill", "view=run"),
    ("Otter Ness", "view=heat"), ("Sauna raft", "view=log"),
    ("Rowing clubhouse", "view=sound"),
)  # fmt: skip
#: JavaScript that the page itself asks for, gzipped; the rest comes when it is opened.
MOST_SCRIPT_BYTES = 140_000


def open_job(demo, place: str) -> str:
    """Its path."""
    page = demo.page
    demo.to("/jobs")
    page.get_by_role("link", name=re.compile(place)).first.click()
    page.get_by_label("Draft line").wait_for()
    return urlparse(page.url).path


#: What a theme changes: colours, and nothing else.
COLOURS = "{ runOnly: { type: 'rule', values: ['color-contrast', 'link-in-text-block'] }, resultTypes: ['violations'] }"


def axe(page, options: str = "{ resultTypes: ['violations'] }") -> list[str]:
    # evaluated through the debugger, which the content security policy does not stand in the way of
    page.evaluate(AXE.read_text() + "; undefined")
    found = page.evaluate(f"() => axe.run(document, {options})")  # the rest is only counted
    return [
        f"{v['id']}: {n['html'][:120]} {n['failureSummary'][:200]}" for v in found["violations"] for n in v["nodes"]
    ]


def axe_in_both_themes(page) -> list[str]:
    """Everything in the light one; in the dark one what the theme changes."""
    light = axe(page)
    page.emulate_media(color_scheme="dark", reduced_motion="reduce")
    dark = axe(page, COLOURS)
    page.emulate_media(color_scheme="light", reduced_motion="reduce")
    return [*light, *(f"dark: {found}" for found in dark)]


@pytest.mark.slow  # every screen, two themes, two widths
@pytest.mark.parametrize("size", WIDTHS)
def test_axe_finds_nothing_on_any_screen(demo, size):
    page = demo.page
    page.emulate_media(color_scheme="light", reduced_motion="reduce")
    page.set_viewport_size(WIDTHS[size])
    trouble = []
    for path in ("/jobs", "/jobs/new", "/layouts", "/desk", "/desk/learned", "/day", "/drills"):
        demo.to(path)
        page.get_by_role("main").wait_for()
        trouble += [f"{path} {found}" for found in axe_in_both_themes(page)]
    job = open_job(demo, "Rowing clubhouse")
    for stage in STAGES:
        demo.to(f"{job}/{stage}")
        page.get_by_label("Draft line").wait_for()
        trouble += [f"{stage} {found}" for found in axe_in_both_themes(page)]
    demo.to(f"{open_job(demo, 'Fell race office')}/close")  # its gate stands open
    page.get_by_role("region", name="Gate").wait_for()
    trouble += [f"gate {found}" for found in axe_in_both_themes(page)]
    for place, view in VIEWS:
        demo.to(f"{open_job(demo, place)}/measure?{view}")
        page.get_by_role("heading", level=2).first.wait_for()
        trouble += [f"{place} {view} {found}" for found in axe_in_both_themes(page)]
    vent = f"{open_job(demo, 'Watermill')}/vent"
    demo.to(vent)
    page.get_by_role("button", name="Choose this way").first.click()
    page.get_by_role("region", name="Cut list").wait_for()
    for folded in page.locator("main details > summary").all():
        folded.click()
    page.get_by_role("table").wait_for()
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    trouble += [f"vent {found}" for found in axe_in_both_themes(page)]
    demo.to(f"{vent}/paper")
    page.get_by_role("heading", name="In this order").wait_for()
    trouble += [f"paper {found}" for found in axe_in_both_themes(page)]
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    trouble += [f"settings {found}" for found in axe_in_both_themes(page)]
    page.keyboard.press("Escape")
    demo.to("/jobs")
    page.get_by_role("button", name="Handed over").click()
    page.locator("section").get_by_role("link").first.click()
    page.get_by_label("Draft line").wait_for()
    demo.to(f"{urlparse(page.url).path}/record")
    page.get_by_role("article", name="Record").wait_for()
    trouble += [f"record {found}" for found in axe_in_both_themes(page)]
    demo.to(urlparse(page.url).path.replace("/record", "/hand_over"))
    demo.follow("The machine: its story")
    page.get_by_role("heading", name="What was done").wait_for()
    trouble += [f"machine {found}" for found in axe_in_both_themes(page)]
    demo.follow("All machines there")
    page.get_by_role("main").get_by_role("listitem").first.wait_for()
    trouble += [f"wall {found}" for found in axe_in_both_themes(page)]
    page.go_back()
    page.get_by_role("link", name="Label with a QR code").click()
    page.get_by_role("img", name="QR code of this machine").wait_for()
    trouble += [f"label {found}" for found in axe_in_both_themes(page)]
    assert trouble == []


def test_axe_finds_nothing_at_the_door(desk):
    desk.page.goto(desk.url)
    desk.page.get_by_label("E-mail").wait_for()
    assert axe(desk.page) == []


def test_nothing_moves_when_a_reading_is_saved(demo):
    page = demo.page
    page.set_viewport_size(WIDTHS["desk"])
    job = open_job(demo, "Hikers")
    demo.to(f"{job}/measure?check=outlet_static_pressure")
    page.locator("input[data-answer]").wait_for()
    page.evaluate(
        """() => { window.shift = 0; new PerformanceObserver((list) => { for (const e of list.getEntries())
        if (!e.hadRecentInput) window.shift += e.value }).observe({ type: 'layout-shift', buffered: false }) }"""
    )
    for i in range(8):
        page.locator("input[data-answer]").fill(f"0.{40 + i}")
        page.keyboard.press("Enter")
        expect(page.locator("input[data-answer]")).to_have_value("")
    page.wait_for_timeout(200)
    # a fifth of what counts as a visible shift: texts of another width in their places, no element that moves
    assert page.evaluate("() => window.shift") < 2e-2


def test_first_view_is_small_and_compressed():
    assets = settings.WEB_DIST / "assets"
    first = re.findall(r"/assets/([^\"]+\.js)", (settings.WEB_DIST / "index.html").read_text())
    assert first
    assert sum(len(gzip.compress((assets / name).read_bytes())) for name in first) <= MOST_SCRIPT_BYTES
    for script in assets.glob("*.js"):
        whole = script.read_bytes()
        shorter = len(gzip.compress(whole)) < 0.95 * len(whole)  # a handful of bytes only grows
        assert script.with_name(f"{script.name}.gz").is_file() or not shorter, script.name


def test_the_draft_line_explains_a_segment_that_is_pressed(demo):
    page = demo.page
    page.set_viewport_size(WIDTHS["desk"])
    open_job(demo, "Otter Ness")
    segment = page.get_by_role("button", name=re.compile("^Vent run"))
    segment.click()
    card = page.get_by_role("region", name="Vent run")
    expect(card).to_contain_text("Vent run packed")
    expect(card).to_contain_text("when healthy")
    segment.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("button", name=re.compile("^Hood"))).to_be_focused()
    page.keyboard.press("Escape")
    expect(card).to_have_count(0)


def test_percentages_under_the_line_add_to_a_hundred(demo):
    page = demo.page
    open_job(demo, "Otter Ness")
    names = (
        page.get_by_label("Elements of the air's way")
        .get_by_role("button")
        .evaluate_all("all => all.map(b => b.textContent)")
    )
    assert sum(int(m[1]) for name in names if (m := re.search(r"(\d+) %", name))) in (99, 100)


def test_a_reading_that_contradicts_is_named_with_what_it_should_be(demo):
    page = demo.page
    job = open_job(demo, "Theatre")
    expect(page.get_by_role("complementary")).to_contain_text("Take it again: suction before the wheel")
    demo.to(f"{job}/cause")
    expect(page.get_by_role("alert")).to_contain_text("beside the other readings it should be")


def test_units_change_everywhere_at_once_and_stay(demo):
    page = demo.page
    page.set_viewport_size(WIDTHS["desk"])
    job = open_job(demo, "Otter Ness")
    page.get_by_role("button", name="Units:").click()
    for unit in ("L/s", "Pa"):
        page.get_by_role("dialog").get_by_role("button", name=unit, exact=True).click()
    page.keyboard.press("Escape")
    expect(page.get_by_label("Draft line")).to_contain_text("L/s of 80")
    demo.to(f"{job}/cause")
    expect(page.get_by_role("main")).to_contain_text("L/s of 80 through the outlet")


def test_the_theme_a_person_chose_wins_over_the_devices(demo):
    page = demo.page
    page.emulate_media(color_scheme="light")
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="cellar").click()
    expect(page.locator("html")).to_have_attribute("data-theme", "cellar")


def test_a_damaged_file_is_refused_with_the_place_of_the_fault(demo, tmp_path):
    page = demo.page
    file = tmp_path / "broken.json"
    file.write_text(json.dumps({"format": "warm-draft/job", "version": 1, "complaints": ["sulks"]}))
    page.get_by_label("Job file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("$.complaints[0]")


def test_a_search_finds_a_job_by_its_cause(demo):
    page = demo.page
    page.get_by_label("Find a job").fill("wheel fouled")
    expect(page.get_by_role("main").get_by_role("listitem")).to_have_count(1)
    page.get_by_label("Find a job").fill("submarine")
    expect(page.get_by_role("main")).to_contain_text("No job says")


def test_signing_out_leaves_nothing_to_see(demo):
    page = demo.page
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_label("E-mail").wait_for()
    page.goto(f"{demo.url}/jobs")
    page.get_by_label("E-mail").wait_for()
