"""A workshop of years beside one of its first month: what is asked of it takes as long."""

from __future__ import annotations

import json
import os
import statistics
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass

from load import Client
from warm import serve

AT = {"at": "2026-11-25T09:00:00+00:00"}
#: Of each kind of request, the middle of so many; and so many rounds, of which the quietest counts.
TIMES, ROUNDS = 40, 3
SMALL, LARGE = "Skellmere Works of One Month", "Skellmere Works of Many Years"
LEAD = "many@skellmere.example"

Ask = Callable[[Client, str, int], tuple[int, bytes]]
#: What people ask of a workshop, by name.
ASKS: dict[str, Ask] = {
    "nothing": lambda c, _, __: c.ask("GET", "/api/v1/nothing"),
    "list": lambda c, _, __: c.ask("GET", "/api/v1/jobs?which=open"),
    "list of what is handed over": lambda c, _, __: c.ask("GET", "/api/v1/jobs?which=handed_over"),
    "job": lambda c, job, _: c.ask("GET", f"/api/v1/jobs/{job}"),
    "write": lambda c, job, i: c.ask(
        "PUT",
        f"/api/v1/jobs/{job}/marks/{uuid.uuid4()}",
        {"step": "make_safe.cool", "state": "done" if i % 2 else "undone"} | AT,
    ),
    "search, a place": lambda c, _, i: c.ask("GET", f"/api/v1/jobs?q={('rowan', 'osier', 'tansy')[i % 3]}"),
    "search, a cause": lambda c, _, __: c.ask("GET", "/api/v1/jobs?q=wheel%20fouled"),
    "search, mistyped": lambda c, _, __: c.ask("GET", "/api/v1/jobs?q=kenels"),
    "search, nothing": lambda c, _, __: c.ask("GET", "/api/v1/jobs?q=submarine"),
    "history": lambda c, job, _: c.ask("GET", f"/api/v1/jobs/{job}/history"),
    "places": lambda c, _, __: c.ask("GET", "/api/v1/places"),
    "places, by a part of their name": lambda c, _, __: c.ask("GET", "/api/v1/places?q=farm"),
}


@dataclass(frozen=True)
class Grown:
    """What came of it: time with 100,000 jobs over time with 1,000, by kind of request; and the time to lay out, s."""

    ratios: dict[str, float]
    laid_out: float
    workshop: str


def lay_out(*said: str) -> float:
    """Lay out jobs of the demo's world in the app's database; how long it took, s."""
    began = time.monotonic()
    serve.manage(os.environ["DATABASE_URL"], serve.FOR_TESTS, "demo", "--large", *said, doing="laying out")
    return time.monotonic() - began


def signed_in(url: str, workshop: str) -> Client:
    """The lead of the large workshops, in one of them."""
    client = Client(url, LEAD, serve.SIGN_IN[1])
    told = json.loads(client.ask("GET", "/api/v1/me")[1])
    which = next(row["id"] for row in told["workshops"] if row["name"] == workshop)
    status, _ = client.ask("PUT", "/api/v1/me/workshop", {"id": which})
    assert status == 200, status
    return client


def _milliseconds(client: Client) -> dict[str, float]:
    """The middle time of each kind of request, the quietest round."""
    jobs = [row["id"] for row in json.loads(client.ask("GET", "/api/v1/jobs?which=open")[1])]
    spans: dict[str, list[float]] = {name: [] for name in ASKS}
    for _ in range(ROUNDS):
        times: dict[str, list[float]] = {name: [] for name in ASKS}
        for i in range(TIMES):
            for name, ask in ASKS.items():  # by turns: a busy moment hits all alike
                began = time.perf_counter()
                status, body = ask(client, jobs[i % 8], i)
                times[name].append(time.perf_counter() - began)
                assert status in (200, 204), (name, status, body[:200])
        for name, row in times.items():
            spans[name].append(statistics.median(row) * 1000)
    return {name: min(row) for name, row in spans.items()}


def grown(url: str) -> Grown:
    """Measure with 1,000 jobs alone, lay out 100,000 and as many in others, measure again."""
    lay_out("--one", SMALL, "--jobs", "1000")
    small = _milliseconds(signed_in(url, SMALL))
    laid_out = lay_out()
    large = _milliseconds(signed_in(url, LARGE))
    slower = large["nothing"] / small["nothing"]  # the machine's own doing
    for name in ASKS:
        print(f"          {name}: {small[name]:.1f} ms with 1,000, {large[name]:.1f} ms with 100,000")
    return Grown({name: large[name] / small[name] / slower for name in ASKS if name != "nothing"}, laid_out, LARGE)


#: Notes when the first job stands on the screen, in the frame after it was put there.
_FIRST_ROW = """
new MutationObserver((_, observer) => {
  if (!document.querySelector('main li')) return
  observer.disconnect()
  requestAnimationFrame(() => { window.firstRow = performance.now() })
}).observe(document, { childList: true, subtree: true })
"""


def seconds_to_the_list(url: str, workshop: str) -> float:
    """From opening the address, on a device that knows the app, to the first job painted; the quickest of a few, s."""
    from playwright.sync_api import sync_playwright

    flags = ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-background-networking"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["WARM_CHROMIUM"], args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script(_FIRST_ROW)
        page.goto(url)
        page.get_by_label("E-mail").fill(LEAD)
        page.get_by_label("Password").fill(serve.SIGN_IN[1])
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name=workshop).wait_for()
        page.locator("main li").first.wait_for()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        spans = []
        for _ in range(8):
            page.reload()
            page.locator("main li").first.wait_for()
            page.wait_for_function("window.firstRow !== undefined")
            spans.append(page.evaluate("window.firstRow") / 1000)
        browser.close()
    return float(min(spans))
