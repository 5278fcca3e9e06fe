"""Distinct ways to the same parts side by side, what else is worth doing while open, and what to take along."""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass
from functools import lru_cache

from warmdraft.errors import LayoutError
from warmdraft.tables import table
from warmdraft.teardown.layouts import Layout, Operation
from warmdraft.teardown.planner import Plan, plan_way

#: Hexagons this near in width across flats turn the same head, mm (common practice, no source).
FITS_WITHIN_MM = 0.2
#: A part is worth doing along when that spares at least so many minutes against opening for it alone, and no fewer than
#: it takes (own choice).
WORTH_SPARING = 5.0
#: A way that only some always take is shown while it takes no more than so many times the quickest (own choice).
_SCHOOL_COSTS = 1.6


@dataclass(frozen=True, slots=True)
class Way:
    """A way, what sets it apart from the first (its own operations, those it spares), and what else it reaches.

    longer: minutes more than the first; 0 for the first itself.
    """

    plan: Plan
    by: tuple[str, ...]
    takes: tuple[Operation, ...]
    spares: tuple[Operation, ...]
    also_reaches: tuple[str, ...]
    longer: float


def _off(plan: Plan) -> frozenset[str]:
    return frozenset(op.id for op in plan.closing)


def ways(
    layout: Layout, reach: Sequence[str], *, opened: Set[str] = frozenset(), avoid: Set[str] = frozenset(),
    most: int = 3,
) -> tuple[Way, ...]:  # fmt: skip
    """The quickest way, and the quickest ones that do without what it takes, or with what some always take off.

    Two ways are distinct when an operation that has a name of its own (`way`) is in one and not in the other.
    Raises LayoutError where there is no way at all.

    >>> from warmdraft.teardown import layout
    >>> [round(way.longer) for way in ways(layout('lower_panel_keyholes'), ['blower_wheel'])]  # minutes
    [0, 42]
    """
    first = plan_way(layout, reach, opened=opened, avoid=avoid)
    named = frozenset(op.id for op in layout.operations if op.way)
    found = {_off(first) & named: first}
    for operation in layout.operations:
        without = operation.id in _off(first)
        if operation.id in opened or not (without or operation.school):
            continue
        try:
            other = (
                plan_way(layout, reach, opened=opened, avoid=avoid | {operation.id})
                if without
                else plan_way(layout, reach, opened=opened, avoid=avoid, through={operation.id})
            )
        except LayoutError:
            continue
        if not without and other.total_minutes > _SCHOOL_COSTS * first.total_minutes:
            continue
        key = _off(other) & named
        if key not in found or other.total_minutes < found[key].total_minutes:
            found[key] = other
    others = sorted((plan for plan in found.values() if plan is not first), key=lambda plan: plan.total_minutes)
    return tuple(_way(plan, first, others[0] if others else None, reach) for plan in (first, *others)[:most])


def _way(plan: Plan, first: Plan, second: Plan | None, reach: Sequence[str]) -> Way:
    against = second if plan is first else first
    own, other = _off(plan), _off(against) if against else frozenset()
    return Way(
        plan,
        tuple(op.way for op in plan.closing[::-1] if op.way),
        tuple(op for op in plan.operations if against and op.id not in other),
        tuple(op for op in against.operations if op.id not in own) if against else (),
        tuple(sorted({part for op in plan.closing for part in op.reaches} - set(reach))),
        plan.total_minutes - first.total_minutes,
    )


@dataclass(frozen=True, slots=True)
class Along:
    """A part that may be done while the machine is open: minutes more now, minutes spared against a visit of its own.

    within_reach: it is reached by this way as it is.
    """

    part: str
    minutes_more: float
    minutes_spared: float
    within_reach: bool


