"""What the API of jobs takes and gives, written by hand, apart from models and from the core's own types."""

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from ninja import Field, Schema


class Q(Schema):
    """A quantity."""

    value: float
    unit: str


class Headline(Schema):
    """The plain sentence that stands first."""

    code: str
    zones: list[str]
    probability: float
    text: str
    why: str


class LampOut(Schema):
    """Heat or supply: as_it_should, suspect or unknown, with words."""

    lamp: str
    state: str
    text: str


class ZoneOut(Schema):
    """A place and its probability."""

    zone: str
    probability: float


class ElementOut(Schema):
    """An element of the airway and the probability that the cause sits in it."""

    element: str
    probability: float


class SeverityOut(Schema):
    """How bad; eight chances in ten between low and high."""

    low: float
    median: float
    high: float


class FaultOut(Schema):
    """A fault, how likely, how bad."""

    fault: str
    zone: str
    element: str
    probability: float
    severity: SeverityOut | None
    text: str
    sure_text: str
    severity_text: str | None


class OperatingPointOut(Schema):
    """Where the machine runs, as the facts imply."""

    flow: Q
    fan_pressure: Q
    heater_flow: Q
    outlet_flow: Q
    vent_flow: Q


class ExpectedOut(Schema):
    """What a healthy machine reads, and what the facts imply that this one reads."""

    healthy: Q | None
    implied: Q | None


class NodeOut(Schema):
    """A pressure at a place of the way."""

    at: str
    pressure: Q


class NowOut(NodeOut):
    """What the facts imply there; pinned where they leave no choice."""

    low: Q
    high: Q
    pinned: bool


class StoryOut(Schema):
    """One way it could be."""

    fault: str
    probability: float
    profile: list[NodeOut]


class PointOut(NodeOut):
    """A measured pressure."""

    kind: str
    ids: list[UUID]
    low: Q
    high: Q


class DraftLineOut(Schema):
    """The numbers of the draft line."""

    healthy: list[NodeOut]
    band_low: list[NodeOut]
    band_high: list[NodeOut]
    now: list[NowOut]
    stories: list[StoryOut]
    points: list[PointOut]


class NextCheckOut(Schema):
    """A check and what it is expected to give."""

    check: str
    bits: float
    minutes: float
    bits_per_minute: float
    sure_now: float
    sure_after: float
    splits: list[str]
    opens: bool
    access: str
    worth_it: bool
    text: str


class SpeaksOut(Schema):
    """What one piece of evidence adds to the odds of a fault, in nats."""

    reading: str | None = None
    check: str | None = None
    ids: list[UUID]
    towards: str
    nats: float


class MisfitOut(Schema):
    """A reading that fits nothing."""

    reading: str
    ids: list[UUID]
    expected_low: Q | None
    expected_high: Q | None


class VerdictOut(Schema):
    """What the facts say of the cause; the same numbers as `./warm core diagnose` of the exported job."""

    headline: Headline
    lamps: list[LampOut]
    zones: list[ZoneOut]
    elements: list[ElementOut]
    faults: list[FaultOut]
    inseparable: list[list[str]]
    operating_point: OperatingPointOut
    readings: dict[str, ExpectedOut]
    draft_line: DraftLineOut
    next_checks: list[NextCheckOut]
    for_and_against: list[SpeaksOut]
    misfits: list[MisfitOut]
    model_version: str


class PlaceIn(Schema):
    """A place; an id of the workshop's own or a new one made by the client."""

    id: UUID
    name: str = Field(min_length=1, max_length=120)
    address: str = Field("", max_length=200)
    contact: str = Field("", max_length=120)


class MachineIn(Schema):
    """A machine; an id of the workshop's own or a new one made by the client."""

    id: UUID
    name: str = Field("", max_length=120)
    profile: str
    layout: str = ""
    energy: Literal["electric", "gas"]
    supply: Literal["plug", "hard_wired"]
    age_years: float | None = Field(None, ge=0, le=100)


class JobIn(Schema):
    """A job as a client writes it. based_on: the version the change was made from; null for a new job."""

    title: str = Field("", max_length=200)
    complaints: list[str]
    circumstances: list[str] = []
    said: str = Field("", max_length=4000)
    booked_for: datetime
    place: PlaceIn
    machine: MachineIn
    based_on: int | None = None
    at: datetime


