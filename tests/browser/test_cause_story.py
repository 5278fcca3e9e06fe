"""Four ways to a cause: eyes and hands only, instruments live, a blown fuse with a needle, and fine for an hour."""

import re
from urllib.parse import parse_qs, urlparse

import pytest
from playwright.sync_api import expect
from tests.browser.test_story import make_it_safe

pytestmark = pytest.mark.django_db(transaction=True)


def open_a_job(bench, complaint, circumstance=None):
    bench.sign_in()
    bench.press("link", re.compile("New job"))
    bench.page.get_by_label("Where?").fill("Reed Bay sauna")
    bench.press("button", complaint)
    if circumstance:
        bench.page.get_by_text("Circumstances and what was said").click()
        bench.press("button", circumstance)
    bench.press("button", "Open the job")
    bench.page.get_by_role("heading", name="Make it safe").wait_for()
    make_it_safe(bench)


def carries(bench, *instruments):
    from people.models import Person

    Person.objects.filter(email=bench.email).update(habits={"carries": list(instruments)})


def tab(page, name):
    ways = page.get_by_role("navigation", name="Ways to find out")
    if not ways.is_visible():
        page.goto(re.sub(r"/jobs/([^/?]+).*", r"/jobs/\1/measure", page.url))
    ways.get_by_role("link", name=name).click()


#: What a beard of lint in the hood shows; everything else shows what a healthy machine does.
SHOWN = {
    "hood_flap_by_finger": "stuck", "hood_look": "blocked", "hood_flap_opens": "shut", "hood_air": "weak",
    "hood_flap_held": "stronger", "vent_off": "much stronger", "vent_off_at_wall": "much stronger",
    "power_watch": "short bursts", "drum_air_touch": "hot", "weigh_twice": "30 to 60 g a minute",
}  # fmt: skip


def test_eyes_and_hands_only(phone):
    page = phone.page
    carries(phone)
    open_a_job(phone, "takes for ever")
    asked = []
    said = page.locator("div.fixed")
    one_button = said.locator("button.btn-primary")
    for _ in range(14):
        if said.get_by_role("button", name=re.compile("^Go with: hood blocked")).is_visible():
            break
        phone.next()
        page.wait_for_url("**/measure?check=*")
        wanted_now = one_button.inner_text()
        check = parse_qs(urlparse(page.url).query)["check"][0]
        assert check not in asked
        asked.append(check)
        answers = page.get_by_role("group", name=re.compile("^What is it"))
        answers.wait_for()
        wanted = SHOWN.get(check)
        (
            answers.get_by_role("button", name=wanted, exact=True) if wanted else answers.get_by_role("button").first
        ).click()
        expect(one_button).not_to_have_text(wanted_now)  # the verdict came with the answer
    expect(said.get_by_role("button", name="Go with: hood blocked")).to_be_visible()
    assert len(asked) <= 8, asked
    assert not {"outlet_flow", "outlet_static_pressure"} & set(asked)  # no instrument, none asked for


@pytest.fixture
def stand_in(settings):
    """Instruments that play a crushed transition."""
    import sys
    from pathlib import Path

    sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "tools"))
    from stand_in import Bench, addresses, serve

    document = {"format": "warm-draft/job", "version": 1, "suppose": [{"fault": "transition_crushed", "severity": 60}]}
    played = Bench(document, 1, "none", 7)
    servers = serve(played, 0)
    settings.INSTRUMENTS = addresses(servers)
    yield played
    for server in servers:
        server.shutdown()
        server.server_close()