def worth_doing_along(
    layout: Layout, reach: Sequence[str], *, parts: Sequence[str] | None = None, avoid: Set[str] = frozenset()
) -> tuple[Along, ...]:
    """Parts beyond those asked for that this opening brings near, the most minutes spared first.

    parts: those that count; None for all that the layout has.

    >>> from warmdraft.teardown import layout
    >>> all(row.minutes_spared > 0 for row in worth_doing_along(layout('two_motors'), ['blower_wheel']))
    True
    """
    wanted = layout.parts if parts is None else parts
    return _along(layout, tuple(reach), tuple(part for part in wanted if part in layout.parts), frozenset(avoid))


@lru_cache(maxsize=512)
def _along(
    layout: Layout, reach: tuple[str, ...], parts: tuple[str, ...], avoid: frozenset[str]
) -> tuple[Along, ...]:  # fmt: skip
    base = plan_way(layout, reach, avoid=avoid)
    reached = {part for op in base.closing for part in op.reaches}
    rows = []
    for part in parts:
        alone = None if part in reach else _alone(layout, part, avoid)
        if alone is None:
            continue
        more = 0.0 if part in reached else plan_way(layout, (*reach, part), avoid=avoid).total_minutes
        more = max(0.0, more - base.total_minutes)
        if alone - more >= max(WORTH_SPARING, more):
            rows.append(Along(part, more, alone - more, part in reached))
    return tuple(sorted(rows, key=lambda row: (-row.minutes_spared, row.part)))


@lru_cache(maxsize=2048)
def _alone(layout: Layout, part: str, avoid: frozenset[str]) -> float | None:
    """Minutes to a part by itself, there and back; None where no way leads to it."""
    try:
        return plan_way(layout, (part,), avoid=avoid).total_minutes
    except LayoutError:
        return None


#: What practitioners differ about: whether the drum comes out, cramped ways, how a front is set aside.
SCHOOLS = ("drum", "cramped", "front")


def schools_of(ways: Sequence[Way]) -> tuple[str, ...]:
    """What practitioners differ about among these ways, of SCHOOLS.

    >>> from warmdraft.teardown import layout
    >>> schools_of(ways(layout('lower_panel_keyholes'), ['blower_wheel']))
    ('drum', 'cramped')
    """
    argued = {op.argued for way in ways for op in way.plan.closing}
    if any(op.school for way in ways for op in (*way.takes, *way.spares)):
        argued.add("drum")
    return tuple(school for school in SCHOOLS if school in argued)


@dataclass(frozen=True, slots=True)
class Tool:
    """A driver of the kit, and what else of a bag would fit in its place; all by name."""

    driver: str
    fits_also: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Kit:
    """What to take before leaving the van."""

    tools: tuple[Tool, ...]
    used_up: tuple[str, ...]
    gear: tuple[str, ...]


def fits_also(driver: str) -> tuple[str, ...]:
    """Drivers that turn the same head: hexagons as wide within 0.2 mm, and what the table names.

    >>> fits_also('cross-2')
    ('cross-2-stubby',)
    """
    book: Mapping[str, Mapping[str, object]] = table("drivers")
    row = book.get(driver)
    if row is None:
        return ()
    across = row.get("across_mm")
    near = [
        name
        for name, other in book.items()
        if name != driver
        and isinstance(across, float)
        and isinstance(width := other.get("across_mm"), float)
        and abs(width - across) <= FITS_WITHIN_MM
    ]
    named = row.get("fits_also", [])
    return (*near, *(named if isinstance(named, list) else []))


def kit_of(plan: Plan) -> Kit:
    """Drivers in the order they are taken up, parts that have to be new, protective gear.

    >>> from warmdraft.teardown import layout
    >>> kit_of(plan_way(layout('two_motors'), ['blower_wheel'])).tools[0].driver
    'cross-2'
    """
    off = plan.off
    return Kit(
        tuple(Tool(driver, fits_also(driver)) for driver in plan.drivers),
        tuple(dict.fromkeys(part for op in off for part in op.uses_up)),
        tuple(dict.fromkeys(item for op in off for item in op.gear)),
    )
