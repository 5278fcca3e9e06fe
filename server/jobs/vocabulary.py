"""The codes the core speaks in, with their words and units: what a client needs to draw and ask, asked once."""

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from people.models import Role
from people.signed_in import member_of
from shared.problems import ProblemOut
from warmdraft.airway import NODES, READING_KINDS, TAPS, reading_dimensions
from warmdraft.answers import NeverAnswer, WheelBenchAnswer, never_answer, wheel_bench_answer
from warmdraft.checks import LOG_TCHEBYCHEFF, NO_EVIDENCE, SWAPS, checks, instruments_for
from warmdraft.faults import ELEMENT_NAMES, ZONES, catalogue
from warmdraft.machine import profile_names
from warmdraft.meter import parts
from warmdraft.paper import customer_languages
from warmdraft.repair import act_of_check, acts
from warmdraft.tables import table
from warmdraft.teardown import choices_of, layout, layout_names
from warmdraft.trend import LOG_KINDS
from warmdraft.units import UNITS, scale_of
from warmdraft.vent import FACES, code_profiles, thing_kinds
from warmdraft.words import UNIT_LOOK, Words, words_for
from warmdraft.work import STAGES

router = Router(tags=["vocabulary"])


class Named(Schema):
    """A code and its words."""

    code: str
    text: str


class InstrumentNamed(Named):
    """An instrument; of: the one that is carried, where this is a way of using it."""

    of: str | None


class FaultNamed(Named):
    """A fault with its zone and element."""

    zone: str
    element: str


class UnitOut(Schema):
    """A unit: canonical = given · factor + offset; how it is written and rounded."""

    unit: str
    dimension: str
    factor: float
    offset: float
    look: str
    digits: int


def _one_of(names: Iterable[str]) -> Any:
    """Codes as the client's types know them, so that a drawing left out there is found when it is built."""
    return Field(json_schema_extra={"enum": [*sorted(set(names))]})


class ActName(Schema):
    """An act on a part, as an order names it."""

    part: str
    act: str


class ActOut(ActName):
    """An act on a part in words; needs_opening: of the machine."""

    part_text: str
    text: str
    minutes: float
    needs_opening: bool


class CheckOut(Schema):
    """A check: what to do, how, with what, where the probe or the eye goes; swap: what is changed for it.

    inside: the act that it is, where the machine has to be opened for it.
    """

    check: str
    do: str
    how: str
    node: str
    access: str
    minutes: float
    wait_minutes: float
    instrument: str
    instrument_code: Annotated[str, _one_of(check.instrument for check in checks().values())]
    swap: Annotated[str, _one_of(SWAPS)] | None
    hazard: str
    qualified: str | None
    heat: bool
    observes: str | None
    results: list[Named]
    inside: ActName | None
    given_under: Literal["meter", "logs", "sounds"] | None


class KindOut(Schema):
    """A kind of reading: its words, dimension, tap, whether the model weighs it, and what reads it."""

    kind: str
    text: str
    dimension: str
    canonical: str
    tap: str | None
    weighed: bool
    instruments: list[str]


class ProfileOut(Named):
    """A machine to start from."""

    energy: str


class CircumstanceOut(Named):
    """A circumstance, which faults it makes likelier by what factor, and where that is from."""

    moves: list[str]
    source: str


class MeterPartOut(Schema):
    """An electrical part: where it sits, what to isolate, which range, what a good one shows on this kind of meter.

    where: in machines at large; where_in: in a layout. energy: the only one whose machines have it.
    """

    part: str
    text: str
    kind: str
    circuit: str
    circuit_text: str
    where: str
    where_in: dict[str, str]
    isolate: str
    range: str
    good_digital: str
    good_analogue: str
    qualified: str | None
    energy: str | None


class LogKindOut(Named):
    """A kind that may be logged over a run."""

    dimension: str
    canonical: str


class TradeWord(Schema):
    """What people say, and what it is called here."""

    said: str
    means: str


