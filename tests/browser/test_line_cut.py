"""Two devices, the line cut at random, before a write leaves or after it arrived: every act is there once.

The short form; ./warm bench does 200 acts.
"""

import os
import random

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import WIDTHS
from tests.browser.test_no_signal import signed_in

from jobs.models import Happening, Reading

pytestmark = pytest.mark.django_db(transaction=True)
ACTS = int(os.environ.get("WARM_ACTS", "16"))


def cut_at_random(page, draw):
    """Half of the writes find no line; of those, half had arrived all the same and only the answer is lost."""

    def line(route):
        if route.request.method != "PUT" or draw.random() < 0.5:
            route.continue_()
        elif draw.random() < 0.5:
            route.abort("internetdisconnected")
        else:
            route.fetch()
            route.abort("connectionreset")

    page.route("**/api/v1/jobs/**", line)


def test_every_act_arrives_once(phone, browser, live_server):
    draw = random.Random(11)
    job = signed_in(phone)
    with browser.new_context(viewport=WIDTHS["desk"]) as other:
        desk = type(phone)(other.new_page(), live_server.url, phone.email)
        desk.sign_in()
        desk.page.get_by_role("link", name="New job").wait_for()
        for who in (phone, desk):
            who.page.goto(f"{who.url}/jobs/{job}/measure?check=outlet_flow")
            who.page.locator("input[data-answer]").wait_for()
            cut_at_random(who.page, draw)
        for number in range(ACTS):
            who = draw.choice((phone, desk))
            if draw.random() < 0.1:
                who.page.context.set_offline(True)
            who.page.locator("input[data-answer]").fill(f"{90 + number % 40}")
            who.page.keyboard.press("Enter")
            expect(who.page.locator("input[data-answer]")).to_have_value("")
            if draw.random() < 0.3:
                who.page.context.set_offline(False)
        for who in (phone, desk):
            who.page.unroute_all(behavior="wait")
            who.page.context.set_offline(False)
            expect(who.page.get_by_text("waiting to be sent")).to_have_count(0, timeout=60_000)
    typed = sorted(f"{90 + number % 40}" for number in range(ACTS))
    assert sorted(Reading.objects.values_list("typed", flat=True)) == typed
    assert Happening.objects.filter(what="reading_recorded").count() == ACTS
