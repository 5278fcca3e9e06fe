"""The shape of each of our tables: its keys, which of them are words for people, and the codes that a row may name."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import fields
from functools import cache
from typing import Annotated, Any, Literal, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from warmdraft.airway import NODES, READING_KINDS
from warmdraft.checks import ACCESS, CHECK_FILES, SWAPS
from warmdraft.diagnosis import OTHERWISE, SUSPICIONS, HeadlineCode, Weighs
from warmdraft.diagnosis.flow import FlowKind
from warmdraft.diagnosis.hypotheses import FELT_COLUMN
from warmdraft.diagnosis.slips import SLIPS
from warmdraft.drill import LEVELS, MOST_WRONG, UnsafeCode
from warmdraft.faults import ABOUT, ELEMENT_NAMES, ZONES
from warmdraft.machine import ELEMENTS
from warmdraft.mending import (
    ATTACHMENTS,
    ENDS,
    FREEING,
    MARKS,
    PROPERTIES,
    REASONS,
    Attachment,
    Hand,
    Resets,
    Role,
    Turn,
    Verdict,
)
from warmdraft.proof import Decision, Keeps, ProofCode, Shows, Standing
from warmdraft.repair import part_and_act
from warmdraft.sound import SOURCES, Rates
from warmdraft.stock import Way
from warmdraft.tables import table
from warmdraft.teardown import SCHOOLS, layout_names
from warmdraft.teardown.bench import STATES, DiscrepancyCode
from warmdraft.trend import SHAPES
from warmdraft.units import UNITS
from warmdraft.upkeep import ReasonCode
from warmdraft.vent import FACES, HEADINGS, JOINS, OUTLETS
from warmdraft.work import STAGES, Reason
from warmdraft.work.proving import WHEN, proving_names
from warmdraft.work.redrawn import WhyNot
from warmdraft.work.stages import NextCode


class Says:
    """Marks what people read: these keys are what another language has words for."""


#: Words for people.
Words = Annotated[str, Field(min_length=1), Says()]


#: Texts by their codes, of no language of ours but of the customer's.
Texts = dict[str, Annotated[str, Field(min_length=1)]]


def _named(what: str, names: Callable[[], Iterable[str]]) -> Any:
    """A name of those there are; they are asked for when a row is read."""

    def check(value: str) -> str:
        known = list(names())
        if value not in known:
            raise ValueError(f"'{value}' is no {what}; give one of {', '.join(known)}")
        return value

    return AfterValidator(check)


def _names_of(name: str) -> Callable[[], Iterable[str]]:
    return lambda: table(name)


def _words_of(kind: str, table_name: str = "codes") -> Callable[[], Iterable[str]]:
    return lambda: table(f"words/en/{table_name}")[kind]


def _hardware(kind: str) -> Any:
    return _named(f"{kind} of hardware.toml", lambda: table("hardware")[kind])


def _with() -> Iterable[str]:
    return [*table("instruments"), *table("words/en/codes")["sense"]]


@cache
def check_names() -> tuple[str, ...]:
    """Names of all checks, those of readings first."""
    of_readings = [name for name, row in table("readings").items() if "check" in row]
    return (*of_readings, *(name for file in CHECK_FILES for name in table(f"checks/{file}")))


FaultName = Annotated[str, _named("fault", _names_of("faults"))]
ComplaintName = Annotated[str, _named("complaint", _names_of("complaints"))]
CircumstanceName = Annotated[str, _named("circumstance", _names_of("circumstances"))]
KindName = Annotated[str, _named("kind of reading", _names_of("readings"))]
Complaint = Annotated[str, _named("complaint", _names_of("complaints"))]
Zone = Annotated[str, _named("zone", lambda: ZONES)]
Element = Annotated[str, _named("element", lambda: ELEMENT_NAMES)]
Node = Annotated[str, _named("place of the air's way", lambda: NODES)]
Dimension = Annotated[str, _named("dimension", lambda: UNITS)]
Part = Annotated[str, _hardware("part")]
_CHECK_TABLES = [f"checks/{file}" for file in CHECK_FILES]
SupplyName = Annotated[str, _named("supply", _names_of("supplies"))]
Energies = list[Literal["electric", "gas"]]
Supplies = list[Literal["plug", "hard_wired"]]
Qualified = Literal["live", "gas"]
Minutes = Annotated[float, Field(ge=0)]
Share = Annotated[float, Field(gt=0, lt=1)]


class Row(BaseModel):
    """Every row: no key that nobody knows, every number finite."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, strict=False)


ActName = Annotated[str, _named("act", _names_of("acts"))]
ActNames = Annotated[list[ActName], Field(min_length=1)]
CheckName = Annotated[str, _named("check", lambda: check_names())]


