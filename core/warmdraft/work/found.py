"""A machine that was opened by hand, as a layout: what came off, in its order, as it was counted and timed."""

from __future__ import annotations

from dataclasses import replace

from warmdraft.teardown import Layout, step_of, with_counts
from warmdraft.work.state import JobState


def layout_as_found(state: JobState, name: str, title: str) -> Layout | None:
    """The layout that a job by hand leaves behind; None where the way in was known before.

    Minutes are those that were taken, where the marks tell them; counts those that were counted.
    """
    layout, bench = state.facts.layout, state.bench
    if not state.facts.by_hand or layout is None or bench is None:
        return None
    counts = {
        (place.operation.id, row.key): row.came
        for place in bench.compartments for row in place.fasteners if row.counted and not place.surprise
    }  # fmt: skip
    timed = tuple(
        replace(
            op,
            open_minutes=round(bench.taken.get(step_of("open", op.id), op.open_minutes), 1),
            close_minutes=round(bench.taken.get(step_of("close", op.id), op.close_minutes), 1),
        )
        for op in layout.operations
    )
    return replace(with_counts(replace(layout, operations=timed), counts), name=name, title=title)
