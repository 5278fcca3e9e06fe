"""A verdict as the command line and the web both give it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from warmdraft.airway import NODES
from warmdraft.answers.quantity import NodePressure, Quantity, line, quantity, reading_quantity
from warmdraft.checks import Place
from warmdraft.diagnosis import (
    MODEL_VERSION,
    Case,
    Gain,
    HeadlineCode,
    LampState,
    SettingCode,
    Suspicion,
    Verdict,
    Weighs,
    faults_told,
    gain_of,
    headline_of,
    lamps_of,
    learned_told,
    otherwise_told,
    pairs_told,
    suspicion_of,
    weighs,
)
from warmdraft.diagnosis.draft_line import DraftLine
from warmdraft.diagnosis.flow import FlowKind
from warmdraft.diagnosis.slips import SlipCode
from warmdraft.diagnosis.verdict import OperatingPoint
from warmdraft.words import Words


@dataclass(slots=True)
class HeadlineAnswer:
    """The plain sentence that stands first."""

    code: HeadlineCode
    zones: list[str]
    probability: float
    text: str
    why: str


@dataclass(slots=True)
class LampAnswer:
    """Heat or supply, which have no place in the air's way."""

    lamp: Literal["heat", "supply"]
    name: str
    state: LampState
    text: str


@dataclass(slots=True)
class ZoneAnswer:
    """A place and its probability."""

    zone: str
    probability: float


@dataclass(slots=True)
class SureAnswer:
    """The place one is surest of, with two faults, outside pressure and the unknown weighed, and how sure."""

    zone: str
    probability: float
    text: str


@dataclass(slots=True)
class OtherwiseAnswer:
    """What may be otherwise than told, with the kind of machine it would be; told: likely enough to be told of."""

    code: SettingCode
    profile: str
    probability: float
    text: str
    told: bool


@dataclass(slots=True)
class ElementAnswer:
    """An element of the airway, the probability that the cause sits in it, and how suspect that makes it."""

    element: str
    probability: float
    suspicion: Suspicion
    suspicion_text: str


@dataclass(slots=True)
class SeverityAnswer:
    """How bad, one chance in ten on either side."""

    low: float
    median: float
    high: float


@dataclass(slots=True)
class FaultAnswer:
    """A fault with its probability, given at most one fault; severity: null where it has none.

    told: worth telling of.
    """

    fault: str
    zone: str
    element: str
    probability: float
    severity: SeverityAnswer | None
    text: str
    sure_text: str
    severity_text: str | None
    told: bool


@dataclass(slots=True)
class PairAnswer:
    """Two faults at once, and how likely among such pairs."""

    faults: list[str]
    probability: float


@dataclass(slots=True)
class OperatingPointAnswer:
    """Where the machine runs."""

    flow: Quantity
    fan_pressure: Quantity
    heater_flow: Quantity
    outlet_flow: Quantity
    vent_flow: Quantity


@dataclass(slots=True)
class ExpectedAnswer:
    """What a healthy machine reads, and what the facts imply that this one reads."""

    healthy: Quantity | None
    implied: Quantity | None


@dataclass(slots=True)
class FlowAnswer:
    """The true flow at the outlet, nine in ten between low and high, beside a healthy one's; kind: by what it is known,
    and text says so."""

    kind: FlowKind
    value: Quantity
    low: Quantity
    high: Quantity
    healthy: Quantity
    text: str


@dataclass(slots=True)
class NowAnswer:
    """What the facts imply at a place; pinned where they leave no choice."""

    at: str
    pressure: Quantity
    low: Quantity
    high: Quantity
    pinned: bool


@dataclass(slots=True)
class StoryAnswer:
    """One way it could be."""

    fault: str
    probability: float
    profile: list[NodePressure]


@dataclass(slots=True)
class PointAnswer:
    """A measured pressure."""

    kind: str
    ids: list[str]
    at: str
    pressure: Quantity
    low: Quantity
    high: Quantity


@dataclass(slots=True)
class DraftLineAnswer:
    """The numbers of the draft line."""

    healthy: list[NodePressure]
    band_low: list[NodePressure]
    band_high: list[NodePressure]
    now: list[NowAnswer]
    stories: list[StoryAnswer]
    points: list[PointAnswer]


@dataclass(slots=True)
class NextCheckAnswer:
    """A check and what it is expected to give; gain: what is told of that, null where it tells nothing new."""

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
    place: Place
    round: int
    worth_it: bool
    gain: Gain | None
    text: str


