"""Parts, money and the customer: a look-alike refused, a line that comes later signed anew, a kit that was brought."""

import re
import uuid

import pytest
from django.utils import timezone
from playwright.sync_api import expect
from tests.browser.test_bench_story import a_wheel_job, do, go_on_to, soon
from tests.browser.test_sure_story import SAFE, brings, opens
from tests.browser.test_works_story import walk

from demo import shop
from jobs.models import Dealing, Finding
from people.may import member
from people.models import Person
from stock.shelves import held

pytestmark = pytest.mark.django_db(transaction=True)


def a_shop(bench):
    """The workshop sells what the demo's does; who keeps it."""
    lead = member(Person.objects.get(email=bench.email))
    shop.lay_out(lead, uuid.uuid4(), timezone.now())
    return lead


def part(page, name: str):
    return page.get_by_role("group", name=name, exact=True)


def signs(page, done: str = "Agreed and signed") -> None:
    """The customer's finger on the field."""
    field = page.get_by_role("img", name="Sign here with a finger")
    field.scroll_into_view_if_needed()
    box = field.bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 40)
    page.mouse.down()
    for i in range(12):
        page.mouse.move(box["x"] + 40 + 12 * i, box["y"] + 40 + 18 * (i % 3))
    page.mouse.up()
    page.get_by_role("button", name=done).click()
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_a_look_alike_is_refused_and_the_like_one_fitted(bench):
    page = bench.page
    a_shop(bench)
    job = brings(
        bench, complaints=[], marks=SAFE, works=[{"part": "high_limit", "act": "replace"}],
        machine={"layout": "top_screen_rear_duct"},
    )  # fmt: skip
    opens(bench, job, "mend")
    limit = part(page, "high limit")
    expect(limit.get_by_text("Nothing is read off the old one yet")).to_be_visible()
    limit.get_by_role("button", name="Read it off").click()
    form = limit.get_by_role("form", name="On the old one")
    form.get_by_label("the temperature it opens at").fill("250")
    form.get_by_role("button", name="That is printed on it").click()
    expect(form.get_by_text("'250' is not understood")).to_be_visible()
    form.get_by_label("the temperature it opens at").fill("250 °F")
    form.get_by_label("the temperature it closes at").fill("200 °F")
    form.get_by_label("volts").fill("250 V")
    form.get_by_label("amperes").fill("25 A")
    form.get_by_label("terminals", exact=True).fill("2")
    form.get_by_role("button", name="closes again by itself").click()
    form.get_by_role("button", name="That is printed on it").click()
    expect(limit.get_by_text("On the old one:")).to_contain_text("250 °F")
    alike = limit.get_by_role("listitem").filter(has_text="OR-20")
    expect(alike).to_contain_text("not this one")
    expect(alike).to_contain_text("It looks the same and guards something else")
    expect(alike.get_by_role("button")).to_have_count(0)
    # asked for a bypass it says why not
    page.keyboard.press("/")
    page.get_by_role("searchbox").fill("bypass the limit")
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("No bypass of a safety device")
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    limit.get_by_role("button", name=re.compile("Fitted, from Shelf .*ND-2501")).click()
    expect(limit.get_by_text("✓ fitted: ND-2501")).to_be_visible()
    page.keyboard.press("u")  # the wrong one pressed is taken back
    expect(limit.get_by_text("✓ fitted")).to_have_count(0)


