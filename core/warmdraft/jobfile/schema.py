"""The shape of `warm-draft/job`, as pydantic models. What a machine can be is checked here too."""

from __future__ import annotations

import math
import uuid
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from warmdraft.checks import NO_EVIDENCE, check_names, checks, instrument_names, reading_dimensions
from warmdraft.errors import UnitError
from warmdraft.faults import Fault, catalogue, circumstance_names, complaint_names, fault_names
from warmdraft.machine import profile_names
from warmdraft.units import UNITS, Dimension, to_si


def wrong(message: str, at: str = "") -> PydanticCustomError:
    """An error of ours; `at` names the key below the place pydantic stands at. Braces are pydantic's own syntax."""
    return PydanticCustomError("warm_draft", "{said}", {"said": message, "at": at})


class Part(BaseModel):
    """Every object of a document: unknown keys are errors, but for those that begin with x-."""

    model_config = ConfigDict(strict=True, extra="allow", allow_inf_nan=False)

    @model_validator(mode="before")
    @classmethod
    def _no_nulls(cls, value: Any) -> Any:
        if isinstance(value, dict):
            for key, part in value.items():
                if part is None and not str(key).startswith("x-"):
                    raise wrong("null says nothing; leave the key out, or give a value", str(key))
        return value

    @model_validator(mode="after")
    def _no_unknown_keys(self) -> Any:
        for key in self.model_extra or {}:
            if not key.startswith("x-"):
                known = ", ".join(sorted(field.alias or name for name, field in type(self).model_fields.items()))
                raise wrong(f"'{key}' is not known here; give one of {known}, or begin a key of your own with x-", key)
        return self


class Quantity(Part):
    """A number with its unit."""

    value: float
    unit: str

    def si(self, dimension: Dimension) -> float:
        """In the dimension's canonical unit."""
        return to_si(self.value, self.unit, dimension)


#: What no machine can be, in canonical units: (least, most, whether the least itself is allowed).
BOUNDS: dict[Dimension, tuple[float, float, bool]] = {
    "flow": (1e-4, 1.0, True),
    "pressure": (0.0, 10_000.0, True),
    "temperature": (-60.0, 500.0, True),
    "temperature_difference": (0.0, 500.0, True),
    "length": (0.0, 200.0, False),
    "power": (0.0, 100_000.0, False),
    "voltage": (0.0, 1000.0, True),
    "current": (0.0, 500.0, True),
    "electrical_resistance": (0.0, 1e9, True),
    "rotation": (0.0, 30_000.0, True),
    "mass": (0.0, 200.0, False),
    "time": (0.0, 24 * 60.0, False),
    "air_speed": (0.0, 100.0, True),
}


def check_quantity(value: float, unit: str, dimension: Dimension, positive: bool = False) -> None:
    """Raise what is wrong with a quantity, if anything."""
    try:
        number = to_si(value, unit, dimension)
    except UnitError as error:
        raise wrong(str(error), "unit" if unit not in UNITS[dimension].names else "value") from None
    least, most, closed = BOUNDS[dimension]
    low_enough = number > least if positive or not closed else number >= least * (1 - 1e-12)
    if not (low_enough and number <= most * (1 + 1e-12)):
        canonical = UNITS[dimension].canonical
        from_ = "above" if positive or not closed else "from"
        raise wrong(
            f"{value:g} {unit} is {UNITS[dimension].noun} no machine has; give one {from_} {least:g} to {most:g} "
            f"{canonical}",
            "value",
        )


def _of(dimension: Dimension, positive: bool = False) -> Any:
    def check(quantity: Quantity) -> Quantity:
        check_quantity(quantity.value, quantity.unit, dimension, positive)
        return quantity

    return AfterValidator(check)


Flow = Annotated[Quantity, _of("flow")]
Pressure = Annotated[Quantity, _of("pressure", positive=True)]
Temperature = Annotated[Quantity, _of("temperature")]
Length = Annotated[Quantity, _of("length")]
Power = Annotated[Quantity, _of("power")]
Voltage = Annotated[Quantity, _of("voltage", positive=True)]
Rotation = Annotated[Quantity, _of("rotation", positive=True)]
Mass = Annotated[Quantity, _of("mass")]


def _barometric(quantity: Quantity) -> Quantity:
    try:
        pressure = quantity.si("pressure")
    except UnitError as error:
        raise wrong(str(error), "unit") from None
    if not 30_000 <= pressure <= 120_000:
        raise wrong(
            f"{quantity.value:g} {quantity.unit} is no air pressure; give the barometer's, 300 to 1200 hPa", "value"
        )
    return quantity


