"""What every part of the bench is told in: a figure beside its limit, and the time of a run."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from warmdraft.machine import profile

ROOT = Path(__file__).resolve().parent.parent
# what lies beside the tests: worlds that are not the core's own
sys.path[:0] = [str(ROOT / part) for part in ("tests/reference", "tests/core")]

MACHINE = profile("full-size-electric")
COLLAR = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction")
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