class NarrowedRow(Row):
    """Acts that mend a fault where something more is known."""

    found: dict[CheckName, str] = Field(default_factory=dict)
    energy: Literal["electric", "gas"] | None = None
    reached: Part | None = None
    acts: ActNames

    @model_validator(mode="after")
    def _says_when(self) -> NarrowedRow:
        if not self.found and self.energy is None and self.reached is None:
            raise ValueError("does not say when it holds; give 'found', 'energy' or 'reached'")
        _check_results(self.found.items())
        return self


def _check_results(pairs: Iterable[tuple[str, str]]) -> None:
    """Raise where one of them is no result of its check."""
    for name, result in pairs:
        known = results_of(name)
        if result not in known:
            raise ValueError(f"'{result}' is no result of '{name}'; give one of {', '.join(known)}")


def results_of(check: str) -> list[str]:
    """Results of a check, none for one that observes a reading."""
    return next((list(rows[check].get("results", ())) for rows in map(table, _CHECK_TABLES) if check in rows), [])


class FaultRow(Row):
    """A fault: where it sits, what it does, how likely it is, what mends it."""

    words: Words
    zone: Zone
    element: Element
    effect: Literal[
        "resistance_times", "leak_times", "bypass", "room_deficit", "outdoor_pressure", "head_lost", "speed_left",
        "power_left", "cycling_offset", "limit_offset", "nothing", "unheard_of",
    ]  # fmt: skip
    target: Annotated[str, _named("element, seal or opening", lambda: (*ELEMENTS, *_SEALS))] | None = None
    prior: Annotated[float, Field(gt=0)]
    range: Annotated[list[float], Field(min_length=2, max_length=2)] | None = None
    at: float | None = None
    as_built: bool = False
    late: bool = False
    air: bool = True
    supply: SupplyName | None = None
    energy: Literal["electric", "gas"] | None = None
    motors: Literal[1, 2] | None = None
    group: list[Literal["AIR", "VENT", "WHEEL"]]
    complaints: dict[Complaint, Annotated[float, Field(gt=0)]] = Field(default_factory=dict)
    consequences: list[Annotated[str, _named("consequence", _words_of("consequence"))]]
    acts: ActNames
    narrowed: list[NarrowedRow] = Field(default_factory=list)

    @model_validator(mode="after")
    def _acts(self) -> FaultRow:
        if self.effect not in ("nothing", "unheard_of") and self.range is None and self.at is None:
            raise ValueError(f"acts ({self.effect}) but has neither 'range' nor 'at'; give one")
        if self.range and not 0 <= self.range[0] < self.range[1]:
            raise ValueError(f"range {self.range} does not rise; give the least severity first")
        if self.effect in ("resistance_times", "leak_times", "bypass") and self.target is None:
            raise ValueError(f"acts by '{self.effect}', which needs a 'target'")
        return self


#: What a leak or an opening may be of.
_SEALS = ("drum_seal", "lint_duct_seal", "parted_pipe", "detached_transition")


class CheckRow(Row):
    """A check: how far one has to go, with what, what it observes or how likely each result is."""

    do: Words
    how: Words
    node: Node
    access: Annotated[str, _named("access", lambda: ACCESS)]
    first: list[Annotated[str, _named("way to get there", _names_of("getting_there"))]] = Field(default_factory=list)
    minutes: Minutes
    wait_minutes: Minutes = 0.0
    with_: Annotated[str, Field(alias="with"), _named("instrument or sense", _with)]
    hazard: Annotated[str, _named("hazard", _words_of("hazard"))]
    qualified: Qualified | None = None
    observes: KindName | None = None
    results: dict[str, Words] = Field(default_factory=dict)
    p: dict[str, list[Share]] = Field(default_factory=dict)
    felt: Annotated[str, _named("flow that is felt", lambda: FELT_COLUMN)] | None = None
    swap: Annotated[str, _named("swap", lambda: SWAPS)] | None = None
    heat: bool = False
    meters: Annotated[str, _named("electrical part", _names_of("meter"))] | None = None
    logs: list[KindName] = Field(default_factory=list)
    recorded: bool = False
    heard: bool = False
    stopped: bool = False
    one_motor: bool = False
    energy: Literal["electric", "gas"] | None = None
    complaints: list[Complaint] = Field(default_factory=list)

    @model_validator(mode="after")
    def _observes_something(self) -> CheckRow:
        if bool(self.results) == (self.observes is not None):
            raise ValueError("gives neither a reading nor results, or both; give 'observes', or 'results' with 'p'")
        if self.results and "rest" not in self.p:
            raise ValueError("has no row 'rest' in 'p'; say how likely each result is where no fault is named")
        for name, shares in self.p.items():
            if name not in (*table("faults"), "AIR", "VENT", "WHEEL", "rest"):
                raise ValueError(f"p.{name} is neither a fault nor a group; name a fault, AIR, VENT, WHEEL or rest")
            if len(shares) != len(self.results) or abs(sum(shares) - 1) > 1e-9:
                raise ValueError(f"p.{name}: {shares} are not {len(self.results)} shares that sum to 1")
        return self


