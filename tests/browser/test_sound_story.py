"""The rumble that was the wheel and the one that was the roller, before and after, by a browser's own microphone."""

from dataclasses import replace

import pytest
from playwright.sync_api import expect
from procrastinate.contrib.django.models import ProcrastinateJob
from tests.browser.conftest import WIDTHS, Bench, _someone
from tests.browser.test_sure_story import SAFE, brings, opens

from demo.sounds import Room, as_file, recorded
from jobs.facts.later import LISTEN
from jobs.models import Sound
from jobs.tasks import listen
from stand_in import MICROPHONE

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def hears(browser_type, browser_type_launch_args, live_server, tmp_path):
    """A browser that hears a machine; each call is one that hears another."""
    opened, errors = [], []

    def start(source: str, email: str, width: str, seed: int = 5) -> Bench:
        wave, rate, _ = recorded(source, seed, 3.0, Room(seconds=12.0, echo_s=0.2))
        as_file(tmp_path / f"{source}.wav", wave, rate, format="WAV", subtype="PCM_16")
        *flags, file = MICROPHONE
        browser = browser_type.launch(
            **browser_type_launch_args
            | {"args": [*browser_type_launch_args["args"], *flags, f"{file}{tmp_path / source}.wav"]}
        )
        opened.append(browser)
        page = browser.new_page(viewport=WIDTHS[width])
        page.on("pageerror", lambda error: errors.append(str(error)))
        return Bench(page, live_server.url, email)

    yield start
    for browser in opened:
        browser.close()
    assert errors == []


def listen_to_all() -> None:
    """What the worker does."""
    asked = ProcrastinateJob.objects.filter(task_name=LISTEN)
    for row in asked:
        listen(row.args["sound"])
    asked._raw_delete("default")


def record(bench: Bench, seconds: float) -> None:
    """Press Record, hold still, and say when it is enough."""
    page = bench.page
    page.get_by_role("button", name="Record").click()
    expect(page.get_by_role("region", name="Recording").get_by_role("status")).to_have_text("good")
    expect(page.get_by_role("button", name="That is enough")).to_be_enabled(timeout=1000 * (seconds + 10))
    page.get_by_role("button", name="That is enough").click()
    expect(page.get_by_text("Waits for the server to listen …")).to_be_visible()
    listen_to_all()


def card(bench: Bench):
    return bench.page.get_by_role("region", name="A recording").first


@pytest.mark.parametrize(
    ("source", "said", "cause", "width"),
    [
        ("wheel_unbalance", "Wheel, once a turn, 2", "Wheel fouled with lint", "desk"),
        ("roller_flat", "Drum roller, a knock each of its turns, ", "Drum roller worn", "phone"),
    ],
)
def test_a_rumble_is_heard_found_and_gone(hears, live_server, page, source, said, cause, width):
    email = _someone("Ada Fell")
    bench = hears(source, email, width)
    job = brings(bench, complaints=["rumbles"], marks=SAFE, findings=[{"check": "rumble_ear", "result": "rumble"}])
    opens(bench, job, "measure?check=rumble_sound")
    expect(bench.page.get_by_role("heading", name="Record the empty drum")).to_be_visible()
    record(bench, 10)
    expect(card(bench)).to_contain_text(said, timeout=15_000)
    expect(card(bench)).to_contain_text("By hand:")
    # it is evidence: what it speaks for leads
    bench.page.goto(f"{bench.url}/jobs/{job}/cause")
    expect(bench.page.get_by_text(cause).first).to_be_visible()
    bench.page.get_by_label("You know better? Go with").select_option(label=cause)
    expect(bench.page.get_by_role("region", name="List of works")).to_contain_text("for the cause")
    # the work is done; another browser hears the same machine without it
    after = hears("nothing_stands_out", email, width, seed=43)
    opens(after, job, "prove?view=sound")
    record(after, 10)
    expect(card(after)).to_contain_text("No part stands out", timeout=15_000)
    both = after.page.get_by_role("region", name="Before and after")
    expect(both).to_contain_text("→ nothing stands out")
    expect(both.get_by_role("img")).to_have_count(2)
    expect(after.page.get_by_text(f"{cause}: gone, by the recording")).to_be_visible()


def test_the_strongest_part_is_named_while_one_moves_about(hears, live_server, page):
    bench = hears("roller_flat", _someone("Ada Fell"), "phone")
    job = brings(bench, complaints=["rumbles"], marks=SAFE)
    opens(bench, job, "measure?view=sound")
    bench.page.get_by_role("button", name="Listen while moving about").click()
    live = bench.page.get_by_role("region", name="Listening")
    expect(live.get_by_role("status").last).to_contain_text("drum roller with a flat", timeout=40_000)
    live.get_by_role("button", name="Stop listening").click()
    expect(live).to_have_count(0)
    assert not Sound.objects.exists()


