"""For all eyes and hands: names, keys in order, twice the size, colours of the system's own, nothing that moves."""

import re

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import WIDTHS
from tests.browser.test_screens import axe, open_job

pytestmark = pytest.mark.django_db(transaction=True)
#: Each main view: its address below a job of the demo, or of its own.
MAIN = (
    "/jobs",
    "/jobs/new",
    "/people",
    "/desk",
    "/desk/learned",
    "/day",
    "/drills",
    "complaint",
    "make_safe",
    "measure",
    "cause",
    "open",
    "close",
    "prove",
    "history",
)

#: What has the focus: its role and name as a screen reader says them, where it is, and whether the focus is seen.
FOCUS = """() => {
  const e = document.activeElement
  if (!e || e === document.body) return null
  const box = e.getBoundingClientRect(), style = getComputedStyle(e)
  const named = e.getAttribute('aria-label') || e.labels?.[0]?.textContent || e.textContent || e.getAttribute('title')
  const seen = style.outlineStyle !== 'none' || style.boxShadow !== 'none' || e.tagName === 'svg' || !!e.closest('svg')
  return { tag: e.tagName, name: (named || '').trim(), x: box.x, y: box.y + scrollY, seen,
           hidden: box.width === 0 || !!e.closest('[aria-hidden=true]') }
}"""


def shown(demo, view):
    demo.to(view if view.startswith("/") else f"{open_job(demo, 'Rowing clubhouse')}/{view}")
    demo.page.get_by_role("main").wait_for()


def walked(page) -> list[str]:
    """Tab through what comes first: everything is named, is there, and shows that it has the focus."""
    page.locator("body").click(position={"x": 1, "y": 1})
    reached = []
    for _ in range(10):
        page.keyboard.press("Tab")
        at = page.evaluate(FOCUS)
        if at is None:
            break
        reached.append(at)
    trouble = [f"{at}" for at in reached if not at["name"] or at["hidden"] or not at["seen"]]
    return trouble if len(reached) >= 4 else [*trouble, f"only {len(reached)} things are reached by Tab"]


def too_wide(page) -> list[str]:
    """At 200 % on a desk and on a phone nothing scrolls sideways."""
    trouble = []
    for width, height in ((640, 400), (320, 422)):
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_timeout(150)  # what is drawn to its width is drawn anew
        over = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        trouble += [f"{over} px too wide at {width}"] if over > 0 else []
    page.set_viewport_size(WIDTHS["desk"])
    return trouble


def in_the_systems_colours(page) -> list[str]:
    """With forced colours all of it can be read."""
    page.emulate_media(forced_colors="active")
    trouble = axe(page)
    page.emulate_media(forced_colors="none")
    return trouble


@pytest.mark.slow  # every view
def test_every_view_by_keyboard_at_twice_the_size_and_in_the_systems_colours(demo):
    page, trouble = demo.page, []
    for view in MAIN:
        shown(demo, view)
        for looked_at in (walked, too_wide, in_the_systems_colours):
            trouble += [f"{view}: {found}" for found in looked_at(page)]
    assert trouble == []


def test_who_wants_nothing_to_move_sees_nothing_move(demo):
    page = demo.page
    page.emulate_media(reduced_motion="reduce")
    for view in ("measure", "cause"):
        shown(demo, view)
        moving = page.evaluate("document.getAnimations().filter(a => a.playState === 'running').length")
        assert moving == 0, view
        assert page.evaluate(
            """[...document.querySelectorAll('*')].every(e => getComputedStyle(e).transitionDuration.split(',')
                 .every(t => parseFloat(t) <= 0.01))"""
        ), view


def test_axe_finds_nothing_on_the_pages_about_people_and_at_the_mails_links(demo):
    page, trouble = demo.page, []
    for size in WIDTHS.values():
        page.set_viewport_size(size)
        for view in ("/people", "history"):
            shown(demo, view)
            trouble += [f"{view}: {found}" for found in axe(page)]
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_label("E-mail").wait_for()
    for path in ("/lost-password", "/join/no-such-token", "/new-password/a/b"):
        page.goto(demo.url + path)
        page.get_by_role("heading", level=1).wait_for()
        trouble += [f"{path}: {found}" for found in axe(page)]
    expect(page.get_by_label("New password")).to_be_visible()
    assert trouble == []