class LegRow(Row):
    """What is done once to get to checks."""

    minutes: Minutes
    reaches: str | None = None
    operation: str | None = None


class KindCheckRow(CheckRow):
    """The check that takes a kind of reading, within its row."""

    @model_validator(mode="before")
    @classmethod
    def _observes_its_kind(cls, row: Any) -> Any:
        if isinstance(row, dict) and "observes" in row:
            raise ValueError("'observes' says what the row says; leave it out")
        return {"observes": next(iter(table("readings"))), **row} if isinstance(row, dict) else row


class ReadingRow(Row):
    """A kind of reading: its dimension, by what the model predicts it, its instrument's error, how it is taken."""

    words: Words
    dimension: Dimension
    given: Literal["tap", "predicted", "condition", "told"]
    tap: Node | None = None
    suction: bool = False
    sd: Annotated[list[Annotated[float, Field(ge=0)]], Field(min_length=2, max_length=2)] | None = None
    hot: Annotated[float, Field(gt=0)] | None = None
    logged: bool = False
    only_logged: bool = False
    check: KindCheckRow | None = None

    @model_validator(mode="after")
    def _whole(self) -> ReadingRow:
        if (self.given == "tap") != (self.tap is not None):
            raise ValueError("has a 'tap' if and only if it is given by one; give both, or neither")
        if self.given in ("tap", "predicted") and self.sd is None:
            raise ValueError("is weighed by the model and has no 'sd'; give its instrument's standard deviation")
        if (self.check is None) != self.only_logged:
            raise ValueError("has no 'check' to take it by; give one, or say that it is 'only_logged'")
        return self


class InstrumentRow(Row):
    """An instrument: what it reads, and what it may be wrong by; of: what is carried, where it is a way of using it."""

    words: Words
    of: str | None = None
    reads: Dimension
    sd: Annotated[list[Annotated[float, Field(ge=0)]], Field(min_length=2, max_length=2)] | None = None
    bias: Annotated[float, Field(gt=0)] | None = None


class ActStepRow(Row):
    """What the hands do for an act."""

    id: str
    does: Words
    minutes: Minutes
    caution: Words | None = None
    check: CheckName | None = None
    after: bool = False
    cuts: Literal["foam", "felt"] | None = None


class ActRow(Row):
    """Something done to a part; its name says which, and what."""

    words: Words
    reach: list[Part] | None = None
    steps: Annotated[list[ActStepRow], Field(min_length=1)]
    tools: list[Annotated[str, _hardware("tool")]] = Field(default_factory=list)
    gear: list[Annotated[str, _hardware("gear")]] = Field(default_factory=list)
    uses_up: list[Part] = Field(default_factory=list)
    qualified: Qualified | None = None
    brings: dict[Part, Share] = Field(default_factory=dict)
    shows: list[CheckName] = Field(default_factory=list)
    found: dict[CheckName, dict[str, Literal["must", "offer"]]] = Field(default_factory=dict)
    within: Part | None = None
    along: bool = False
    upkeep: bool = False

    @model_validator(mode="after")
    def _found_is_a_result(self) -> ActRow:
        _check_results((check, result) for check, asks in self.found.items() for result in asks)
        return self


class CircumstanceRow(Row):
    """What moves priors, by fault and factor; lint: how many times faster a machine fills with it;
    loads: a week, where nobody has counted."""

    words: Words
    lint: Annotated[float, Field(gt=0)] = 1.0
    loads: Annotated[float, Field(gt=0)] | None = None
    about: Annotated[str, _named("what is shown after the work", lambda: ABOUT)] | None = None
    times: Annotated[dict[FaultName, Annotated[float, Field(gt=0)]], Field(min_length=1)]
    source: Words | None = None


class ComplaintRow(Row):
    """What brings the technician; stop: what has to be done before anything else; about: what is shown to be gone
    after the work; times: how it moves priors."""

    words: Words
    about: Annotated[str, _named("what is shown after the work", lambda: ABOUT)] | None = None
    stop: Words | None = None
    times: dict[FaultName, Annotated[float, Field(gt=0)]] = Field(default_factory=dict)


