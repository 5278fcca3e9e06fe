"""The steps of a job: making safe, opening, mending, closing."""

from __future__ import annotations

from dataclasses import dataclass

from warmdraft.repair import repair_of
from warmdraft.tables import table
from warmdraft.teardown import Operation, closing_order, layout, opening_order


@dataclass(frozen=True, slots=True)
class Step:
    """One step as it is shown: stage.id is what a mark names."""

    id: str
    does: str
    why: str = ""
    minutes: float = 0.0
    driver: str | None = None
    fasteners: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    qualified: str | None = None


@dataclass(frozen=True, slots=True)
class WorkPlan:
    """What a cause asks for on this machine; known_layout is False where there is no data for the way in."""

    open: tuple[Step, ...]
    mend: tuple[Step, ...]
    close: tuple[Step, ...]
    known_layout: bool


def safety_acts(supply: str, energy: str) -> tuple[Step, ...]:
    """The acts that make this machine safe. supply: plug or hard_wired; energy: electric or gas."""
    return tuple(
        Step(id=f"make_safe.{name}", does=row["does"], why=row["why"], qualified=row.get("qualified"))
        for name, row in table("safety").items()
        if supply in row.get("supply", (supply,)) and energy in row.get("energy", (energy,))
    )


def _opening(operation: Operation) -> Step:
    return Step(
        id=f"open.{operation.id}",
        does=operation.does,
        minutes=operation.open_minutes,
        driver=operation.driver,
        fasteners=tuple(f"{f.count} × {f.kind}, {f.state}" for f in operation.fasteners),
        cautions=operation.cautions,
    )


def _closing(operation: Operation) -> Step:
    back = {"out": "back in", "loosened": "tight again"}
    return Step(
        id=f"close.{operation.id}",
        does=f"Put back: {operation.does[0].lower()}{operation.does[1:]}",
        minutes=operation.close_minutes,
        driver=operation.driver,
        fasteners=tuple(f"{f.count} × {f.kind}, {back[f.state]}" for f in operation.fasteners),
        cautions=operation.cautions,
    )


def work_plan(fault: str, layout_name: str | None, supply: str, energy: str) -> WorkPlan:
    """Steps that reach, mend and close for a cause; without a known layout only what is common to all machines."""
    repair = repair_of(fault)
    opened: tuple[Operation, ...] = ()
    if layout_name is not None:
        opened = opening_order(layout(layout_name), repair.reach)
    mend = tuple(
        Step(f"mend.{act.id}", act.does, minutes=act.minutes, cautions=(act.caution,) if act.caution else ())
        for act in repair.acts
    )
    close = tuple(_closing(operation) for operation in closing_order(opened))
    for name, row in table("closing").items():
        if supply in row.get("supply", (supply,)) and energy in row.get("energy", (energy,)):
            close += (Step(f"close.{name}", row["does"], why=row["why"], minutes=row["minutes"]),)
    return WorkPlan(tuple(_opening(op) for op in opened), mend, close, layout_name is not None or not repair.reach)
