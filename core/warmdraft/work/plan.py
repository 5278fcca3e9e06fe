"""The steps of a job: making safe, opening, mending, closing."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import dataclass, replace
from typing import Literal

from warmdraft.checks import legs
from warmdraft.errors import LayoutError
from warmdraft.repair import Act, act_of_step
from warmdraft.tables import table
from warmdraft.teardown import Layout, Operation, Plan, name_at, plan_way, step_of
from warmdraft.work.lines import Line

#: What a layout calls pulling the machine out.
PULLED_OUT = legs()["pull_out"].operation


@dataclass(frozen=True, slots=True)
class Step:
    """One step: id is what a mark names, see teardown.steps; its words are the renderer's.

    operation: what comes off, or goes back; None for an act. same_driver: as the step before. qualified: what whoever
    does it has to be qualified for. act: the line of works it belongs to; check: the check that is this step; after: it
    shows what the work gave; goes_back: steps that are open again where it fails; cuts: what is cut to
    length in it.
    """

    id: str
    minutes: float = 0.0
    operation: Operation | None = None
    same_driver: bool = False
    qualified: str | None = None
    act: Act | None = None
    check: str | None = None
    after: bool = False
    goes_back: tuple[str, ...] = ()
    cuts: str | None = None


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is known and wanted of the way in, beyond the works.

    opened: operations off already, as they came off; impossible: those that cannot be done here; avoid, through:
    operations kept out of the way, or in it.
    """

    opened: tuple[str, ...] = ()
    impossible: frozenset[str] = frozenset()
    avoid: frozenset[str] = frozenset()
    through: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class WorkPlan:
    """What the works ask for on this machine; known_layout is False where the machine has to be opened and nobody
    knows the way in.

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
    for stage, rows in (("make_safe", "safety"), ("close", "closing"), ("open", "operations"), ("close", "operations")):
        name = name_at(stage, step)
        row = table(rows).get(name) if name is not None else None
        if row is not None and row.get("qualified"):
            return str(row["qualified"])
    mended = name_at("mend", step)
    act = act_of_step(mended) if mended is not None else None
    return act.qualified if act else None


def _steps(operations: Sequence[Operation], stage: Literal["open", "close"]) -> tuple[Step, ...]:
    steps, in_hand = [], None
    for op in operations:
        steps.append(
            Step(
                step_of(stage, op.id),
                minutes=op.close_minutes if stage == "close" else op.open_minutes,
                operation=op,
                same_driver=op.driver is not None and op.driver == in_hand,
                qualified=op.qualified,
            )
        )
        in_hand = op.driver or in_hand
    return tuple(steps)


def _with_fits(close: tuple[Step, ...]) -> tuple[Step, ...]:
    """The steps of closing with what is asked of a wheel once it is on again, and once more behind its cover: each by
    itself, and one that fails opens its seat again."""
    seat = next((i for i, step in enumerate(close) if step.operation and _seats_a_wheel(step.operation)), None)
    if seat is None:
        return close
    covered = min(seat + 1, len(close) - 1)
    over = close[covered].operation
    if over is not None and over.id == PULLED_OUT:
        covered = seat  # nothing goes over it
    at: dict[int, list[Step]] = {}
    before = [close[seat].id]
    for name, row in table("closing").items():
        if row.get("of") == "wheel":
            place = covered if row.get("behind_cover") else seat
            again = (*before, close[covered].id) if place == covered != seat else tuple(before)
            at.setdefault(place, []).append(Step(step_of("close", name), row["minutes"], goes_back=again))
            before.append(step_of("close", name))
    return tuple(step for i, row in enumerate(close) for step in (row, *at.get(i, ())))


def _seats_a_wheel(operation: Operation) -> bool:
    return operation.attachment is not None and operation.role in (None, "load")


def parts_of(lines: Sequence[Line], layout: Layout | None) -> tuple[str, ...]:
    """Parts to reach for lines, each once; what nothing reaches here is left out."""
    reached = layout.parts if layout else ()
    return tuple(dict.fromkeys(part for line in lines for part in line.act.reach if part in reached))


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


def _mending(lines: Sequence[Line]) -> tuple[Step, ...]:
    """Steps of lines, in their order."""
    return tuple(
        Step(step_of("mend", step.id), step.minutes, qualified=line.act.qualified, act=line.act, check=step.check,
             after=step.after, cuts=step.cuts)
        for line in lines for step in line.act.steps
    )  # fmt: skip


def work_plan(
    lines: Sequence[Line], layout: Layout | None, connection: str, energy: str, wanted: Wanted | None = None
) -> WorkPlan:
    """Steps that reach, mend and close for lines of works, by one way in; without a known layout only what is common to
    all machines."""
    wanted = wanted or Wanted()
    reach = parts_of(lines, layout)
    way: Plan | None = None
    no_way: str | None = None
    opening: tuple[Step, ...] = ()
    close: tuple[Step, ...] = ()
    if layout is not None:
        way, no_way = _way(layout, reach, wanted)
    if way is not None:
        order = {name: i for i, name in enumerate(wanted.opened)}
        opening = _steps((*sorted(way.opened, key=lambda op: order[op.id]), *way.operations), "open")
        close = _with_fits(_steps(way.closing, "close"))
    before_back: list[Step] = []
    last: list[Step] = []
    gate_steps: list[str] = []
    back = next((i for i, step in enumerate(close) if step.operation and step.operation.id == PULLED_OUT), None)
    for name, row in table("closing").items():
        if connection not in row.get("supply", (connection,)) or energy not in row.get("energy", (energy,)):
            continue
        if row.get("of"):
            continue  # asked where it is fitted
        if (row.get("counted") and close) or (row.get("only_behind") and back is None):
            continue  # the gate counts, screw by screw; nobody pulls it out only to measure
        reads = row.get("reads")
        step = Step(
            step_of("close", name), row["minutes"], qualified=row.get("qualified"), check=reads, after=bool(reads)
        )
        (before_back if row.get("before_back") and back is not None else last).append(step)
        if row.get("gate"):
            gate_steps.append(step.id)
    back = len(close) if back is None else back
    close = (*close[:back], *before_back, *close[back:], *last)
    known = layout is not None or not any(line.act.needs_opening for line in lines)
    return WorkPlan(opening, _mending(lines), close, known, reach, way, no_way, tuple(gate_steps))
