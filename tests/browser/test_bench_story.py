"""The machine is opened, mended and closed at the bench: on a phone without a line, with surprises, by two at once."""

import re
import time
import uuid

import pytest
from django.db.models import F
from playwright.sync_api import expect
from tests.browser.conftest import PASSWORD, WIDTHS
from tests.browser.test_no_signal import signed_in

from jobs.models import Cause, Count, Job, Mark
from people.models import Membership, Person

pytestmark = pytest.mark.django_db(transaction=True)


def a_wheel_job(who, layout: str) -> str:
    """Somebody signed in, with a job whose cause is a fouled wheel, safe already; its id."""
    job = signed_in(who, machine={"layout": layout})
    row, person = Job.objects.get(id=job), Person.objects.get(email=who.email)
    common = {"job": row, "workshop": row.workshop, "by": person, "at": row.booked_for}
    Cause.objects.create(kind="working", fault="blower_wheel_fouled", **common)
    for step in ("load_out", "unplug", "cool", "hands"):
        Mark.objects.create(step=f"make_safe.{step}", state="done", **common)
    _changed(job)
    return job


def _changed(job: str) -> None:
    """What was written behind the app's back is news to whoever looks."""
    Job.objects.filter(id=job).update(version=F("version") + 10)


def heading(page):
    return page.locator("main p.text-2xl").first


def do(who, words: str) -> None:
    """The step on the screen is the one meant, and is done by the one button."""
    expect(heading(who.page)).to_contain_text(words)
    expect(who.page.get_by_role("button", name=re.compile(f"^Done: .*{words}")).last).to_be_visible()
    who.next()
    expect(who.page.locator("main p.text-2xl").filter(has_text=words)).to_have_count(0)


def soon(ask) -> bool:
    """What a screen shows ahead has arrived."""
    for _ in range(100):
        if ask():
            return True
        time.sleep(0.1)
    return False


def go_on_to(who, words: str) -> None:
    """One step after the other until the one that is meant."""
    for _ in range(20):
        before = heading(who.page).inner_text()
        if words in before:
            return
        who.next()
        expect(heading(who.page)).not_to_have_text(before)
    raise AssertionError(words)


