"""What is recorded on a job, each kind as a plain value: said, read, seen, metered, logged, marked, counted, dealt."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Literal

from warmdraft.mending import Part
from warmdraft.meter import MeterTest
from warmdraft.sound import SoundVerdict
from warmdraft.teardown import Operation, Tally
from warmdraft.trend import Series
from warmdraft.vent import Behind, Build, CodeProfile, Heading, Outlet, Plan, VentRun

Phase = Literal["before", "after"]
#: What may be said of a step; and what of a line of works, which its steps do not say.
StepState = Literal["done", "undone", "not_possible", "not_there"]
LineState = Literal["taken", "declined", "not_needed", "not_possible", "undone"]
MarkState = Literal["done", "undone", "not_possible", "not_there", "taken", "declined", "not_needed"]
#: What became of a part that was meant for a job: on the van for it, fitted, or not taken after all.
#: ordered: on its way, and waited for.
PartState = Literal["ordered", "packed", "used", "left"]
CauseKind = Literal["working", "proposed", "confirmed"]
Connection = Literal["plug", "hard_wired"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """Something recorded: its id, by whom, when. All three may be unknown of a file that somebody wrote by hand."""

    id: str | None = None
    by: str = ""
    at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Observation(Fact):
    """What was read or seen, before or after the work; supersedes: the fact it stands in for."""

    phase: Phase = "before"
    heat_on: bool = False
    supersedes: str | None = None
    withdrawn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading(Observation):
    """A number from an instrument. value, unit: as given; typed: as it was typed; canonical: in its kind's own unit."""

    kind: str
    value: float
    unit: str
    canonical: float
    typed: str = ""
    instrument: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding(Observation):
    """What a look, a touch or a listen gave; why: where it could not be done."""

    check: str
    result: str
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Metered(Observation):
    """What a meter showed. isolated: as said, None where it is not asked."""

    test: MeterTest
    isolated: bool | None = None
    between: str | None = None
    typed: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Logged(Observation):
    """A reading over a run; unit: as given, the series is in the kind's canonical unit."""

    series: Series
    unit: str
    instrument: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Sounded(Observation):
    """What a recording told. part: where it was held, as it was said; clipped: share of samples at full scale; healthy:
    it is of a machine of the kind that runs well, and tells nothing of this one but what is usual."""

    heard: SoundVerdict
    part: str = ""
    seconds: float | None = None
    clipped: float | None = None
    healthy: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Ordered(Fact):
    """A plain order: an act on a part, whatever the cause. withdrawn: taken back."""

    part: str
    act: str
    why: str = ""
    withdrawn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Added(Fact):
    """An operation that stands in no layout, as somebody met it at the machine; after: the one it came off after. The
    latest of an operation's id holds; withdrawn: taken back."""

    operation: Operation
    after: str | None = None
    withdrawn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark(Fact):
    """A step done, undone, not possible here, or not there on this machine; a line of works taken, declined or not
    needed. The latest of a step, or of a line, is in force."""

    step: str
    state: MarkState
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted(Fact):
    """A tally, with its id and moment."""

    tally: Tally


@dataclass(frozen=True, slots=True, kw_only=True)
class WayChoice(Fact):
    """What is wanted of the way in: operations to keep out or in. The latest holds.

    also: parts taken along, as it was said before there were lines of works; None says nothing of that.
    """

    also: tuple[str, ...] | None = None
    avoid: tuple[str, ...] = ()
    through: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause(Fact):
    """A cause the work goes by (working), that someone takes it to have been (proposed), or that it was (confirmed)."""

    kind: CauseKind
    fault: str
    severity: float | None = None
    heat_unexplained: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class OldPart(Fact):
    """A part of the machine by its marks, as they were read off it. The latest of a kind holds."""

    marks: Part
    withdrawn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PartSaid(Fact):
    """What became of a part of a kind that was meant for this job; the latest of its kind and number holds.

    number: as in a catalogue, empty where none is meant; price: of one, before tax; store: the van or shelf it is from.
    """

    part: str
    state: PartState
    number: str = ""
    count: int = 1
    price: Decimal | None = None
    store: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LintFound(Fact):
    """What was found where something was cleaned. act: of the list of works; grade: on the scale, 0 for bare; grams:
    weighed; None: nobody said. objects: what else lay there."""

    act: str
    grade: int | None = None
    grams: float | None = None
    objects: str = ""
    withdrawn: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreement(Fact):
    """What the customer agreed to: lines of works by their acts, for a sum. The latest that stands holds.

    name: who agreed; signature: as drawn, an SVG path in a field of 600 by 200; empty where it was said, not signed.
    """

    lines: tuple[str, ...]
    total: Decimal
    currency: str
    name: str = ""
    signature: str = ""
    withdrawn: bool = False


@dataclass(frozen=True, slots=True)
class Chosen:
    """The way of a new run that was chosen: from which outlet, through which face of the plan, of what it is built."""

    outlet: Outlet
    face: Heading
    build: Build


@dataclass(frozen=True, slots=True)
class NewRun:
    """The vent drawn anew: the plan, and what was chosen of it; None while nothing is. behind: what the machine stands
    before, None where nobody said."""

    plan: Plan
    chosen: Chosen | None = None
    behind: Behind | None = None


@dataclass(frozen=True, slots=True)
class DrawnRun:
    """A vent run as it was drawn. pieces: each by name, as its drops are told; flow_m3s: None for the machine's own."""

    run: VentRun
    names: tuple[str, ...]
    code_profile: CodeProfile
    flow_m3s: float | None
    air_temperature_c: float
