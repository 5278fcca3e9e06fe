"""What it takes to get into this machine from where it stands: by its layout, there and back."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace
from functools import lru_cache

from warmdraft.checks import legs
from warmdraft.diagnosis import Case
from warmdraft.diagnosis.minutes import clock_of
from warmdraft.errors import LayoutError
from warmdraft.teardown import Layout, plan_way
from warmdraft.work.facts import JobFacts

#: The area of operations that leave the machine in one piece: pulled out, its vent off.
OUTSIDE = "outside"


def as_it_stands(facts: JobFacts, case: Case) -> Case:
    """The case with what it costs to get to each part, by the marks and by what was looked at."""
    layout = facts.layout
    if layout is None:
        return case
    clock = clock_of(case)
    off, back = facts.marked("open", "done"), facts.marked("close", "done")
    by_looks = frozenset(leg.operation for name in clock.paid if (leg := legs()[name]).operation is not None)
    stands: frozenset[str] = frozenset(off) - frozenset(back)
    known = {op.id: op for op in layout.operations}
    open_inside = {name for name in stands if name in known and known[name].area != OUTSIDE}
    if not off:
        stands = _opened_for(layout, frozenset(clock.reached))
    gone = (stands | by_looks) & known.keys()
    inside = [known[name] for name in gone if known[name].area != OUTSIDE]
    return replace(
        case,
        stands_open=bool(open_inside) if off else None,
        opening=_minutes_from(layout, frozenset(gone)),
        opened_minutes=sum(op.open_minutes + op.close_minutes for op in inside),
        paid=tuple(sorted(name for name, leg in legs().items() if leg.operation in gone)),
    )


def _opened_for(layout: Layout, parts: frozenset[str]) -> frozenset[str]:
    """What is off once these parts are reached the quickest way."""
    here = tuple(sorted(part for part in parts if part in layout.parts))
    return frozenset(op.id for op in plan_way(layout, here).operations) if here else frozenset()


@lru_cache(maxsize=256)
def _minutes_from(layout: Layout, opened: Set[str]) -> tuple[tuple[str, float], ...]:
    """Minutes to each part that checks look at, and back, beyond what is off; a part no way leads to is left out."""
    found = []
    for part in sorted({leg.reaches for leg in legs().values() if leg.reaches in layout.parts}, key=str):
        try:
            way = plan_way(layout, (str(part),), opened=set(opened))
        except LayoutError:
            continue
        found.append((str(part), sum(op.open_minutes + op.close_minutes for op in way.operations)))
    return tuple(found)