def test_a_wheel_job_from_plan_to_shut_gate_without_a_line_in_the_middle(phone):
    page = phone.page
    job = a_wheel_job(phone, "door_screen_bulkhead")
    page.goto(f"{phone.url}/jobs/{job}/open")
    expect(page.get_by_text("3 ways in, and the kit")).to_be_visible()
    expect(page.get_by_text("Quickest: 8 min less than the next", exact=False)).to_be_visible()
    expect(page.get_by_text("5/16 in hex driver").first).to_be_visible()
    do(phone, "Pull the machine out")
    go_on_to(phone, "Slide the top back")

    page.context.set_offline(True)
    page.reload()  # the phone was put away on the way down
    go_on_to(phone, "duct screws")
    # four by the layout, and a fifth behind the grille's lip
    expect(page.get_by_text("cover it before a screw is in the hand")).to_be_visible()
    page.get_by_role("button", name="5 out").click()
    expect(page.get_by_text("One more than the layout has", exact=False)).to_be_visible()
    page.get_by_role("button", name="Tray").click()
    tray = page.get_by_role("dialog", name="Tray")
    expect(tray.get_by_text("5 came, 4 expected", exact=False)).to_be_visible()
    page.keyboard.press("Escape")
    do(phone, "From inside the drum")
    waiting = page.get_by_text(re.compile("waiting to be sent")).last
    expect(waiting).to_be_visible()
    page.context.set_offline(False)
    expect(page.get_by_text("waiting to be sent")).to_have_count(0)
    do(phone, "Plate over the wheel")
    do(phone, "Hold the shaft's flat")
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    assert soon(lambda: Mark.objects.filter(step__startswith="open.").count() == 11)
    assert list(Count.objects.values_list("key", "state", "count")) == [("pan_head 16 mm", "out", 5)]

    page.goto(f"{phone.url}/jobs/{job}/mend")
    page.get_by_role("button", name="whole", exact=True).click()  # what is seen is recorded where the hands are
    page.get_by_role("button", name="sound", exact=True).click()
    for words in ("Clean the wheel", "Clean upstream"):
        do(phone, words)
    expect(page.get_by_text("All of it is done")).to_be_visible()
    page.goto(f"{phone.url}/jobs/{job}/close")
    do(phone, "Wheel on its flat")
    # asked one by one; what does not hold opens its seat again
    do(phone, "it does not slip")
    page.get_by_role("button", name="It touches", exact=True).click()
    do(phone, "Wheel on its flat")
    for holds in ("it does not slip", "it touches nowhere", "it does not wobble"):
        do(phone, holds)
    do(phone, "Plate over the wheel")
    do(phone, "Spin it once more behind its cover")
    expect(page.get_by_text("Over the rim before its screws", exact=False)).to_be_visible()
    page.get_by_role("button", name="4 back").click()
    expect(page.get_by_text("1 of 5 not yet back: they belong here.")).to_be_visible()
    go_on_to(phone, "Measure at the collar")
    phone.reads("168")  # before it is pushed back: afterwards nobody gets there
    while not page.get_by_text("All of it is marked as back").is_visible():
        phone.next()
        page.wait_for_timeout(200)
    gate = page.get_by_role("region", name="Gate")
    expect(gate.get_by_text("1 pan head screw, 16 mm", exact=False)).to_be_visible()
    gate.get_by_role("button", name="Found its hole: all back").click()
    for plug in ("door switch", "lamp", "moisture sensor"):
        gate.locator("li", has_text=f"{plug} · plug").get_by_role("button", name="On its terminal").click()
    gate.get_by_role("button", name="old part stays").click()
    gate.get_by_role("button", name=re.compile("^All 7 are in the bag")).click()
    expect(gate.get_by_role("heading", name="✓ Closed: nothing left over")).to_be_visible()
    expect(page.get_by_role("button", name="Say what it was")).to_be_visible()


def test_a_keyhole_left_loose_is_caught_and_two_notes_contradict(desk, browser, live_server):
    page = desk.page
    job = a_wheel_job(desk, "lower_panel_keyholes")
    page.goto(f"{desk.url}/jobs/{job}/open")
    page.get_by_role("button", name="Go this way").click()  # the whole front, drum out
    expect(page.get_by_text("Two keyhole screws a few turns loose", exact=False).first).to_be_visible()
    mine = Membership.objects.get()
    tobin = Person.objects.create_user(f"{uuid.uuid4().hex[:8]}@lake.example", PASSWORD, name="Tobin Reed")
    Membership.objects.create(person=tobin, workshop=mine.workshop, role="technician")
    with browser.new_context(viewport=WIDTHS["phone"]) as other:
        second = type(desk)(other.new_page(), live_server.url, tobin.email)
        second.sign_in()
        second.page.get_by_role("link", name="New job").wait_for()
        second.page.goto(f"{second.url}/jobs/{job}/open")
        # each sees the other's marks
        step = heading(page).inner_text()
        desk.next()
        expect(second.page.get_by_role("button", name=f"Undo: {step}")).to_be_visible(timeout=10_000)
        # and each notes the front's plug
        for who, colour in ((desk, "grey"), (second, "white")):
            who.page.get_by_role("button", name=re.compile(r"^\d+\. Front panel: door-switch plug")).click()
            who.page.get_by_role("button", name="Another colour on door switch · plug").click()
            who.page.get_by_label("Colour seen on door switch · plug").select_option(colour)
        shown = page.get_by_role("alert").filter(has_text="Two notes contradict")
        expect(shown).to_contain_text("Ada Fell", timeout=10_000)
        expect(shown).to_contain_text("Tobin Reed")
        shown.get_by_role("button", name=re.compile("white")).click()
        expect(page.get_by_text("Two notes contradict")).to_have_count(0)
    row, person = Job.objects.get(id=job), Person.objects.get(email=desk.email)
    view = page.evaluate(f"fetch('/api/v1/jobs/{job}').then((answer) => answer.json())")
    settled = {mark["step"] for mark in view["marks"]}
    for stage in ("open", "mend", "close"):
        for step in view[stage]:
            if step["id"] not in settled:
                Mark.objects.create(step=step["id"], state="done", job=row, workshop=row.workshop, by=person,
                                    at=row.booked_for)  # fmt: skip
    _changed(job)
    page.goto(f"{desk.url}/jobs/{job}/close")
    page.reload()
    gate = page.get_by_role("region", name="Gate")
    loose = gate.locator("li", has_text="still loose at: two keyhole screws")
    expect(loose).to_be_visible()
    desk.next()  # the one button leads to the gate
    expect(gate.get_by_role("button").first).to_be_focused()
    loose.get_by_role("button", name="All 2 tight now").click()
    expect(loose).to_have_count(0)
    page.keyboard.press("u")
    expect(loose).to_have_count(1)


