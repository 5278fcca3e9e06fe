"""Measure, each figure beside its limit, as ratios in one run: machines here are noisy, a ratio is not.

What can only be said in seconds is the quietest of a few rounds: another program's work is not ours.
Run by ./warm bench [--json] [PART…], a part by a word of its name below. Exit 1 when a limit is passed.
"""

from __future__ import annotations

import json
import os
import re
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from decimal import Decimal
from functools import partial
from pathlib import Path
from typing import Any
from urllib.parse import quote

import numpy as np

ROOT = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(ROOT / part) for part in ("core", "server", "tests/reference", "tests/core", "tools")]

from warmdraft.airway import READING_KINDS, Conditions, predict  # noqa: E402
from warmdraft.diagnosis import Case, ReadingFact, diagnose  # noqa: E402
from warmdraft.diagnosis.hypotheses import hypotheses_of  # noqa: E402
from warmdraft.faults import supposed_state  # noqa: E402
from warmdraft.heat import dry  # noqa: E402
from warmdraft.machine import profile  # noqa: E402

MACHINE = profile("full-size-electric")
COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
OUTCOMES = 21
ROUNDS = 3


@dataclass(frozen=True)
class Figure:
    """One measured figure: at most (or at least) its limit."""

    name: str
    value: float
    limit: float
    unit: str
    at_least: bool = False

    @property
    def kept(self) -> bool:
        return self.value >= self.limit if self.at_least else self.value <= self.limit


def median_seconds(run: Callable[[], object], times: int) -> float:
    """Median of several runs after one to warm up."""
    run()
    spans = []
    for _ in range(times):
        began = time.perf_counter()
        run()
        spans.append(time.perf_counter() - began)
    return statistics.median(spans)


def bare_pass() -> Callable[[], object]:
    """One numpy pass of log-likelihood, exp and normalise over hypotheses × reading kinds × outcomes."""
    hypotheses = hypotheses_of(MACHINE, Conditions())
    mean = hypotheses.output[:, : len(READING_KINDS)]
    sd = 0.08 * np.abs(mean) + 1e-3
    outcome = np.linspace(0, 1, OUTCOMES) * mean.max(axis=0)[:, None]

    def run() -> object:
        log = -0.5 * ((outcome[None] - mean[:, :, None]) / sd[:, :, None]) ** 2 - np.log(sd)[:, :, None]
        weight = np.exp(log - log.max(axis=0))
        return weight / weight.sum(axis=0)

    return run


def _case(kinds: tuple[str, ...]) -> Case:
    state = supposed_state(MACHINE.airway, (("hood_blocked", 20.0),))
    exact = dict(zip(READING_KINDS, predict(MACHINE, state, Conditions())[0], strict=True))
    return Case(MACHINE, readings=tuple(ReadingFact(k, float(exact[k])) for k in kinds))


def verdict_speed() -> list[Figure]:
    """A whole verdict, next checks included, against the bare pass, the model built or not."""
    bare = median_seconds(bare_pass(), 30)
    figures = []
    for name, kinds in (("nothing measured", ()), ("collar", COLLAR), ("everything", tuple(READING_KINDS))):
        case = _case(kinds)
        verdict = median_seconds(lambda case=case: diagnose(case), 30)  # type: ignore[misc]
        figures.append(Figure(f"verdict, {name}: × bare pass", verdict / bare, 40, "×"))
        figures.append(Figure(f"verdict, {name}, pairs and looks weighed", verdict * 1000, 60, "ms"))

    def first() -> object:
        hypotheses_of.cache_clear()
        return diagnose(_case(COLLAR))

    figures.append(
        Figure("verdict on a machine never seen before: × bare pass", median_seconds(first, 10) / bare, 40, "×")
    )
    return figures


def many_files() -> list[Figure]:
    """500 job files in one call of diagnose, start-up included."""
    job = {"format": "warm-draft/job", "version": 1, "readings": []}
    with tempfile.TemporaryDirectory() as folder:
        files = []
        for i in range(500):
            values = (("outlet_flow", 60 + i % 100, "cfm"), ("outlet_static_pressure", 40 + i % 300, "Pa"),
                      ("blower_inlet_suction", 50 + i % 150, "Pa"))[: i % 4]  # fmt: skip
            readings = [{"kind": kind, "value": value, "unit": unit} for kind, value, unit in values]
            files.append(str(Path(folder) / f"{i}.json"))
            Path(files[-1]).write_text(json.dumps(job | {"readings": readings}))
        spans = []
        for _ in range(ROUNDS):
            began = time.perf_counter()
            done = subprocess.run([str(ROOT / "warm"), "core", "diagnose", *files], capture_output=True, text=True)
            spans.append(time.perf_counter() - began)
            assert done.returncode == 0 and done.stdout.count("\n") == 500, done.stderr[-500:]
    return [Figure("500 job files in one call, start-up included", min(spans), 8, "s")]


