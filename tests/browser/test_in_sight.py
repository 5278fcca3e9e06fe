"""What the act at hand needs is in sight as a page opens, at both widths, on every stage of every demo job; and people
are told in people's words."""

import re

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import WIDTHS

pytestmark = pytest.mark.django_db(transaction=True)
STAGES = ("complaint", "make_safe", "measure", "cause", "open", "mend", "close", "prove", "hand_over")
#: What of the act at hand lies below what is seen, or behind the bar with what comes next.
OUT_OF_SIGHT = """() => {
  const bar = [...document.querySelectorAll('[data-bar]')].map((one) => one.getBoundingClientRect())
    .find((at) => at.height > 0)
  return [...document.querySelectorAll('[data-act]')]
    .map((one) => ({ one, at: one.getBoundingClientRect() }))
    .map(({ one, at }) => ({ one, at, foot: at.left < bar.right && at.right > bar.left ? bar.top : innerHeight }))
    .filter(({ one, at, foot }) => one.checkVisibility() && at.height > 0 && (at.bottom > foot + 1 || at.top < 0))
    .map(({ one, at, foot }) => `${Math.round(at.top)}-${Math.round(at.bottom)} of ${Math.round(foot)}: ${one.tagName} `
      + (one.textContent || one.getAttribute('aria-label') || '').trim().slice(0, 50))
}"""
#: Where the one button stands that leads on.
NEXT_AT = """() => {
  const at = [...document.querySelectorAll('[data-bar] .btn-primary')].map((one) => one.getBoundingClientRect())
    .find((at) => at.height > 0)
  return [at.left, at.bottom].map(Math.round)
}"""


def each_stage(bench, page):
    """Every stage of every demo job, one after the other, drawn."""
    links = page.locator("main a[href^='/jobs/']:not([href='/jobs/new'])")
    expect(links.first).to_be_visible()
    jobs = sorted({re.sub(r"(/jobs/[^/]+).*", r"\1", link.get_attribute("href")) for link in links.all()})
    assert len(jobs) >= 8
    for job in jobs:
        bench.to(job)
        page.locator("main section").first.wait_for()
        for stage in STAGES:
            bench.to(f"{job}/{stage}")
            yield job, stage


@pytest.mark.parametrize("width", WIDTHS)
def test_the_act_at_hand_is_in_sight_and_words_are_peoples(demo, width):
    page = demo.page
    page.set_viewport_size(WIDTHS[width])
    hidden, odd, stood = [], [], set()
    for job, stage in each_stage(demo, page):
        page.wait_for_timeout(60)  # fonts and drawings take their size
        hidden += [f"{stage} of {job}: {what}" for what in page.evaluate(OUT_OF_SIGHT)]
        assert page.evaluate("() => scrollY") == 0
        stood.add(tuple(page.evaluate(NEXT_AT)))
        text = page.locator("main").inner_text()
        odd += [f"{stage} of {job}: {said}" for said in re.findall(r"[^\n]*\b(?:bits?|nats?|entropy)\b[^\n]*", text)]
        for said in re.findall(r"\d+\s*cfm of \d+(?:[^\n]*\n){0,3}", text):
            known = "measured" in said or "follows" in said
            odd += [] if known else [f"{stage} of {job}: {said!r} says not how it is known"]
    assert hidden == [] and odd == [], "\n".join(hidden + odd)
    assert len(stood) == 1, f"what comes next stands now here, now there: {stood}"
