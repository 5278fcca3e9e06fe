"""The shape of the tables that a verdict is made from: faults, checks, readings, what is asked and supposed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from warmdraft.airway import READING_KINDS
from warmdraft.catalogues.names import (
    ActNames,
    CheckName,
    CircumstanceName,
    ComplaintName,
    Dimension,
    Element,
    FaultName,
    KindName,
    Minutes,
    Node,
    Part,
    Qualified,
    Row,
    Share,
    SupplyName,
    Words,
    Zone,
    named,
    names_of,
    words_of,
)
from warmdraft.checks import ACCESS, CHECK_FILES, SWAPS
from warmdraft.diagnosis.hypotheses import FELT_COLUMN
from warmdraft.drill import LEVELS, MOST_WRONG
from warmdraft.faults import ABOUT
from warmdraft.machine import ELEMENTS
from warmdraft.tables import table
from warmdraft.work.proving import WHEN

_CHECK_TABLES = [f"checks/{file}" for file in CHECK_FILES]


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
        check_results(self.found.items())
        return self


def check_results(pairs: Iterable[tuple[str, str]]) -> None:
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
    target: Annotated[str, named("element, seal or opening", lambda: (*ELEMENTS, *_SEALS))] | None = None
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
    complaints: dict[ComplaintName, Annotated[float, Field(gt=0)]] = Field(default_factory=dict)
    consequences: list[Annotated[str, named("consequence", words_of("consequence"))]]
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


def _with() -> Iterable[str]:
    return [*table("instruments"), *table("words/en/codes")["sense"]]


class CheckRow(Row):
    """A check: how far one has to go, with what, what it observes or how likely each result is."""

    do: Words
    how: Words
    node: Node
    access: Annotated[str, named("access", lambda: ACCESS)]
    first: list[Annotated[str, named("way to get there", names_of("getting_there"))]] = Field(default_factory=list)
    minutes: Minutes
    wait_minutes: Minutes = 0.0
    with_: Annotated[str, Field(alias="with"), named("instrument or sense", _with)]
    hazard: Annotated[str, named("hazard", words_of("hazard"))]
    qualified: Qualified | None = None
    observes: KindName | None = None
    results: dict[str, Words] = Field(default_factory=dict)
    p: dict[str, list[Share]] = Field(default_factory=dict)
    felt: Annotated[str, named("flow that is felt", lambda: FELT_COLUMN)] | None = None
    swap: Annotated[str, named("swap", lambda: SWAPS)] | None = None
    heat: bool = False
    meters: Annotated[str, named("electrical part", names_of("meter"))] | None = None
    logs: list[KindName] = Field(default_factory=list)
    recorded: bool = False
    heard: bool = False
    stopped: bool = False
    one_motor: bool = False
    energy: Literal["electric", "gas"] | None = None
    complaints: list[ComplaintName] = Field(default_factory=list)

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


class CircumstanceRow(Row):
    """What moves priors, by fault and factor; lint: how many times faster a machine fills with it;
    loads: a week, where nobody has counted."""

    words: Words
    lint: Annotated[float, Field(gt=0)] = 1.0
    loads: Annotated[float, Field(gt=0)] | None = None
    about: Annotated[str, named("what is shown after the work", lambda: ABOUT)] | None = None
    times: Annotated[dict[FaultName, Annotated[float, Field(gt=0)]], Field(min_length=1)]
    source: Words | None = None


class ComplaintRow(Row):
    """What brings the technician; stop: what has to be done before anything else; about: what is shown to be gone
    after the work; times: how it moves priors."""

    words: Words
    about: Annotated[str, named("what is shown after the work", lambda: ABOUT)] | None = None
    stop: Words | None = None
    times: dict[FaultName, Annotated[float, Field(gt=0)]] = Field(default_factory=dict)


class ProvingRow(Row):
    """What is proven after the work. checks: any of them shows it; when: the jobs that ask for it; must: before the
    record."""

    checks: Annotated[list[CheckName], Field(min_length=1)]
    when: Annotated[str, named("what a job is about", lambda: WHEN)]
    must: bool


class SupposedRow(Row):
    """A fault that a case hides, as in a job file's `suppose`."""

    fault: FaultName
    severity: Annotated[float, Field(gt=0)] | None = None


class RungRow(Row):
    """A case to train on: parts of a job file, and what is hidden of it."""

    level: Annotated[int, named("level", lambda: LEVELS)]
    machine: dict[str, str]
    complaints: Annotated[list[ComplaintName], Field(min_length=1)]
    circumstances: list[CircumstanceName] = Field(default_factory=list)
    wrong: Annotated[list[SupposedRow], Field(min_length=1, max_length=MOST_WRONG)]
    lies: dict[Annotated[str, named("reading", lambda: READING_KINDS)], Annotated[float, Field(gt=0)]] = Field(
        default_factory=dict
    )


class BandRow(Row):
    """From what least value on something is called so."""

    least: float
    text: Words


class Bands(Row):
    """Words for numbers, the largest first."""

    words: list[BandRow]
