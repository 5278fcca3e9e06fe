"""How right the core is: verdicts, proofs, dates, lessons, days, sounds, against worlds that are not its own."""

from __future__ import annotations

import time
from decimal import Decimal
from functools import partial

import numpy as np

from bench_core import _way
from measured import MACHINE, Figure, median_seconds


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
            # where nobody says it, the mildest leaks pass: they take no air from where it is read, and no line asks for
            # them; no job goes out like that, for what it was is asked first
            Figure(f"the worst of them, {worst}", 100 * left[worst], 10.0 if named else 20.0, "%"),
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
