"""The steps of a job: making safe, opening, mending, closing."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import dataclass, replace
from typing import Literal

from warmdraft.errors import LayoutError
from warmdraft.repair import repair_of
from warmdraft.tables import table
from warmdraft.teardown import Layout, Operation, Plan, name_at, plan_way, step_of


@dataclass(frozen=True, slots=True)
class Step:
    """One step: id is what a mark names, see teardown.steps; its words are the renderer's.

    operation: what comes off, or goes back; None for an act. same_driver: as the step before. qualified: what whoever
    does it has to be qualified for.
    """

    id: str
    minutes: float = 0.0
    operation: Operation | None = None
    same_driver: bool = False
    qualified: str | None = None


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is known and wanted of the way in, beyond the cause.

    opened: operations off already, as they came off; impossible: those that cannot be done here; also: parts wanted
    besides; avoid, through: operations kept out of the way, or in it.
    """

    opened: tuple[str, ...] = ()
    impossible: frozenset[str] = frozenset()
    also: tuple[str, ...] = ()
    avoid: frozenset[str] = frozenset()
    through: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class WorkPlan:
    """What a cause asks for on this machine; known_layout is False where there is no data for the way in.

    reach: the parts to reach; way: None where nothing has to be opened. no_way: why the way cannot keep to what is
    impossible or wanted; then it is the quickest without regard to that.
    """

    open: tuple[Step, ...]
    mend: tuple[Step, ...]
    close: tuple[Step, ...]
    known_layout: bool
    reach: tuple[str, ...] = ()
    way: Plan | None = None
    no_way: str | None = None
    #: Steps of closing that a gate asks for, whatever was opened.
    gate_steps: tuple[str, ...] = ()

    def of(self, stage: Literal["open", "mend", "close"]) -> tuple[Step, ...]:
        """The steps of a stage."""
        return {"open": self.open, "mend": self.mend, "close": self.close}[stage]


def safety_acts(connection: str, energy: str) -> tuple[Step, ...]:
    """The acts that make this machine safe. connection: plug or hard_wired; energy: electric or gas."""
    return tuple(
        Step(step_of("make_safe", name), qualified=row.get("qualified"))
        for name, row in table("safety").items()
        if connection in row.get("supply", (connection,)) and energy in row.get("energy", (energy,))
    )


def qualification_of(step: str) -> str | None:
    """What a step asks of whoever does it, by the step's own name: whatever machine it is done on."""
    name = name_at("make_safe", step)
    row = table("safety").get(name, {}) if name is not None else {}
    return row.get("qualified")


def _steps(operations: Sequence[Operation], stage: Literal["open", "close"]) -> tuple[Step, ...]:
    steps, in_hand = [], None
    for op in operations:
        steps.append(
            Step(
                step_of(stage, op.id),
                minutes=op.close_minutes if stage == "close" else op.open_minutes,
                operation=op,
                same_driver=op.driver is not None and op.driver == in_hand,
            )
        )
        in_hand = op.driver or in_hand
    return tuple(steps)


def wanted_parts(fault: str, layout: Layout, also: Sequence[str] = ()) -> tuple[str, ...]:
    """Parts to reach for a cause and what is wanted besides; what nothing reaches here is left out."""
    return tuple(part for part in dict.fromkeys((*repair_of(fault).reach, *also)) if part in layout.parts)


def _way(layout: Layout, reach: tuple[str, ...], wanted: Wanted) -> tuple[Plan | None, str | None]:
    known = {op.id: op for op in layout.operations}
    opened = tuple(name for name in wanted.opened if name in known)
    if not reach and not opened:
        return None, None
    in_hand = next((known[name].driver for name in reversed(opened) if known[name].driver), None)

    def plan(avoid: Set[str], through: Set[str]) -> Plan:
        avoid, through = avoid & known.keys(), through & known.keys()
        if not avoid & set(opened):
            # who is on the way as it was planned goes on in its order: steps must not change places under a thumb
            first = plan_way(layout, reach, avoid=avoid, through=through)
            if set(opened) <= {op.id for op in first.operations}:
                left = tuple(op for op in first.operations if op.id not in opened)
                off = tuple(op for op in first.operations if op.id in opened)
                return replace(first, operations=left, opened=off, in_hand=in_hand)
        return plan_way(layout, reach, opened=set(opened), avoid=avoid, through=through, in_hand=in_hand)

    try:
        return plan(wanted.avoid | wanted.impossible, wanted.through), None
    except LayoutError as error:
        no_way = str(error)
    try:  # what cannot be done outweighs what was wanted
        return plan(wanted.impossible, frozenset()), no_way
    except LayoutError:
        return plan(frozenset(), frozenset()), no_way


def work_plan(
    fault: str, layout: Layout | None, connection: str, energy: str, wanted: Wanted | None = None
) -> WorkPlan:
    """Steps that reach, mend and close for a cause; without a known layout only what is common to all machines."""
    wanted = wanted or Wanted()
    repair = repair_of(fault)
    mend = tuple(Step(step_of("mend", act.id), minutes=act.minutes) for act in repair.acts)
    reach: tuple[str, ...] = ()
    way: Plan | None = None
    no_way: str | None = None
    opening: tuple[Step, ...] = ()
    close: tuple[Step, ...] = ()
    if layout is not None:
        reach = wanted_parts(fault, layout, wanted.also)
        way, no_way = _way(layout, reach, wanted)
    if way is not None:
        order = {name: i for i, name in enumerate(wanted.opened)}
        opening = _steps((*sorted(way.opened, key=lambda op: order[op.id]), *way.operations), "open")
        close = _steps(way.closing, "close")
    gate_steps = []
    for name, row in table("closing").items():
        if connection not in row.get("supply", (connection,)) or energy not in row.get("energy", (energy,)):
            continue
        if row.get("counted") and close:
            continue  # the gate counts, screw by screw
        close += (Step(step_of("close", name), minutes=row["minutes"]),)
        if row.get("gate"):
            gate_steps.append(step_of("close", name))
    known = layout is not None or not repair.reach
    return WorkPlan(opening, mend, close, known, reach, way, no_way, tuple(gate_steps))