class ProvingRow(Row):
    """What is proven after the work. checks: any of them shows it; when: the jobs that ask for it; must: before the
    record."""

    checks: Annotated[list[CheckName], Field(min_length=1)]
    when: Annotated[str, _named("what a job is about", lambda: WHEN)]
    must: bool


class SupposedRow(Row):
    """A fault that a case hides, as in a job file's `suppose`."""

    fault: FaultName
    severity: Annotated[float, Field(gt=0)] | None = None


class RungRow(Row):
    """A case to train on: parts of a job file, and what is hidden of it."""

    level: Annotated[int, _named("level", lambda: LEVELS)]
    machine: dict[str, str]
    complaints: Annotated[list[ComplaintName], Field(min_length=1)]
    circumstances: list[CircumstanceName] = Field(default_factory=list)
    wrong: Annotated[list[SupposedRow], Field(min_length=1, max_length=MOST_WRONG)]
    lies: dict[Annotated[str, _named("reading", lambda: READING_KINDS)], Annotated[float, Field(gt=0)]] = Field(
        default_factory=dict
    )


class SafetyRow(Row):
    """An act that makes a machine safe."""

    does: Words
    why: Words
    supply: Supplies | None = None
    energy: Energies | None = None
    qualified: Qualified | None = None


class ClosingRow(Row):
    """What is forgotten at the end."""

    qualified: Qualified | None = None
    does: Words
    why: Words
    minutes: Minutes
    counted: bool = False
    gate: bool = False
    before_back: bool = False
    only_behind: bool = False
    reads: KindName | None = None
    of: Literal["wheel"] | None = None
    behind_cover: bool = False
    fails: Words | None = None
    supply: Supplies | None = None
    energy: Energies | None = None

    @model_validator(mode="after")
    def _goes_back(self) -> Any:
        if (self.of is None) is not (self.fails is None):
            raise ValueError("says of what it is where it says what fails, and the other way round")
        return self


class LatchRow(Row):
    """How a panel is held, and how it is freed."""

    text: Words
    how: Words


class DriverRow(Row):
    """A driver, its width, and what else turns the same head."""

    text: Words
    across_mm: Annotated[float, Field(gt=0)] | None = None
    fits_also: list[Annotated[str, _named("driver", _names_of("drivers"))]] = Field(default_factory=list)


class FastenerRow(Row):
    """A kind of fastener: one of it, several, and how it is drawn."""

    one: Words
    many: Words
    head: Literal["hex", "hex_washer", "round", "countersunk", "nut", "clip"]


class HardwareTable(Row):
    """Things at the bench by code."""

    fastener: dict[str, FastenerRow]
    finish: dict[str, Words]
    thread: dict[str, Words]
    into: dict[str, Words]
    device: dict[str, Words]
    terminal: dict[str, Words]
    colour: dict[str, Words]
    part: dict[str, Words]
    gear: dict[str, Words]
    tool: dict[str, Words]


class GoodRow(Row):
    """What a good part shows."""

    digital: Words
    analogue: Words


class MeterRow(Row):
    """An electrical part and how it is tested."""

    words: Words
    kind: Literal["continuity", "thermistor", "element", "insulation", "winding", "resistance", "supply"]
    ohms: Annotated[list[Annotated[float, Field(gt=0)]], Field(min_length=2, max_length=2)] | None = None
    circuit: Annotated[str, _named("circuit", _words_of("circuit", "meter_words"))]
    mend: ActName
    one_shot: bool = False
    opens_hot: bool = False
    consequence: Annotated[str, _named("consequence", _words_of("consequence"))] | None = None
    where: Words
    isolate: Words
    range: Words
    good: GoodRow

    @model_validator(mode="after")
    def _limits(self) -> MeterRow:
        if (self.kind == "resistance") != (self.ohms is not None):
            raise ValueError(
                "is judged by two limits, or by none; give 'ohms' with kind 'resistance', and only with it"
            )
        if self.ohms and self.ohms[0] >= self.ohms[1]:
            raise ValueError(f"ohms {self.ohms} does not rise; give the lower limit first")
        return self


class SupplyRow(Row):
    """A supply's nominal volts."""

    leg_leg: Annotated[float, Field(gt=0)]
    leg_neutral: Annotated[float, Field(gt=0)]


class FittingRow(Row):
    """What a bend takes off a run, feet and inches."""

    style: Literal["mitred", "smooth"]
    radius_in: Annotated[float, Field(ge=0)]
    angle: Annotated[float, Field(gt=0, le=180)]
    takes: Annotated[list[float], Field(min_length=2, max_length=2)]


FeetInches = Annotated[list[float], Field(min_length=2, max_length=2)]


