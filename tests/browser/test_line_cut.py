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


#: How many writes the device still holds.
UNSENT = """async () => {
  const open = indexedDB.open('warm-draft')
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result) })
  const count = db.transaction('writes').objectStore('writes').count()
  const held = await new Promise((done) => { count.onsuccess = () => done(count.result) })
  db.close()
  return held
}"""


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
            who.page.evaluate("window.dispatchEvent(new Event('online'))")
            for _ in range(300):
                if who.page.evaluate(UNSENT) == 0:
                    break
                who.page.wait_for_timeout(100)
    typed = sorted(f"{90 + number % 40}" for number in range(ACTS))
    assert sorted(Reading.objects.values_list("typed", flat=True)) == typed
    assert Happening.objects.filter(what="reading_recorded").count() == ACTS
