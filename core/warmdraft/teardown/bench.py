"""The bench: what lies in the tray, which wires are off, what has to be new; and the gate that lets a machine close.

Everything is derived from what was marked (operations opened, operations put back) and what was counted. A mark says
that everything of its operation went as the layout says; a count says otherwise. What people forget is never taken for
granted: loosened screws, wires, used-up parts and tools each want a word of their own.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from warmdraft.teardown.layouts import Fastener, Operation, Wire
from warmdraft.teardown.steps import NOWHERE, SURPRISE, name_at, step_of

What = Literal["fastener", "wire", "part", "tool"]
PlaceState = Literal["waiting", "open", "closed"]
DiscrepancyCode = Literal[
    "still_off", "still_loose", "left_over", "more_than_came", "missing", "ground_off", "wire_off", "wire_contradicts",
    "used_up", "carried_over", "nowhere", "tools", "undone",
]  # fmt: skip
#: What may be said of each thing on the bench.
STATES: Mapping[What, tuple[str, ...]] = {
    "fastener": ("out", "loosened", "back", "tight", "moved", "replaced", "missing", "left_over"),
    "wire": ("on", "off", "noted"),
    "part": ("renewed", "not_needed", "carried", "stays", "unsaid"),
    "tool": ("counted",),
}
#: Where a fastener that came out may end; together they are as many as came out.
_ENDS = ("back", "moved", "replaced", "missing")
#: The one tally of tools: how many are in the bag.
TOOLS = "in_the_bag"


@dataclass(frozen=True, slots=True)
class Tally:
    """Something counted or said of one thing at one step. note: why, or the colour seen; by: who said it."""

    step: str
    what: str
    key: str
    state: str
    count: int = 1
    note: str = ""
    by: str = ""


def fastener_keys(operation: Operation) -> tuple[str, ...]:
    """Names of an operation's fasteners that stay when a count is corrected: kind and length, numbered if twice.

    >>> from warmdraft.teardown import layout
    >>> fastener_keys(next(op for op in layout('top_screen_rear_duct').operations if op.fasteners))
    ('clamp_screw',)
    """
    names: list[str] = []
    for fastener in operation.fasteners:
        name = fastener.kind if fastener.length_mm is None else f"{fastener.kind} {fastener.length_mm:g} mm"
        seen = sum(other.split(" #")[0] == name for other in names)
        names.append(f"{name} #{seen + 1}" if seen else name)
    return tuple(names)


@dataclass(frozen=True, slots=True)
class FastenerCount:
    """Fasteners of one kind of one operation, by where they are.

    came: came out, or loosened, as counted or else as the layout says; 0 before. said: the latest number of each state
    that somebody counted. left: still to be accounted for.
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
    said: Mapping[str, int]

    @property
    def left(self) -> int:
        """Out and not yet back, moved, replaced or declared missing; negative where more went back than came out."""
        return self.came - self.back - self.moved - self.replaced - self.missing

    @property
    def differs(self) -> bool:
        """Counted, and not what the layout says."""
        return self.counted and self.came != self.fastener.count


@dataclass(frozen=True, slots=True)
class WireTag:
    """One wire: whether it is off, and what people noted of its colour, in order; two that differ contradict.

    said: on or off where somebody said so; else it goes with its operation.
    """

    wire: Wire
    off: bool
    notes: tuple[Tally, ...]
    said: Literal["on", "off"] | None

    @property
    def contradicts(self) -> bool:
        """Two people, or one at two moments, saw different colours on this terminal."""
        return len({note.note.strip().lower() for note in self.notes}) > 1


@dataclass(frozen=True, slots=True)
class PartUse:
    """A part that has to be new (renewed), or that moves to a new assembly (carried).

    said: what somebody said became of it; settled: nothing is to be asked, while its operation is on or since said.
    """

    part: str
    carried_over: bool
    settled: bool
    why: str
    said: str | None


@dataclass(frozen=True, slots=True)
class Compartment:
    """What one operation left on the bench. step: where it came off; state: waiting, open (off), or closed."""

    number: int
    step: str
    operation: Operation
    state: PlaceState
    fasteners: tuple[FastenerCount, ...]
    wires: tuple[WireTag, ...]
    parts: tuple[PartUse, ...]

    @property
    def full(self) -> bool:
        """Something of it is not where it belongs."""
        return (
            self.state == "open"
            or any(row.left for row in self.fasteners)
            or any(tag.off for tag in self.wires)
            or any(not use.settled for use in self.parts)
        )

    @property
    def surprise(self) -> bool:
        """It stands in no layout."""
        return name_at(SURPRISE, self.step) is not None


