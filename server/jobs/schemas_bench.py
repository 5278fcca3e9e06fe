"""What the API gives and takes of the bench: ways in, the tray, the gate."""

from typing import Annotated, Any, Literal

from ninja import Field, Schema

from config.given import Given, Moment

_Name = Annotated[str, Field(max_length=200)]


class FastenerOut(Schema):
    """Fasteners of one kind of an operation, by where they are; left: out and not accounted for."""

    key: str
    text: str
    kind: str
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


class NoteOut(Schema):
    """What somebody noted of a wire's colour."""

    colour: str
    by: str


class WireOut(Schema):
    """A wire of an operation: off or on its terminal; notes that differ contradict."""

    key: str
    device: str
    terminal: str
    colour: str
    ground: bool
    off: bool
    notes: list[NoteOut]
    contradicts: bool


class PartOut(Schema):
    """A part that has to be new, or that moves to a new assembly; settled: somebody said which."""

    part: str
    carried_over: bool
    settled: bool
    why: str


class CompartmentOut(Schema):
    """What one operation leaves on the bench; shows: shapes of the drawing."""

    number: int
    operation: str
    title: str
    area: str
    state: Literal["waiting", "open", "closed"]
    full: bool
    shows: list[str]
    fasteners: list[FastenerOut]
    wires: list[WireOut]
    parts: list[PartOut]


class GateProblemOut(Schema):
    """What the gate stands on, or what was accepted with a reason."""

    code: str
    operation: str
    subject: str
    expected: int
    counted: int
    text: str


class GateOut(Schema):
    """Whether the machine is closed: what holds the gate, what was accepted, what has to be ordered for it.

    holds: something came off, and the machine is not closed: it cannot be handed over so.
    """

    shut: bool
    holds: bool
    problems: list[GateProblemOut]
    accepted: list[GateProblemOut]
    orders: list[str]
    tools: list[str]


class BenchOut(Schema):
    """The bench of a job; minutes: what is planned of opening and closing, and what has gone by."""

    compartments: list[CompartmentOut]
    gate: GateOut
    drawing: dict[str, Any] | None
    layout_title: str
    reach: list[str]
    no_way: str | None
    open_minutes: float
    close_minutes: float
    total_minutes: float
    driver_changes: int
    optimal: bool
    taken: dict[str, float]


class WayOut(Schema):
    """A way in: what it is called by, its minutes, what it takes and spares against the first, what else it reaches."""

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
    avoid: list[str]
    through: list[str]
    chosen: bool


class AlongOut(Schema):
    """A part worth doing while open."""

    part: str
    text: str
    minutes_more: float
    minutes_spared: float
    within_reach: bool
    wanted: bool


class ToolOut(Schema):
    """A driver to take along, what else fits, and the operations that go without it when it is not in the bag."""

    text: str
    fits_also: list[str]
    operations: list[str]


class WaysOut(Schema):
    """Ways side by side, what else is worth doing, what to take from the van, and where practitioners differ."""

    ways: list[WayOut]
    along: list[AlongOut]
    tools: list[ToolOut]
    used_up: list[str]
    gear: list[str]
    schools: list[str]
    for_two: list[str]
    avoided: list[str]
    no_way: str | None


class CountIn(Given):
    """Something counted or said at the bench. step: `open.…` of the operation, or empty for the tools."""

    step: str = Field("", max_length=80)
    what: Literal["fastener", "wire", "part", "tool"]
    key: str = Field(min_length=1, max_length=200)
    state: str = Field(min_length=1, max_length=12)
    count: int = Field(1, ge=0, le=500)
    note: str = Field("", max_length=300)
    at: Moment


class WayIn(Given):
    """What is wanted of the way in: parts besides, operations to keep out or in."""

    also: list[_Name] = Field([], max_length=60)
    avoid: list[_Name] = Field([], max_length=200)
    through: list[_Name] = Field([], max_length=200)
    at: Moment