@dataclass(slots=True)
class ChoiceAnswer:
    """A way to go on: a check, or mending what is likeliest; and what is expected until the machine is mended."""

    do: Literal["check", "mend"]
    check: str | None
    fault: str | None
    minutes: float
    expected_minutes: float
    text: str


@dataclass(slots=True)
class ReadingSpeaks:
    """What a kind of reading adds to the odds of a fault, in nats."""

    reading: str
    ids: list[str]
    towards: str
    nats: float
    weighs: Weighs
    text: str


@dataclass(slots=True)
class CheckSpeaks:
    """What a look adds to the odds of a fault, in nats."""

    check: str
    ids: list[str]
    towards: str
    nats: float
    weighs: Weighs
    text: str


@dataclass(slots=True)
class MisfitAnswer:
    """A reading that fits nothing."""

    reading: str
    ids: list[str]
    expected_low: Quantity | None
    expected_high: Quantity | None
    slip: SlipCode | None
    #: What likely went wrong, empty where nobody knows.
    slip_text: str


@dataclass(slots=True)
class ConsequenceAnswer:
    """A part that got hot, and the fault it got hot for; null while none at hand explains it."""

    part: str
    of: str | None
    text: str


@dataclass(slots=True)
class LearnedAnswer:
    """What jobs taught of a fault where something holds of this machine: so many times likelier."""

    holds: str
    fault: str
    times: float
    counted: float
    jobs: float
    text: str


@dataclass(slots=True)
class VerdictAnswer:
    """What the facts say of the cause. All lists are complete, best first."""

    headline: HeadlineAnswer
    lamps: list[LampAnswer]
    zones: list[ZoneAnswer]
    sure: SureAnswer
    otherwise: list[OtherwiseAnswer]
    elements: list[ElementAnswer]
    faults: list[FaultAnswer]
    pair_share: float
    pairs: list[PairAnswer]
    pairs_told: bool
    inseparable: list[list[str]]
    operating_point: OperatingPointAnswer
    readings: dict[str, ExpectedAnswer]
    flow: FlowAnswer
    draft_line: DraftLineAnswer
    #: Whether "healthy" is what this very machine read when it was.
    own_reference: bool
    next_checks: list[NextCheckAnswer]
    #: Least expected minutes first; choose: them in a sentence.
    choices: list[ChoiceAnswer]
    choose: str
    for_and_against: list[ReadingSpeaks | CheckSpeaks]
    misfits: list[MisfitAnswer]
    consequences: list[ConsequenceAnswer]
    learned: list[LearnedAnswer]
    model_version: str


def headline_answer(case: Case, verdict: Verdict, words: Words) -> HeadlineAnswer:
    """What stands first, in words."""
    found = headline_of(case, verdict)
    said = words.headline(found, verdict)
    return HeadlineAnswer(found.code, list(found.zones), found.probability, said.text, said.why)


def _lamps(case: Case, verdict: Verdict, words: Words) -> list[LampAnswer]:
    lamps = lamps_of(case, verdict)
    return [
        LampAnswer("heat", words.word("lamp_name", "heat"), lamps.heat, words.heat_lamp(lamps)),
        LampAnswer("supply", words.word("lamp_name", "supply"), lamps.supply, words.supply_lamp(lamps)),
    ]


def _flow(verdict: Verdict, words: Words) -> FlowAnswer:
    flow, healthy = verdict.flow, verdict.healthy_readings["outlet_flow"]
    value, low, high, of = (quantity(m3s, "m3/s") for m3s in (flow.median, flow.low, flow.high, healthy))
    return FlowAnswer(flow.kind, value, low, high, of, words.word("flow", flow.kind))


def _point(point: OperatingPoint) -> OperatingPointAnswer:
    return OperatingPointAnswer(
        flow=quantity(point.flow_m3s, "m3/s"),
        fan_pressure=quantity(point.fan_pressure_pa, "Pa"),
        heater_flow=quantity(point.heater_flow_m3s, "m3/s"),
        outlet_flow=quantity(point.outlet_flow_m3s, "m3/s"),
        vent_flow=quantity(point.vent_flow_m3s, "m3/s"),
    )