class CodeProfileRow(Row):
    """How long a run may be."""

    title: Words
    source: Words
    max_length: FeetInches
    bore_in: Annotated[float, Field(gt=0)]
    hood_from_openings: FeetInches
    hood_above_ground: FeetInches
    supports: FeetInches
    fittings: Annotated[list[FittingRow], Field(min_length=1)]


class PlanThingRow(Row):
    """What stands in the way of a new run."""

    words: Words
    stands: Annotated[list[float], Field(min_length=2, max_length=2)]
    hangs: bool = False
    opening: bool = False


class DuctStockRow(Row):
    """A standard length of duct; its name is a part's."""

    length: tuple[Annotated[float, Field(gt=0)], Literal["in", "mm"]]
    for_: Annotated[Literal["ft", "m"], Field(alias="for")]


class QuestionRow(Row):
    """A look that tells layouts apart."""

    ask: Words
    minutes: Minutes
    answers: Annotated[dict[str, Words], Field(min_length=2)]


class ProfileRow(Row):
    """A whole machine; its figures are checked where the machine is made."""

    title: Words
    airway: dict[str, Any]
    heat: dict[str, Any]
    limits: dict[str, float]
    drive: dict[str, float]


class TradeWords(Row):
    """What people say, and what it is called here."""

    words: dict[str, str]


class BandRow(Row):
    """From what least value on something is called so."""

    least: float
    text: Words


class Bands(Row):
    """Words for numbers, the largest first."""

    words: list[BandRow]


def _coded(names: Callable[[], Iterable[str]]) -> Any:
    """Words for just these codes: none missing, none too many."""

    def check(words: dict[str, str]) -> dict[str, str]:
        wanted = set(names())
        for code in sorted(wanted - words.keys()):
            raise ValueError(f"has no words for '{code}'; give some")
        for code in sorted(words.keys() - wanted):
            raise ValueError(f"'{code}' is no code; take it out")
        return words

    return AfterValidator(check)


#: Whether a line is shown: what takes a fault away, and what does not.
_OF_LINES = [f"{of}{code}" for of in ("", "act_") for code in ("shown", "left", "open")]


class CodesTable(Row):
    """Words of codes without a table of their own."""

    zone: Annotated[dict[str, Words], _coded(lambda: ZONES)]
    element: Annotated[dict[str, Words], _coded(lambda: ELEMENT_NAMES)]
    node: Annotated[dict[str, Words], _coded(lambda: NODES)]
    access: Annotated[dict[str, Words], _coded(lambda: ACCESS)]
    stage: Annotated[dict[str, Words], _coded(lambda: STAGES)]
    result: dict[str, Words]
    hazard: dict[str, Annotated[str, Says()]]
    lint: dict[str, Words]
    expected: dict[str, Words]
    sense: dict[str, Words]
    supply: dict[str, Words]
    energy: dict[str, Words]
    consequence: dict[str, Words]
    drying: dict[str, Words]
    trend: Annotated[dict[str, Words], _coded(lambda: SHAPES)]
    vent: dict[str, Words]
    happened: dict[str, Words]
    history: dict[str, Words]
    changed: dict[str, Words]
    source: dict[str, Words]
    suspicion: Annotated[dict[str, Words], _coded(lambda: SUSPICIONS)]
    otherwise: Annotated[dict[str, Words], _coded(lambda: OTHERWISE)]
    flow: Annotated[dict[str, Words], _coded(lambda: get_args(FlowKind))]
    weight: Annotated[dict[str, Words], _coded(lambda: get_args(Weighs))]
    lamp_name: dict[str, Words]
    typed: dict[str, Words]
    counted: Annotated[dict[str, Words], _coded(lambda: {state for of in STATES.values() for state in of})]
    from_file: dict[str, Words]
    sure: Bands
    severity: dict[str, Words]
    share_left: Bands
    proving: Annotated[dict[str, Words], _coded(lambda: proving_names())]
    area_left: Bands
    join: dict[str, Words]
    headline: Annotated[dict[str, Words], _coded(lambda: get_args(HeadlineCode))]
    headline_why: dict[str, Words]
    lamp: dict[str, Words]
    next: Annotated[dict[str, Words], _coded(lambda: set(get_args(NextCode)) - {"check"})]
    slip: Annotated[dict[str, Words], _coded(lambda: SLIPS)]
    choice: Annotated[dict[str, Words], _coded(lambda: ("mend", "check", "of_two", "nothing_left"))]
    proof: Annotated[dict[str, Words], _coded(lambda: get_args(ProofCode))]
    proof_then: Annotated[dict[str, Words], _coded(lambda: (*get_args(Decision), "settles", "overheated"))]
    proof_line: Annotated[dict[str, Words], _coded(lambda: _OF_LINES)]
    shown_by: Annotated[dict[str, Words], _coded(lambda: (*get_args(Shows), "nothing"))]
    settles: Annotated[dict[str, Words], _coded(lambda: ("once", "times"))]
    comparison: Annotated[dict[str, Words], _coded(lambda: get_args(Standing))]
    change: Annotated[dict[str, Words], _coded(lambda: ("of", "held", *get_args(Keeps)))]


