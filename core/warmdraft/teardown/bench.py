"""The bench: what lies in the tray, which wires are off, what has to be new; and the gate that lets a machine close.

Everything is derived from what was marked (operations opened, operations put back) and what was counted. A mark says
that everything of its operation went as the layout says; a count says otherwise. What people forget is never taken for
granted: loosened screws, wires, used-up parts and tools each want a word of their own.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Literal

from warmdraft.teardown.layouts import Fastener, Operation, Wire

What = Literal["fastener", "wire", "part", "tool"]
#: What may be said of each thing on the bench.
STATES: dict[str, tuple[str, ...]] = {
    "fastener": ("out", "loosened", "back", "tight", "moved", "replaced", "missing", "left_over"),
    "wire": ("on", "off", "noted"),
    "part": ("renewed", "not_needed", "carried", "stays", "unsaid"),
    "tool": ("counted",),
}
#: Where a fastener that came out may end; together they are as many as came out.
_ENDS = ("back", "moved", "replaced", "missing")
#: The one tally of tools: how many are in the bag.
TOOLS = "in the bag"
#: The operation of a screw that nobody knows a place for.
NOWHERE = ""
#: What came off and stands in no layout: an operation of its own, named after this by whoever met it.
SURPRISE = "surprise: "


@dataclass(frozen=True, slots=True)
class Tally:
    """Something counted or said of one thing at one operation. note: why, or the colour seen; by: who said it."""

    operation: str
    what: str
    key: str
    state: str
    count: int = 1
    note: str = ""
    by: str = ""


def fastener_keys(operation: Operation) -> tuple[str, ...]:
    """Names of an operation's fasteners that stay when a count is corrected: kind and length, numbered if twice."""
    names: list[str] = []
    for fastener in operation.fasteners:
        name = fastener.kind if fastener.length_mm is None else f"{fastener.kind} {fastener.length_mm:g} mm"
        seen = sum(other.split(" #")[0] == name for other in names)
        names.append(f"{name} #{seen + 1}" if seen else name)
    return tuple(names)


@dataclass(frozen=True, slots=True)
class Lying:
    """Fasteners of one kind of one operation, by where they are.

    came: came out, or loosened, as counted or else as the layout says; 0 before. left: still to be accounted for.
    """

    key: str
    fastener: Fastener
    came: int
    counted: bool
    back: int
    moved: int
    replaced: int
    missing: int
    why_missing: str

    @property
    def left(self) -> int:
        """Out and not yet back, moved, replaced or declared missing; below nothing where more went back than came."""
        return self.came - self.back - self.moved - self.replaced - self.missing

    @property
    def differs(self) -> bool:
        """Counted, and not what the layout says."""
        return self.counted and self.came != self.fastener.count


@dataclass(frozen=True, slots=True)
class WireTag:
    """One wire: whether it is off, and what people noted of its colour, in order; two that differ contradict."""

    wire: Wire
    off: bool
    notes: tuple[Tally, ...]

    @property
    def contradicts(self) -> bool:
        """Two people, or one at two moments, saw different colours on this terminal."""
        return len({note.note.strip().lower() for note in self.notes}) > 1


@dataclass(frozen=True, slots=True)
class Used:
    """A part that has to be new (renewed), or that moves to a new assembly (carried)."""

    part: str
    carried_over: bool
    settled: bool
    why: str


@dataclass(frozen=True, slots=True)
class Compartment:
    """What one operation left on the bench. state: waiting, open (off), or closed."""

    number: int
    operation: Operation
    state: Literal["waiting", "open", "closed"]
    fasteners: tuple[Lying, ...]
    wires: tuple[WireTag, ...]
    parts: tuple[Used, ...]

    @property
    def full(self) -> bool:
        """Something of it is not where it belongs."""
        return (
            self.state == "open"
            or any(lying.left for lying in self.fasteners)
            or any(tag.off for tag in self.wires)
            or any(not used.settled for used in self.parts)
        )


def _latest(tallies: Sequence[Tally]) -> dict[tuple[str, str, str, str], Tally]:
    return {(t.operation, t.what, t.key, t.state): t for t in tallies}


def tray(
    operations: Sequence[Operation], opened: Collection[str], closed: Collection[str], tallies: Sequence[Tally]
) -> tuple[Compartment, ...]:
    """A compartment for each operation of a way, in its order, and for each surprise that came off besides.

    tallies in the order they were made: the latest counts.
    """
    latest = _latest(tallies)
    surprises = _surprises(tallies)
    off = {*opened, *(operation.id for operation in surprises)}
    return tuple(
        _compartment(number, operation, operation.id in off, operation.id in closed, latest, tallies)
        for number, operation in enumerate((*operations, *surprises), 1)
    )


def _surprises(tallies: Sequence[Tally]) -> tuple[Operation, ...]:
    """Panels and screws that no layout knew of, as operations without minutes; taken back where none came off."""
    found: dict[str, dict[str, int]] = {}
    for tally in tallies:
        if tally.operation.startswith(SURPRISE) and tally.what == "fastener" and tally.state == "out":
            found.setdefault(tally.operation, {})[tally.key] = tally.count
    return tuple(
        Operation(name, name.removeprefix(SURPRISE), 0.0, 0.0,
                  fasteners=tuple(Fastener(kind, count, "out") for kind, count in kinds.items()))
        for name, kinds in found.items()
        if any(kinds.values())
    )  # fmt: skip


