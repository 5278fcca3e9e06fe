"""The list of works, as people meet it: a blown fuse with its cause, a service that is due, two faults at once."""

import re
import struct
import zlib

import pytest
from playwright.sync_api import expect
from tests.browser.test_bench_story import do, heading, soon
from tests.browser.test_sure_story import SAFE, brings, opens, reading

from jobs.models import AddedStep, Mark, Work
from machines.models import OwnLayout
from warmdraft.repair import NEEDS_NO_OPENING, acts
from warmdraft.teardown import layout, layout_names
from warmdraft.words import words_for

WORDS = words_for()

pytestmark = pytest.mark.django_db(transaction=True)


def picture() -> bytes:
    """A small PNG of one colour."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    rows = b"".join(b"\0" + b"\xc8\x50\x20" * 64 for _ in range(48))
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", 64, 48, 8, 2, 0, 0, 0))
            + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b""))  # fmt: skip


def line(page, words):
    """A line of the list of works that can be seen."""
    return page.get_by_role("region", name="List of works").get_by_role("listitem").filter(has_text=words).first


def needle(page, at: str) -> None:
    """Answer a test with an analogue meter, one wire off."""
    page.get_by_role("button", name="with a needle").click()
    page.get_by_role("button", name="yes, one side is off").click()
    page.get_by_role("button", name=at).click()


def walk(bench, stage_done: str) -> None:
    """The one button until a sentence says that a stage is done."""
    for _ in range(40):
        if bench.page.get_by_text(stage_done).first.is_visible():
            return
        before = heading(bench.page).inner_text()
        bench.next()
        bench.page.wait_for_timeout(150)
        expect(bench.page.get_by_text(stage_done).or_(heading(bench.page)).first).to_be_visible()
        if heading(bench.page).is_visible() and heading(bench.page).inner_text() == before:
            bench.page.wait_for_timeout(250)
    raise AssertionError(stage_done)


def settle_the_gate(page) -> None:
    """Answer the gate, one thing left over after the other, each time by its list as the server judged it last."""
    gate = page.get_by_role("region", name="Gate")
    answers = re.compile("On its terminal|tight now|^Tight|old part stays|It is new|are in the bag")
    shut = gate.get_by_role("heading", name="✓ Closed: nothing left over")
    for _ in range(30):
        # what still waits to be judged may take the very thing away that is about to be pressed
        expect(gate.get_by_text("what waits here is not in it yet")).to_have_count(0)
        left = gate.get_by_role("listitem").filter(has=page.get_by_role("button", name=answers))
        expect(shut.or_(left).first).to_be_visible()
        if shut.is_visible():
            return
        this = gate.get_by_role("listitem").filter(has_text=left.first.get_by_role("paragraph").first.inner_text())
        this.get_by_role("button", name=answers).first.click()
        expect(this).to_have_count(0)
    raise AssertionError("the gate asks without end")


def test_a_blown_fuse_is_replaced_with_its_cause_by_one_way_in(bench, width):
    page = bench.page
    job = brings(
        bench, complaints=["no_start", "overheats"], marks=SAFE,
        machine={"layout": "rear_shaft_clamp", "variant": {"thermostat": "wires_off"}},
        findings=[{"check": "what_runs", "result": "dead"}, {"check": "screen_slot_lamp", "result": "clean"}],
    )  # fmt: skip
    # it does not start: the fuse is metered before anybody knows the cause, and its way in is on the bench
    opens(bench, job, "measure?check=meter_thermal_fuse")
    page.get_by_role("button", name="Show the way in").click()
    expect(page.get_by_role("button", name="Show the way in")).to_have_count(0)
    bench.next()
    expect(page).to_have_url(re.compile("/open$"))
    walk(bench, "✓ It is open.")
    bench.next()
    expect(page).to_have_url(re.compile("check=meter_thermal_fuse"))
    needle(page, "it stayed at ∞")
    expect(page.get_by_role("status", name="What it means")).to_contain_text("failed")
    # open, it waits for its cause; with the cause both are on the list, and what is open stays open
    page.goto(f"{bench.url}/jobs/{job}/cause")
    expect(line(page, "Replace the thermal fuse")).to_contain_text("never alone")
    page.get_by_label("You know better? Go with").select_option(label="Lint duct packed")
    expect(line(page, "Replace the thermal fuse")).to_contain_text("with its cause, lint duct packed")
    expect(line(page, "Clean the lint duct")).to_contain_text("for the cause")
    # the felt is near: taken on, then declined with a reason
    felt = "Replace the drum's felt"
    more = page.get_by_role("button", name=re.compile(r"^\d+ more$"))
    if more.count():
        more.click()
    page.get_by_role("button", name=f"Take on: {felt}").click()
    expect(page.get_by_role("button", name=f"Not: {felt}")).to_be_visible()
    page.get_by_role("button", name=f"Not: {felt}").click()
    page.get_by_label("Declined: why?").fill("customer says next time")
    page.get_by_role("button", name="Declined", exact=True).click()
    expect(line(page, felt)).to_contain_text("declined: customer says next time (Ada Fell)")
    page.goto(f"{bench.url}/jobs/{job}/open")
    expect(page.get_by_role("button", name=re.compile(r"^\d+\. Lint duct off"))).to_be_visible()
    walk(bench, "✓ It is open.")
    opened = Mark.objects.filter(step__startswith="open.", state="done").count()
    # a photo of what came off is there when it goes back, its wires marked, and goes on the record
    page.get_by_role("button", name=re.compile(r"^\d+\. Photo, thermostat's and fuse's wires off")).click()
    page.locator("input[type=file]").first.set_input_files(
        {"name": "wires.png", "mimeType": "image/png", "buffer": picture()}
    )
    photos = page.get_by_role("list", name="Photos")
    expect(photos.get_by_role("img")).to_be_visible()
    photos.get_by_role("button", name="Mark the wires").click()
    which = page.get_by_role("dialog", name="Which wire is where?")
    which.get_by_role("button", name=re.compile("^The photo")).click(position={"x": 20, "y": 30})
    which.get_by_role("button", name=re.compile("thermal fuse.*left")).click()
    which.get_by_role("button", name=re.compile("^The photo")).press("ArrowRight")
    which.get_by_role("button", name="Keep the marks").click()
    expect(which).to_have_count(0)
    photos.get_by_role("button", name="Put on the record").click()
    expect(photos.get_by_role("button", name="✓ On the record")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/mend")
    for words in ("Vacuum the lint duct", "Fit a fuse of the same temperature"):
        do(bench, words)
    # metered again with the new one in, before it is closed in
    expect(heading(page)).to_contain_text("Meter the new fuse")
    bench.next()
    needle(page, "it swung over to 0")
    expect(page.get_by_text("✓ All of it is done.")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/close")
    expect(page.get_by_role("button", name=re.compile("^Done: ")).last).to_be_visible()  # what is kept shows first
    photo = page.get_by_role("list", name="Photos").get_by_role("img")
    for _ in range(opened):
        if photo.count():
            break
        before = heading(page).inner_text()
        bench.next()
        expect(heading(page)).not_to_have_text(before)
    expect(photo).to_be_visible()  # of the opening, beside the step that refits the same thing
    expect(page.get_by_role("list", name="Photos").locator("figcaption")).to_contain_text("thermal fuse · left")
    walk(bench, "All of it is marked as back.")
    settle_the_gate(page)
    page.get_by_role("button", name="It was: lint duct packed").click()
    expect(page.get_by_text("✓ Lint duct packed, said")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/prove?check=outlet_flow")
    bench.reads("168 cfm")
    page.goto(f"{bench.url}/jobs/{job}/prove?check=outlet_static_pressure")
    bench.reads("0.38 in")
    expect(page.get_by_role("heading", name=re.compile("^Proven"))).to_be_visible()
    expect(page.get_by_text("Replace the thermal fuse: as it should be, by the meter")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/hand_over")
    page.get_by_role("button", name="Freeze the record").click()
    page.get_by_role("link", name="Show the record").click()
    record = page.get_by_role("article", name="Record")
    for words in ("Clean the lint duct", "Replace the thermal fuse", f"{felt} (customer says next time)"):
        expect(record).to_contain_text(words)
    expect(record.get_by_role("img")).to_be_visible()
    expect(record.locator("figcaption")).to_contain_text("thermal fuse, left")


def test_a_service_that_is_due_asks_for_no_cause(phone):
    page = phone.page
    job = brings(phone, complaints=["service_due"], machine={"layout": "lower_panel_keyholes"}, marks=SAFE)
    opens(phone, job, "mend")
    for words in ("Wash the lint screen", "Clean the lint duct", "Clean the wheel in place", "Clear the hood"):
        expect(line(page, words)).to_contain_text("due")
    # what nobody wants today is declined in two presses and a word
    for words in ("Clean the blower's housing", "Clear the pipe inside"):
        page.get_by_role("button", name=f"Not: {words}").click()
        page.get_by_role("button", name="Found not needed").click()
        expect(page.get_by_role("button", name=f"Undo: {words}").first).to_be_visible()
    page.goto(f"{phone.url}/jobs/{job}")
    expect(page.get_by_role("button", name=re.compile("^Done: "))).to_be_visible()
    expect(page).to_have_url(re.compile(f"{job}$"))
    walk(phone, "✓ It is open.")
    page.goto(f"{phone.url}/jobs/{job}/cause")
    expect(page.get_by_role("heading", name="No cause is asked for")).to_be_visible()
    page.goto(f"{phone.url}/jobs/{job}/mend")
    expect(heading(page)).to_contain_text("Wash the screen")  # the dirty side first


def test_two_faults_are_one_list_and_one_way(desk):
    page = desk.page
    read = [reading("outlet_flow", 40, "cfm"), reading("outlet_static_pressure", 1.35, "inH2O")]
    job = brings(
        desk, complaints=["overheats"], machine={"layout": "top_screen_rear_duct"}, marks=SAFE, readings=read,
        findings=[{"check": "hood_look", "result": "blocked"}, {"check": "screen_slot_lamp", "result": "packed"}],
        causes=[{"kind": "working", "fault": "lint_duct_packed"}],
    )  # fmt: skip
    opens(desk, job, "mend")
    expect(line(page, "Clean the lint duct")).to_contain_text("for the cause")
    expect(line(page, "Clear the hood")).to_contain_text("blocked")
    # a third by hand, found by what people call it
    page.get_by_role("button", name="+ Add to the list").click()
    page.get_by_label("What is to be done?").fill("side outlet")
    page.get_by_role("button", name=re.compile("^Fit an outlet to the side")).click()
    expect(line(page, "Fit an outlet to the side")).to_contain_text("This layout has no way to")
    expect(page.get_by_role("button", name=re.compile("^Undo: Fit an outlet")).first).to_be_visible()
    page.keyboard.press("u")
    expect(line(page, "Fit an outlet to the side")).to_have_count(0)
    assert list(Work.objects.values_list("part", "withdrawn")) == [("side_outlet", True)]
    # and a fourth by touching it where it is drawn
    page.get_by_role("button", name="+ Add to the list").click()
    page.get_by_role("group", name="Parts to touch").get_by_role("button", name=re.compile("idler")).last.click()
    page.get_by_role("button", name=re.compile("^Look at the idler")).click()
    expect(line(page, "Look at the idler")).to_be_visible()
    steps = page.get_by_role("region", name="Mend").get_by_role("listitem")
    expect(steps.filter(has_text="Vacuum the lint duct")).to_be_visible()
    expect(steps.filter(has_text="Clear the hood: lint, nest, screen")).to_be_visible()
    page.goto(f"{desk.url}/jobs/{job}/open")
    expect(page.get_by_role("button", name=re.compile(r"^\d+\. .*[Ll]int duct")).first).to_be_visible()


def takes_off(page, does, screws, wire=None, reaches=None) -> None:
    """One thing more comes off by hand."""
    form = page.get_by_role("form", name="What came off")
    form.get_by_label("What comes off next?").fill(does)
    form.get_by_role("button", name=screws, exact=True).click()
    if wire:
        form.get_by_role("button", name="+ wire").click()
        form.get_by_label("Wire 1: which part").fill(wire)
    if reaches:
        form.get_by_role("button", name=reaches).click()
    form.get_by_role("button", name="It is off").click()
    expect(page.get_by_role("button", name=re.compile(rf"^\d+\. {does}"))).to_be_visible()


def test_a_machine_nobody_knows_is_opened_by_hand_and_known_from_then_on(bench, width):
    page = bench.page
    causes = [{"kind": "working", "fault": "blower_wheel_fouled"}]
    job = brings(bench, complaints=["rumbles"], marks=SAFE, causes=causes)
    opens(bench, job, "measure")
    bench.next()  # never Mend on a shut machine: first the way in
    expect(page).to_have_url(re.compile("/open$"))
    expect(page.get_by_text("Nobody has said yet how this machine comes apart")).to_be_visible()
    bench.next()  # leads into the form that names what comes off
    expect(page.get_by_label("What comes off next?")).to_be_focused()
    takes_off(page, "Back panel off", "8")
    takes_off(page, "Duct out", "2", wire="lamp")
    expect(page.get_by_text("Not far enough in yet.")).to_be_visible()
    takes_off(page, "Wheel drawn off", "1", reaches="blower wheel")
    said = page.locator("div.fixed" if width == "phone" else "aside")
    expect(said.get_by_role("button", name=re.compile("Next step|^The wheel in your hand|^Done"))).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/mend")
    page.get_by_role("button", name="whole", exact=True).click()
    page.get_by_role("button", name="sound", exact=True).click()
    for words in ("Clean the wheel", "Clean upstream"):
        do(bench, words)
    # it goes back the other way round, and the gate asks for all of it
    page.goto(f"{bench.url}/jobs/{job}/close")
    do(bench, "heel drawn off")
    walk(bench, "All of it is marked as back.")
    settle_the_gate(page)
    page.get_by_role("button", name="It was: wheel fouled with lint").click()
    expect(page.get_by_text("✓ Wheel fouled with lint, said")).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/prove?check=outlet_flow")
    bench.reads("168 cfm")
    page.goto(f"{bench.url}/jobs/{job}/prove?check=outlet_static_pressure")
    bench.reads("0.38 in")
    expect(page.get_by_role("heading", name=re.compile("^Proven"))).to_be_visible()
    page.goto(f"{bench.url}/jobs/{job}/hand_over")
    page.get_by_role("button", name="Freeze the record").click()
    expect(page.get_by_role("heading", name="✓ Handed over")).to_be_visible()
    # the next job is planned by what was found
    layout = str(OwnLayout.objects.get().id)
    second = brings(bench, complaints=["rumbles"], marks=SAFE, causes=causes, machine={"layout": layout})
    page.goto(f"{bench.url}/jobs/{second}/open")
    for i, words in enumerate(("Back panel off", "Duct out", "Wheel drawn off"), 1):
        expect(page.get_by_role("button", name=re.compile(rf"^{i}\. {words}"))).to_be_visible()


def test_a_machine_otherwise_than_its_layout(phone):
    page = phone.page
    causes = [{"kind": "working", "fault": "lint_duct_packed"}]
    job = brings(phone, machine={"layout": "top_screen_rear_duct"}, marks=SAFE, causes=causes)
    opens(phone, job, "open")
    cover = "Take off the cord's cover plate"
    page.get_by_role("button", name=re.compile(rf"^\d+\. {cover}")).click()
    page.get_by_role("button", name="Not on this machine").click()
    expect(page.get_by_text("not on this machine: take off the cord's cover plate")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile(rf"^\d+\. {cover}"))).to_have_count(0)
    page.get_by_role("button", name="Put a step in").click()
    form = page.get_by_role("form", name="What came off")
    form.get_by_label("What else came off?").fill("Tape over the panel")
    form.get_by_role("button", name="It is off").click()
    expect(page.get_by_text("put in: Tape over the panel")).to_be_visible()
    page.get_by_role("button", name="Undo: Tape over the panel").last.click()
    expect(page.get_by_text("put in: Tape over the panel")).to_have_count(0)


def test_another_way_in_is_said_at_the_machine_while_something_is_off(phone):
    page = phone.page
    causes = [{"kind": "working", "fault": "lint_duct_packed"}]
    off = [{"step": f"open.{name}", "state": "done"} for name in ("pull_out", "vent_off", "rear_panel")]
    job = brings(phone, machine={"layout": "top_screen_rear_duct"}, marks=[*SAFE, *off], causes=causes)
    opens(phone, job, "complaint")
    page.get_by_text("Machine and place", exact=True).click()
    page.get_by_label("The way in").select_option("lower_panel_keyholes")
    expect(page.get_by_text("By another way in it stays in the tray")).to_be_visible()
    page.get_by_role("button", name="Save machine and place").click()
    assert soon(lambda: list(AddedStep.objects.filter(job_id=job).values_list("operation__id", flat=True))
                == ["rear_panel"])  # fmt: skip
    # what the other layout knows as well is its own; the panel goes back in its turn
    page.goto(f"{phone.url}/jobs/{job}/open")
    expect(page.get_by_text("put in: ")).to_contain_text("ear panel")
    page.goto(f"{phone.url}/jobs/{job}/close")
    expect(page.get_by_role("button", name=re.compile(r"^\d+\. .*ear panel")).first).to_be_visible()


def within_reach():
    """Every act that can be done to any machine, each on the fewest machines that have the parts for it."""
    parts = {(name, energy): set(layout(name, frozenset({("energy", energy)})).parts) | NEEDS_NO_OPENING
             for name in layout_names() for energy in ("electric", "gas")}  # fmt: skip
    rest, machines = dict(acts()), []
    while rest:
        most = max(parts, key=lambda key: sum(set(act.reach) <= parts[key] for act in rest.values()))
        names = [name for name, act in rest.items() if set(act.reach) <= parts[most]]
        assert names, f"no machine has the parts for {sorted(rest)}"
        machines.append((*most, names))
        for name in names:
            del rest[name]
    return machines


@pytest.mark.parametrize(("name", "energy", "names"), within_reach(), ids=lambda value: str(value)[:24])
def test_every_act_is_found_ordered_and_walked_on_the_screen(desk, name, energy, names):
    page = desk.page
    first, *others = [acts()[act] for act in names]
    job = brings(desk, complaints=[], machine={"layout": name, "energy": energy}, marks=SAFE,
                 works=[{"part": act.part, "act": act.act} for act in others])  # fmt: skip
    opens(desk, job, "mend")
    # the first is ordered by hand; each is found by its own words
    page.get_by_role("button", name="+ Add to the list").click()
    page.get_by_label("What is to be done?").fill(WORDS.act(first.name))
    page.get_by_role("button", name=re.compile("^" + re.escape(WORDS.act(first.name)))).click()
    works = page.get_by_role("region", name="List of works").first
    expect(works.get_by_role("button", name=f"Not: {WORDS.act(first.name)}")).to_be_visible()
    listed = works.get_by_role("listitem").all_inner_texts()
    steps = page.get_by_role("region", name="Mend").get_by_role("listitem").all_inner_texts()
    walked = []
    for act in sorted((first, *others), key=lambda act: act.order):
        assert any(WORDS.act(act.name) in text for text in listed), act.name
        walked += [(WORDS.act_step(act.name, step.id)["does"], step.check, act.qualified) for step in act.steps]
    assert [text.removeprefix("▸").removeprefix("·").strip() for text in steps] == [row[0] for row in walked]
    expect(works.get_by_text("This layout has no way to")).to_have_count(0)
    # and every step has its turn: what finds something out can be answered there, whoever may not do it goes on
    for does, check, needs_paper in walked:
        expect(heading(page)).to_have_text(does)
        if check:
            answers = heading(page).locator("xpath=..").locator("[role=group], fieldset, form")
            expect(answers.first).to_be_visible()
        if needs_paper:
            page.get_by_role("button", name="Can't do this here").click()
            page.get_by_label("Why not?").fill("a licensed fitter comes")
            page.get_by_role("button", name="Go on without it").click()
        else:
            page.get_by_role("button", name=re.compile("^(Done|Done, nothing to record|Done Space)$")).click()
        expect(heading(page).filter(has_text=re.compile("^" + re.escape(does) + "$"))).to_have_count(0)
    expect(page.get_by_text("✓ All of it is done.")).to_be_visible()
    marks = Mark.objects.filter(job_id=job, step__startswith="mend.")
    assert soon(lambda: marks.count() == len(walked)), "what the screen shows ahead arrives"