#: Reasons of lines that words tell apart beyond their kinds.
_MORE_REASONS = ("consequence_of_what", "found", "along_free", "stays")


class BenchTable(Row):
    """Words of the bench."""

    area: dict[str, Words]
    problem: Annotated[dict[str, Words], _coded(lambda: get_args(DiscrepancyCode))]
    accepted: Annotated[dict[str, Words], _coded(lambda: ("missing", "nowhere"))]
    way: dict[str, Words]
    school: Annotated[dict[str, Words], _coded(lambda: SCHOOLS)]
    step: dict[str, Words]
    verb: dict[str, Words]
    because: Annotated[dict[str, Words], _coded(lambda: {*get_args(Reason), *_MORE_REASONS})]
    order: dict[str, Words]


class MeterWordsTable(Row):
    """Words of the meter."""

    means: dict[str, Words]
    then: dict[str, Words]
    circuit: dict[str, Words]
    wanted: dict[str, Words]


class SoundTable(Row):
    """Words of the sound bench."""

    source: Annotated[dict[str, Words], _coded(lambda: SOURCES)]
    says: Annotated[dict[str, Words], _coded(lambda: SOURCES)]
    again: dict[str, Words]
    healthy: dict[str, Words]
    by_hand: Annotated[dict[str, Words], _coded(lambda: SOURCES)]
    part: Annotated[dict[str, Words], _coded(lambda: [row.name for row in fields(Rates)])]
    rate: Words
    cannot: dict[str, Words]
    balance: dict[str, Words]
    note: dict[str, Words]


class SchoolTexts(Row):
    """A question that people answer differently."""

    asks: Words
    others: Words
    ours: Words
    why: Words


class MendingTable(Row):
    """Words for the part in the hand."""

    turn: Annotated[dict[str, Words], _coded(lambda: get_args(Turn))]
    end: Annotated[dict[str, Words], _coded(lambda: ENDS)]
    hand: Annotated[dict[str, Words], _coded(lambda: get_args(Hand))]
    wheel: dict[str, Words]
    attachment: Annotated[dict[str, Words], _coded(lambda: ATTACHMENTS)]
    role: Annotated[dict[str, Words], _coded(lambda: get_args(Role))]
    mark: Annotated[dict[str, Words], _coded(lambda: MARKS)]
    runs: Annotated[dict[str, Words], _coded(lambda: get_args(Role))]
    hold: Annotated[dict[str, Words], _coded(lambda: ATTACHMENTS)]
    tight: Annotated[dict[str, Words], _coded(lambda: ATTACHMENTS)]
    free: Annotated[dict[str, Words], _coded(lambda: FREEING)]
    risk: Annotated[dict[str, Words], _coded(lambda: FREEING)]
    never: dict[str, Words]
    seal: dict[str, Words]
    seal_school: SchoolTexts
    school: dict[str, SchoolTexts]
    property: Annotated[dict[str, Words], _coded(lambda: PROPERTIES)]
    resets: Annotated[dict[str, Words], _coded(lambda: get_args(Resets))]
    match: Annotated[dict[str, Words], _coded(lambda: REASONS)]
    verdict: Annotated[dict[str, Words], _coded(lambda: (*get_args(Verdict), "nothing_else"))]


class StockTable(Row):
    """Words of parts as things that are bought."""

    row: dict[str, Words]
    says: dict[str, Words]
    bring: dict[str, Words]
    pair: dict[str, Words]
    way: Annotated[dict[str, Words], _coded(lambda: get_args(Way))]
    worth: dict[str, Words]
    saves: dict[str, Words]
    school: dict[str, SchoolTexts]


class RunWarningRow(Row):
    """What a run breaks, what its numbers are of, and what the clause about it is about."""

    about: Words
    in_: Annotated[str, Field(alias="in"), _named("dimension", lambda: (*UNITS, "share", "way"))]
    text: Words


