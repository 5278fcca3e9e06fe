"""No signal, two people, two devices: nothing is lost, nothing is doubled, nobody's work is overwritten silently."""

import re
import uuid

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import PASSWORD, WIDTHS
from tests.server.factories import job_facts

from jobs.live import streams as live
from jobs.models import Happening, Job, Mark, Reading
from people.models import Membership, Person

pytestmark = pytest.mark.django_db(transaction=True)


def a_job(page, **changes) -> str:
    """Open a job through the API of whoever is signed in on the page; its id."""
    job = str(uuid.uuid4())
    status = page.evaluate(
        """async ([job, facts]) => (await fetch(`/api/v1/jobs/${job}`, {
             method: 'PUT', body: JSON.stringify(facts),
             headers: {'Content-Type': 'application/json', 'X-CSRFToken': /csrftoken=([^;]+)/.exec(document.cookie)[1]},
           })).status""",
        [job, job_facts(**changes)],
    )
    assert status == 200
    return job


#: Whether a job is among what is kept on the device.
KEPT = """async (job) => {
  const open = indexedDB.open('warm-draft-kept')
  const db = await new Promise((done) => { open.onsuccess = () => done(open.result) })
  const row = db.transaction('kept').objectStore('kept').get('all')
  const kept = await new Promise((done) => { row.onsuccess = () => done(row.result) })
  db.close()
  return kept?.state.queries.some((query) => query.queryKey[1] === job) ?? false
}"""


def signed_in(who, **changes) -> str:
    """Signed in, the app kept on the device, one job in the list; its id."""
    who.sign_in()
    who.page.get_by_role("link", name="New job").wait_for()
    job = a_job(who.page, **changes)
    who.page.reload()
    who.page.get_by_text("Otter Ness kennels").first.wait_for()
    who.page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    for _ in range(50):
        if who.page.evaluate(KEPT, job):
            break
        who.page.wait_for_timeout(100)
    return job


def test_the_cellar_has_no_signal_and_nothing_is_lost(phone):
    job = signed_in(phone)
    page = phone.page
    page.context.set_offline(True)
    page.reload()  # the browser was closed on the way down
    page.get_by_text("Otter Ness kennels").first.click()
    page.goto(f"{phone.url}/jobs/{job}/make_safe")
    for _ in range(2):
        step = page.locator("p.text-2xl").first.inner_text()
        page.get_by_role("button", name=re.compile("^Done")).first.click()
        expect(page.locator("p.text-2xl").first).not_to_have_text(step)
    page.goto(f"{phone.url}/jobs/{job}/measure?check=outlet_flow")
    phone.reads("96")
    expect(page.get_by_text("Older than 1 reading")).to_be_visible()
    expect(page.get_by_text("flow at the outlet 96").first).to_be_visible()
    page.reload()
    expect(page.get_by_text("3 waiting to be sent").last).to_be_visible()
    page.get_by_role("button", name=re.compile("IK|AF")).click()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_text("3 entries are not sent yet.")).to_be_visible()
    page.get_by_role("button", name="Stay").click()
    page.keyboard.press("Escape")
    assert (Reading.objects.count(), Mark.objects.count()) == (0, 0)

    page.context.set_offline(False)
    expect(page.get_by_text("waiting to be sent")).to_have_count(0)
    expect(page.get_by_text("Older than")).to_have_count(0)
    assert (Reading.objects.count(), Mark.objects.count()) == (1, 2)
    assert list(Happening.objects.order_by("id").values_list("what", flat=True)) == [
        "job_opened", "step_done", "step_done", "reading_recorded",
    ]  # fmt: skip


def test_two_versions_are_put_side_by_side(phone, browser, live_server):
    job = signed_in(phone)
    phone.page.goto(f"{phone.url}/jobs/{job}/complaint")
    phone.page.get_by_role("button", name="squeals").first.wait_for()
    phone.page.context.set_offline(True)
    phone.page.get_by_role("button", name="squeals").first.click()
    expect(phone.page.get_by_text("waiting to be sent").last).to_be_visible()
    with browser.new_context(viewport=WIDTHS["desk"]) as other:
        desk = type(phone)(other.new_page(), live_server.url, phone.email)
        desk.sign_in()
        desk.page.get_by_role("link", name="New job").wait_for()
        desk.page.goto(f"{desk.url}/jobs/{job}/complaint")
        desk.page.get_by_role("button", name="no heat").first.click()
        expect(desk.page.get_by_role("button", name="no heat").first).to_have_attribute("aria-pressed", "true")
    phone.page.context.set_offline(False)
    phone.page.get_by_role("button", name="1 refused").click()
    expect(phone.page.get_by_role("cell", name="long drying, no heat")).to_be_visible()
    expect(phone.page.get_by_role("cell", name="long drying, squeals")).to_be_visible()
    phone.page.get_by_role("button", name="Put mine there").click()
    expect(phone.page.get_by_text("Everything is with the server.")).to_be_visible()
    assert Job.objects.get().complaints == ["long_drying", "squeals"]


@pytest.mark.parametrize("streams", [True, False], ids=["streams", "asked"])
def test_two_at_one_job_see_each_other(desk, browser, live_server, streams, monkeypatch):
    """Also where no stream can be held: then the app asks every two seconds."""
    if not streams:
        monkeypatch.setattr(live.ears, "join", lambda *_: None)
    job = signed_in(desk)
    desk.page.goto(f"{desk.url}/jobs/{job}/make_safe")
    desk.page.get_by_role("heading", name="Make it safe").wait_for()
    mine = Membership.objects.get()
    tobin = Person.objects.create_user(f"{uuid.uuid4().hex[:8]}@lake.example", PASSWORD, name="Tobin Reed")
    Membership.objects.create(person=tobin, workshop=mine.workshop, role="technician")
    with browser.new_context(viewport=WIDTHS["phone"]) as other:
        phone = type(desk)(other.new_page(), live_server.url, tobin.email)
        phone.sign_in()
        phone.page.get_by_role("link", name="New job").wait_for()
        phone.page.goto(f"{phone.url}/jobs/{job}/make_safe")
        expect(desk.page.get_by_text("Tobin Reed is here too")).to_be_visible()
        expect(phone.page.get_by_text("Ada Fell is here too")).to_be_visible()
        step = phone.page.locator("p.text-2xl").first.inner_text()
        phone.next()
        expect(desk.page.get_by_role("button", name=f"Undo: {step}")).to_be_visible(timeout=2_000 if streams else 5_000)