def _number(value: Any) -> Any:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise wrong(f"{value!r} is not a number; give one")
    if not math.isfinite(value):
        raise wrong(f"{value} is not a finite number; give one")
    return float(value)


def _between(least: float, most: float, what: str, below: bool = False) -> Any:
    def check(value: float) -> float:
        if not (least <= value < most if below else least <= value <= most):
            upper = f"below {most:g}" if below else f"{most:g}"
            raise wrong(f"{value:g} is no {what}; give one from {least:g} to {upper}")
        return value

    return AfterValidator(check)


Number = Annotated[float, BeforeValidator(_number)]
Share = Annotated[Number, _between(0, 1, "share")]
LeakShare = Annotated[Number, _between(0, 1, "leak share", below=True)]
Years = Annotated[Number, _between(0, 100, "age in years")]


def _one_of(what: str, names: tuple[str, ...]) -> BeforeValidator:
    def check(value: Any) -> Any:
        if not isinstance(value, str) or value not in names:
            raise wrong(f"{value!r} is not {what}; give one of {', '.join(names)}")
        return value

    return BeforeValidator(check)


def _uuid(value: Any) -> Any:
    try:
        if not isinstance(value, str) or str(uuid.UUID(value)) != value.lower():
            raise ValueError
    except ValueError:
        raise wrong(f"{value!r} is not a UUID; give one such as 0190b2c4-7d1e-7a3b-8c5d-0123456789ab") from None
    return value.lower()


def _moment(value: Any) -> Any:
    try:
        if not isinstance(value, str) or datetime.fromisoformat(value).tzinfo is None:
            raise ValueError
    except ValueError:
        raise wrong(
            f"{value!r} is not a moment; give date, time and offset, such as 2027-02-03T10:20:00+01:00"
        ) from None
    return value


Uuid = Annotated[str, BeforeValidator(_uuid)]
Moment = Annotated[str, BeforeValidator(_moment)]
FaultName = Annotated[str, _one_of("a fault", fault_names())]
Phase = Annotated[str, _one_of("a phase", ("before", "after"))]


class FanPart(Part):
    shutoff_pressure: Pressure | None = None
    free_flow: Flow | None = None
    wheel_speed: Rotation | None = None


class DropsPart(Part):
    inlet: Pressure | None = None
    drum: Pressure | None = None
    lint_screen: Pressure | None = None
    lint_duct: Pressure | None = None
    exhaust_pipe: Pressure | None = None
    transition: Pressure | None = None
    run: Pressure | None = None
    hood: Pressure | None = None


class LeakSharePart(Part):
    drum_seal: LeakShare | None = None
    lint_duct_seal: LeakShare | None = None


class AirwayPart(Part):
    rated_flow: Flow | None = None
    fan: FanPart | None = None
    drop_at_rated_flow: DropsPart | None = None
    leak_share: LeakSharePart | None = None


class LimitsPart(Part):
    cycling_opens: Temperature | None = None
    cycling_closes: Temperature | None = None
    high_limit_opens: Temperature | None = None
    thermal_fuse_opens: Temperature | None = None
    thermal_cutoff_opens: Temperature | None = None


class HeatPart(Part):
    power: Power | None = None
    supply_voltage: Voltage | None = None
    limits: LimitsPart | None = None


class WheelPart(Part):
    vanes: Annotated[int, _between(1, 200, "number of vanes")] | None = None
    speed_ratio: Annotated[Number, _between(0.05, 20, "speed ratio")] | None = None


class DrivePart(Part):
    motor_speed: Rotation | None = None
    wheel: WheelPart | None = None
    motor_pulley_diameter: Length | None = None
    drum_diameter: Length | None = None
    roller_diameter: Length | None = None
    idler_diameter: Length | None = None
    belt_length: Length | None = None


class MachinePart(Part):
    profile: Annotated[str, _one_of("a profile", profile_names())] | None = None
    energy: Annotated[str, _one_of("a kind of energy", ("electric", "gas"))] | None = None
    layout: str | None = None
    age_years: Years | None = None
    airway: AirwayPart | None = None
    heat: HeatPart | None = None
    drive: DrivePart | None = None


