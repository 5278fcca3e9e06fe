"""A person gets the job done: by hand at both widths, and by keyboard alone."""

import re

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import PASSWORD

pytestmark = pytest.mark.django_db(transaction=True)


def open_a_job(bench):
    page = bench.page
    bench.sign_in()
    bench.press("link", re.compile("New job"))
    page.get_by_label("Where?").fill("Otter Ness kennels")
    bench.press("button", "takes for ever")
    bench.interactions += 1
    page.get_by_label("The way in").select_option("Top screen, duct at the back")
    bench.press("button", "Open the job")
    page.get_by_role("heading", name="Make it safe").wait_for()


def make_it_safe(bench):
    for _ in range(4):
        done = bench.page.get_by_role("region", name="Make safe").locator("li").filter(has_text="✓")
        before = done.count()
        bench.next()
        expect(done).to_have_count(before + 1)


def test_from_sign_in_to_the_record(bench, width):
    page = bench.page
    open_a_job(bench)
    make_it_safe(bench)
    bench.next()  # the check most worth doing: a thin tube down the slot
    bench.reads("0.19")
    expect(page.get_by_role("status")).to_contain_text("→")
    # sign-in to first verdict, beyond typing
    assert bench.interactions <= 12, bench.interactions

    measured = page.get_by_role("region", name="Measure")
    for check, typed in (
        ("Measure the pressure at the outlet", "1.4"),
        ("Measure the flow at the outlet", "106 cfm"),
    ):
        if not page.get_by_role("link", name=re.compile(check)).first.is_visible():
            page.get_by_text("Other checks").click()
        page.get_by_role("link", name=re.compile(check)).first.click()
        expect(page.get_by_role("heading", name=check).first).to_be_visible()
        bench.reads(typed)
        expect(measured.get_by_text(typed.split()[0], exact=False).first).to_be_visible()
    link = page.get_by_role("link", name=re.compile("Look behind the machine")).first
    if not link.is_visible():
        page.get_by_text("Other checks").click()
    link.click()
    page.get_by_role("button", name="pressed flat").click()
    said = page.locator("div.fixed" if width == "phone" else "aside")
    expect(said.get_by_role("button", name=re.compile("Go with: transition crushed"))).to_be_visible()
    bench.next()
    expect(page.get_by_role("heading", name=re.compile("Transition crushed"))).to_be_visible()
    bench.next()  # go with it
    expect(page.get_by_role("button", name=re.compile("Chosen.*Transition crushed"))).to_be_visible()
    for step in (
        "Pull the machine out a step",
        "Replace the transition",
        "Mark on the floor",
        "Plug in, empty drum",
        "Measure at the collar",
        "Push the machine back",
        "Vent on, clamped",
    ):
        here = said.get_by_role("button", name=re.compile(f"^(Done: )?{step}"))
        onward = said.get_by_role("button", name=re.compile("^(Next step|On to)"))
        expect(here.or_(onward)).to_be_visible()
        if onward.is_visible():
            bench.next()  # to its stage: once, also while what was done is still on its way
        if step == "Measure at the collar":  # before it is pushed back; the step is the reading
            expect(page.get_by_text("afterwards it has to be pulled out")).to_be_visible()
            bench.reads("168 cfm")
            continue
        expect(said.get_by_role("button", name=re.compile(f"^Done: {step}"))).to_be_visible()
        bench.next()
    expect(said.get_by_role("button", name="Say what it was")).to_be_visible()
    page.get_by_role("button", name="It was: transition crushed").click()
    expect(page.get_by_text("✓ Transition crushed, said Ada Fell")).to_be_visible()
    page.goto(re.sub(r"/close.*", "/prove", page.url))
    expect(page.get_by_role("heading", name=re.compile("^Proven"))).to_be_visible()
    bench.proves_the_rest()
    expect(said.get_by_role("button", name="Hand over")).to_be_visible()
    bench.next()
    page.get_by_label("For the customer").fill("Screen before every load.")
    page.locator("form[data-looked=true]").wait_for()
    bench.next()
    expect(page.get_by_role("heading", name="✓ Handed over")).to_be_visible()
    bench.next()
    record = page.get_by_role("article", name="Record")
    expect(record).to_contain_text("Transition crushed")
    expect(record).to_contain_text("168 cfm, as healthy")
    expect(record).to_contain_text("Screen before every load.")
    if width == "desk":
        for paper in ("A4", "Letter"):
            assert pages(page.pdf(format=paper)) == 1


def pages(pdf: bytes) -> int:
    return len(re.findall(rb"/Type\s*/Page[^s]", pdf))


#: Milliseconds between two keys: twenty a second.
FAST = 50


def slow_line(page) -> None:
    """Every answer takes a third of a second: keys are always ahead of it."""
    page.context.new_cdp_session(page).send(
        "Network.emulateNetworkConditions",
        {"offline": False, "latency": 300, "downloadThroughput": -1, "uploadThroughput": -1},
    )