def _compartment(
    number: int, operation: Operation, is_off: bool, is_back: bool, latest: dict[tuple[str, str, str, str], Tally],
    tallies: Sequence[Tally],
) -> Compartment:  # fmt: skip
    def said(what: str, key: str, state: str) -> Tally | None:
        return latest.get((operation.id, what, key, state))

    def count(key: str, state: str, otherwise: int) -> int:
        tally = said("fastener", key, state)
        return otherwise if tally is None else tally.count

    fasteners = []
    for key, fastener in zip(fastener_keys(operation), operation.fasteners, strict=True):
        came = count(key, fastener.state, fastener.count if is_off else 0)
        ends = {state: count(key, state, 0) for state in _ENDS}
        if fastener.state == "loosened":
            # forgetting to tighten is the very error: a mark does not say it was done
            ends["back"] = count(key, "tight", 0)
        elif is_back and said("fastener", key, "back") is None:
            ends["back"] = max(0, came - ends["moved"] - ends["replaced"] - ends["missing"])
        missing = said("fastener", key, "missing")
        fasteners.append(
            Lying(key, fastener, came, said("fastener", key, fastener.state) is not None, **ends,
                  why_missing=missing.note if missing else "")
        )  # fmt: skip
    wires = []
    for wire in operation.wires:
        own = [t for t in tallies if (t.operation, t.what, t.key) == (operation.id, "wire", wire.key)]
        word = next((t.state for t in reversed(own) if t.state in ("on", "off")), None)
        off = is_off if word is None else word == "off"
        wires.append(WireTag(wire, off, _since_agreed(tuple(t for t in own if t.state == "noted"))))
    parts = []
    for names, carried in ((operation.uses_up, False), (operation.carries_over, True)):
        for part in names:
            words = [t for t in tallies if (t.operation, t.what, t.key) == (operation.id, "part", part)]
            told = words[-1] if words and words[-1].state != "unsaid" else None
            parts.append(Used(part, carried, not is_off or told is not None, told.note if told else ""))
    state: Literal["waiting", "open", "closed"] = "closed" if is_back else "open" if is_off else "waiting"
    return Compartment(number, operation, state, tuple(fasteners), tuple(wires), tuple(parts))


def _since_agreed(notes: tuple[Tally, ...]) -> tuple[Tally, ...]:
    """Notes after the last one that settled a contradiction: it says so by its count, 0."""
    settled = max((i for i, note in enumerate(notes) if note.count == 0), default=0)
    return notes[settled:]


@dataclass(frozen=True, slots=True)
class Problem:
    """Something the gate stands on: a code, the operation it belongs to, what it is about, and the two numbers.

    reason: why it is accepted as it is; then it does not hold the gate, and stands on the record.
    """

    code: str
    operation: str
    subject: str
    expected: int = 0
    counted: int = 0
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Gate:
    """What keeps a machine from being closed, what is accepted with a reason, and what has to be ordered for it."""

    problems: tuple[Problem, ...]
    accepted: tuple[Problem, ...]

    @property
    def shut(self) -> bool:
        """Nothing is left over: the machine is closed."""
        return not self.problems


def gate(compartments: Sequence[Compartment], tallies: Sequence[Tally], undone: Sequence[str] = ()) -> Gate:
    """Hold what came off against what went back.

    undone: what else has to be done before a machine is closed, and is not (gas, vent), by name.
    """
    problems: list[Problem] = []
    accepted: list[Problem] = []
    for place in compartments:
        if place.state == "waiting" and not any(lying.came for lying in place.fasteners):
            continue
        name = place.operation.id
        surprise = name.startswith(SURPRISE)
        if place.state == "open" and not surprise:
            problems.append(Problem("still_off", name, name))
        for lying in place.fasteners:
            ends = lying.back + lying.moved + lying.replaced + lying.missing
            if lying.left > 0 and lying.fastener.state == "loosened":
                problems.append(Problem("still_loose", name, lying.key, lying.came, lying.back))
            elif lying.left > 0 and (place.state == "closed" or surprise):
                problems.append(Problem("left_over", name, lying.key, lying.came, ends))
            elif lying.left < 0:
                problems.append(Problem("more_than_came", name, lying.key, lying.came, ends))
            if lying.missing:
                row = Problem("missing", name, lying.key, lying.came, lying.came - lying.missing, lying.why_missing)
                (accepted if lying.why_missing.strip() else problems).append(row)
        for tag in place.wires:
            if tag.off:
                code = "ground_off" if tag.wire.ground else "wire_off"
                problems.append(Problem(code, name, tag.wire.key))
            if tag.contradicts:
                problems.append(Problem("wire_contradicts", name, tag.wire.key))
        problems += [Problem("carried_over" if used.carried_over else "used_up", name, used.part)
                     for used in place.parts if not used.settled]  # fmt: skip
    latest = _latest(tallies)
    for tally in latest.values():
        if (tally.operation, tally.what, tally.state) == (NOWHERE, "fastener", "left_over") and tally.count:
            row = Problem("nowhere", NOWHERE, tally.key, 0, tally.count, tally.note)
            (accepted if tally.note.strip() else problems).append(row)
    tools = {place.operation.driver for place in compartments if place.state != "waiting"} - {None}
    counted = latest.get((NOWHERE, "tool", TOOLS, "counted"))
    if tools and (counted is None or counted.count != len(tools)):
        problems.append(Problem("tools", NOWHERE, TOOLS, len(tools), counted.count if counted else 0))
    problems += [Problem("undone", NOWHERE, name) for name in undone]
    return Gate(tuple(problems), tuple(accepted))
