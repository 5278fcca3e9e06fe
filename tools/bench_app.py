"""How quick the app is, and that it holds: screens, load, catalogues, kills, whatever is sent."""

from __future__ import annotations

import os
import re
import statistics
import subprocess
import sys
import time
from functools import partial
from pathlib import Path
from urllib.parse import quote

from measured import ROOT, ROUNDS, Figure, median_seconds


def growth() -> list[Figure]:
    """What a workshop takes as it grows; docs/operating.md reckons with these."""
    import growth as measured
    from demo.stories import ROUND, STORIES

    found = measured.grown(len(STORIES) + len(ROUND))
    return [
        Figure("of the database, a job", found.kilobytes, 120.0, "kB"),
        Figure("on a core, a job from its opening to its record", found.cpu, 6.0, "s"),
        Figure("a workshop of 1,000 jobs out", found.out, 90.0, "s"),
        Figure("and in again", found.back, 180.0, "s"),
        Figure("its file, a job", found.file, 60.0, "kB"),
    ]


def screen() -> list[Figure]:
    """From saving a reading to its verdict on screen, in the browser on loopback; and what the first view weighs."""
    url = os.environ["WARM_URL"]
    from playwright.sync_api import sync_playwright

    flags = ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-background-networking"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=os.environ["WARM_CHROMIUM"], args=flags)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        sizes = []
        page.on("response", lambda r: sizes.append(len(r.body())) if r.url.endswith(".js") else None)
        page.goto(url)
        page.get_by_label("E-mail").fill("tobin@skellmere.example")
        page.get_by_label("Password").fill("warm-draft-demo")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link", name="Hikers").click()
        page.get_by_label("Draft line").wait_for()
        page.goto(page.url.split("?")[0].rstrip("/") + "/measure?check=outlet_static_pressure")
        field = page.locator("input[data-answer]")
        field.wait_for()
        spans = []
        for i in range(5 + ROUNDS * 40):
            field.fill(f"0.{300 + i}")
            # from the press to the frame in which the field is empty again: the verdict came with the answer
            spans.append(
                page.evaluate(
                    """() => new Promise((done) => {
                      const began = performance.now(), field = document.querySelector('input[data-answer]')
                      const look = () => field.value === '' ? done(performance.now() - began)
                        : requestAnimationFrame(look)
                      field.closest('form').requestSubmit(); requestAnimationFrame(look) })"""
                )
            )
        browser.close()
    each = (len(spans) - 5) // ROUNDS  # the first few warm up
    rounds = (spans[5 + i * each : 5 + (i + 1) * each] for i in range(ROUNDS))
    p95 = min(statistics.quantiles(part, n=20)[-1] for part in rounds)
    return [Figure("saved reading to its verdict on screen, p95", p95, 200, "ms")]


def under_load() -> list[Figure]:
    """The verdict's endpoint at 20 clients at once against one that does nothing; the quietest of a few rounds."""
    from load import verdict_under_load
    from warm.serve import SIGN_IN

    rounds = [verdict_under_load(os.environ["WARM_URL"], *SIGN_IN) for _ in range(ROUNDS)]
    same = min(same / nothing for nothing, same, _ in rounds)
    adding = min(adding / nothing for nothing, _, adding in rounds)
    return [
        Figure("verdict at 20 clients, nothing changed: p95 × doing nothing", same, 5, "×"),
        Figure("verdict at 20 clients, each adds a reading: p95 × doing nothing", adding, 12, "×"),
    ]


def marking() -> list[Figure]:
    """Marks at the bench by twenty at once, beside the request that does nothing."""
    from load import marks_under_load
    from warm.serve import SIGN_IN

    rounds = [marks_under_load(os.environ["WARM_URL"], *SIGN_IN) for _ in range(ROUNDS)]
    nothing, mark, a_second = min(rounds, key=lambda told: told[1] / told[0])
    return [
        Figure("marks at 20 clients: p95 × doing nothing", mark / nothing, 12, "×"),
        Figure("marks at 20 clients, a second", a_second, 5, "", at_least=True),
    ]


def people_working() -> list[Figure]:
    """Fifty people for ten minutes on a workshop of 1,000 jobs: each kind of request beside the one that does nothing,
    errors, memory."""
    from load import working
    from scale import LEAD, SMALL, lay_out
    from warm.serve import SIGN_IN

    seconds = float(os.environ.get("WARM_WORKING_SECONDS", "600"))
    lay_out("--one", SMALL, "--jobs", "1000")
    told = working(os.environ["WARM_URL"], LEAD, SIGN_IN[1], people=50, seconds=seconds,
                   web=int(os.environ["WARM_WEB_PID"]))  # fmt: skip
    limits = {"list": 6, "found": 6, "job": 3, "here": 3, "history": 4, "mark": 8, "reading": 10}
    return [
        *(
            Figure(f"50 people: {name}, p95 × doing nothing", told.p95[name] / told.p95["nothing"], limit, "×")
            for name, limit in limits.items()
            if name in told.p95
        ),
        Figure(f"50 people: answers that were no good, of {told.requests}", len(told.errors), 0, ""),
        Figure("50 people: memory of the web, late × early", told.memory_late / told.memory_early, 1.15, "×"),
    ]