class ChoiceOut(Schema):
    """Something machines of one layout differ in; the first answer is usual."""

    name: str
    asks: str
    answers: list[Named]


class LayoutNamed(Named):
    """A layout of ours, and in what its machines differ."""

    maker: str
    choices: list[ChoiceOut]


class FastenerNamed(Named):
    """A kind of fastener: text is of one, many of several; head: how it is drawn."""

    many: str
    head: str


class RoleNamed(Schema):
    """What a person is in a workshop."""

    code: Annotated[str, _one_of(Role.values)]
    text: str


class PlanThingOut(Named):
    """What stands in the way on a plan; opening: air can come back in by it."""

    opening: bool


class Vocabulary(Schema):
    """All codes with their words."""

    stages: list[Named]
    zones: list[Named]
    elements: list[Named]
    nodes: list[Named]
    faults: list[FaultNamed]
    complaints: list[Named]
    circumstances: list[CircumstanceOut]
    meter_parts: list[MeterPartOut]
    code_profiles: list[Named]
    plan_things: list[PlanThingOut]
    plan_faces: list[Named]
    joins: list[Named]
    log_kinds: list[LogKindOut]
    trade_words: list[TradeWord]
    traverse: list[float]
    profiles: list[ProfileOut]
    layouts: list[LayoutNamed]
    instruments: list[InstrumentNamed]
    fasteners: list[FastenerNamed]
    colours: list[Named]
    areas: list[Named]
    roles: list[RoleNamed]
    qualifications: list[Named]
    no_evidence: list[Named]
    #: What a customer's paper can be had in, each as it calls itself.
    customer_languages: list[Named]
    kinds: list[KindOut]
    checks: list[CheckOut]
    acts: list[ActOut]
    units: list[UnitOut]
    wheel_bench: WheelBenchAnswer
    never: NeverAnswer


def _named(words: Words, kind: str, codes: tuple[str, ...]) -> list[Named]:
    return [Named(code=code, text=words.word(kind, code)) for code in codes]


def _check(words: Words, name: str) -> CheckOut:
    check, said = checks()[name], words.check_words(name)
    return CheckOut(
        check=name, do=said["do"], how=said["how"], node=said["node"],
        access=words.word("access", check.access), minutes=check.minutes, wait_minutes=check.wait_minutes,
        instrument=words.instrument(check.instrument), instrument_code=check.instrument, hazard=words.hazard(check),
        qualified=check.qualified, swap=check.swap,
        heat=check.heat, observes=check.observes,
        results=[Named(code=result, text=said["results"][result]) for result in check.results],
        inside=_inside(name), given_under=check.given_under,
    )  # fmt: skip


def _inside(check: str) -> ActName | None:
    act = act_of_check(check)
    return ActName(part=act.part, act=act.act) if act is not None and act.needs_opening else None


