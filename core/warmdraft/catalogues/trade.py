"""The shape of the tables of the trade: acts, safety, closing, hardware, meters, fittings, kinds of machine."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from warmdraft.catalogues.judged import check_results
from warmdraft.catalogues.names import (
    ActName,
    CheckName,
    Energies,
    KindName,
    Minutes,
    Part,
    Qualified,
    Row,
    Share,
    Supplies,
    Words,
    hardware,
    named,
    names_of,
    words_of,
)
from warmdraft.repair import part_and_act
from warmdraft.tables import table


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
    tools: list[Annotated[str, hardware("tool")]] = Field(default_factory=list)
    gear: list[Annotated[str, hardware("gear")]] = Field(default_factory=list)
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
        check_results((check, result) for check, asks in self.found.items() for result in asks)
        return self


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
    fits_also: list[Annotated[str, named("driver", names_of("drivers"))]] = Field(default_factory=list)


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
    circuit: Annotated[str, named("circuit", words_of("circuit", "meter_words"))]
    mend: ActName
    one_shot: bool = False
    opens_hot: bool = False
    consequence: Annotated[str, named("consequence", words_of("consequence"))] | None = None
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


def _act_name(name: str) -> str:
    """A name that is a part of ours and an act."""
    part, _ = part_and_act(name)
    if part not in table("hardware")["part"]:
        raise ValueError(f"'{part}' is no part of hardware.toml; give its words there")
    return name
