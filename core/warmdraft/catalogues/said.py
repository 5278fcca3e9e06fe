"""The shape of the tables of words: each code there is has its words, and none that is not."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import fields
from typing import Annotated, Any, get_args

from pydantic import AfterValidator, Field

from warmdraft.airway import NODES
from warmdraft.catalogues.judged import Bands
from warmdraft.catalogues.names import CircumstanceName, FaultName, Qualified, Row, Says, Texts, Words, named, names_of
from warmdraft.checks import ACCESS, CHECK_FILES
from warmdraft.diagnosis import OTHERWISE, SUSPICIONS, HeadlineCode, Weighs
from warmdraft.diagnosis.flow import FlowKind
from warmdraft.diagnosis.slips import SLIPS
from warmdraft.drill import LEVELS, UnsafeCode
from warmdraft.faults import ELEMENT_NAMES, ZONES
from warmdraft.mending import ATTACHMENTS, ENDS, FREEING, MARKS, PROPERTIES, REASONS, Hand, Resets, Role, Turn, Verdict
from warmdraft.proof import Decision, Keeps, ProofCode, Shows, Standing
from warmdraft.sound import SOURCES, Rates
from warmdraft.stock import Way
from warmdraft.tables import table
from warmdraft.teardown import SCHOOLS
from warmdraft.teardown.bench import STATES, DiscrepancyCode
from warmdraft.trend import SHAPES
from warmdraft.units import UNITS
from warmdraft.upkeep import ReasonCode
from warmdraft.vent import FACES, HEADINGS, JOINS, OUTLETS
from warmdraft.work import STAGES, Reason
from warmdraft.work.proving import proving_names
from warmdraft.work.redrawn import WhyNot
from warmdraft.work.stages import NextCode


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
    in_: Annotated[str, Field(alias="in"), named("dimension", lambda: (*UNITS, "share", "way"))]
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
    case: Annotated[dict[str, Words], _coded(names_of("ladder"))]
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
