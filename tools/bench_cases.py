"""What the browser draws ahead of the server at the bench, held to the core: acts in a row, and the tray they give.

Each case is a job as the server last answered, the acts that wait on the device since, and what the core makes of all
of them. `web/src/api/optimistic.cases.test.ts` draws the same and compares; no case may differ.

    python tools/bench_cases.py --cases 4000 OUT.jsonl
"""

from __future__ import annotations

import argparse
import itertools
import json
import random
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "core"))

from pydantic_core import to_json

from warmdraft.answers import BenchAnswer
from warmdraft.answers.bench import bench_answer
from warmdraft.jobfile import read_job
from warmdraft.repair import repair_of
from warmdraft.tables import table
from warmdraft.teardown import STATES, Compartment, Layout, Tally, choices_of, layout, layout_names
from warmdraft.words import words_for
from warmdraft.work import Cause, Counted, JobFacts, JobState, Mark, state_of

#: What of a compartment hands act on, and so what is compared; who noted a colour the device does not know.
_PLACE = ("step", "back", "number", "state", "full", "title", "area", "operation")
_FASTENER = ("key", "text", "kind", "head", "state", "expected", "came", "counted", "differs", "back", "moved",
             "replaced", "missing", "left", "said")  # fmt: skip
_WIRE = ("key", "off", "said", "contradicts")
_PART = ("part", "settled", "why", "said")
#: Acts in a case: what the server has heard of, and what waits.
_MOST_HEARD, _MOST_WAITING = 40, 25
_SURPRISES = ("tape over the felt", "a plate: behind the drum, low", "clip")


@dataclass
class _Job:
    """Facts that grow act by act."""

    facts: JobFacts
    acts: list[dict[str, Any]] = field(default_factory=list)

    def mark(self, step: str, state: str) -> None:
        self.acts.append({"act": "marks", "id": f"m{len(self.acts)}", "step": step, "state": state})
        self.facts = replace(self.facts, marks=(*self.facts.marks, Mark(step=step, state=state)))  # type: ignore[arg-type]

    def count(self, step: str, what: str, key: str, state: str, count: int = 1, note: str = "") -> None:
        self.acts.append({"act": "counts", "id": f"c{len(self.acts)}", "step": step, "what": what, "key": key,
                          "state": state, "count": count, "note": note})  # fmt: skip
        tally = Tally(step, what, key, state, count, note)
        self.facts = replace(self.facts, counts=(*self.facts.counts, Counted(tally=tally)))


def _layouts() -> list[Layout]:
    found = []
    for name in layout_names():
        dims = [[("energy", e) for e in ("electric", "gas")], [("supply", s) for s in ("plug", "hard_wired")]]
        dims += [[(choice.name, answer) for answer in choice.answers] for choice in choices_of(name)]
        found += [layout(name, frozenset(chosen)) for chosen in itertools.product(*dims)]
    return found


def _begun(rng: random.Random, layouts: Sequence[Layout]) -> _Job:
    lay = rng.choice(layouts)
    faults = [fault for fault in table("faults") if set(repair_of(fault).reach) & set(lay.parts)]
    facts = read_job({"format": "warm-draft/job", "version": 1}).facts
    cause = Cause(kind="working", fault=rng.choice(faults))
    return _Job(replace(facts, layout=lay, causes=(cause,)))


def _act(job: _Job, state: JobState, rng: random.Random) -> None:
    """One thing that hands may do now: go on, go back, count, say, find something, take something back."""
    assert state.plan is not None and state.bench is not None
    settled = state.settled
    to_open = [step.id for step in state.plan.open if step.id not in settled]
    to_close = [step.id for step in state.plan.close if step.operation and step.id not in settled]
    place = rng.choice(state.bench.compartments)
    roll = rng.random()
    if roll < 0.28 and to_open:
        job.mark(to_open[0], "done")
    elif roll < 0.42 and to_close and not to_open:
        job.mark(to_close[0], "done")
    elif roll < 0.52 and settled:
        job.mark(rng.choice(list(settled)), "undone")
    elif roll < 0.60:
        _surprise(job, rng)
    else:
        _say(job, place, rng)


def _surprise(job: _Job, rng: random.Random) -> None:
    step = f"surprise.{rng.choice(_SURPRISES)}"
    state = rng.choice(["out", "out", "out", "back", "missing"])
    job.count(step, "fastener", rng.choice(["screw", "hex_head", "screw"]), state, rng.choice([0, 1, 2, 2, 3]), "why")


