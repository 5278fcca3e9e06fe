"""A workshop's own minutes: what its people took beside the estimate, so that a single odd day spoils nothing."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np

from warmdraft.teardown.bench import fastener_keys
from warmdraft.teardown.layouts import Layout, Operation
from warmdraft.teardown.steps import step_of

#: The layout's own estimate counts like so many times done (own choice).
_AS_GOOD_AS = 2.0
#: Huber's constant: 95 % as efficient as the mean where times scatter normally (Huber, "Robust Estimation of a Location
#: Parameter", Annals of Mathematical Statistics 35, 1964; the constant after Holland and Welsch, 1977).
_HUBER = 1.345
#: How times of one operation scatter about their middle, as a factor: 1.35 (own assumption; a log-normal's sigma).
_SCATTER = math.log(1.35)
#: Longer than this is a break, not work: telephone, lunch, minutes (own assumption).
_BREAK = 45.0


@dataclass(frozen=True, slots=True)
class Marked:
    """A step marked done: its name, and the minute of the job it was done at."""

    step: str
    minute: float


def minutes_taken(marks: Sequence[Marked]) -> dict[str, float]:
    """Minutes by step, from one mark to the next; the first of a job and what follows a break say nothing.

    >>> minutes_taken([Marked('open.lid', 0.0), Marked('open.drum', 3.0), Marked('open.wheel', 5.5)])
    {'open.drum': 3.0, 'open.wheel': 2.5}
    """
    in_order = sorted(marks, key=lambda mark: mark.minute)
    return {
        after.step: after.minute - before.minute
        for before, after in pairwise(in_order)
        if 0 < after.minute - before.minute <= _BREAK
    }


def learned_minutes(estimate: float, taken: Iterable[float]) -> float:
    """The estimate and the times taken as one number: Huber's location of their logarithms.

    estimate: minutes, counts like two times done; taken: minutes, each above 0. An odd day pulls with a bounded force.

    Source: P. J. Huber, Robust estimation of a location parameter, 1964.

    >>> learned_minutes(4.0, []), round(learned_minutes(4.0, [8.0] * 6), 1)
    (4.0, 7.0)
    """
    logs = np.log([estimate, *taken]) if estimate > 0 else np.array([])
    if len(logs) < 2:
        return estimate
    weights = np.ones(len(logs))
    weights[0] = _AS_GOOD_AS
    middle = float(np.median(logs))
    for _ in range(50):
        pull = np.minimum(1.0, _HUBER * _SCATTER / np.maximum(np.abs(logs - middle), 1e-12)) * weights
        moved = float(pull @ logs / pull.sum())
        if abs(moved - middle) < 1e-9:
            break
        middle = moved
    return math.exp(middle)


def corrected_count(expected: int, here: int | None, elsewhere: Sequence[int]) -> int:
    """How many fasteners to expect: as last counted on this very machine; else what two of its kind agree on.

    here: the last count on this machine, None where there is none; elsewhere: the last counts on others of its layout.

    >>> corrected_count(4, 3, []), corrected_count(4, None, [3, 3]), corrected_count(4, None, [3])
    (3, 3, 4)
    """
    if here is not None:
        return here
    counts = Counter(elsewhere).most_common(1)
    return counts[0][0] if counts and counts[0][1] >= 2 and counts[0][1] * 2 > len(elsewhere) else expected


def with_counts(layout: Layout, counts: Mapping[tuple[str, str], int]) -> Layout:
    """A layout with counts as they were found. counts: by operation and fastener key.

    >>> from warmdraft.teardown import layout
    >>> lay = layout('top_screen_rear_duct')
    >>> op = next(op for op in lay.operations if op.fasteners)
    >>> with_counts(lay, {(op.id, fastener_keys(op)[0]): 9}).operation(op.id).fasteners[0].count
    9
    """
    return replace(
        layout,
        operations=tuple(
            replace(
                op,
                fasteners=tuple(
                    replace(fastener, count=counts.get((op.id, key), fastener.count))
                    for key, fastener in zip(fastener_keys(op), op.fasteners, strict=True)
                ),
            )
            for op in layout.operations
        ),
    )


def with_minutes(layout: Layout, taken: Mapping[str, Sequence[float]]) -> Layout:
    """A layout with a workshop's own minutes. taken: by step, `open.ID` and `close.ID`.

    >>> from warmdraft.teardown import layout
    >>> with_minutes(layout('two_motors'), {'open.pull_out': [6.0] * 8}).operation('pull_out').open_minutes > 4
    True
    """
    return replace(
        layout,
        operations=tuple(
            replace(
                op,
                open_minutes=learned_minutes(op.open_minutes, taken.get(step_of("open", op.id), ())),
                close_minutes=learned_minutes(op.close_minutes, taken.get(step_of("close", op.id), ())),
            )
            for op in layout.operations
        ),
    )


def document_as_known(document: Mapping[str, Any], layout: Layout) -> dict[str, Any]:
    """A layout's document with the minutes and counts that were learned of it. layout: that document, with them.

    >>> from warmdraft.teardown import layout, layout_document
    >>> lay = with_minutes(layout('two_motors'), {'open.pull_out': [5.0, 5.0, 5.0]})
    >>> document_as_known(layout_document('two_motors'), lay)['operations'][0]['open_minutes'] > 2
    True
    """

    def operation(row: Mapping[str, Any], op: Operation) -> dict[str, Any]:
        fasteners = [
            {**part, "count": fastener.count} for part, fastener in zip(row["fasteners"], op.fasteners, strict=True)
        ]
        return {**row, "open_minutes": op.open_minutes, "close_minutes": op.close_minutes, "fasteners": fasteners}

    rows = [operation(row, op) for row, op in zip(document["operations"], layout.operations, strict=True)]
    return {**document, "operations": rows}
