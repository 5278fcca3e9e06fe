"""Retake docs/screenshots from the demo data. Run by ./warm pictures, beside an app of its own."""

from __future__ import annotations

import os
import re
import sys
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

ROOT = Path(__file__).resolve().parent.parent
FOLDER = ROOT / "docs" / "screenshots"
URL = os.environ["WARM_URL"]
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
FLAGS = (
    "--no-sandbox --disable-gpu --disable-dev-shm-usage --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --force-color-profile=srgb --font-render-hinting=none"
)
#: file name -> (width, theme, place of the demo, stage with its query; None for the list)
VIEWS: dict[str, tuple[dict[str, int], str, str | None, str]] = {
    "jobs": (DESK, "light", None, "/jobs"),
    "parts": (DESK, "light", None, "/parts"),
    "cause": (DESK, "light", "Otter Ness", "cause"),
    "measure": (DESK, "light", "Hikers", "measure"),
    "meter": (DESK, "light", "Ferry", "measure?check=meter_thermal_fuse"),
    "vent": (DESK, "light", "Watermill", "vent"),
    "sound": (DESK, "light", "Lantern", "prove?view=sound"),
    "open": (DESK, "light", "Rowing", "open"),
    "mend": (DESK, "light", "Ferry", "mend"),
    "close": (DESK, "light", "Fell race", "close"),
    "day": (DESK, "light", None, "/day"),
    "drill": (DESK, "light", None, "drill"),
    "prove": (DESK, "light", "paint job", "prove"),
    "record": (DESK, "light", "paint job", "paper"),
    "machine": (DESK, "light", "Millrace", "machine"),
    "desk": (DESK, "light", None, "/desk"),
    "phone-measure": (PHONE, "light", "Hikers", "measure?check=outlet_static_pressure"),
    "phone-day": (PHONE, "light", None, "/day"),
    "phone-open": (PHONE, "dark", "Rowing", "open"),
}


#: Places whose job is handed over, by what its row says.
HANDED_OVER = {"paint job": "Narrowboat", "Millrace": "Millrace laundry, no. 1|no. 1"}
#: What lies below the fold and is meant, by its picture: the name of its region.
#: What shows that a view is there, where it is not the draft line.
ARRIVED = {"vent": "Ways out"}
BELOW = {"sound": "^(Before and after|A recording)$"}


def _sign_in(browser: Browser, size: dict[str, int], theme: str) -> Page:
    context = browser.new_context(viewport=size, color_scheme=theme, reduced_motion="reduce")  # type: ignore[arg-type]
    page = context.new_page()
    page.goto(URL)
    page.get_by_label("E-mail").fill("tobin@skellmere.example")
    page.get_by_label("Password").fill("warm-draft-demo")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", name="Skellmere").wait_for()
    return page


def _open(page: Page, place: str | None, where: str) -> None:
    if where == "drill":
        _drill(page)
        return
    if place is None:
        page.goto(URL + where)
        page.get_by_role("main").wait_for()
        return
    page.goto(f"{URL}/jobs")
    if place in HANDED_OVER:
        page.get_by_role("button", name="Handed over").click()
        page.locator("section").get_by_role("link", name=re.compile(HANDED_OVER[place])).first.click()
    else:
        page.get_by_role("link", name=re.compile(place)).first.click()
    page.get_by_label("Draft line").wait_for()
    job = page.url.split("?")[0].rstrip("/")
    if where == "paper":  # what the customer has
        page.goto(f"{URL}/api/v1/jobs/{job.rsplit('/', 1)[-1]}/record/page")
        page.locator("article footer").wait_for()
        return
    if where == "machine":
        page.goto(f"{job}/hand_over")
        page.get_by_role("link", name="The machine: its story").click()
        page.get_by_role("img", name="Flow over the years").wait_for()
        return
    page.goto(f"{job}/{where}")
    page.get_by_label(ARRIVED.get(where, "Draft line")).first.wait_for()


def _drill(page: Page) -> None:
    """A drill to its end: one check, then what it turned out to be."""
    page.goto(f"{URL}/drills")
    page.get_by_role("button", name="Begin: Slow since it was moved").click()
    page.get_by_text("A drill.").wait_for()
    job = re.sub(r"(/jobs/[^/?]+).*", r"\1", page.url)
    for check in ("outlet_flow", "behind_look"):
        page.goto(f"{job}/measure?check={check}")
        page.get_by_role("button", name="Do it on the machine").click()
        page.wait_for_timeout(1000)
        found = page.get_by_text("You find:").locator("b")
        if found.count():
            page.locator("button[data-answer]", has_text=found.inner_text()).first.click()
        else:
            page.get_by_role("button", name="Save the reading").click()
        page.wait_for_timeout(1000)
    page.goto(f"{job}/cause")
    page.get_by_role("button", name=re.compile("Go with it.*Transition crushed")).click()
    page.wait_for_timeout(1000)
    page.get_by_role("button", name="End the drill").click()
    page.get_by_role("heading", name="Mended", exact=True).wait_for()


def main() -> int:
    FOLDER.mkdir(parents=True, exist_ok=True)
    wanted = sys.argv[1:] or list(VIEWS)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["WARM_CHROMIUM"], args=FLAGS.split())
        for name in wanted:
            size, theme, place, where = VIEWS[name]
            page = _sign_in(browser, size, theme)
            _open(page, place, where)
            page.wait_for_timeout(400)
            if name in BELOW:
                page.wait_for_timeout(1200)
                below = page.get_by_role("region", name=re.compile(BELOW[name])).first
                below.evaluate("row => window.scrollTo(0, row.getBoundingClientRect().top + scrollY - 90)")
            page.screenshot(path=FOLDER / f"{name}.png")
            page.context.close()
            print(f"docs/screenshots/{name}.png")
        browser.close()
    for old in FOLDER.glob("*.png"):
        if old.stem not in VIEWS:
            old.unlink()
    return 0


if __name__ == "__main__":
    sys.exit(main())