def test_instruments_live(desk, stand_in):
    page = desk.page
    open_a_job(desk, "takes for ever")
    tab(page, "Long run")
    bench = page.get_by_role("region", name="Instruments")
    for instrument, reading in (
        ("manometer", "pressure at the outlet"),
        ("vane anemometer", "flow at the outlet"),
        ("manometer", "suction before the wheel"),
        ("manometer", "pressure at the wall"),
    ):
        bench.get_by_role("button", name=instrument).click()
        bench.get_by_role("button", name=reading).click()
        expect(bench.get_by_text("live", exact=True)).to_be_visible()
        bench.get_by_role("button", name="Take this reading").click()
        expect(bench.get_by_text("Taken.")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Go with: transition crushed"))).to_be_visible()

    bench.get_by_role("button", name="Record a run").click()
    save = bench.get_by_role("button", name=re.compile(r"^Save the run"))
    expect(save).to_contain_text("(2)")
    stand_in.fault = "silent"  # the cable is out: said plainly, what was recorded stays
    expect(bench.get_by_text(re.compile("stopped in the middle"))).to_be_visible()
    kept = int(re.search(r"\d+", save.inner_text())[0])
    assert kept >= 2
    stand_in.fault = "garbage"
    expect(bench.get_by_text(re.compile("is no pressure"))).to_be_visible()
    stand_in.fault = "battery"
    expect(bench.get_by_text(re.compile("Battery at 4 %"))).to_be_visible()
    stand_in.fault = "none"
    expect(save).to_be_enabled(timeout=20_000)
    assert int(re.search(r"\d+", save.inner_text())[0]) > kept
    save.click()
    expect(page.get_by_role("region", name="A saved run").get_by_role("heading")).to_contain_text("Stays as it began")


def test_a_blown_fuse_with_an_analogue_meter(phone):
    page = phone.page
    open_a_job(phone, "does not start")
    tab(page, "Meter")
    expect(page.get_by_role("heading", name=re.compile("Motor circuit.*start here"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^Thermal fuse")).click()
    page.get_by_role("button", name="with a needle").click()
    expect(page.get_by_text("needle swings over to 0")).to_be_visible()
    page.get_by_role("button", name="it stayed at ∞").click()
    expect(page.get_by_role("alert")).to_contain_text("whether one wire is off")
    page.get_by_role("button", name="yes, one side is off").click()
    page.get_by_role("button", name="it stayed at ∞").click()
    meant = page.get_by_role("status", name="What it means")
    expect(meant).to_contain_text("failed")
    expect(meant).to_contain_text("Infinity on an ohmmeter is open, not good")
    expect(meant).to_contain_text("a victim, never the cause")

    page.goto(re.sub(r"/measure.*", "/cause", page.url))
    hot = page.get_by_role("region", name="What got hot")
    expect(hot).to_contain_text("Thermal fuse blown")
    page.get_by_label("You know better? Go with").select_option(label="Door, belt or start switch open")
    expect(page.get_by_role("alert")).to_contain_text("this cause makes no machine too hot")
    hot.get_by_role("button", name=re.compile("cause of the heat not found")).click()
    expect(page.get_by_text(re.compile("Working on:.*cause of the heat not found"))).to_be_visible()


def test_fine_for_an_hour_then_slow(desk):
    page = desk.page
    open_a_job(desk, "takes for ever", "fine at first, slow after an hour")
    tab(page, "Long run")
    page.clock.install()
    page.get_by_role("button", name="Start the clock").click()
    timed = page.get_by_role("region", name="The run being timed")
    for flow in (98, 101, 100, 99, 100, 101, 98, 70, 66, 67, 66, 65):
        expect(timed.get_by_text(re.compile("^Read it now"))).to_be_visible()
        timed.get_by_label("Reading at this minute").fill(str(flow))
        timed.get_by_role("button", name="Note it").click()
        page.clock.fast_forward("05:01")
    page.reload()  # a dead battery in between: nothing noted is lost
    expect(timed).to_contain_text("12 noted")
    timed.get_by_role("button", name="Save the run").click()
    saved = page.get_by_role("region", name="A saved run")
    expect(saved.get_by_role("heading")).to_contain_text("Fades from")
    expect(page.get_by_role("button", name=re.compile("^Wheel: 7|^Wheel: 8|^Wheel: 9|^Wheel"))).to_be_visible()
    page.goto(re.sub(r"/measure.*", "/cause", page.url))
    expect(page.get_by_role("listitem").filter(has_text="Motor fades when hot").first).to_be_visible()


def test_a_run_is_drawn_and_the_verdict_knows_it(phone):
    page = phone.page
    open_a_job(phone, "takes for ever")
    tab(page, "Vent run")
    for piece in ("+ straight", "+ bend", "+ hood"):
        page.get_by_role("button", name=piece).click()
    page.get_by_role("button", name=re.compile("^1 ?Straight")).click()
    page.get_by_label("Length, ft", exact=True).fill("44")
    judged = page.get_by_role("region", name="What it loses and breaks")
    expect(judged).to_contain_text("too long")
    expect(judged).to_contain_text("Check the code in force where you work")
    page.reload()
    expect(page.get_by_role("img", name=re.compile("^From above: 3 pieces"))).to_be_visible()
    tab(page, "Heat")
    expect(page.get_by_role("heading", name=re.compile("dries the load in"))).to_be_visible()