def test_a_vane_that_is_cracked_asks_the_customer_again(bench):
    page = bench.page
    a_shop(bench)
    job = a_wheel_job(bench, "rear_shaft_clamp")
    page.goto(f"{bench.url}/jobs/{job}/cause")
    costs = page.get_by_role("region", name="What it costs")
    before = costs.locator("b.text-2xl").inner_text()
    costs.get_by_role("button", name="Ask the customer").click()
    expect(page.get_by_role("dialog")).to_contain_text(before)
    page.get_by_label("Name").fill("Sunniva Pell")
    signs(page)
    expect(costs.get_by_text(f"✓ Agreed: {before}")).to_be_visible()
    expect(costs.get_by_role("img", name="Signature")).to_be_visible()
    # opened, and with the wheel in the hand a vane is cracked: list, price and kit change
    bench.to(f"/jobs/{job}/open")
    go_on_to(bench, "Clamp screw")
    bench.next()
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    bench.to(f"/jobs/{job}/mend")
    page.get_by_role("button", name="a vane cracked, bent or gone").click()
    said = page.locator("div.fixed, aside").get_by_role("button", name="Ask the customer: more than was agreed")
    expect(said.last).to_be_visible()
    bench.next()
    expect(page).to_have_url(re.compile("/cause$"))
    asked = costs.get_by_role("alert")
    expect(asked).to_contain_text("Ask again: Replace the wheel")
    expect(asked).to_contain_text(f"beyond the {before} that were agreed")
    expect(part(page, "blower wheel")).to_contain_text("Needed for certain")
    bench.next()  # asks
    expect(page.get_by_role("dialog")).to_contain_text("new since you agreed")
    signs(page)
    expect(costs.get_by_role("alert")).to_have_count(0)
    expect(costs.locator("b.text-2xl")).not_to_have_text(before)
    assert soon(lambda: Dealing.objects.filter(what="agreement", withdrawn=False).count() == 2)
    # the work goes on where it stood
    bench.next()
    expect(page).to_have_url(re.compile("/mend"))


def test_a_clamp_kit_was_brought_because_it_said_so(bench):
    page = bench.page
    lead = a_shop(bench)
    job = a_wheel_job(bench, "rear_shaft_clamp")
    page.goto(f"{bench.url}/jobs/{job}/cause")
    clamp = part(page, "wheel clamp")
    expect(clamp).to_contain_text("Bring it: 51 % that it is needed")
    expect(page.get_by_text("With these along a second trip is needed")).to_be_visible()
    clamp.get_by_role("button", name=re.compile("Pack it, from Ines's van")).click()
    expect(clamp.get_by_text("✓ packed: ND-0361")).to_be_visible()
    page.get_by_role("region", name="Bring along").get_by_text("Where people differ").click()
    expect(page.get_by_text("One part or the pair?")).to_be_visible()
    # at the machine the clamp is worn: it is there
    bench.to(f"/jobs/{job}/open")
    go_on_to(bench, "Clamp screw")
    bench.next()
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    bench.to(f"/jobs/{job}/mend")
    page.get_by_role("button", name="whole", exact=True).click()
    page.get_by_role("button", name="flat of the clamp rounded").click()
    go_on_to(bench, "Fit a new clamp")
    clamp.get_by_role("button", name=re.compile("Fitted, from Ines's van")).click()
    expect(clamp.get_by_text("✓ fitted: ND-0361")).to_be_visible()
    assert soon(lambda: Dealing.objects.filter(what="part", document__state="used").exists())
    assert held(lead, ["ND0361"]) == {"ND0361": {"Ines's van": 2}}, "it leaves the van with the hand-over"


def test_a_damaged_sheet_and_a_sound_one(bench, tmp_path):
    page = bench.page
    bench.sign_in()
    page.get_by_role("link", name=re.compile("New job")).wait_for()
    bench.to("/parts")
    sheet = tmp_path / "parts.csv"
    sheet.write_text("number,kind,supplier,price\nW-1,blower_wheel,North,31\nW-2,wing,North,9\nW-3,belt,North,cheap\n")
    page.get_by_label("Catalogue sheet").set_input_files(sheet)
    wrong = page.get_by_role("alert").filter(has_text="Nothing of the sheet was taken")
    expect(wrong).to_contain_text("line 3, kind")
    expect(wrong).to_contain_text("line 4, price")
    expect(page.get_by_text("Nothing yet: bring in a sheet below.")).to_be_visible()
    sheet.write_text("number,kind,supplier,price\nW-1,blower_wheel,North,31\nW-2,motor,North,9\nW-3,belt,North,7.5\n")
    page.get_by_label("Catalogue sheet").set_input_files(sheet)
    expect(page.get_by_text("3 numbers read")).to_be_visible()
    catalogue = page.get_by_role("region", name="Catalogue")
    page.get_by_role("searchbox").fill("bel")
    expect(catalogue.get_by_role("listitem")).to_have_count(1)
    expect(catalogue.get_by_role("listitem")).to_contain_text("W-3")
    # a van, and what lies in it
    page.get_by_label("A van or shelf more").fill("Van 1")
    page.get_by_role("button", name="Add it").click()
    van = page.get_by_role("region", name="Van 1")
    van.get_by_label("Number").fill("w3")
    van.get_by_label("How many more").fill("4")
    van.get_by_role("button", name="Put there").click()
    expect(van.get_by_role("listitem")).to_contain_text("4")
    expect(catalogue.get_by_role("listitem")).to_contain_text("Van 1: 4")
    # what an hour costs, said once
    page.get_by_label("An hour of work").fill("66,0")
    figures = page.get_by_role("form", name="What a job is reckoned by")
    figures.get_by_role("button", name="Keep").click()
    expect(figures.get_by_role("alert")).to_contain_text("is no sum")
    page.get_by_label("An hour of work").fill("66.00")
    figures.get_by_role("button", name="Keep").click()
    expect(figures.get_by_role("alert")).to_have_count(0)