class ObservationIn(Schema):
    """What readings and findings share."""

    phase: Literal["before", "after"] = "before"
    heat_on: bool = False
    visit: UUID | None = None
    supersedes: UUID | None = None
    at: datetime


class ReadingIn(ObservationIn):
    """A reading as it was typed: "1.03", or "1.03 in"; unit: what a bare number is taken in."""

    kind: str
    typed: str = Field(min_length=1, max_length=60)
    unit: str
    instrument: str = Field("", max_length=40)


class FindingIn(ObservationIn):
    """The result of a look, or not_possible with why."""

    check: str
    result: str
    why: str = Field("", max_length=200)


class MarkIn(Schema):
    """A step done, undone, or not possible here."""

    step: str = Field(min_length=1, max_length=80)
    state: Literal["done", "undone", "not_possible"]
    why: str = Field("", max_length=200)
    at: datetime


class CauseIn(Schema):
    """The cause the work goes by, or what it turned out to be."""

    kind: Literal["working", "confirmed"]
    fault: str
    severity: float | None = None
    at: datetime


class WithdrawIn(Schema):
    """Take a fact back, or put it back."""

    withdrawn: bool
    at: datetime


class ObservationOut(Schema):
    """What readings and findings share; in_force: nothing stands in for it and nobody withdrew it."""

    id: UUID
    phase: str
    heat_on: bool
    supersedes: UUID | None
    withdrawn: bool
    in_force: bool
    by: str
    at: datetime


class ReadingOut(ObservationOut):
    """A reading; canonical: its number in the kind's canonical unit."""

    kind: str
    typed: str
    value: float
    unit: str
    canonical: Q
    instrument: str


class FindingOut(ObservationOut):
    """A finding."""

    check: str
    result: str
    why: str


class MarkOut(Schema):
    """The mark in force of a step."""

    id: UUID
    step: str
    state: str
    why: str
    by: str
    at: datetime


class StepOut(Schema):
    """A step as it is shown."""

    id: str
    does: str
    why: str
    minutes: float
    driver: str | None
    fasteners: list[str]
    cautions: list[str]
    qualified: str | None


class StageOut(Schema):
    """A stage: done, open or not needed, and how many of its steps are settled."""

    stage: str
    state: str
    settled: int
    of: int


class NextOut(Schema):
    """The one thing to do next: on the one button."""

    code: str
    stage: str
    subject: str | None
    text: str


class ComparisonOut(Schema):
    """A kind of reading before and after, beside healthy; difference in words."""

    kind: str
    heat_on: bool
    healthy: Q
    healthy_low: Q
    healthy_high: Q
    before: Q | None
    after: Q | None
    standing: str
    text: str


class ProofOut(Schema):
    """Whether the work is shown to have helped."""

    code: str
    text: str
    regained: float | None
    rows: list[ComparisonOut]


class MachineOut(Schema):
    """The machine of a job."""

    id: UUID
    name: str
    profile: str
    profile_title: str
    layout: str
    energy: str
    supply: str
    age_years: float | None


class PlaceOut(Schema):
    """The place of a job."""

    id: UUID
    name: str
    address: str
    contact: str


class CauseOut(Schema):
    """A cause chosen or confirmed."""

    fault: str
    severity: float | None
    text: str
    by: str
    at: datetime


class JobOut(Schema):
    """A job with everything a screen shows of it: facts, verdict, stages, steps, proof, and what comes next."""

    id: UUID
    version: int
    title: str
    complaints: list[str]
    circumstances: list[str]
    said: str
    stop: str | None
    booked_for: datetime
    place: PlaceOut
    machine: MachineOut
    readings: list[ReadingOut]
    findings: list[FindingOut]
    marks: list[MarkOut]
    working_cause: CauseOut | None
    confirmed_cause: CauseOut | None
    handed_over: bool
    verdict: VerdictOut
    stages: list[StageOut]
    next: NextOut
    safety: list[StepOut]
    open: list[StepOut]
    mend: list[StepOut]
    close: list[StepOut]
    known_layout: bool
    proof: ProofOut


class JobRow(Schema):
    """A job in the list of the day."""

    id: UUID
    title: str
    place: str
    machine: str
    contact: str
    complaints: list[str]
    booked_for: datetime
    stage: str
    stage_number: int
    next: str
    headline: str
    handed_over: bool


class HappeningOut(Schema):
    """One line of a job's history."""

    what: str
    by: str
    at: datetime
    received_at: datetime
    before: dict[str, Any] | None
    after: dict[str, Any] | None