def _say(job: _Job, place: Compartment, rng: random.Random) -> None:
    kinds = [kind for kind in ("fasteners", "fasteners", "wires", "parts") if getattr(place, kind)]
    match rng.choice(kinds) if kinds else None:
        case "fasteners":
            row = rng.choice(place.fasteners)
            states = [state for state in STATES["fastener"] if state != "left_over"]
            count = rng.choice([row.fastener.count, max(0, row.fastener.count - 1), row.fastener.count + 1, 1, 0])
            job.count(place.step, "fastener", row.key, rng.choice(states), count, rng.choice(["", "stripped"]))
        case "wires":
            tag = rng.choice(place.wires)
            if rng.random() < 0.6:
                job.count(place.step, "wire", tag.wire.key, rng.choice(["on", "off"]))
            else:
                note = rng.choice(["red", "Blue", "grey", "blue "])
                job.count(place.step, "wire", tag.wire.key, "noted", rng.choice([1, 1, 0]), note)
        case "parts":
            use = rng.choice(place.parts)
            job.count(place.step, "part", use.part, rng.choice(STATES["part"]), 1, rng.choice(["", "none on the van"]))


def _operations(state: JobState) -> list[str]:
    assert state.bench is not None
    return [place.step for place in state.bench.compartments if not place.surprise]


def _bench(state: JobState) -> dict[str, Any]:
    found: BenchAnswer | None = bench_answer(state.bench, state.plan, words_for())
    told: dict[str, Any] = json.loads(to_json(found))
    return told


def _words() -> dict[str, Any]:
    """What the device knows of things that stand in no layout."""
    words = words_for()
    return {
        "fasteners": [{"code": code, "text": row["one"], "many": row["many"], "head": row["head"]}
                      for code, row in words.texts("hardware")["fastener"].items()],
        "areas": [{"code": code, "text": text} for code, text in words.texts("bench")["area"].items()],
    }  # fmt: skip


def _seen(state: JobState) -> list[dict[str, Any]]:
    """The tray as it is answered, in what is compared."""
    bench = _bench(state)
    return [
        {name: place[name] for name in _PLACE}
        | {
            "fasteners": [{name: row[name] for name in _FASTENER} for row in place["fasteners"]],
            "wires": [{name: row[name] for name in _WIRE} | {"notes": [note["colour"] for note in row["notes"]]}
                      for row in place["wires"]],
            "parts": [{name: row[name] for name in _PART} for row in place["parts"]],
        }
        for place in bench["compartments"]
    ]  # fmt: skip


def groups(number: int, seed: int) -> Iterator[dict[str, Any]]:
    """So many cases, grouped by what the server last answered: its bench and marks, then what waits and what it gives.

    Acts that change which operations the way takes, or their order, end a group: a way is planned by the server alone,
    and the screen shows the steps it knows until then.
    """
    rng, layouts = random.Random(seed), _layouts()
    made = 0
    while made < number:
        job = _begun(rng, layouts)
        start = _heard(job, rng)
        if start is None:
            continue
        heard, state, rows = len(job.acts), start, []
        for _ in range(_MOST_WAITING):
            _act(job, state, rng)
            following = state_of(job.facts)
            if following.bench is None or _operations(following) != _operations(start) or made == number:
                break
            state = following
            rows.append({"waiting": len(job.acts) - heard, "tray": _seen(state)})
            made += 1
        marks = [{"id": f"s{i}", "step": mark.step, "state": mark.state, "why": "", "by": "", "at": None}
                 for i, mark in enumerate(start.settled.values())]  # fmt: skip
        yield {
            "bench": _bench(start) | {"drawing": None},
            "marks": marks,
            "acts": job.acts[heard:],
            "cases": rows,
            "words": _words(),
        }


def _heard(job: _Job, rng: random.Random) -> JobState | None:
    """The job after some acts that the server knows; None where there is no bench."""
    state = state_of(job.facts)
    for _ in range(rng.randint(0, _MOST_HEARD)):
        if state.bench is None:
            return None
        _act(job, state, rng)
        state = state_of(job.facts)
    return state if state.bench is not None else None


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0] if __doc__ else "")
    parser.add_argument("out", type=Path)
    parser.add_argument("--cases", type=int, default=4000)
    parser.add_argument("--seed", type=int, default=11)
    options = parser.parse_args()
    with options.out.open("w", encoding="utf-8") as out:
        for group in groups(options.cases, options.seed):
            out.write(json.dumps(group, ensure_ascii=False, separators=(",", ":")) + "\n")
    print(f"{options.cases} cases")
    return 0


if __name__ == "__main__":
    sys.exit(main())
