"""How quick the core is, as ratios in one run."""

from __future__ import annotations

import json
import statistics
import subprocess
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from measured import COLLAR, MACHINE, ROOT, ROUNDS, Figure, median_seconds
from warmdraft.airway import READING_KINDS, Conditions, predict
from warmdraft.diagnosis import Case, ReadingFact, diagnose
from warmdraft.diagnosis.hypotheses import hypotheses_of
from warmdraft.faults import supposed_state
from warmdraft.heat import dry

OUTCOMES = 21


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
