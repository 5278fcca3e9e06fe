"""Machines, faults and jobs for property-based tests; one file for all of them."""

from __future__ import annotations

import json
import random

from hypothesis import strategies as st
from pydantic_core import to_json

from warmdraft.airway import READING_KINDS, Conditions, predict
from warmdraft.checks import checks
from warmdraft.diagnosis import FindingFact, ReadingFact
from warmdraft.faults import catalogue, supposed_state
from warmdraft.machine import ELEMENTS, Airway, Fan, Machine, profile, profile_names
from warmdraft.repair import repair_of
from warmdraft.teardown import Layout, Operation
from warmdraft.work import Because, Line

FULL_SIZE = profile("full-size-electric")
elements = st.sampled_from(ELEMENTS)


@st.composite
def airways(draw: st.DrawFn) -> Airway:
    """Any airway a machine could have."""
    rated = draw(st.floats(0.02, 0.12))
    return Airway(
        rated_flow_m3s=rated,
        fan=Fan(draw(st.floats(150, 900)), rated * draw(st.floats(1.3, 2.5)), 1725.0),
        drops_pa=tuple(draw(st.floats(1, 120)) for _ in ELEMENTS),
        drum_seal_share=draw(st.floats(0, 0.3)),
        lint_duct_seal_share=draw(st.floats(0, 0.2)),
    )


@st.composite
def suppositions(draw: st.DrawFn, most: int = 3) -> tuple[tuple[str, float | None], ...]:
    """Up to `most` faults at once, each at a severity of its range."""
    names = draw(st.lists(st.sampled_from(list(catalogue())), max_size=most, unique=True))
    out: list[tuple[str, float | None]] = []
    for name in names:
        span = catalogue()[name].range
        out.append((name, draw(st.floats(*span)) if span else None))
    return tuple(out)


def exact_readings(suppose: tuple[tuple[str, float | None], ...], machine: Machine = FULL_SIZE) -> dict[str, float]:
    """What perfect instruments read on a machine that is exactly its profile."""
    values = predict(machine, supposed_state(machine.airway, suppose), Conditions())[0]
    return {kind: float(v) for kind, v in zip(READING_KINDS, values, strict=True) if v == v}


@st.composite
def facts(draw: st.DrawFn) -> tuple[tuple[ReadingFact, ...], tuple[FindingFact, ...]]:
    """Readings of some machine with some fault, a little off, and findings of any kind."""
    exact = exact_readings(draw(suppositions(most=1)))
    kinds = draw(st.lists(st.sampled_from(list(exact)), max_size=8))
    readings = tuple(
        ReadingFact(kind, exact[kind] * draw(st.floats(0.85, 1.15)), heat_on=draw(st.booleans())) for kind in kinds
    )
    looks = [name for name, check in checks().items() if check.results]
    findings = tuple(
        FindingFact(name, draw(st.sampled_from(checks()[name].results)))
        for name in draw(st.lists(st.sampled_from(looks), max_size=4, unique=True))
    )
    return readings, findings


machines = st.sampled_from([profile(name) for name in profile_names()])


def random_layout(rng: random.Random, operations: int, drivers: int = 3, back_to_front: float = 0.4) -> Layout:
    """Needs only point back, so that there is no circle in them; `close_before` may point anywhere."""
    rows = []
    for i in range(operations):
        needs = [
            tuple(f"o{j}" for j in rng.sample(range(i), min(i, rng.randint(1, 3))))
            for _ in range(rng.randint(0, 2))
            if i
        ]
        other = rng.randrange(operations)
        before = (f"o{other}",) if rng.random() < back_to_front and other != i else ()
        driver = rng.choice([None, *(f"d{k}" for k in range(drivers))])
        minutes = round(rng.uniform(0.3, 4), 1), round(rng.uniform(0.3, 4), 1)
        rows.append(Operation(f"o{i}", "x", *minutes, driver, tuple(needs), (f"p{i}", "p"), close_before=before))
    return Layout("random", tuple(rows), rng.choice([0.0, 0.4, 1.0, 2.0]))


def deep_layout(rng: random.Random, operations: int, drivers: int = 6, near: int = 12) -> Layout:
    """Every operation needs one or two of those shortly before it, by up to three choices each; any driver."""
    rows = []
    for i in range(operations):
        before = range(max(0, i - near), i)
        needs = [
            tuple(f"o{j}" for j in rng.sample(before, min(len(before), rng.randint(1, 3))))
            for _ in range(rng.randint(1, 2))
            if i
        ]
        minutes = round(rng.uniform(0.3, 4), 1), round(rng.uniform(0.3, 4), 1)
        driver = rng.choice([None, *(f"d{k}" for k in range(drivers))])
        rows.append(Operation(f"o{i}", "x", *minutes, driver, tuple(needs), (f"p{i}",)))
    return Layout("deep", tuple(rows), rng.choice([0.4, 1.0, 2.0]))


def deep_task(rng: random.Random, operations: int) -> tuple[Layout, list[str]]:
    """A deep layout, and three parts of its last third."""
    lay = deep_layout(rng, operations)
    return lay, [f"p{i}" for i in rng.sample(range(operations * 2 // 3, operations), 3)]


def plain(answer):
    """An answer as the JSON it is written as."""
    return json.loads(to_json(answer))


def lines_for(*faults: str) -> list[Line]:
    """Lines of works as these causes alone ask for them."""
    return [Line(act, (Because("cause", fault=fault),), "must", "open")
            for fault in faults for act in sorted(repair_of(fault).acts, key=lambda act: act.order)]  # fmt: skip