def test_what_is_recorded_without_a_line_waits_on_the_device(hears, live_server, page):
    bench = hears("roller_flat", _someone("Ada Fell"), "phone")
    job = brings(bench, complaints=["rumbles"], marks=SAFE)
    opens(bench, job, "measure?view=sound")
    expect(bench.page.get_by_role("button", name="Record")).to_be_visible()
    there = "() => performance.getEntriesByType('resource').some((row) => /listener/.test(row.name) && row.responseEnd)"
    bench.page.wait_for_function(there)
    bench.page.context.set_offline(True)
    bench.page.get_by_role("button", name="Record").click()
    enough = bench.page.get_by_role("button", name="That is enough")
    expect(enough).to_be_enabled(timeout=25_000)
    enough.click()
    expect(bench.page.get_by_text("waits on this device; it is listened to")).to_be_visible()
    assert not Sound.objects.exists()
    bench.page.context.set_offline(False)
    expect(bench.page.get_by_text("Waits for the server to listen …")).to_be_visible(timeout=40_000)
    listen_to_all()
    expect(card(bench)).to_contain_text("Drum roller", timeout=15_000)


def test_a_file_is_brought_and_one_that_is_none_says_so(phone):
    page = phone.page
    job = brings(phone, complaints=["rumbles"], marks=SAFE)
    opens(phone, job, "measure?view=sound")
    picture = {"name": "rumble.wav", "mimeType": "audio/wav", "buffer": b"\x89PNG\r\n\x1a\n" + bytes(200)}
    page.locator("input[type=file]").set_input_files(picture)
    expect(page.get_by_role("alert").filter(has_text="This is no sound file")).to_be_visible()
    silent = {"name": "silent.wav", "mimeType": "audio/wav", "buffer": _silence()}
    page.locator("input[type=file]").set_input_files(silent)
    expect(page.get_by_text("Waits for the server to listen …")).to_be_visible()
    listen_to_all()
    expect(page.get_by_role("alert").filter(has_text="The recording is silent")).to_be_visible(timeout=15_000)
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_role("region", name="A recording")).to_have_count(0)


def test_a_healthy_one_like_it_is_what_others_are_held_beside(phone, tmp_path):
    page = phone.page
    job = brings(phone, complaints=["rumbles"], marks=SAFE)
    opens(phone, job, "measure?view=sound")

    def bring(source: str, room: Room) -> None:
        wave, rate, _ = recorded(source, 9, -3.0, room)
        as_file(tmp_path / "one.wav", wave, rate, format="WAV", subtype="PCM_16")
        page.locator("input[type=file]").set_input_files(tmp_path / "one.wav")
        expect(page.get_by_text("Waits for the server to listen …")).to_be_visible()
        listen_to_all()
        expect(page.get_by_text("Waits for the server to listen …")).to_have_count(0, timeout=15_000)

    knocks_by_design = Room(fs=16_000, seconds=12.0, usual="roller_flat")
    bring("nothing_stands_out", knocks_by_design)
    expect(card(phone)).to_contain_text("Drum roller, a knock each of its turns")
    page.get_by_text("a healthy one like it").click()
    expect(page.get_by_text("One of the same kind that runs well")).to_be_visible()
    bring("nothing_stands_out", replace(knocks_by_design, seconds=11.0))
    expect(page.get_by_role("region", name="A recording").last).to_contain_text("A healthy one of this kind")
    expect(card(phone)).to_contain_text("No part stands out")  # though it was heard before
    expect(card(phone)).to_contain_text("Held beside one healthy machine of this kind.")


def test_trial_masses_say_what_to_add(bench):
    page = bench.page
    job = brings(bench, complaints=["rumbles"], marks=SAFE)
    opens(bench, job, "measure?view=sound")
    page.get_by_text("Balance the wheel").click()
    page.get_by_label("how strong, bare").fill("3.2")
    for run, vane, strong in ((1, "0", "4.1"), (2, "12", "2"), (3, "24", "4.4")):
        page.get_by_label(f"mass of run {run}").fill("5")
        page.get_by_label(f"vane of run {run}").fill(vane)
        page.get_by_label(f"how strong in run {run}").fill(strong)
    told = page.get_by_role("status", name="What it tells")
    expect(told.get_by_role("listitem").first).to_contain_text("Clean the wheel first")
    expect(told.get_by_role("img")).to_be_visible()
    page.reload()  # the tray stays on the device
    page.get_by_text("Balance the wheel").click()
    expect(told.get_by_role("listitem").first).to_contain_text("Clean the wheel first")


def _silence() -> bytes:
    import io

    import numpy as np
    import soundfile

    file = io.BytesIO()
    soundfile.write(file, np.zeros(16_000 * 5), 16_000, format="WAV", subtype="PCM_16")
    return file.getvalue()
