"""The answer of the verb `plan`: the quickest way in and back."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import dataclass
from typing import Any

from warmdraft.errors import DocumentError, LayoutError
from warmdraft.jobfile import read_layout
from warmdraft.teardown import Layout, Plan, plan_way


@dataclass(slots=True)
class FastenersOut:
    """How many fasteners come out, and how many are only loosened."""

    out: int
    loosened: int


@dataclass(slots=True)
class WireOff:
    """A wire that comes off, as the layout names it."""

    device: str
    terminal: str
    colour: str


@dataclass(slots=True)
class PlanAnswer:
    """The way of least total minutes; optimal: proven so; gap_minutes: the most it may be too dear, 0 where proven."""

    operations: list[str]
    closing: list[str]
    open_minutes: float
    close_minutes: float
    driver_changes: int
    total_minutes: float
    drivers: list[str]
    fasteners: FastenersOut
    wires: list[WireOff]
    cautions: list[str]
    optimal: bool
    gap_minutes: float
    reaches: list[str]
    people: int


def plan_shown(plan: Plan) -> PlanAnswer:
    """A plan as the verb `plan` prints it."""
    off = plan.off
    return PlanAnswer(
        operations=[operation.id for operation in plan.operations],
        closing=[operation.id for operation in plan.closing],
        open_minutes=round(plan.open_minutes, 6),
        close_minutes=round(plan.close_minutes, 6),
        driver_changes=plan.driver_changes,
        total_minutes=round(plan.total_minutes, 6),
        drivers=list(plan.drivers),
        fasteners=FastenersOut(plan.fasteners("out"), plan.fasteners("loosened")),
        wires=[WireOff(w.device, w.terminal, w.colour) for op in off for w in op.wires],
        cautions=list(dict.fromkeys(caution for op in off for caution in (*op.cautions, *op.cautions_off))),
        optimal=plan.optimal,
        gap_minutes=round(plan.gap_minutes, 6),
        reaches=sorted({part for op in off for part in op.reaches}),
        people=plan.people,
    )


def plan_answer(
    value: Any, reach: Sequence[str], opened: Set[str] = frozenset(), avoid: Set[str] = frozenset(), people: int = 0
) -> PlanAnswer:
    """The quickest way through a layout's document. Raises DocumentError.

    people: how many there are; 0 where nobody counts.
    """
    layout = read_layout(value)
    _check_known(layout, opened | avoid)
    if people:
        avoid = avoid | {op.id for op in layout.operations if op.people > people}
    try:
        return plan_shown(plan_way(layout, reach, opened=opened, avoid=avoid))
    except LayoutError as error:
        raise DocumentError(f"$.operations{error.at}", str(error)) from None


def _check_known(layout: Layout, names: Set[str]) -> None:
    known = {operation.id for operation in layout.operations}
    for name in sorted(names - known):
        raise DocumentError("$.operations", f"'{name}' is none of them; give some of {', '.join(sorted(known))}")