class VentTable(Row):
    """Words of a vent run."""

    warning: dict[str, RunWarningRow]
    outlet: Annotated[dict[str, Words], _coded(lambda: OUTLETS)]
    face: Annotated[dict[str, Words], _coded(lambda: FACES)]
    why_not: Annotated[dict[str, Words], _coded(lambda: (*get_args(WhyNot), "count"))]
    plan: dict[str, Words]
    clean: dict[str, Words]
    build: dict[str, Words]
    heading: Annotated[dict[str, Words], _coded(lambda: HEADINGS)]
    joins: Annotated[dict[str, Words], _coded(lambda: JOINS)]
    room: dict[str, Words]
    riser: dict[str, Words]
    never: dict[str, Words]


class CustomerTable(Row):
    """What a customer reads: our texts, which are the keys of the catalogues of other languages."""

    heading: Texts
    verdict: Annotated[Texts, _coded(lambda: get_args(ProofCode))]
    gain: Texts
    due: Texts
    reading: Texts
    complaint: Texts
    fault: Texts
    part: Texts
    act: Annotated[Texts, _coded(lambda: {name.split(".")[1] for name in table("acts")})]
    undone: Annotated[Texts, _coded(lambda: {name.split(".")[1] for name in table("acts")})]
    piece: Texts
    advice: Annotated[Texts, _coded(lambda: table("advice"))]
    safety: Texts
    reminder: Texts


class AdviceRow(Row):
    """When an advice is given: always, by a circumstance, by what was wrong."""

    always: bool = False
    circumstances: list[CircumstanceName] = Field(default_factory=list)
    faults: list[FaultName] = Field(default_factory=list)


class UpkeepTable(Row):
    """Words of what a machine asks for between visits."""

    because: Annotated[dict[str, Words], _coded(lambda: get_args(ReasonCode))]


class DrillTable(Row):
    """Words of how a drill went."""

    mend: Words
    advice: Words
    lies: Words
    level: Annotated[dict[str, Words], _coded(lambda: map(str, LEVELS))]
    case: Annotated[dict[str, Words], _coded(_names_of("ladder"))]
    unsafe: Annotated[dict[str, Words], _coded(lambda: get_args(UnsafeCode))]


def _look_row_names() -> tuple[str, ...]:
    """Rows of looks' tables that stand for more than one fault."""
    return tuple({key: None for file in CHECK_FILES for check in table(f"checks/{file}").values()
                  for key in check.get("p", {}) if key not in table("faults")})  # fmt: skip


class LearningTable(Row):
    """Words of what a workshop's own jobs taught."""

    any_machine: Words
    cause: Words
    look: Words
    row: Annotated[dict[str, Words], _coded(_look_row_names)]


class PeopleTable(Row):
    """Words of who may do what."""

    sentence: dict[str, Words]
    role: dict[str, Words]
    act: dict[str, Words]
    ask: dict[str, Words]
    work: Annotated[dict[str, Words], _coded(lambda: get_args(Qualified))]


class OperationRow(Row):
    """An operation of a layout, or one that layouts share; the rest of its rules are the layout format's."""

    use: Annotated[str, _named("shared operation", _names_of("operations"))] | None = None
    when: dict[str, list[str]] | None = None
    id: str | None = None
    does: Words | None = None
    open_minutes: Minutes | None = None
    close_minutes: Minutes | None = None
    driver: Annotated[str, _named("driver", _names_of("drivers"))] | None = None
    needs: list[list[str]] | None = None
    reaches: list[Part] | None = None
    fasteners: list[LayoutFastenerRow] | None = None
    wires: list[LayoutWireRow] | None = None
    cautions: list[Words] | None = None
    cautions_off: list[Words] | None = None
    close_before: list[str] | None = None
    people: int | None = None
    area: Annotated[str, _named("area", _words_of("area", "bench"))] | None = None
    shows: list[str] | None = None
    latch: Annotated[str, _named("latch", _names_of("latches"))] | None = None
    way: Words | None = None
    school: bool | None = None
    argued: Annotated[str, _named("school", _words_of("school", "bench"))] | None = None
    back: Words | None = None
    check: list[Words] | None = None
    uses_up: list[Part] | None = None
    carries_over: list[Part] | None = None
    gear: list[Annotated[str, _hardware("gear")]] | None = None
    qualified: Qualified | None = None
    attachment: Attachment | None = None
    role: Role | None = None


class LengthRow(Row):
    """A length with its unit."""

    value: float
    unit: str


class LayoutFastenerRow(Row):
    """Fasteners of one kind at an operation."""

    kind: Annotated[str, _hardware("fastener")]
    count: Annotated[int, Field(ge=0)]
    state: Literal["out", "loosened"]
    length: LengthRow | None = None
    goes_into: Literal["metal", "plastic"] | None = None
    thread: Annotated[str, _hardware("thread")] | None = None
    finish: Annotated[str, _hardware("finish")] | None = None
    hidden: Words | None = None
    holds: Words | None = None
    drop_hazard: bool | None = None