def test_a_stuck_step_goes_round_and_digits_count(desk):
    page = desk.page
    job = a_wheel_job(desk, "top_screen_rear_duct")
    page.goto(f"{desk.url}/jobs/{job}/open")
    for words in ("Pull the machine out", "Screen out", "Loosen the clamp", "Take off the cord"):
        do(desk, words)
    expect(heading(page)).to_contain_text("Take the rear panel off")
    page.keyboard.press("c")  # count: digits answer, and the stages sleep
    page.keyboard.press("9")
    expect(page.get_by_text("3 are still in, or the count was wrong", exact=False)).to_be_visible()
    expect(page).to_have_url(re.compile("/open$"))
    do(desk, "Take the rear panel off")
    page.keyboard.type("g7")  # no longer asked: a stage
    expect(page.get_by_role("heading", name="Close", exact=True)).to_be_visible()
    page.keyboard.type("g5")
    do(desk, "Take the lint duct off")
    expect(heading(page)).to_contain_text("retaining clip")
    page.get_by_role("button", name="Can't do this here").click()
    page.get_by_placeholder("Why not?").fill("seized")
    page.get_by_role("button", name="Go another way").click()
    expect(heading(page)).not_to_contain_text("retaining clip")
    expect(page.get_by_text("Lift the drum out through the front").first).to_be_visible()
    page.get_by_role("button", name="Undo all of this stage").click()
    expect(heading(page)).to_contain_text("Pull the machine out")


def test_a_layout_is_found_by_looking_and_one_of_our_own_is_kept(desk):
    page = desk.page
    desk.sign_in()
    desk.press("link", re.compile("New job"))
    page.get_by_label("Where?").fill("Boat house")
    desk.press("button", "Find it by looking")
    dialog = page.get_by_role("dialog", name="Which layout is it?")
    for _ in range(9):
        if not dialog.get_by_role("group").count():
            break
        asked = dialog.get_by_role("group")
        for answer in (
            "A small panel of its own", "In the door's opening", "Screws at the back", "It rides on rollers",
            "Screwed on", "Covers over parts", "Pads it glides on", "One: the wheel", "One, round",
        ):  # fmt: skip
            if asked.get_by_role("button", name=re.compile(answer)).count():
                before = asked.inner_text()
                asked.get_by_role("button", name=re.compile(answer)).click()
                expect(dialog.get_by_text(before.splitlines()[0], exact=True)).to_have_count(0)
                break
    dialog.get_by_role("button", name=re.compile("Lower access panel")).first.click()
    expect(page.get_by_label("The way in")).to_have_value("lower_panel_keyholes")
    desk.press("button", "Four")

    page.goto(f"{desk.url}/layouts")
    page.get_by_role("button", name="Start from this").first.click()
    page.get_by_label("What it is called").fill("The laundry's old one")
    needs = page.get_by_label("After (a | b, c), row 3")
    needs.fill("wheel")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("alert")).to_contain_text("circle")
    needs.fill("")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("The laundry's old one")).to_be_visible()