def test_the_whole_job_by_somebody_who_types_fast(desk):
    """From sign-in to the record, no field looked for: a key leads to it, and what is typed ahead is not lost."""
    page = desk.page
    slow_line(page)

    def types(keys: str) -> None:
        page.keyboard.type(keys, delay=FAST)

    def tab_to(name) -> None:
        """To a button; never to a field."""
        target = page.get_by_role("button", name=name).first
        target.wait_for()
        for _ in range(90):
            if target.evaluate("e => e === document.activeElement"):
                return
            page.keyboard.press("Tab")
        raise AssertionError(f"{name} is not reached by Tab")

    page.goto(desk.url)
    page.get_by_label("E-mail").wait_for()
    types(f"{desk.email}\n{PASSWORD}\n")  # the first field has the focus
    page.get_by_role("link", name=re.compile("New job")).wait_for()
    types("nRowing clubhouse")
    tab_to("gets too hot")
    page.keyboard.press("Space")
    tab_to("Open the job")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Make it safe").wait_for()
    done = page.get_by_role("region", name="Make safe").locator("li").filter(has_text="✓")
    types("   ")
    expect(done).to_have_count(3)
    types(" u")  # one too many is taken back
    expect(done).to_have_count(3)
    types("nn0.19 in\nr106\n")  # the last step; to the check, its field, saved; another reading, saved
    expect(page.get_by_text("106 cfm").first).to_be_visible()
    expect(page.get_by_text("0.19 inH2O").first).to_be_visible()
    types("g4")
    tab_to(re.compile("Go with it.*Vent run packed"))
    types("\n")
    expect(page.get_by_role("button", name=re.compile("Chosen.*Vent run packed"))).to_be_visible()
    types("n" * 24)  # every step, as far as the question what it was
    expect(page.get_by_role("button", name="It was: vent run packed")).to_be_focused()
    types("\n")
    expect(page.get_by_text("✓ Vent run packed, said")).to_be_visible()
    types("g8r169\n")
    proven = page.get_by_role("heading", name=re.compile("^Proven"))
    expect(proven).to_be_visible()
    # it got too hot: the flap, the air's warming and a cycle of the thermostat are asked for beside
    also = page.locator("aside").get_by_role("button", name=re.compile("^Also: "))
    for answer in ("1", "110\n", "1"):
        expect(also).to_be_visible()
        asked = also.inner_text()
        types(f"n{answer}")
        expect(page.locator("aside").get_by_role("button", name=asked)).to_have_count(0)
    types("nn")  # one too many: nothing is frozen that nobody has seen
    expect(page.get_by_role("button", name="Freeze the record")).to_be_focused()
    page.locator("form[data-looked=true]").wait_for()
    types("n")
    expect(page.get_by_role("heading", name="✓ Handed over")).to_be_visible()
    types("n")
    expect(page.get_by_role("article", name="Record")).to_contain_text("Vent run packed")


def test_a_number_goes_to_the_check_in_sight_and_escape_leaves_first_the_field(desk):
    page = desk.page
    open_a_job(desk)
    make_it_safe(desk)
    desk.next()
    page.wait_for_url("**/measure?check=screen_duct_suction")
    field = page.locator("input[data-answer]")
    expect(field).to_be_focused()
    page.keyboard.type("0.2", delay=FAST)
    page.keyboard.press("Escape")
    expect(field).not_to_be_focused()
    page.keyboard.type("15", delay=FAST)  # no stage: it is typed on
    expect(field).to_have_value("0.215")
    page.keyboard.press("Escape")
    page.goto(page.url.replace("screen_duct_suction", "hood_look"))
    second = page.locator("button[data-answer]").nth(1)
    second.wait_for()
    page.keyboard.type("2", delay=FAST)  # a look: its second result
    expect(second).to_have_attribute("aria-pressed", "true")
    page.keyboard.type("g", delay=FAST)
    expect(page.get_by_role("dialog")).to_contain_text("Hand over")
    page.keyboard.type("4", delay=FAST)
    page.wait_for_url("**/cause")
    page.keyboard.press("Escape")
    page.wait_for_url("**/jobs")


def test_a_page_begins_at_its_top(bench):
    page = bench.page
    open_a_job(bench)

    def goes_to(stage: str) -> None:
        page.keyboard.press("g")
        page.get_by_role("dialog").get_by_role("link", name=stage).click()
        page.get_by_role("region", name=stage, exact=True).wait_for()

    goes_to("Measure")
    page.mouse.move(200, 500)
    page.mouse.wheel(0, 2000)
    page.wait_for_function("() => scrollY > 0")
    goes_to("Cause")
    page.wait_for_function("() => scrollY === 0")


def test_a_line_that_is_down_loses_nothing(desk):
    page = desk.page
    open_a_job(desk)
    page.keyboard.type("g3")
    page.get_by_role("link", name=re.compile("Measure the flow at the outlet")).first.click()
    page.get_by_role("heading", name="Measure the flow at the outlet").first.wait_for()
    page.context.set_offline(True)
    desk.reads("106 cfm")
    waits = page.get_by_role("banner").get_by_text("1 waiting to be sent")
    expect(waits).to_be_visible()
    page.context.set_offline(False)
    expect(waits).to_have_count(0, timeout=20_000)
    expect(page.get_by_text("106 cfm").first).to_be_visible()
    from jobs.models import Reading

    assert [reading.typed for reading in Reading.objects.all()] == ["106 cfm"]


def test_what_cannot_be_is_said_at_the_field_and_kept_there(desk):
    page = desk.page
    open_a_job(desk)
    page.keyboard.press("r")
    desk.reads("9000 cfm")
    expect(page.get_by_role("alert")).to_contain_text("no machine has")
    expect(page.locator("input[data-answer]")).to_have_value("9000 cfm")
    desk.reads("12 bananas")
    expect(page.get_by_role("alert")).to_contain_text("is not a flow")


def test_cannot_do_this_here_moves_on(desk):
    page = desk.page
    open_a_job(desk)
    make_it_safe(desk)
    desk.next()
    page.get_by_role("heading", name="Measure the suction behind the screen").first.wait_for()
    page.get_by_role("button", name="Can't do this here").click()
    page.get_by_placeholder("Why not?").fill("no tube")
    page.get_by_role("button", name="Go on without it").click()
    expect(page.get_by_role("complementary").get_by_role("heading")).not_to_contain_text("suction behind the screen")
    expect(page.get_by_text("no tube")).to_be_visible()