_Latest = Mapping[tuple[str, str, str, str], Tally]


def _latest(tallies: Sequence[Tally]) -> _Latest:
    return {(t.step, t.what, t.key, t.state): t for t in tallies}


def tray(
    operations: Sequence[Operation], opened: Collection[str], closed: Collection[str], tallies: Sequence[Tally]
) -> tuple[Compartment, ...]:
    """A compartment for each operation of a way, in its order, and for each surprise that came off besides.

    opened, closed: ids of operations marked off, and back. tallies in the order they were made: the latest counts.

    >>> from warmdraft.teardown import layout
    >>> lay = layout('top_screen_rear_duct')
    >>> first = lay.operations[0].id
    >>> [place.state for place in tray(lay.operations[:2], opened={first}, closed=set(), tallies=())]
    ['open', 'waiting']
    """
    tallies = _since_found(tallies)
    latest = _latest(tallies)
    places = [
        (step_of("open", op.id), op, op.id in opened, op.id in closed) for op in operations
    ] + [(step, op, True, False) for step, op in _surprises(tallies)]  # fmt: skip
    return tuple(
        _compartment(number, step, op, is_off, is_back, latest, tallies)
        for number, (step, op, is_off, is_back) in enumerate(places, 1)
    )


def _since_found(tallies: Sequence[Tally]) -> list[Tally]:
    """Tallies without those of a surprise that was taken back: counted as none, it never was, and begins anew."""
    kept: list[Tally] = []
    found: set[tuple[str, str]] = set()
    for tally in tallies:
        if name_at(SURPRISE, tally.step) is not None and tally.what == "fastener":
            this = (tally.step, tally.key)
            if tally.state == "out" and not tally.count:
                found.discard(this)
                kept = [t for t in kept if (t.step, t.key) != this]
            if tally.state == "out" and tally.count:
                found.add(this)
            if this not in found:
                continue
        kept.append(tally)
    return kept


def _surprises(tallies: Sequence[Tally]) -> tuple[tuple[str, Operation], ...]:
    """Panels and screws that no layout knew of, by name, as operations without minutes."""
    found: dict[str, dict[str, int]] = {}
    for tally in tallies:
        if name_at(SURPRISE, tally.step) is not None and tally.what == "fastener" and tally.state == "out":
            found.setdefault(tally.step, {})[tally.key] = tally.count
    rows = []
    for step, kinds in sorted(found.items()):
        words = name_at(SURPRISE, step) or ""
        fasteners = tuple(Fastener(kind, count, "out") for kind, count in sorted(kinds.items()))
        rows.append((step, Operation(words, words, 0.0, 0.0, fasteners=fasteners)))
    return tuple(rows)


def _compartment(
    number: int, step: str, operation: Operation, is_off: bool, is_back: bool, latest: _Latest,
    tallies: Sequence[Tally],
) -> Compartment:  # fmt: skip
    fasteners = tuple(
        _fastener(key, fastener, is_off, is_back, step, latest)
        for key, fastener in zip(fastener_keys(operation), operation.fasteners, strict=True)
    )
    own = [tally for tally in tallies if tally.step == step]
    wires = []
    for wire in operation.wires:
        words = [t for t in own if t.what == "wire" and t.key == wire.key]
        last = next((t.state for t in reversed(words) if t.state in ("on", "off")), None)
        said: Literal["on", "off"] | None = None if last is None else "on" if last == "on" else "off"
        off = is_off if said is None else said == "off"
        wires.append(WireTag(wire, off, _since_agreed(tuple(t for t in words if t.state == "noted")), said))
    parts = []
    for names, carried in ((operation.uses_up, False), (operation.carries_over, True)):
        for part in names:
            last_word = next((t for t in reversed(own) if t.what == "part" and t.key == part), None)
            told = None if last_word is None or last_word.state == "unsaid" else last_word
            parts.append(PartUse(part, carried, not is_off or told is not None, told.note if told else "",
                                 told.state if told else None))  # fmt: skip
    state: PlaceState = "closed" if is_back else "open" if is_off else "waiting"
    return Compartment(number, step, operation, state, fasteners, tuple(wires), tuple(parts))