def test_a_seal_is_cut_pressed_and_tested(bench):
    page = bench.page
    a_shop(bench)
    job = brings(
        bench, complaints=[], marks=SAFE, works=[{"part": "lint_duct_seal", "act": "replace"}],
        machine={"layout": "top_screen_rear_duct"},
    )  # fmt: skip
    opens(bench, job, "open")
    walk(bench, "✓ It is open.")
    bench.to(f"/jobs/{job}/mend")
    do(bench, "Old foam and glue off")
    cut = page.get_by_role("region", name="Cut to length")
    cut.get_by_label("Across").fill("200 mm")
    cut.get_by_label("Down").fill("wide")
    expect(cut.get_by_role("alert")).to_contain_text("'wide' is not a number")
    cut.get_by_label("Down").fill("100 mm")
    expect(cut.get_by_text(re.compile("^Cut .*: the edge all round"))).to_be_visible()
    expect(cut.get_by_text("Ends meet at the side or the top")).to_be_visible()
    expect(cut.get_by_text(re.compile("instead of through the heater")).first).to_be_visible()
    foam = part(page, "foam seal")
    foam.get_by_role("button", name=re.compile("Fitted, from Shelf .*ND-0800")).click()
    expect(foam.get_by_text("✓ fitted: ND-0800")).to_be_visible()
    do(bench, "Cut the foam")
    do(bench, "Dry fit, centred")
    # tested, not believed: what the lamp shows is recorded, and proves the line
    page.get_by_role("button", name="tight", exact=True).click()
    expect(page.get_by_text("✓ All of it is done.")).to_be_visible()
    assert soon(lambda: Finding.objects.filter(check_name="duct_seam_lamp", phase="after", result="tight").exists())


def test_cleaning_that_can_be_checked(bench):
    page = bench.page
    a_shop(bench)
    job = a_wheel_job(bench, "rear_shaft_clamp")
    page.goto(f"{bench.url}/jobs/{job}/cause")
    expect(page.get_by_text(re.compile("Expected after this, if it is this: .* ± .*, a load in"))).to_be_visible()
    expect(page.get_by_text(re.compile("^Worth opening\\? .* opened in vain"))).to_be_visible()
    bench.to(f"/jobs/{job}/open")
    go_on_to(bench, "Clamp screw")
    bench.next()
    expect(page.get_by_text("✓ It is open.")).to_be_visible()
    bench.to(f"/jobs/{job}/mend")
    page.get_by_role("button", name="whole", exact=True).click()
    page.get_by_role("button", name="sound", exact=True).click()
    found = page.get_by_role("region", name="What was found")
    expect(found.get_by_role("button", name=re.compile("free, −"))).to_have_count(4)
    found.get_by_label("What else lay there").fill("two coins")
    found.get_by_role("button", name=re.compile("free, −")).nth(2).click()
    expect(found.get_by_text("Clean the wheel, 3/4, two coins")).to_be_visible()
    vanes = page.get_by_role("group", name="Vane by vane")
    for _ in range(3):
        vanes.get_by_role("button", name="Clean: next").click()
    expect(vanes).to_contain_text("3 of 36 vanes")
    page.reload()  # the phone was put away
    expect(vanes).to_contain_text("3 of 36 vanes")
    found.get_by_role("button", name="Take it back").click()
    expect(found.get_by_text("two coins")).to_have_count(0)