def _draft_line(found: DraftLine) -> DraftLineAnswer:
    return DraftLineAnswer(
        healthy=line(found.healthy),
        band_low=line(found.band_low),
        band_high=line(found.band_high),
        now=[
            NowAnswer(node, quantity(found.now[i], "Pa"), quantity(found.now_low[i], "Pa"),
                      quantity(found.now_high[i], "Pa"), bool(found.pinned[i]))
            for i, node in enumerate(NODES)
        ],
        stories=[StoryAnswer(story.fault, story.probability, line(story.pressure)) for story in found.stories],
        points=[
            PointAnswer(point.kind, list(point.ids), point.at, quantity(point.pressure, "Pa"),
                        quantity(point.low, "Pa"), quantity(point.high, "Pa"))
            for point in found.points
        ],
    )  # fmt: skip


def _element(element: str, probability: float, words: Words) -> ElementAnswer:
    suspicion = suspicion_of(probability)
    return ElementAnswer(element, probability, suspicion, words.word("suspicion", suspicion))


def verdict_answer(case: Case, verdict: Verdict, words: Words) -> VerdictAnswer:
    """A verdict with its words."""
    airway, told = case.machine.airway, faults_told(verdict)
    return VerdictAnswer(
        headline=headline_answer(case, verdict, words),
        lamps=_lamps(case, verdict, words),
        zones=[ZoneAnswer(zone, p) for zone, p in verdict.zones],
        sure=SureAnswer(verdict.sure.zone, verdict.sure.probability, words.word("zone", verdict.sure.zone)),
        otherwise=[
            OtherwiseAnswer(row.code, row.profile, row.probability, words.otherwise(row), otherwise_told(row))
            for row in verdict.otherwise
        ],
        elements=[_element(element, p, words) for element, p in verdict.elements],
        faults=[
            FaultAnswer(
                row.fault, row.zone, row.element, row.probability,
                None if row.severity is None else SeverityAnswer(*row.severity),
                words.fault(row.fault), words.sure(row.probability), words.severity(row.fault, row.severity, airway),
                row.fault in told,
            )
            for row in verdict.faults
        ],
        pair_share=verdict.pair_share,
        pairs=[PairAnswer(list(faults), p) for faults, p in verdict.pairs],
        pairs_told=pairs_told(verdict),
        inseparable=[list(group) for group in verdict.inseparable],
        operating_point=_point(verdict.operating_point),
        readings={
            kind: ExpectedAnswer(reading_quantity(kind, verdict.healthy_readings[kind]),
                                 reading_quantity(kind, implied))
            for kind, implied in verdict.implied_readings.items()
        },
        flow=_flow(verdict, words),
        draft_line=_draft_line(verdict.draft_line),
        own_reference=case.machine.airway.own is not None,
        next_checks=[
            NextCheckAnswer(
                check=row.check, bits=row.bits, minutes=row.minutes, hands_on_minutes=row.hands_on_minutes,
                bits_per_minute=row.bits_per_minute, sure_now=row.sure_now, sure_after=row.sure_after,
                splits=list(row.splits), opens=row.access in ("top_off", "open"), access=row.access,
                place=row.place, round=row.round, worth_it=row.worth_it, gain=gain_of(row),
                text=words.check(row.check),
            )
            for row in verdict.next_checks
        ],
        choices=[
            ChoiceAnswer(
                do=row.do, check=row.subject if row.do == "check" else None,
                fault=row.subject if row.do == "mend" else None, minutes=row.minutes,
                expected_minutes=row.expected_minutes, text=words.choice(row),
            )
            for row in verdict.choices
        ],
        choose=words.choose(verdict.choices),
        for_and_against=[
            (ReadingSpeaks if row.is_reading else CheckSpeaks)(
                row.evidence, list(row.ids), row.towards, row.nats, weighs(row.nats), words.weight(row.nats)
            )
            for row in verdict.for_and_against
        ],
        misfits=[
            MisfitAnswer(row.reading, list(row.ids), reading_quantity(row.reading, row.expected_low),
                         reading_quantity(row.reading, row.expected_high), row.slip,
                         "" if row.slip is None else words.word("slip", row.slip))
            for row in verdict.misfits
        ],
        consequences=[
            ConsequenceAnswer(row.part, row.of, words.consequence(row.part, row.of)) for row in verdict.consequences
        ],
        learned=[
            LearnedAnswer(row.holds, row.fault, row.times, row.counted, row.jobs, words.cause_move(row))
            for row in learned_told(case, verdict)
        ],
        model_version=MODEL_VERSION,
    )  # fmt: skip
