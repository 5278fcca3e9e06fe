"""What stays on a device and what never stops: a session ended elsewhere, a next person, a write nobody can answer."""

import re
import uuid

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import PASSWORD, WIDTHS
from tests.browser.test_no_signal import a_job, signed_in
from tests.browser.test_sure_story import brings

from files.models import Picture
from jobs.models import Job, Log, Mark
from people.models import Invitation, Membership, Person, Sitting, Workshop
from people.services import _hash

pytestmark = pytest.mark.django_db(transaction=True)

#: All that is kept of answers on the device, as text, and how many writes wait.
ON_THE_DEVICE = """async () => {
  const all = async (name, store) => {
    const open = indexedDB.open(name)
    const db = await new Promise((done) => { open.onsuccess = () => done(open.result) })
    const rows = db.objectStoreNames.contains(store)
      ? db.transaction(store).objectStore(store).getAll() : { result: [] }
    if (rows.addEventListener) await new Promise((done) => { rows.onsuccess = done })
    db.close()
    return rows.result
  }
  return {
    kept: JSON.stringify(await all('warm-draft-kept', 'kept')),
    writes: (await all('warm-draft', 'writes')).length,
    photos: await caches.has('photos'),
  }
}"""


def on_the_device(page):
    page.wait_for_timeout(800)  # one write of the store for a burst of answers
    return page.evaluate(ON_THE_DEVICE)


def leave(page):
    page.get_by_role("button", name=re.compile("habits and sign-out")).click()
    page.get_by_role("button", name="Sign out", exact=True).click()


def test_a_session_that_is_ended_elsewhere_cleans_the_device(phone):
    """The way to lock a lost phone: the door is shown, and nothing of jobs, places, contacts stays."""
    signed_in(phone)
    page = phone.page
    assert "Otter Ness" in on_the_device(page)["kept"]
    from django.contrib.sessions.models import Session

    Session.objects.all().delete()
    Sitting.objects.all().delete()
    page.reload()
    page.get_by_label("E-mail").wait_for()
    there = on_the_device(page)
    assert "Otter" not in there["kept"] and "Maro" not in there["kept"] and not there["photos"]


def test_signing_out_without_a_line_cleans_the_device_and_ends_the_session_when_there_is_one(phone):
    signed_in(phone)
    page, line = phone.page, {"cut": True}
    page.context.set_offline(True)
    # a page that is just being loaded may get a word out before the browser knows that it is offline
    page.context.route(
        "**/api/v1/session", lambda route: route.abort("internetdisconnected") if line["cut"] else route.continue_()
    )
    leave(page)
    page.get_by_label("E-mail").wait_for()
    assert "Otter" not in on_the_device(page)["kept"]
    page.reload()
    page.get_by_label("E-mail").wait_for()
    assert Sitting.objects.count() == 1
    line["cut"] = False
    page.context.set_offline(False)
    for _ in range(50):
        if not Sitting.objects.exists():
            break
        page.wait_for_timeout(100)
    assert not Sitting.objects.exists()
    page.goto(f"{phone.url}/jobs")
    page.get_by_label("E-mail").wait_for()


def test_who_joins_on_a_device_sees_nothing_of_whoever_was_there(phone):
    job = signed_in(phone)
    page = phone.page
    lead = Person.objects.create_user("lead@other.example", PASSWORD, name="Odd Lead")
    other = Workshop.objects.create(name="Other Works")
    Membership.objects.create(person=lead, workshop=other, role="lead")
    from datetime import timedelta

    from django.utils import timezone

    Invitation.objects.create(
        workshop=other, email="rook@other.example", role="trainee", token_sha256=_hash("a-token"), by=lead,
        expires_at=timezone.now() + timedelta(days=1),
    )  # fmt: skip
    from django.contrib.sessions.models import Session

    Session.objects.all().delete()  # the session has run out; the device does not know yet
    page.goto(f"{phone.url}/join/a-token")
    page.get_by_label("Your name").fill("Rook Low")
    page.get_by_label("A password").fill("brand new words 1")
    page.get_by_role("button", name="Join").click()
    page.get_by_role("heading", name="Other Works").wait_for()
    expect(page.get_by_text("No open jobs.")).to_be_visible()
    assert "Otter" not in on_the_device(page)["kept"]
    page.goto(f"{phone.url}/jobs/{job}")
    page.wait_for_timeout(500)
    expect(page.get_by_text("Otter Ness")).to_have_count(0)


