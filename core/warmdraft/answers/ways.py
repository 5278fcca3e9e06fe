"""Ways to what a cause asks for, side by side; what else is worth doing; what to take from the van."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from warmdraft.errors import LayoutError
from warmdraft.teardown import Way, kit_of, ways, worth_doing_along
from warmdraft.words import Words
from warmdraft.work import JobState, wanted_parts


@dataclass(slots=True)
class WayAnswer:
    """A way in: what it is called by, its minutes, what it takes and spares against the first, what else it reaches.

    through, avoid: what choosing it asks for; chosen: the work goes by it.
    """

    by: str
    why: str
    operations: list[str]
    total_minutes: float
    open_minutes: float
    close_minutes: float
    driver_changes: int
    screws: int
    loosened: int
    wires: int
    people: int
    drivers: list[str]
    takes: list[str]
    spares: list[str]
    also_reaches: list[str]
    longer: float
    optimal: bool
    gap_minutes: float
    avoid: list[str]
    through: list[str]
    chosen: bool


@dataclass(slots=True)
class AlongAnswer:
    """A part worth doing while open."""

    part: str
    text: str
    minutes_more: float
    minutes_spared: float
    within_reach: bool
    wanted: bool


@dataclass(slots=True)
class ToolAnswer:
    """A driver to take along, what else fits, and the operations that go without it when it is not in the bag."""

    text: str
    fits_also: list[str]
    operations: list[str]


@dataclass(slots=True)
class WaysAnswer:
    """Ways side by side, what else is worth doing, what to take from the van, and where practitioners differ."""

    ways: list[WayAnswer]
    along: list[AlongAnswer]
    tools: list[ToolAnswer]
    used_up: list[str]
    gear: list[str]
    schools: list[str]
    for_two: list[str]
    avoided: list[str]
    no_way: str | None


def _nothing(no_way: str | None = None) -> WaysAnswer:
    return WaysAnswer([], [], [], [], [], [], [], [], no_way)


def _way(way: Way, rows: Sequence[Way], taken: frozenset[str], words: Words) -> WayAnswer:
    plan = way.plan
    named = {op.id for op in plan.off if op.way}
    all_named = {op.id for row in rows for op in row.plan.closing if op.way}
    return WayAnswer(
        by=words.way(way),
        why=words.why_this_way(way, rows),
        operations=[op.id for op in plan.operations],
        total_minutes=plan.total_minutes,
        open_minutes=plan.open_minutes,
        close_minutes=plan.close_minutes,
        driver_changes=plan.driver_changes,
        screws=plan.fasteners("out"),
        loosened=plan.fasteners("loosened"),
        wires=sum(len(op.wires) for op in plan.off),
        people=plan.people,
        drivers=[words.driver(driver) for driver in plan.drivers],
        takes=[op.does for op in way.takes],
        spares=[op.does for op in way.spares],
        also_reaches=[words.thing("part", part) for part in way.also_reaches],
        longer=way.longer,
        optimal=plan.optimal,
        gap_minutes=plan.gap_minutes,
        # choosing it: what sets it apart by name is kept in, what sets others apart is kept out
        through=sorted(named),
        avoid=sorted(all_named - named),
        chosen=frozenset(op.id for op in plan.off) == taken,
    )


def ways_answer(state: JobState, words: Words) -> WaysAnswer:
    """Ways to what the working cause asks for; nothing where there is none, or where nothing is known."""
    layout, plan, wanted = state.facts.layout, state.plan, state.wanted
    if layout is None or state.working is None or plan is None or plan.way is None:
        return _nothing()
    fault = state.working.fault
    known = {op.id for op in layout.operations}
    impossible = wanted.impossible & known
    try:
        rows = ways(
            layout, wanted_parts(fault, layout, wanted.also), opened=known & set(wanted.opened), avoid=impossible
        )
        along = worth_doing_along(layout, wanted_parts(fault, layout), avoid=impossible)
    except LayoutError as error:
        return _nothing(str(error))
    kit = kit_of(plan.way)
    taken = frozenset(op.id for op in plan.way.off)
    return WaysAnswer(
        ways=[_way(row, rows, taken, words) for row in rows],
        along=[
            AlongAnswer(row.part, words.along(row), row.minutes_more, row.minutes_spared, row.within_reach,
                        row.part in wanted.also)
            for row in along
        ],
        tools=[
            ToolAnswer(words.driver(tool.driver), [words.driver(other) for other in tool.fits_also],
                       [op.id for op in layout.operations if op.driver == tool.driver])
            for tool in kit.tools
        ],
        used_up=[words.thing("part", part) for part in kit.used_up],
        gear=[words.thing("gear", item) for item in kit.gear],
        schools=list(words.schools(rows)),
        for_two=[op.id for op in layout.operations if op.people > 1],
        avoided=sorted(wanted.avoid),
        no_way=plan.no_way,
    )  # fmt: skip
