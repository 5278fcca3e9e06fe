"""A verdict as the API gives it: the numbers of `./warm core diagnose`, typed."""

from uuid import UUID

from ninja import Schema

from config.quantity import Q


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
    hands_on_minutes: float
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


class PairOut(Schema):
    """Two faults at once, and how likely among such pairs."""

    faults: list[str]
    probability: float


class ConsequenceOut(Schema):
    """A part that got hot, and the fault it got hot for; null while none at hand explains it."""

    part: str
    of: str | None
    text: str


class VerdictOut(Schema):
    """What the facts say of the cause; the same numbers as `./warm core diagnose` of the exported job."""

    headline: Headline
    lamps: list[LampOut]
    zones: list[ZoneOut]
    elements: list[ElementOut]
    faults: list[FaultOut]
    pair_share: float
    pairs: list[PairOut]
    inseparable: list[list[str]]
    operating_point: OperatingPointOut
    readings: dict[str, ExpectedOut]
    draft_line: DraftLineOut
    next_checks: list[NextCheckOut]
    for_and_against: list[SpeaksOut]
    misfits: list[MisfitOut]
    consequences: list[ConsequenceOut]
    model_version: str