def accuracy() -> list[Figure]:
    """Top-1 beside Bayes in the generator itself, and how often what is said at 0.8–0.9 is right."""
    from accuracy import judge, judge_with_looks  # type: ignore[import-not-found]  # lies beside the reference tests

    found = judge(draws=2000, samples=4000, seed=20261125)
    figures = [
        Figure(f"top-1 with {kinds}: share of the best possible ({best:.3f})", found.ours[kinds] / best, 0.97, "", True)
        for kinds, best in found.best.items()
    ]
    figures.append(Figure(f"said at 0.8–0.9 and right ({found.said} verdicts)", found.said_right * 100, 77, "%", True))
    figures.append(Figure("the same, not too modest", found.said_right * 100, 93, "%"))
    ours, best = judge_with_looks(draws=1000, samples=1000, seed=20261125)
    figures.extend(
        Figure(f"one fault or two, by {name}: share of the best possible ({best[name]:.3f})", ours[name] / best[name],
               0.95, "", True)
        for name in ours
    )  # fmt: skip
    return figures


def worlds() -> list[Figure]:
    """Sure, wrong and unwarned in worlds that the model does not hold; jobs over 90 % sure in the one that it does."""
    from generator import SETS  # type: ignore[import-not-found]  # both lie beside the reference tests
    from worlds import WORLDS, tally  # type: ignore[import-not-found]

    figures = []
    for world in WORLDS:
        found = {level: tally(world, kinds, 150, 20261126) for level, kinds in SETS.items()}
        worst = max(found, key=lambda level: found[level].wrong)
        figures.append(Figure(f"{world.name}: sure, wrong and unwarned, at worst ({worst}; sure with all in "
                              f"{100 * found['all'].sure:.0f} %)", 100 * found[worst].wrong, 2.0, "%"))  # fmt: skip
        if world.healthy:
            vent = max(tallied.vent for tallied in found.values())
            figures.append(Figure(f"{world.name}: the vent blamed at 0.8 and more", 100 * vent, 5.0, "%"))
    return figures


def proofs() -> list[Figure]:
    """What the proof makes of repairs: unrepaired faults that pass, repaired machines let through."""
    import proofs as repairs  # type: ignore[import-not-found]  # lies beside the reference tests

    figures = []
    for named in (True, False):
        said = "cause said" if named else "nobody said the cause"
        left = {f: repairs.told(f, 150, 20261126, done=False, named=named).accepted for f in repairs.FAULTS}
        done = {f: repairs.told(f, 150, 20261127, named=named).accepted for f in repairs.FAULTS}
        worst = max(left, key=left.__getitem__)
        figures += [
            Figure(f"unrepaired and accepted, {said}", 100 * repairs.weighted(left), 5.0, "%"),
            Figure(f"the worst of them, {worst}", 100 * left[worst], 10.0, "%"),
            Figure("repaired and accepted", 100 * repairs.weighted(done), 90.0, "%", True),
        ]
    found = repairs.decided(150, 20261128)
    figures += [
        Figure("three readings after: wrongly accepted, of the accepted", 100 * found.wrongly, 5.0, "%"),
        Figure("three readings after: let through, of those that reach the limit", 100 * found.through, 80.0, "%",
               True),
        Figure("conformity told of what is open, against how often it held", 100 * abs(found.said - found.true), 15.0,
               "%"),
    ]  # fmt: skip
    alone = {f: repairs.told(f, 100, 20261126, repairs.FLOW_ONLY, done=False).accepted for f in repairs.FAULTS}
    figures.append(Figure("unrepaired and accepted on the flow alone, of faults that flow shows",
                          100 * repairs.weighted({f: alone[f] for f in repairs.HOLD_UP}), 10.0, "%"))  # fmt: skip
    return figures


def upkeep() -> list[Figure]:
    """Days that machines fall due, drawn in worlds of their own, against the nine in ten that is told."""
    import upkeep_world as drawn  # type: ignore[import-not-found]  # lies beside the core's tests

    figures, other = [], drawn.World(2e-3, 0.35, -0.07, 0.03, 0.06)
    for name, world, fleet in (("as is usual", drawn.World(), 0), ("another kind, forty known", other, 40)):
        for visits in (1, 3):
            share = 100 * drawn.held(world, visits, 400, 20261129, fleet)
            figures += [
                Figure(f"due within its interval, {name}, {visits} visits", share, 85.0, "%", True),
                Figure(f"and not for being wide, {name}, {visits} visits", share, 95.0, "%"),
            ]
    return figures


