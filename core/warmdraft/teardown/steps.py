"""Which operations reach the parts asked for, in an order that works, and the order back.

Where a need offers a choice, the one that adds the fewest minutes is taken; the file's order breaks ties.
"""

from __future__ import annotations

from collections.abc import Set

from warmdraft.teardown.layouts import Layout, Operation


def _closure(layout: Layout, name: str) -> set[str]:
    operation = layout.operation(name)
    needed = {name}
    for choice in operation.needs:
        ways = [_closure(layout, other) for other in choice]
        needed |= min(ways, key=lambda way: _minutes(layout, way - needed))
    return needed


def _minutes(layout: Layout, names: Set[str]) -> float:
    return sum(op.open_minutes + op.close_minutes for op in layout.operations if op.id in names)


def opening_order(layout: Layout, parts: tuple[str, ...]) -> tuple[Operation, ...]:
    """Operations that reach every part, each after what it needs; parts nothing reaches here are left out."""
    needed: set[str] = set()
    for part in parts:
        ways = [_closure(layout, op.id) for op in layout.operations if part in op.reaches]
        if ways:
            needed |= min(ways, key=lambda way: _minutes(layout, way - needed))
    done: list[Operation] = []
    left = [op for op in layout.operations if op.id in needed]
    while left:
        names = {op.id for op in done}
        ready = next(op for op in left if all(names & set(choice) for choice in op.needs))
        done.append(ready)
        left.remove(ready)
    return tuple(done)


def closing_order(opened: tuple[Operation, ...]) -> tuple[Operation, ...]:
    """The way back: what was opened last goes in first, but for operations that have to be back before others."""
    order = list(reversed(opened))
    for operation in opened:
        firsts = [order.index(other) for other in order if other.id in operation.close_before]
        here = order.index(operation)
        if firsts and here > min(firsts):
            order.insert(min(firsts), order.pop(here))
    return tuple(order)