def test_a_tab_of_another_person_writes_nothing_under_their_name(phone):
    """Lena's step waits; in another tab she signs out and Sam signs in; the line comes back."""
    job = signed_in(phone)
    page, context = phone.page, phone.page.context
    sam = Person.objects.create_user("sam@lake.example", PASSWORD, name="Second Sam")
    Membership.objects.create(person=sam, workshop=Workshop.objects.get(), role="technician")
    page.goto(f"{phone.url}/jobs/{job}/make_safe")
    page.get_by_role("button", name=re.compile("^Done")).first.wait_for()
    hold = {"on": True}
    context.route("**/marks/**", lambda route: route.abort("internetdisconnected") if hold["on"] else route.continue_())
    page.get_by_role("button", name=re.compile("^Done")).first.click()
    expect(page.get_by_text("1 waiting to be sent").last).to_be_visible()
    second = context.new_page()
    second.set_viewport_size(WIDTHS["phone"])
    second.goto(f"{phone.url}/jobs")
    leave(second)
    second.get_by_role("button", name="Sign out all the same").click()
    second.get_by_label("E-mail").fill("sam@lake.example")
    second.get_by_label("Password").fill(PASSWORD)
    second.get_by_role("button", name="Sign in").click()
    second.get_by_role("heading", name="Fell Dryer Works").wait_for()
    hold["on"] = False
    page.wait_for_timeout(3_000)
    assert not Mark.objects.exists()
    page.get_by_role(
        "button", name=re.compile("Second Sam|SS|habits and sign-out")
    ).first.wait_for()  # it is Sam's by now
    leave(second)
    second.get_by_label("E-mail").fill(phone.email)
    second.get_by_label("Password").fill(PASSWORD)
    second.get_by_role("button", name="Sign in").click()
    second.get_by_role("heading", name="Fell Dryer Works").wait_for()
    for _ in range(80):
        if Mark.objects.exists():
            break
        second.wait_for_timeout(100)
    assert Mark.objects.get().by.email == phone.email


def test_one_write_that_the_server_cannot_answer_never_stops_the_rest(phone):
    """A log that stumbles, then a step of the same job and one of another: all but the log arrive; it can be saved."""
    job = signed_in(phone)
    page = phone.page
    other = a_job(page)
    page.goto(f"{phone.url}/jobs/{job}/make_safe")
    page.get_by_role("button", name=re.compile("^Done")).first.wait_for()
    stumbled = []

    def stumble(route):
        stumbled.append(1)
        route.fulfill(status=413, content_type="text/html", body="<h1>Too large</h1>")

    page.context.route("**/logs/**", stumble)
    page.route("**/api/v1/writes", lambda route: route.fulfill(status=404, body="{}"))  # each by itself
    write = """async ([job, id]) => {
      const open = indexedDB.open('warm-draft')
      const db = await new Promise((done) => { open.onsuccess = () => done(open.result) })
      const store = db.transaction('writes', 'readwrite').objectStore('writes')
      const { id: person } = (await (await fetch('/api/v1/me')).json())
      const tx = db.transaction('writes', 'readwrite').objectStore('writes')
      tx.put({ id: '0', person, job, path: `/api/v1/jobs/${job}/logs/${id}`, body: {}, says: 'log of hood flow' })
      await new Promise((done) => { tx.transaction.oncomplete = done })
      db.close()
    }"""
    page.evaluate(write, [job, str(uuid.uuid4())])
    page.reload()
    step = page.locator("p.text-2xl").first.inner_text()
    page.get_by_role("button", name=re.compile("^Done")).first.click()
    expect(page.locator("p.text-2xl").first).not_to_have_text(step)
    page.goto(f"{phone.url}/jobs/{other}/make_safe")
    page.get_by_role("button", name=re.compile("^Done")).first.click()
    for _ in range(60):
        if Mark.objects.filter(job=other).exists():
            break
        page.wait_for_timeout(100)
    assert Mark.objects.filter(job=other).exists()  # another job waits for nothing
    for _ in range(8):
        page.evaluate("dispatchEvent(new Event('online'))")
        page.wait_for_timeout(400)
        if Mark.objects.filter(job=job).exists():
            break
    # one whose answer a new page did not wait for counts for nothing
    assert Mark.objects.filter(job=job).exists() and 5 <= len(stumbled) <= 7
    assert not Log.objects.exists()
    page.get_by_role("button", name="1 refused").last.click()
    expect(page.get_by_role("dialog")).to_contain_text("Tried 5 times; what else waits goes on.")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save to a file").click()
    assert download.value.suggested_filename == "log-of-hood-flow.json"
    page.get_by_role("button", name="Give it up").click()
    expect(page.get_by_text("Everything is with the server.")).to_be_visible()