def learning() -> list[Figure]:
    """Workshops of other truths than ours learn from 300 jobs; those of ours are none the worse."""
    from workshops import learn  # type: ignore[import-not-found]  # lies beside the reference tests

    figures = []
    for unlike, what in (
        (0.8, "another mix of causes and looks"),
        (0.4, "somewhat another mix"),
        (0.0, "as we assume"),
    ):
        found = learn(unlike, shops=4, jobs=300, tried=300, seed=7)
        more = found.taught.first - found.ours.first
        less = found.ours.log_loss - found.taught.log_loss
        off = found.taught.off - found.ours.off
        other = unlike > 0.5
        figures += [
            Figure(
                f"learning, {what}: cause first, gained on {found.ours.first:.3f}",
                more,
                0.02 if other else -0.01,
                "",
                True,
            ),
            Figure(
                f"learning, {what}: log-loss, gained on {found.ours.log_loss:.3f}",
                less,
                0.05 if other else -0.01,
                "",
                True,
            ),
            Figure(
                f"learning, {what}: off what was said, beside {found.ours.off:.3f}", off, 0.0 if other else 0.01, ""
            ),
        ]
    return figures


def days() -> list[Figure]:
    """Days of sixty stops and five vans: how long an order takes to find, and how near it is to a long search."""
    import drawn_days  # type: ignore[import-not-found]  # lies beside the reference tests
    from warmdraft.day import plan_day

    slowest, furthest = 0.0, 0.0
    for seed in range(4):
        day = drawn_days.day(seed)
        began = time.perf_counter()
        found = plan_day(day)
        slowest = max(slowest, time.perf_counter() - began)
        furthest = max(furthest, found.cost / plan_day(day, times=drawn_days.LONG).cost - 1)
    return [
        Figure("a day of 60 stops and 5 vans, the slowest", slowest, 10.0, "s"),
        Figure("and dearer than a long search of the same solver", 100 * furthest, 3.0, "%"),
    ]


def drills() -> list[Figure]:
    """The ladder worked by the policy itself: how often it mends all that is wrong, and how long it is waited for."""
    from warmdraft.answers import case_of_rung, hidden_in
    from warmdraft.drill import drilled, ladder
    from warmdraft.jobfile import read_job

    slowest, mended, seeds = 0.0, 0, 6
    for name in ladder():
        document, lies = case_of_rung(name)
        for seed in range(seeds):
            hidden = hidden_in(read_job(document), seed, lies)
            began = time.perf_counter()
            better = drilled(hidden.facts, hidden).better
            slowest = max(slowest, time.perf_counter() - began)
            mended += sum(move.mended for move in better) == len(hidden.wrong)
    return [
        Figure("cases of the ladder that the tool mends, in percent", 100 * mended / seeds / len(ladder()), 95.0, "%",
               True),
        Figure("how a drill went, the slowest to tell", slowest, 5.0, "s"),
    ]  # fmt: skip


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


def policy() -> list[Figure]:
    """From a bare complaint until the tool is nine tenths sure of a place: honest minutes, its own clock, how right."""
    import policy as jobs  # type: ignore[import-not-found]  # lies beside the reference tests

    figures = []
    fixed = jobs.minutes_to_sure(200, 20261125, jobs.FIXED)
    for kit, carries in (("everything", jobs.ALL), ("a manometer", jobs.MANOMETER), ("eyes alone", jobs.EYES)):
        found = jobs.minutes_to_sure(300, 20261125, None, carries)
        figures += [
            Figure(f"{kit}: honest minutes until sure, mean (median {found.median:.0f}, sure in {found.sure:.0%}; "
                   f"a fixed order {fixed.mean:.0f})", found.mean, 60.0 if kit == "eyes alone" else 38.0, "min"),
            Figure(f"{kit}: the tool's clock is off by", 100 * abs(found.clock / found.mean - 1), 20.0, "%"),
            Figure(f"{kit}: sure, and of a wrong place", 100 * found.wrong, 8.0, "%"),
        ]  # fmt: skip
    for name, sure_enough in (("by its own choice", None), ("once a place is 0.9", 0.9)):
        mended = jobs.minutes_to_mended(300, 20261125, sure_enough)
        figures.append(
            Figure(f"minutes to a mended machine, {name} (checking {mended.checking:.0f}, needless tries a job "
                   f"{mended.needless:.2f})", mended.mean, 92.0, "min")
        )  # fmt: skip
    return figures