@router.get("/vocabulary", response={200: Vocabulary, **dict.fromkeys((401, 403, 409), ProblemOut)})
def vocabulary(request: HttpRequest) -> Vocabulary:
    """All codes with their words, and the units."""
    words = words_for(member_of(request).workshop.speaks)
    return Vocabulary(
        stages=_named(words, "stage", STAGES),
        zones=_named(words, "zone", ZONES),
        elements=_named(words, "element", ELEMENT_NAMES),
        nodes=_named(words, "node", NODES),
        faults=[
            FaultNamed(code=name, text=words.fault(name), zone=fault.zone, element=fault.element)
            for name, fault in catalogue().items()
        ],
        complaints=[Named(code=c, text=row["words"]) for c, row in words.texts("complaints").items()],
        circumstances=[
            CircumstanceOut(
                code=c, text=row["words"], source=row.get("source", words.word("source", "assumed")),
                moves=[f"{words.fault(fault)} × {times:g}" for fault, times in row["times"].items()],
            )
            for c, row in words.texts("circumstances").items()
        ],
        meter_parts=[
            MeterPartOut(
                part=name, text=words.meter_part(name), kind=part.kind, circuit=part.circuit,
                circuit_text=words.texts("meter_words")["circuit"][part.circuit], where=said["where"],
                where_in={
                    kind: (layout(kind, language=words.language).electrical or {}).get(name, "")
                    for kind in layout_names()
                },
                isolate=said["isolate"],
                range=said["range"], good_digital=said["good"]["digital"], good_analogue=said["good"]["analogue"],
                qualified=check.qualified, energy=check.energy,
            )
            for name, part in parts().items()
            for said, check in [(words.texts("meter")[name], checks()[f"meter_{name}"])]
        ],
        code_profiles=[Named(code=name, text=words.code_profile(row).text) for name, row in code_profiles().items()],
        plan_things=[
            PlanThingOut(code=name, text=words.texts("plan_things")[name]["words"], opening=kind.opening)
            for name, kind in thing_kinds().items()
        ],
        joins=[Named(code=code, text=text) for code, text in words.texts("vent")["joins"].items()],
        plan_faces=[Named(code=face, text=words.texts("vent")["heading"][face]) for face in FACES],
        log_kinds=[
            LogKindOut(code=kind, text=words.reading(kind), dimension=dimension,
                       canonical=UNITS[dimension].canonical)
            for kind, dimension in LOG_KINDS.items()
        ],
        traverse=list(LOG_TCHEBYCHEFF[6]),
        trade_words=[TradeWord(said=said, means=means) for said, means in table("trade_words")["words"].items()],
        profiles=[
            ProfileOut(code=name, text=words.profile(name), energy=table("profiles")[name]["heat"]["energy"])
            for name in profile_names()
        ],
        layouts=[
            LayoutNamed(
                code=name, text=ours.title, maker=ours.maker,
                choices=[
                    ChoiceOut(
                        name=choice.name, asks=choice.asks,
                        answers=[Named(code=code, text=text) for code, text in choice.answers.items()],
                    )
                    for choice in choices_of(name, words.language)
                ],
            )
            for name in layout_names()
            for ours in [layout(name, language=words.language)]
        ],
        instruments=[
            InstrumentNamed(code=code, text=row["words"], of=row.get("of"))
            for code, row in words.texts("instruments").items()
        ],
        fasteners=[
            FastenerNamed(code=code, text=row["one"], many=row["many"], head=row["head"])
            for code, row in words.texts("hardware")["fastener"].items()
        ],
        colours=[Named(code=code, text=text) for code, text in words.texts("hardware")["colour"].items()],
        areas=[Named(code=code, text=text) for code, text in words.texts("bench")["area"].items()],
        roles=[RoleNamed(code=code, text=text) for code, text in words.texts("people")["role"].items()],
        qualifications=[Named(code=code, text=text) for code, text in words.texts("people")["work"].items()],
        no_evidence=_named(words, "result", NO_EVIDENCE),
        customer_languages=[Named(code=code, text=name) for code, name in customer_languages().items()],
        kinds=[
            KindOut(
                kind=kind, text=words.reading(kind), dimension=dimension,
                canonical=UNITS[dimension].canonical, tap=TAPS[kind].node if kind in TAPS else None,
                weighed=kind in READING_KINDS, instruments=list(instruments_for(kind)),
            )
            for kind, dimension in reading_dimensions().items()
        ],
        checks=[_check(words, name) for name in checks()],
        acts=[
            ActOut(part=act.part, act=act.act, part_text=words.thing("part", act.part), text=words.act(act.name),
                   minutes=act.minutes, needs_opening=act.needs_opening)
            for act in acts().values()
        ],
        units=[
            UnitOut(
                unit=unit, dimension=dimension, factor=scale_of(unit, dimension)[0],
                offset=scale_of(unit, dimension)[1], look=UNIT_LOOK[unit][0], digits=UNIT_LOOK[unit][1],
            )
            for dimension, choice in UNITS.items()
            for unit in choice.names
        ],
        wheel_bench=wheel_bench_answer(words),
        never=never_answer(words),
    )  # fmt: skip