def _fastener(
    key: str, fastener: Fastener, is_off: bool, is_back: bool, step: str, latest: _Latest
) -> FastenerCount:  # fmt: skip
    tallies = {state: row for state in STATES["fastener"] if (row := latest.get((step, "fastener", key, state)))}
    said = {state: row.count for state, row in tallies.items()}
    came = said.get(fastener.state, fastener.count if is_off else 0)
    ends = {state: said.get(state, 0) for state in _ENDS}
    if fastener.state == "loosened":
        # forgetting to tighten is the very error: a mark does not say it was done
        ends["back"] = said.get("tight", 0)
    elif is_back and "back" not in said:
        ends["back"] = max(0, came - ends["moved"] - ends["replaced"] - ends["missing"])
    why_missing = tallies["missing"].note if "missing" in tallies else ""
    return FastenerCount(key, fastener, came, fastener.state in said, **ends, why_missing=why_missing, said=said)


def _since_agreed(notes: tuple[Tally, ...]) -> tuple[Tally, ...]:
    """Notes after the last one that settled a contradiction: it says so by its count, 0."""
    settled = max((i for i, note in enumerate(notes) if note.count == 0), default=0)
    return notes[settled:]


@dataclass(frozen=True, slots=True)
class Discrepancy:
    """Something the gate stands on: a code, the step it belongs to, what it is about, and the two numbers.

    reason: why it is accepted as it is; then it does not hold the gate, and stands on the record.
    """

    code: DiscrepancyCode
    step: str
    subject: str
    expected: int = 0
    counted: int = 0
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Gate:
    """What keeps a machine from being closed, and what is accepted with a reason."""

    discrepancies: tuple[Discrepancy, ...]
    accepted: tuple[Discrepancy, ...]

    @property
    def clear(self) -> bool:
        """Nothing is left over: the machine is closed."""
        return not self.discrepancies


def gate(compartments: Sequence[Compartment], tallies: Sequence[Tally], undone: Sequence[str] = ()) -> Gate:
    """Hold what came off against what went back.

    undone: steps that have to be done before a machine is closed, and are not (gas, vent).

    >>> gate((), ()).clear, gate((), (), undone=('close.vent_round',)).clear
    (True, False)
    """
    found: list[Discrepancy] = []
    accepted: list[Discrepancy] = []

    def hold(row: Discrepancy) -> None:
        (accepted if row.reason.strip() else found).append(row)

    for place in compartments:
        if place.state == "waiting" and not any(row.came for row in place.fasteners):
            continue
        at = place.step
        if place.state == "open" and not place.surprise:
            found.append(Discrepancy("still_off", at, place.operation.id))
        for row in place.fasteners:
            ends = row.back + row.moved + row.replaced + row.missing
            if row.left > 0 and row.fastener.state == "loosened":
                found.append(Discrepancy("still_loose", at, row.key, row.came, row.back))
            elif row.left > 0 and (place.state == "closed" or place.surprise):
                found.append(Discrepancy("left_over", at, row.key, row.came, ends))
            elif row.left < 0:
                found.append(Discrepancy("more_than_came", at, row.key, row.came, ends))
            if row.missing:
                hold(Discrepancy("missing", at, row.key, row.came, row.came - row.missing, row.why_missing))
        for tag in place.wires:
            if tag.off:
                found.append(Discrepancy("ground_off" if tag.wire.ground else "wire_off", at, tag.wire.key))
            if tag.contradicts:
                found.append(Discrepancy("wire_contradicts", at, tag.wire.key))
        found += [Discrepancy("carried_over" if use.carried_over else "used_up", at, use.part)
                  for use in place.parts if not use.settled]  # fmt: skip
    latest = _latest(tallies)
    for tally in latest.values():
        if (tally.step, tally.what, tally.state) == (NOWHERE, "fastener", "left_over") and tally.count:
            hold(Discrepancy("nowhere", NOWHERE, tally.key, 0, tally.count, tally.note))
    tools = {place.operation.driver for place in compartments if place.state != "waiting"} - {None}
    counted = latest.get((NOWHERE, "tool", TOOLS, "counted"))
    if tools and (counted is None or counted.count != len(tools)):
        found.append(Discrepancy("tools", NOWHERE, TOOLS, len(tools), counted.count if counted else 0))
    found += [Discrepancy("undone", NOWHERE, step) for step in undone]
    return Gate(tuple(found), tuple(accepted))