def planner() -> list[Figure]:
    """The quickest way in: our layouts, and random ones of 30, 60 and 200 operations; how many are proven."""
    import random

    from strategies import deep_task, random_layout  # type: ignore[import-not-found]
    from warmdraft.teardown import Layout, layout, layout_names, plan_way

    def slowest(tasks: list[tuple[Layout, list[str]]]) -> tuple[float, float]:
        spans, proven = [], 0
        for lay, reach in tasks:
            rounds = []
            for _ in range(ROUNDS):
                began = time.perf_counter()
                plan = plan_way(lay, reach)
                rounds.append(time.perf_counter() - began)
            spans.append(min(rounds))
            proven += plan.optimal
        return max(spans), proven / len(tasks)

    ours = [(lay, list(reach)) for lay in map(layout, layout_names()) for reach in (("blower_wheel",), lay.parts)]
    seconds, share = slowest(ours)
    figures = [Figure("planner: our layouts, the slowest", 1000 * seconds, 50, "ms"),
               Figure("planner: our layouts, share proven", share, 1.0, "", at_least=True)]  # fmt: skip
    rng = random.Random(20)
    for size, limit in ((30, 1.0), (60, 1.0), (200, 5.0)):
        tasks = []
        for _ in range(30):
            lay = random_layout(rng, size, drivers=6, back_to_front=0.0)
            tasks.append((lay, [f"p{i}" for i in rng.sample(range(size * 2 // 3, size), 3)]))
        seconds, share = slowest(tasks)
        figures += [
            Figure(f"planner: {size} operations, the slowest of {len(tasks)}", seconds, limit, "s"),
            Figure(f"planner: {size} operations, share proven", share, 0.9, "", at_least=True),
        ]
    spans, proven = [], 0
    for seed in range(120):
        lay, reach = deep_task(random.Random(seed), 60)
        began = time.thread_time()
        proven += plan_way(lay, reach).optimal
        spans.append(time.thread_time() - began)
    lay, reach = deep_task(rng, 200)
    began = time.thread_time()
    plan_way(lay, reach)
    return [
        *figures,
        Figure("planner: 120 deep layouts of 60 operations, proven", proven, 118, "", at_least=True),
        Figure("planner: the same, nine in ten within", statistics.quantiles(spans, n=10)[-1], 1.0, "s"),
        Figure("planner: a deep layout of 200 operations", time.thread_time() - began, 10.0, "s"),
    ]


def _way(ways: Callable[..., Any], asked: tuple[Any, ...], ends: list[Any]) -> object:
    return ways(*asked).to(ends, 4.0, 15.0)


def new_runs() -> list[Figure]:
    """Ways through grids of 30 by 20 by 8, beside a general library's shortest paths; 40 pieces cut from stock."""
    from test_cut import drawn  # type: ignore[import-not-found]  # both lie beside the tests
    from test_route import shortest  # type: ignore[import-not-found]
    from warmdraft.stock import Stock, cut_list
    from warmdraft.vent import Opening, Ways

    size, start = (30, 20, 8), Opening((0, 0, 0), "+x")
    ends = [Opening((29, 19, 7), "+y"), Opening((29, 0, 7), "+z")]
    rng = np.random.default_rng(17)
    grids = [{tuple(cell) for cell in np.argwhere(rng.random(size) < share)} - {start.cell} for share in (0, 0.2, 0.4)]
    floors = {(x, y, z) for x in range(30) for y in range(20) for z in (1, 3, 5)
              if (x, y) != ((29, 19) if z % 4 == 1 else (0, 0))}  # fmt: skip
    walls = {(x, y, z) for x in range(1, 30, 2) for y in range(20) for z in (0, 2, 4, 6) if y != 19 * (x // 2 % 2)}
    ours, theirs = [], []
    for blocked in (*grids, floors | walls):
        asked = (size, blocked, start)
        ours.append(median_seconds(partial(_way, Ways, asked, ends), 5))
        theirs.append(median_seconds(partial(shortest, *asked, ends, 4.0, 15.0), 1))
    spans, proven = [], 0
    for seed in range(60):
        stock, pieces, kerf = drawn(seed, 40, 5, exactly=True)
        sold = [Stock(length, Decimal(str(price))) for length, price in stock]
        began = time.perf_counter()
        proven += cut_list(sold, pieces, kerf).optimal
        spans.append(time.perf_counter() - began)
    return [
        Figure("new run: a grid of 30 by 20 by 8, the slowest", max(ours), 2.0, "s"),
        Figure("new run: × faster than a general library's shortest path", sum(theirs) / sum(ours), 5, "×", True),
        Figure("cuts: 40 pieces of up to 5 stocks, the slowest of 60", max(spans), 2.0, "s"),
        Figure("cuts: of these proven", proven / 60, 0.9, "", True),
    ]


def sounds() -> list[Figure]:
    """The sound bench on held-out recordings of an independent generator; a minute of sound beside one spectrum."""
    from scipy import signal

    from demo.sounds import SOURCES, Room, recorded
    from warmdraft.sound.hear import hear
    from warmdraft.sound.verdict import judge_sound

    def judged(wave: np.ndarray, rate: float) -> tuple[str, float]:
        found = judge_sound(hear([wave.astype(np.float32)], rate), MACHINE.drive).verdict
        return found.source, found.scores[0][1]

    each, found = 20, {}
    hard = Room(fs=44_100, echo_s=0.6, second_machine=True, gain_control=True)
    for name, snr, room in (
        ("moderate, −3 dB", -3.0, Room()), ("half of that, −9 dB", -9.0, Room()),
        ("moderate, echo, a second machine, automatic gain", -3.0, hard),
        ("half of that, echo, a second machine, automatic gain", -9.0, hard),
    ):  # fmt: skip
        right = sure_wrong = 0
        for source in SOURCES:
            for i in range(each):
                wave, rate, _ = recorded(source, 900_000 + i, snr, room)
                told, score = judged(wave, rate)
                right += told == source
                sure_wrong += told != source and score > 0.9
        found[name] = (right / (each * len(SOURCES)), sure_wrong / (each * len(SOURCES)))
    minute, rate, _ = recorded("roller_flat", 1, -3.0, Room(seconds=60.0))
    spectrum = median_seconds(lambda: signal.welch(minute.astype(np.float32), rate, nperseg=4096), 5)
    figures = [Figure(f"sound, right of six sources, {name}", share, least, "share", at_least=True)
               for (name, (share, _)), least in zip(found.items(), (0.95, 0.85) * 2, strict=True)]  # fmt: skip
    figures += [Figure(f"sound, sure and wrong, {name}", wrong, 0.01, "share") for name, (_, wrong) in found.items()]
    return [*figures, Figure("a minute of sound / one Welch spectrum of it",
                             median_seconds(lambda: judged(minute, rate), 5) / spectrum, 3.0, "×")]  # fmt: skip


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


def drying() -> list[Figure]:
    """A load against the same equations through scipy's general solver."""
    from drying_ode import dry_with_scipy  # type: ignore[import-not-found]  # lies beside the reference tests
    from test_drying import reference_run  # type: ignore[import-not-found]

    figures = []
    for cfm in (131, 64):
        case = reference_run(cfm)
        theirs = median_seconds(partial(dry_with_scipy, case), 5)
        ratio = theirs / median_seconds(partial(dry, case), 20)
        ours, (minutes, energy) = dry(case), dry_with_scipy(case)
        off = max(abs((ours.minutes or 0) / minutes - 1), abs(ours.energy_kwh / energy - 1))
        figures.append(Figure(f"drying at {cfm} cfm: × faster than a general solver", ratio, 20, "×", True))
        figures.append(Figure(f"drying at {cfm} cfm: off it, minutes or energy", off * 100, 0.5, "%"))
    return figures


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


def main() -> int:
    parts: list[Callable[[], list[Figure]]] = [
        verdict_speed, many_files, drying, planner, first_view, screen, under_load, marking, accuracy, worlds, proofs,
        upkeep, learning, days, drills, sounds, new_runs, policy, catalogue, kills, fuzzed, offline, people_working,
        scale, growth,
    ]  # fmt: skip
    as_json = "--json" in sys.argv
    asked = [word for word in sys.argv[1:] if word != "--json"]
    parts = [part for part in parts if not asked or any(word in part.__name__ for word in asked)]
    figures = []
    for part in parts:
        for figure in part():
            figures.append(figure)
            if not as_json:
                sign = "≥" if figure.at_least else "≤"
                mark = "ok" if figure.kept else "PASSED ITS LIMIT"
                print(
                    f"{figure.value:9.3f} {figure.unit:3} {sign} {figure.limit:7.2f}  {figure.name}  {mark}", flush=True
                )
    if as_json:
        print(json.dumps([asdict(figure) | {"kept": figure.kept} for figure in figures], ensure_ascii=False))
    return 0 if all(figure.kept for figure in figures) else 1


if __name__ == "__main__":
    sys.exit(main())