def test_photos_are_there_without_a_line_and_go_with_the_sign_out(phone):
    job = signed_in(phone)
    page = phone.page
    from tests.server.test_files import picture

    page.goto(f"{phone.url}/jobs/{job}/make_safe")
    page.locator("input[type=file]").first.set_input_files(
        {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": picture()}
    )
    image = page.locator("img[src*='/photos/']").first
    image.wait_for()
    assert Picture.objects.count() == 1
    page.reload()
    page.locator("img[src*='/photos/']").first.wait_for()
    assert on_the_device(page)["photos"]
    page.context.set_offline(True)
    page.reload()
    shown = page.locator("img[src*='/photos/']").first
    shown.wait_for()
    page.wait_for_timeout(500)
    assert shown.evaluate("img => img.complete && img.naturalWidth > 0")
    leave(page)
    page.get_by_label("E-mail").wait_for()
    assert not on_the_device(page)["photos"]


def test_a_record_is_opened_again_and_both_editions_can_be_read(desk):
    desk.sign_in()
    page = desk.page
    page.get_by_role("link", name="New job").wait_for()
    job = a_job(page)
    Membership.objects.update(role="lead")
    page.goto(f"{desk.url}/jobs/{job}/hand_over")

    def hand_over(reason):
        page.get_by_label(re.compile(r"why\?")).first.fill(reason)
        page.get_by_role("button", name="Freeze the record").click()
        page.get_by_role("heading", name="✓ Handed over").wait_for()

    hand_over("The customer sold the machine.")
    page.get_by_text("Something has to be added").click()
    page.get_by_label("Why it is opened again").fill("They bought it back.")
    page.get_by_role("button", name="Open it again").click()
    expect(page.get_by_text("Opened again: what the customer has in hand stands as")).to_be_visible()
    assert not Job.objects.get().shut
    hand_over("Sold for good.")
    page.get_by_role("link", name="Show the record").click()
    expect(page.get_by_label("Record")).to_contain_text("edition 2")
    expect(page.get_by_label("Record")).to_contain_text("Sold for good.")
    page.get_by_role("link", name="1", exact=True).click()
    expect(page.get_by_label("Record")).to_contain_text("sold the machine")


def test_one_goes_on_in_another_workshop_and_can_leave_it(desk):
    desk.sign_in()
    page = desk.page
    page.get_by_role("link", name="New job").wait_for()
    other = Workshop.objects.create(name="Other Works")
    Membership.objects.create(person=Person.objects.get(), workshop=other, role="trainee")
    page.reload()
    settings = page.get_by_role("button", name=re.compile("habits and sign-out"))
    settings.click()
    page.get_by_text("Workshop: Fell Dryer Works").click()
    page.get_by_role("button", name="Go on in Other Works, as trainee").click()
    page.get_by_role("heading", name="Other Works").wait_for()
    settings.click()
    page.get_by_text("Workshop: Other Works").click()
    page.get_by_role("button", name="Leave Other Works").click()
    page.get_by_role("alert").get_by_role("button", name="Leave Other Works").click()
    page.get_by_role("heading", name="Fell Dryer Works").wait_for()
    assert Membership.objects.count() == 1


def test_the_workshop_reckons_in_its_own_money(desk):
    desk.sign_in()
    page = desk.page
    page.get_by_role("link", name="New job").wait_for()
    desk.to("/people")
    page.get_by_label("Reckons in").fill("sek")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    job = brings(desk)
    desk.to(f"/jobs/{job}/measure?view=heat")
    expect(page.get_by_text("SEK a kWh")).to_be_visible()