class LayoutWireRow(Row):
    """A wire that comes off."""

    device: Annotated[str, _hardware("device")]
    terminal: Annotated[str, _hardware("terminal")]
    colour: Annotated[str, _hardware("colour")]
    ground: bool | None = None


class VariantRow(BaseModel):
    """Something machines of a layout differ in: what to ask, and an answer a key.

    seen: a look that recognises layouts and whose answers it shares.
    """

    model_config = ConfigDict(extra="allow")
    __pydantic_extra__: dict[str, Words]

    asks: Words
    seen: Annotated[str, _named("question", _names_of("recognise"))] | None = None

    @model_validator(mode="after")
    def _shared(self) -> VariantRow:
        answers = table("recognise")[self.seen]["answers"] if self.seen else self.__pydantic_extra__
        missing = set(self.__pydantic_extra__) - set(answers)
        if missing:
            raise ValueError(f"{sorted(missing)} are no answers of '{self.seen}'; give the same ones, or no 'seen'")
        return self


class LabelRow(BaseModel):
    """A shape of the drawing; its form is the layout format's."""

    model_config = ConfigDict(extra="allow")

    label: Words | None = None


class DrawingRow(Row):
    """The cut-away."""

    air_in: list[Any]
    air_out: list[Any]
    shapes: dict[str, LabelRow]


class DrawnRow(Row):
    """What a shape of a kind stands for."""

    parts: Annotated[list[Annotated[str, _named("part", lambda: table("hardware")["part"])]], Field(min_length=1)]


class LayoutTable(Row):
    """A layout of ours; what follows from it as a document is checked by the layout format."""

    name: Annotated[str, _named("file of layouts/", layout_names)]
    title: Words
    maker: str
    driver_change_minutes: Minutes
    variants: dict[str, VariantRow] = Field(default_factory=dict)
    recognise: dict[Annotated[str, _named("question", _names_of("recognise"))], list[str]]
    electrical: dict[Annotated[str, _named("electrical part", _names_of("meter"))], Words]
    drawing: DrawingRow
    operations: Annotated[list[OperationRow], Field(min_length=1)]


OperationRow.model_rebuild()


class CurrenciesTable(Row):
    """Digits behind the point of a currency, by its code; `others`: of all that are not named."""

    digits: dict[Annotated[str, Field(pattern="^([A-Z]{3}|others)$")], Annotated[int, Field(ge=0, le=4)]]


def _act_name(name: str) -> str:
    """A name that is a part of ours and an act."""
    part, _ = part_and_act(name)
    if part not in table("hardware")["part"]:
        raise ValueError(f"'{part}' is no part of hardware.toml; give its words there")
    return name


def rows_of(row: type[BaseModel]) -> Any:
    """A table of rows by name."""
    return dict[str, row]  # type: ignore[valid-type]


@cache
def tables() -> dict[str, Any]:
    """Every table there is, by name, with the type of the whole of it."""
    of_rows: dict[str, Any] = {
        "faults": FaultRow, "readings": ReadingRow, "getting_there": LegRow, "instruments": InstrumentRow,
        "circumstances": CircumstanceRow, "complaints": ComplaintRow, "safety": SafetyRow, "closing": ClosingRow,
        "latches": LatchRow, "drivers": DriverRow, "operations": OperationRow, "meter": MeterRow,
        "supplies": SupplyRow, "code_profiles": CodeProfileRow, "recognise": QuestionRow, "profiles": ProfileRow,
        "drawn": DrawnRow, "plan_things": PlanThingRow, "duct_stock": DuctStockRow, "proving": ProvingRow,
        "advice": AdviceRow, "ladder": RungRow,
    } | {f"checks/{file}": CheckRow for file in CHECK_FILES}  # fmt: skip
    whole: dict[str, Any] = {
        "currencies": CurrenciesTable, "hardware": HardwareTable, "trade_words": TradeWords,
        "customer": CustomerTable, "words/en/codes": CodesTable,
        "words/en/bench": BenchTable, "words/en/meter_words": MeterWordsTable, "words/en/vent": VentTable,
        "words/en/sound": SoundTable, "words/en/mending": MendingTable, "words/en/stock": StockTable,
        "words/en/people": PeopleTable, "words/en/upkeep": UpkeepTable,
        "words/en/learning": LearningTable,
        "words/en/drill": DrillTable,
        "acts": dict[Annotated[str, AfterValidator(_act_name)], ActRow],
    } | {f"layouts/{name}": LayoutTable for name in layout_names()}  # fmt: skip
    return {name: rows_of(row) for name, row in of_rows.items()} | whole
