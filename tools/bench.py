"""Measure, each figure beside its limit, as ratios in one run: machines here are noisy, a ratio is not.

What can only be said in seconds is the quietest of a few rounds: another program's work is not ours.
Run by ./warm bench [--json] [PART…], a part by a word of its name below. Exit 1 when a limit is passed.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from dataclasses import asdict

from bench_app import (
    catalogue,
    first_view,
    fuzzed,
    growth,
    kills,
    marking,
    offline,
    people_working,
    scale,
    screen,
    under_load,
)
from bench_core import drying, many_files, planner, verdict_speed
from bench_judgement import accuracy, days, drills, learning, new_runs, policy, proofs, sounds, upkeep, worlds
from measured import Figure


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