def scale() -> list[Figure]:
    """A workshop of 100,000 jobs, 100,000 more in others, beside one of 1,000."""
    from scale import grown, seconds_to_the_list

    url = os.environ["WARM_URL"]
    told = grown(url)
    return [
        Figure("200,000 jobs and 2,000,000 readings laid out", told.laid_out, 600, "s"),
        *(Figure(f"with 100,000 jobs: {name}, × its time with 1,000", ratio, 1.5, "×")
          for name, ratio in told.ratios.items()),
        Figure("with 100,000 jobs: first paint of the list", seconds_to_the_list(url, told.workshop) * 1000, 300, "ms"),
    ]  # fmt: skip


def catalogue() -> list[Figure]:
    """A parts catalogue of 50,000 numbers taken in by the running server, and found by any word."""
    from load import Client
    from warm.serve import SIGN_IN

    client = Client(os.environ["WARM_URL"], *SIGN_IN)
    kinds = ("belt", "high_limit", "blower_wheel", "idler", "motor")
    sheet = "number,kind,text,fits,supplier,price,opens_at,voltage\n" + "".join(
        f"WX-{i:05},{kinds[i % 5]},size {i % 97} of the north works,HM{i % 900}|HM{i % 77},Northpass,{i % 900}.50,"
        f"{200 + i % 90} degF,250 V\n"
        for i in range(50_000)
    )

    began = time.perf_counter()
    status, body = client.ask("POST", "/api/v1/stock/items?whole=true", sheet.encode())
    seconds = time.perf_counter() - began
    assert status == 200, body[:300]
    typed = ("wx-49999", "wx4", "belt", "limit", "size 96", "north", "HM 33", "hm76 motor", "fan", "submarine")
    slowest = max(
        median_seconds(partial(client.ask, "GET", f"/api/v1/stock/items?q={quote(word)}"), 9) for word in typed
    )
    return [
        Figure("catalogue: 50,000 numbers taken in", seconds, 20, "s"),
        Figure(f"catalogue: found by any of {len(typed)} words, the slowest", slowest * 1000, 50, "ms"),
    ]


def kills() -> list[Figure]:
    """kill -9 of web, worker and database at random under load, 200 times."""
    from breaking import break_it

    broken = break_it(int(os.environ.get("WARM_KILLS", "200")), Path(os.environ["WARM_WEB_DIST"]))
    told = ", ".join(f"{count} {what}" for what, count in sorted(broken.kills.items()))
    return [
        Figure(f"kills ({told}): acknowledged writes lost, of {broken.acknowledged}", broken.lost, 0, ""),
        Figure("kills: acknowledged writes twice", broken.doubled, 0, ""),
        Figure("kills: jobs of the worker stuck or dead", len(broken.stuck), 0, ""),
    ]


def fuzzed() -> list[Figure]:
    """10,000 requests drawn from the API's schema, signed in and not."""
    return [_pytest("fuzzed requests that stumbled or left the schema", "tests/server/test_fuzz.py", WARM_FUZZ="10000")]


def offline() -> list[Figure]:
    """200 acts on two devices, the line cut at random."""
    return [_pytest("offline acts lost or doubled", "tests/browser/test_line_cut.py", WARM_ACTS="200")]


def _pytest(name: str, path: str, **env: str) -> Figure:
    """A test in its long form, on a database of its own: how many of its cases failed."""
    from warm import cluster

    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "--no-header", path], capture_output=True, text=True, cwd=ROOT,
        env=os.environ | env | {"DATABASE_URL": cluster.throw_away()},
    )  # fmt: skip
    last = done.stdout.strip().splitlines()[-1] if done.stdout.strip() else done.stderr[-300:]
    print(f"          {last}", file=sys.stderr)
    failed = 0 if done.returncode == 0 else max(1, done.stdout.count("\nFAILED"))
    return Figure(f"{name} ({', '.join(env.values())})", failed, 0, "")


def first_view() -> list[Figure]:
    """JavaScript of the first view, gzipped as it is served."""
    built = Path(os.environ["WARM_WEB_DIST"])
    first = re.findall(r"/(assets/[^\"]+\.js)", (built / "index.html").read_text())
    total = sum((built / f"{name}.gz").stat().st_size for name in first)
    return [Figure("first view, JavaScript gzipped", total / 1000, 140, "kB")]
