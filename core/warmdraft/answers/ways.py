"""Ways to what the works ask for, side by side; what to take from the van."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from warmdraft.errors import LayoutError
from warmdraft.teardown import Way, kit_of, ways
from warmdraft.words import Words
from warmdraft.work import JobState


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
class ToolAnswer:
    """A driver to take along, what else fits, and the operations that go without it when it is not in the bag."""

    text: str
    fits_also: list[str]
    operations: list[str]


@dataclass(slots=True)
class WaysAnswer:
    """Ways side by side, what to take from the van (to_mend: tools of the works), and where practitioners differ."""

    ways: list[WayAnswer]
    tools: list[ToolAnswer]
    to_mend: list[str]
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


def _once(lists: Iterable[Sequence[str]]) -> list[str]:
    return list(dict.fromkeys(name for names in lists for name in names))


def ways_answer(state: JobState, words: Words) -> WaysAnswer:
    """Ways to what the works ask for; nothing where nothing is opened, or where nothing is known."""
    layout, plan, wanted = state.facts.layout, state.plan, state.wanted
    if layout is None or plan is None or plan.way is None:
        return _nothing()
    known = {op.id for op in layout.operations}
    try:
        rows = ways(layout, plan.reach, opened=known & set(wanted.opened), avoid=wanted.impossible & known)
    except LayoutError as error:
        return _nothing(str(error))
    kit, done = kit_of(plan.way), [line.act for line in state.works.wanted]
    taken = frozenset(op.id for op in plan.way.off)
    return WaysAnswer(
        ways=[_way(row, rows, taken, words) for row in rows],
        tools=[
            ToolAnswer(words.driver(tool.driver), [words.driver(other) for other in tool.fits_also],
                       [op.id for op in layout.operations if op.driver == tool.driver])
            for tool in kit.tools
        ],
        to_mend=[words.thing("tool", tool) for tool in _once(act.tools for act in done)],
        used_up=[words.thing("part", part) for part in _once([kit.used_up, *(act.uses_up for act in done)])],
        gear=[words.thing("gear", item) for item in _once([kit.gear, *(act.gear for act in done)])],
        schools=list(words.schools(rows)),
        for_two=[op.id for op in layout.operations if op.people > 1],
        avoided=sorted(wanted.avoid),
        no_way=plan.no_way,
    )  # fmt: skip
