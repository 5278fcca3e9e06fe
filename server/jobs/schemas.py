"""What the API of jobs gives, written by hand, apart from models and from the core's own types."""

from datetime import datetime
from typing import Any
from uuid import UUID

from ninja import Schema

from config.problems import ProblemOut
from config.quantity import Q
from jobs.schemas_bench import BenchOut
from jobs.verdict_out import VerdictOut


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


class SentenceOut(Schema):
    """A code and its words."""

    code: str
    text: str


class MeterVerdictOut(Schema):
    """What a meter's reading means, and what to do then."""

    part: str
    verdict: str
    means: SentenceOut
    then: SentenceOut
    expected: Q | None


class MeterOut(ObservationOut):
    """A meter test with its verdict."""

    part: str
    typed: str
    instrument: str
    isolated: bool | None
    part_hot: bool
    between: str | None
    verdict: MeterVerdictOut


class LogOut(ObservationOut):
    """A log over a run, canonical unit, with the shape that was found in it and the line to draw."""

    kind: str
    unit: str
    instrument: str
    minutes: list[float]
    values: list[float]
    fitted_minutes: list[float]
    fitted: list[float]
    shape: str
    probability: float
    text: str


class RunPieceOut(Schema):
    """A piece of the run and what it loses."""

    piece: str
    pressure_drop: Q


class RunWarningOut(Schema):
    """What a run breaks: a sentence with its clause's topic."""

    code: str
    topic: str
    text: str


class CodeProfileOut(Schema):
    """The code profile a run was held against."""

    name: str
    title: str
    source: str


class RunOut(Schema):
    """The vent run as drawn, judged at this machine's healthy flow."""

    length: Q
    fittings_allowance: Q
    allowed_length: Q
    within_allowance: bool
    air_speed: Q
    pressure_drop: Q
    pieces: list[RunPieceOut]
    warnings: list[RunWarningOut]
    code_profile: CodeProfileOut
    check: str


class ToldOut(Schema):
    """What was told of one complaint."""

    since: str
    how_often: str
    what: str


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
    driver_also: list[str]
    same_driver: bool
    fasteners: list[str]
    cautions: list[str]
    qualified: str | None
    operation: str | None
    check: list[str]
    latch: str | None
    gear: list[str]
    people: int


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


class MachineSeen(Schema):
    """A machine as a record freezes it."""

    id: UUID
    name: str
    profile: str
    profile_title: str
    layout: str
    energy: str
    supply: str
    variant: dict[str, str]
    age_years: float | None


class MachineOut(MachineSeen):
    """The machine of a job; version: what a change of it is based on."""

    version: int


class PlaceSeen(Schema):
    """A place as a record freezes it."""

    id: UUID
    name: str
    address: str
    contact: str


class PlaceOut(PlaceSeen):
    """The place of a job; version: what a change of it is based on."""

    version: int


class CauseOut(Schema):
    """A cause chosen or confirmed."""

    fault: str
    severity: float | None
    text: str
    by: str
    at: datetime
    heat_unexplained: bool


class PhotoOut(Schema):
    """A photo of the job: where it is, how large, and the step it is of, if any."""

    id: UUID
    url: str
    width: int
    height: int
    step: str
    by: str
    at: datetime


class JobOut(Schema):
    """A job with everything a screen shows of it: facts, verdict, stages, steps, proof, and what comes next."""

    id: UUID
    version: int
    title: str
    complaints: list[str]
    circumstances: list[str]
    told: dict[str, ToldOut]
    said: str
    stop: str | None
    booked_for: datetime
    place: PlaceOut
    machine: MachineOut
    readings: list[ReadingOut]
    findings: list[FindingOut]
    meter: list[MeterOut]
    logs: list[LogOut]
    vent: dict[str, Any] | None
    run: RunOut | None
    supply: str
    circuit: str | None
    opened: list[str]
    marks: list[MarkOut]
    photos: list[PhotoOut]
    working_cause: CauseOut | None
    proposed_cause: CauseOut | None
    confirmed_cause: CauseOut | None
    handed_over: bool
    editions: int
    verdict: VerdictOut
    stages: list[StageOut]
    next: NextOut
    safety: list[StepOut]
    open: list[StepOut]
    mend: list[StepOut]
    close: list[StepOut]
    bench: BenchOut | None
    known_layout: bool
    proof: ProofOut


class JobRow(Schema):
    """A job in a list. trouble: why it cannot be shown, where that is so."""

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
    version: int
    last_by: str
    trouble: str


class HappeningOut(Schema):
    """One line of a job's history: as a sentence, and as what changed."""

    what: str
    text: str
    by: str
    at: datetime
    received_at: datetime
    before: dict[str, Any] | None
    after: dict[str, Any] | None


class KeptOrRefused(Schema):
    """What came of one of many writes; answer: of those that are not about what a job's answer shows."""

    status: int
    problem: ProblemOut | None
    answer: dict[str, Any] | None


class ManyAnswers(Schema):
    """What came of each write, in their order; and each job that was written to, once, as it is now."""

    answers: list[KeptOrRefused]
    jobs: list[JobOut]


class HereOut(Schema):
    """The job's version now, and who else has it open."""

    version: int
    here: list[str]
