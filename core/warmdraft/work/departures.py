"""The way into a machine as it was found: a layout with what came off besides, and without what is not there.

Where nothing is known of the machine, the layout is what came off by hand, in its order.
"""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace

from warmdraft.teardown import Layout, Operation
from warmdraft.work.facts import JobFacts

#: What a way is called that nobody knew before.
BY_HAND = "by_hand"


def with_departures(facts: JobFacts) -> JobFacts:
    """The facts with the layout as this very machine was found; once is enough."""
    latest = {row.operation.id: row for row in facts.added if not row.withdrawn}
    added = list(latest.values())
    absent = frozenset(facts.marked("open", "not_there"))
    if facts.as_found or not (added or absent):
        return facts
    base = facts.layout or Layout(BY_HAND, ())
    operations = [_without(op, absent) for op in base.operations if op.id not in absent | latest.keys()]
    known = {op.id for op in operations}
    for row in added:  # only what was there before it: nothing comes off after itself
        operations.append(replace(row.operation, needs=((row.after,),) if row.after in known else ()))
        known.add(row.operation.id)
    layout = replace(base, operations=tuple(operations))
    return replace(facts, layout=layout, told_layout=facts.layout, as_found=True, by_hand=facts.layout is None)


def _without(operation: Operation, absent: Set[str]) -> Operation:
    """An operation of a machine that some others are not part of: what is not there need not come off."""
    return replace(
        operation,
        needs=tuple(left for choice in operation.needs if (left := tuple(op for op in choice if op not in absent))),
        close_before=tuple(op for op in operation.close_before if op not in absent),
    )
