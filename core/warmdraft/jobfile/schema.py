"""The shape of `warm-draft/job`, as pydantic models. What a machine can be is checked here too."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BeforeValidator, Field, model_validator
from pydantic_core import PydanticCustomError

from warmdraft.airway import reading_dimensions
from warmdraft.checks import NO_EVIDENCE, check_names, checks, instrument_names
from warmdraft.faults import Fault, catalogue, circumstance_names, complaint_names, fault_names
from warmdraft.jobfile.hands_schema import AddedSection, CountSection, MarkSection, WaySection, WorkSection
from warmdraft.jobfile.layout_schema import LayoutDocument, Name
from warmdraft.jobfile.limits import MOST_FACTS, no_more_than
from warmdraft.jobfile.meter_schema import MeterTestSection, SupplyName
from warmdraft.jobfile.parts import (
    FactSection,
    Flow,
    LeakShare,
    Length,
    Mass,
    Number,
    Power,
    Pressure,
    Quantity,
    Rotation,
    Section,
    Share,
    Temperature,
    Uuid,
    Voltage,
    Years,
    barometric,
    between,
    check_quantity,
    in_dimension,
    one_of,
    refused,
)
from warmdraft.jobfile.plan_schema import PlanSection
from warmdraft.jobfile.stock_schema import AgreementSection, LintSection, OldPartSection, PartSaidSection
from warmdraft.jobfile.vent_schema import VentSection
from warmdraft.machine import profile_names
from warmdraft.sound import FARTHEST, PARTS, SOURCES, SoundVerdict, verdict_of, verdict_said
from warmdraft.trend import LOG_KINDS, Series
from warmdraft.trend.series import LEAST_POINTS, MOST_MINUTES, MOST_POINTS
from warmdraft.units import UNITS, scale_of

FaultName = Annotated[str, one_of("a fault", fault_names())]
Phase = Annotated[str, one_of("a phase", ("before", "after"))]


class FanSection(Section):
    shutoff_pressure: Pressure | None = None
    free_flow: Flow | None = None
    wheel_speed: Rotation | None = None


class DropsSection(Section):
    inlet: Pressure | None = None
    drum: Pressure | None = None
    lint_screen: Pressure | None = None
    lint_duct: Pressure | None = None
    exhaust_pipe: Pressure | None = None
    transition: Pressure | None = None
    run: Pressure | None = None
    hood: Pressure | None = None


class LeakShareSection(Section):
    drum_seal: LeakShare | None = None
    lint_duct_seal: LeakShare | None = None


class AirwaySection(Section):
    rated_flow: Flow | None = None
    fan: FanSection | None = None
    drop_at_rated_flow: DropsSection | None = None
    leak_share: LeakShareSection | None = None


class LimitsSection(Section):
    cycling_opens: Temperature | None = None
    cycling_closes: Temperature | None = None
    high_limit_opens: Temperature | None = None
    thermal_fuse_opens: Temperature | None = None
    thermal_cutoff_opens: Temperature | None = None


class HeatSection(Section):
    power: Power | None = None
    supply_voltage: Voltage | None = None
    limits: LimitsSection | None = None


class WheelSection(Section):
    vanes: Annotated[int, between(1, 200, "number of vanes")] | None = None
    speed_ratio: Annotated[Number, between(0.05, 20, "speed ratio")] | None = None


class DriveSection(Section):
    motor_speed: Rotation | None = None
    wheel: WheelSection | None = None
    motor_pulley_diameter: Length | None = None
    drum_diameter: Length | None = None
    roller_diameter: Length | None = None
    idler_diameter: Length | None = None
    belt_length: Length | None = None


ProfileName = Annotated[str, one_of("a profile", profile_names())]


class ReadOff(Section):
    """A number that an instrument showed, of a kind of reading."""

    kind: Annotated[str, one_of("a kind of reading", tuple(reading_dimensions()))]
    value: Number
    unit: str
    instrument: Annotated[str, one_of("an instrument", instrument_names())] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        check_quantity(self.value, self.unit, reading_dimensions()[self.kind])
        return self


class HealthySection(ReadOff):
    """A reading of this very machine when it was healthy, such as after an earlier repair."""

    heat_on: bool = False


#: How far each source of a noise stands beyond where it stands out, in steps of its own (sound.told).
StandsOut = dict[
    Annotated[str, one_of("a source that stands out", SOURCES[:-1])],
    Annotated[Number, between(-FARTHEST, FARTHEST, "how far it stands out, steps")],
]


class MachineSection(Section):
    profile: ProfileName | Annotated[list[ProfileName], Field(min_length=1, max_length=8)] | None = None
    energy: Annotated[str, one_of("a kind of energy", ("electric", "gas"))] | None = None
    layout: str | None = None
    supply: SupplyName | None = None
    connection: Annotated[str, one_of("a way to be fed", ("plug", "hard_wired"))] | None = None
    variant: dict[Name, Name] | None = None
    age_years: Years | None = None
    airway: AirwaySection | None = None
    heat: HeatSection | None = None
    drive: DriveSection | None = None
    measured_healthy: Annotated[list[HealthySection], Field(max_length=100)] | None = None
    sounds_healthy: Annotated[list[StandsOut], Field(max_length=MOST_FACTS["sounds"])] | None = None


class AirSection(Section):
    temperature: Annotated[Quantity, in_dimension("temperature")] | None = None
    pressure: Annotated[Quantity, AfterValidator(barometric)] | None = None
    relative_humidity: Share | None = None


class LoadSection(Section):
    dry_mass: Mass
    moisture: Annotated[Number, between(0, 3, "moisture, as water over dry mass")]
    fibre: str | None = None


def severity_bounds(fault: Fault) -> tuple[float, float] | None:
    """Severities a fault may be given; None where it has none."""
    if fault.range is None:
        return None
    match fault.effect:
        case "head_lost":
            return 0.0, 0.99
        case "speed_left" | "power_left":
            return 0.01, 1.0
        case "bypass":
            return 0.0, 100.0
        case "room_deficit":
            return 0.0, 1000.0
        case "outdoor_pressure":
            return -1000.0, 1000.0
        case _:
            return 0.01, 10_000.0


class FaultSection(Section):
    fault: FaultName
    severity: Number | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        bounds = severity_bounds(catalogue()[self.fault])
        if self.severity is None:
            return self
        if bounds is None:
            raise refused(f"'{self.fault}' has no severity; leave it out", "severity")
        if not bounds[0] <= self.severity <= bounds[1]:
            raise refused(
                f"{self.severity:g} is no severity of '{self.fault}'; give one from {bounds[0]:g} to {bounds[1]:g}",
                "severity",
            )
        return self


class ObservationSection(FactSection):
    heat_on: bool | None = None
    phase: Phase | None = None
    visit: Uuid | None = None
    supersedes: Uuid | None = None


class ReadingSection(ReadOff, ObservationSection):
    """A reading as a fact of a job."""


class MeterFactSection(MeterTestSection, ObservationSection):
    """A meter test as a fact of a job."""


class FindingSection(ObservationSection):
    check: Annotated[str, one_of("a check", check_names())]
    result: str

    @model_validator(mode="after")
    def _possible(self) -> Any:
        check = checks()[self.check]
        if check.given_under and self.result not in NO_EVIDENCE:
            raise refused(
                f"'{self.check}' is judged from what was read; give that under '{check.given_under}'", "check"
            )
        results = (*checks()[self.check].results, *NO_EVIDENCE)
        if self.result not in results:
            raise refused(f"'{self.result}' is no result of '{self.check}'; give one of {', '.join(results)}", "result")
        return self


class LogSection(ObservationSection):
    """A log over a run as a fact of a job: minutes from its start, values in one unit."""

    kind: Annotated[str, one_of("a kind to log", tuple(LOG_KINDS))]
    unit: str
    minutes: list[Number]
    values: list[Number]
    instrument: Annotated[str, one_of("an instrument", instrument_names())] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        if len(self.minutes) != len(self.values):
            raise refused(f"has {len(self.values)} entries, minutes has {len(self.minutes)}; give as many", "values")
        if not LEAST_POINTS <= len(self.values) <= MOST_POINTS:
            raise refused(f"has {len(self.values)} entries; a log has {LEAST_POINTS} to {MOST_POINTS}", "values")
        if any(b < a for a, b in pairwise(self.minutes)) or self.minutes[0] == self.minutes[-1]:
            raise refused("do not rise; give the minutes of the run in order", "minutes")
        if not (self.minutes[0] >= 0 and self.minutes[-1] <= MOST_MINUTES):
            raise refused(f"lie outside 0 to {MOST_MINUTES:g}; give minutes from the start of the run", "minutes")
        for value in (min(self.values), max(self.values)):
            try:
                # a log may well hold a moment without any flow, which as a single reading would be a slip
                if value != 0 or LOG_KINDS[self.kind] != "flow":
                    check_quantity(value, self.unit, LOG_KINDS[self.kind])
                elif self.unit not in UNITS["flow"].names:
                    check_quantity(1, self.unit, "flow")
            except PydanticCustomError as error:
                said = (error.context or {})["said"]
                raise refused(said, "unit" if "give one of" in said else "values") from None
        return self

    def series(self) -> Series:
        """As the core computes with it."""
        factor, offset = scale_of(self.unit, LOG_KINDS[self.kind])
        return Series(self.kind, tuple(self.minutes), tuple(value * factor + offset for value in self.values))


PartName = Annotated[str, one_of("a part that turns", PARTS)]


class SoundSection(ObservationSection):
    """What a recording told as a fact of a job. scores: how much speaks for each source; without them the verdict is
    taken as somebody said it. stands: how far each stands out, to be held beside healthy machines. rates: Hz, as heard.
    healthy: another machine of the kind that runs well, or this one once it does: others are held beside it."""

    part: Annotated[str, Field(max_length=80)] | None = None
    verdict: Annotated[str, one_of("a source of a sound", SOURCES)]
    scores: dict[Annotated[str, one_of("a source of a sound", SOURCES)], Share] | None = None
    stands: StandsOut | None = None
    healthy: bool | None = None
    rates: (
        dict[Annotated[str, one_of("a part that turns", PARTS)], Annotated[Number, between(0, 500, "rate, Hz")]] | None
    ) = None
    seconds: Annotated[Number, between(0, 3600, "length of a recording, s")] | None = None
    clipped: Share | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        if self.scores is None:
            return self
        if not sum(self.scores.values()) > 0:
            raise refused("speak for nothing; give how much speaks for each source, or leave them out", "scores")
        if self.scores.get(self.verdict, 0.0) < max(self.scores.values()):
            raise refused(f"'{self.verdict}' is not the one that most speaks for; give that one", "verdict")
        return self

    def told(self) -> SoundVerdict:
        """As the core computes with it."""
        if self.scores is None:
            return verdict_said(self.verdict)
        told = verdict_of(self.scores, dict(self.rates or {}))
        return replace(told, stands=tuple((self.stands or {}).items()))


class CauseSection(FaultSection, FactSection):
    """A cause the work goes by, that someone takes it to have been, or that it was."""

    kind: Annotated[str, one_of("a kind of cause", ("working", "proposed", "confirmed"))]
    heat_unexplained: bool | None = None


def _most(key: str) -> BeforeValidator:
    return no_more_than(MOST_FACTS[key], key)


class WithdrawnSection(Section):
    """What was read or seen and taken back since: it speaks for nothing, and is not forgotten."""

    readings: Annotated[list[ReadingSection] | None, _most("readings")] = None
    findings: Annotated[list[FindingSection] | None, _most("findings")] = None
    meter: Annotated[list[MeterFactSection] | None, _most("meter")] = None
    logs: Annotated[list[LogSection] | None, _most("logs")] = None
    sounds: Annotated[list[SoundSection] | None, _most("sounds")] = None
    works: Annotated[list[WorkSection] | None, _most("works")] = None
    added: Annotated[list[AddedSection] | None, _most("added")] = None
    old_parts: Annotated[list[OldPartSection] | None, _most("old_parts")] = None
    agreements: Annotated[list[AgreementSection] | None, _most("agreements")] = None
    lint: Annotated[list[LintSection] | None, _most("lint")] = None


class JobDocument(Section):
    """A job as a file: `warm-draft/job`, version 1."""

    format: Literal["warm-draft/job"]
    version: Literal[1]
    title: str | None = None
    notes: str | None = None
    machine: MachineSection | None = None
    circumstances: list[Annotated[str, one_of("a circumstance", circumstance_names())]] | None = None
    complaints: list[Annotated[str, one_of("a complaint", complaint_names())]] | None = None
    air: AirSection | None = None
    vent: VentSection | None = None
    plan: PlanSection | None = None
    load: LoadSection | None = None
    suppose: list[FaultSection] | None = None
    readings: Annotated[list[ReadingSection] | None, _most("readings")] = None
    findings: Annotated[list[FindingSection] | None, _most("findings")] = None
    meter: Annotated[list[MeterFactSection] | None, _most("meter")] = None
    logs: Annotated[list[LogSection] | None, _most("logs")] = None
    sounds: Annotated[list[SoundSection] | None, _most("sounds")] = None
    works: Annotated[list[WorkSection] | None, _most("works")] = None
    added: Annotated[list[AddedSection] | None, _most("added")] = None
    marks: Annotated[list[MarkSection] | None, _most("marks")] = None
    counts: Annotated[list[CountSection] | None, _most("counts")] = None
    ways: Annotated[list[WaySection] | None, _most("ways")] = None
    causes: Annotated[list[CauseSection] | None, _most("causes")] = None
    old_parts: Annotated[list[OldPartSection] | None, _most("old_parts")] = None
    parts: Annotated[list[PartSaidSection] | None, _most("parts")] = None
    agreements: Annotated[list[AgreementSection] | None, _most("agreements")] = None
    lint: Annotated[list[LintSection] | None, _most("lint")] = None
    confirmed: list[FaultSection] | None = None
    withdrawn: WithdrawnSection | None = None
    layout: LayoutDocument | None = None
    handed_over: bool | None = None
