"""The bench of a job: the way in and back, the tray, the gate."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from warmdraft.teardown import Compartment, Discrepancy, FastenerCount, Layout, PartUse, WireTag, head_of, step_of
from warmdraft.teardown.bench import DiscrepancyCode, PlaceState
from warmdraft.words import Words
from warmdraft.work import Bench, WorkPlan


@dataclass(slots=True)
class FastenerAnswer:
    """Fasteners of one kind of an operation, by where they are; left: out and not accounted for.

    head: how it is drawn. said: the latest number of each state that somebody counted; the rest follows from it and
    from the marks.
    """

    key: str
    text: str
    kind: str
    head: str
    state: Literal["out", "loosened"]
    length_mm: float | None
    goes_into: str | None
    finish: str | None
    hidden: str | None
    holds: str | None
    drop_hazard: bool
    expected: int
    came: int
    counted: bool
    differs: bool
    back: int
    moved: int
    replaced: int
    missing: int
    left: int
    said: dict[str, int]


@dataclass(slots=True)
class ColourNote:
    """What somebody noted of a wire's colour: a code of ours, or their own word."""

    colour: str
    text: str
    by: str


@dataclass(slots=True)
class WireAnswer:
    """A wire of an operation: off or on its terminal; notes that differ contradict.

    device, terminal, colour: in words; colour_code: what it is drawn by. said: where somebody said on or off.
    """

    key: str
    device: str
    terminal: str
    colour: str
    colour_code: str
    ground: bool
    off: bool
    notes: list[ColourNote]
    contradicts: bool
    said: Literal["on", "off"] | None


@dataclass(slots=True)
class PartAnswer:
    """A part that has to be new, or that moves to a new assembly; settled: nothing is to be said of it."""

    part: str
    text: str
    carried_over: bool
    settled: bool
    why: str
    said: str | None


@dataclass(slots=True)
class CompartmentAnswer:
    """What one operation leaves on the bench. step: what its counts name, and what takes it off; back: what puts it
    back, null for a surprise, which stands in no layout. shows: shapes of the drawing.
    """

    number: int
    step: str
    back: str | None
    operation: str
    title: str
    area: str
    state: PlaceState
    full: bool
    shows: list[str]
    fasteners: list[FastenerAnswer]
    wires: list[WireAnswer]
    parts: list[PartAnswer]


@dataclass(slots=True)
class DiscrepancyAnswer:
    """What the gate stands on, or what was accepted with a reason."""

    code: DiscrepancyCode
    step: str
    subject: str
    expected: int
    counted: int
    text: str


@dataclass(slots=True)
class GateAnswer:
    """Whether the machine is closed: what holds the gate, what was accepted, what has to be ordered for it.

    clear: nothing is left over. holds: something came off, and the machine is not closed: not to be handed over so.
    """

    clear: bool
    holds: bool
    discrepancies: list[DiscrepancyAnswer]
    accepted: list[DiscrepancyAnswer]
    orders: list[str]
    tools: list[str]


@dataclass(slots=True)
class BenchAnswer:
    """The bench of a job; minutes: what is planned of opening and closing, and what steps have taken."""

    compartments: list[CompartmentAnswer]
    gate: GateAnswer
    drawing: Mapping[str, Any] | None
    layout_title: str
    reach: list[str]
    no_way: str | None
    open_minutes: float
    close_minutes: float
    total_minutes: float
    driver_changes: int
    optimal: bool
    gap_minutes: float
    taken: dict[str, float]


def _fastener(row: FastenerCount, words: Words) -> FastenerAnswer:
    fastener = row.fastener
    return FastenerAnswer(
        key=row.key, text=words.fasteners(fastener, fastener.count), kind=fastener.kind,
        head=head_of(fastener.kind),
        state="loosened" if fastener.state == "loosened" else "out", length_mm=fastener.length_mm,
        goes_into=fastener.goes_into, finish=fastener.finish, hidden=fastener.hidden, holds=fastener.holds,
        drop_hazard=fastener.drop_hazard, expected=fastener.count, came=row.came, counted=row.counted,
        differs=row.differs, back=row.back, moved=row.moved, replaced=row.replaced, missing=row.missing,
        left=row.left, said=dict(row.said),
    )  # fmt: skip


def _wire(tag: WireTag, words: Words) -> WireAnswer:
    wire = tag.wire
    return WireAnswer(
        key=wire.key, device=words.thing("device", wire.device), terminal=words.thing("terminal", wire.terminal),
        colour=words.thing("colour", wire.colour), colour_code=wire.colour, ground=wire.ground, off=tag.off,
        notes=[ColourNote(note.note, words.thing("colour", note.note), note.by) for note in tag.notes],
        contradicts=tag.contradicts, said=tag.said,
    )  # fmt: skip


def _part(use: PartUse, words: Words) -> PartAnswer:
    return PartAnswer(use.part, words.thing("part", use.part), use.carried_over, use.settled, use.why, use.said)


def _compartment(place: Compartment, words: Words) -> CompartmentAnswer:
    op = place.operation
    return CompartmentAnswer(
        number=place.number, step=place.step, back=None if place.surprise else step_of("close", op.id),
        operation=op.id, title=op.does.split(":")[0].split(",")[0],
        area=words.area(op.area), state=place.state, full=place.full, shows=list(op.shows),
        fasteners=[_fastener(row, words) for row in place.fasteners],
        wires=[_wire(tag, words) for tag in place.wires],
        parts=[_part(use, words) for use in place.parts],
    )  # fmt: skip


def _discrepancy(row: Discrepancy, layout: Layout, words: Words) -> DiscrepancyAnswer:
    text = words.discrepancy(row, layout)
    return DiscrepancyAnswer(row.code, row.step, row.subject, row.expected, row.counted, text)


def _gate(bench: Bench, plan: WorkPlan, words: Words) -> GateAnswer:
    found = bench.gate
    off = plan.way.off if plan.way else ()
    return GateAnswer(
        clear=found.clear,
        holds=bench.holds,
        discrepancies=[_discrepancy(row, bench.layout, words) for row in found.discrepancies],
        accepted=[_discrepancy(row, bench.layout, words) for row in found.accepted],
        orders=[
            words.order(row.fastener, row.missing, place.operation)
            for place in bench.compartments for row in place.fasteners if row.missing
        ],
        tools=[words.driver(driver) for driver in dict.fromkeys(op.driver for op in off if op.driver)],
    )  # fmt: skip


def bench_answer(bench: Bench | None, plan: WorkPlan | None, words: Words) -> BenchAnswer | None:
    """The bench with its words; None where nothing has to be opened, or nothing is known."""
    if bench is None or plan is None or plan.way is None:
        return None
    return BenchAnswer(
        compartments=[_compartment(place, words) for place in bench.compartments],
        gate=_gate(bench, plan, words),
        drawing=bench.layout.drawing,
        layout_title=bench.layout.title,
        reach=[words.thing("part", part) for part in plan.reach],
        no_way=plan.no_way,
        open_minutes=sum(step.minutes for step in plan.open),
        close_minutes=plan.way.close_minutes,
        total_minutes=plan.way.total_minutes,
        driver_changes=plan.way.driver_changes,
        optimal=plan.way.optimal,
        gap_minutes=plan.way.gap_minutes,
        taken=dict(bench.taken),
    )