class AirPart(Part):
    temperature: Annotated[Quantity, _of("temperature")] | None = None
    pressure: Annotated[Quantity, AfterValidator(_barometric)] | None = None
    relative_humidity: Share | None = None


class PiecePart(Part):
    piece: Annotated[str, _one_of("a piece", ("straight", "elbow", "flexible", "pinch", "hood"))]
    length: Length | None = None
    material: Annotated[str, _one_of("a material", ("galvanised", "aluminium", "smooth"))] | None = None
    angle: Annotated[Number, _between(1, 180, "angle in degrees")] | None = None
    style: Annotated[str, _one_of("a style", ("mitred", "smooth", "flap", "open"))] | None = None
    radius: Length | None = None
    compression: Share | None = None
    open_share: Annotated[Number, _between(0.01, 1, "open share")] | None = None

    @model_validator(mode="after")
    def _complete(self) -> Any:
        wanted = {
            "straight": ("length", "material"),
            "elbow": ("angle", "style"),
            "flexible": ("length", "compression"),
            "pinch": ("open_share",),
            "hood": ("style",),
        }
        for key in wanted[self.piece]:
            if getattr(self, key) is None:
                raise wrong(f"'{key}' is missing; a piece '{self.piece}' needs it", key)
        styles = {"elbow": ("mitred", "smooth"), "hood": ("flap", "open")}.get(self.piece)
        if styles and self.style not in styles:
            raise wrong(f"'{self.style}' is no style of '{self.piece}'; give one of {', '.join(styles)}", "style")
        return self


class VentPart(Part):
    format: Literal["warm-draft/vent"] | None = None
    version: Literal[1] | None = None
    diameter: Length
    flow: Flow | None = None
    air_temperature: Temperature | None = None
    code_profile: str | None = None
    pieces: Annotated[list[PiecePart], Field(min_length=1)]
    lint_layer: Length | None = None


class LoadPart(Part):
    dry_mass: Mass
    moisture: Annotated[Number, _between(0, 3, "moisture, as water over dry mass")]
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
        case _:
            return 0.01, 10_000.0


class FaultPart(Part):
    fault: FaultName
    severity: Number | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        bounds = severity_bounds(catalogue()[self.fault])
        if self.severity is None:
            return self
        if bounds is None:
            raise wrong(f"'{self.fault}' has no severity; leave it out", "severity")
        if not bounds[0] <= self.severity <= bounds[1]:
            raise wrong(
                f"{self.severity:g} is no severity of '{self.fault}'; give one from {bounds[0]:g} to {bounds[1]:g}",
                "severity",
            )
        return self


class FactPart(Part):
    id: Uuid | None = None
    heat_on: bool | None = None
    phase: Phase | None = None
    visit: Uuid | None = None
    at: Moment | None = None
    by: str | None = None
    supersedes: Uuid | None = None


class ReadingPart(FactPart):
    kind: Annotated[str, _one_of("a kind of reading", tuple(reading_dimensions()))]
    value: Number
    unit: str
    instrument: Annotated[str, _one_of("an instrument", instrument_names())] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        check_quantity(self.value, self.unit, reading_dimensions()[self.kind])
        return self


LOOKS = tuple(name for name in check_names() if checks()[name].results)


class FindingPart(FactPart):
    check: Annotated[str, _one_of("a check", check_names())]
    result: str

    @model_validator(mode="after")
    def _possible(self) -> Any:
        results = (*checks()[self.check].results, *NO_EVIDENCE)
        if self.result not in results:
            raise wrong(f"'{self.result}' is no result of '{self.check}'; give one of {', '.join(results)}", "result")
        return self


class JobDocument(Part):
    """A job as a file: `warm-draft/job`, version 1."""

    format: Literal["warm-draft/job"]
    version: Literal[1]
    title: str | None = None
    notes: str | None = None
    machine: MachinePart | None = None
    circumstances: list[Annotated[str, _one_of("a circumstance", circumstance_names())]] | None = None
    complaints: list[Annotated[str, _one_of("a complaint", complaint_names())]] | None = None
    air: AirPart | None = None
    vent: VentPart | None = None
    load: LoadPart | None = None
    suppose: list[FaultPart] | None = None
    readings: list[ReadingPart] | None = None
    findings: list[FindingPart] | None = None
    confirmed: list[FaultPart] | None = None


def job_schema() -> dict[str, Any]:
    """JSON Schema of a job, generated from the code that validates it."""
    schema = JobDocument.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    return schema
