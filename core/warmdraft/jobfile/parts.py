"""What every document is made of: objects without unknown keys, quantities, names, moments."""

from __future__ import annotations

import math
import uuid
from typing import Annotated, Any, ClassVar

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, model_validator
from pydantic_core import PydanticCustomError

from warmdraft.errors import UnitError
from warmdraft.moments import WANTED, moment_of
from warmdraft.units import UNITS, Dimension, from_si, to_si


def refused(message: str, at: str = "") -> PydanticCustomError:
    """An error of ours; `at` names the key below the place pydantic stands at. Braces are pydantic's own syntax."""
    return PydanticCustomError("warm_draft", "{said}", {"said": message, "at": at})


class Section(BaseModel):
    """Every object of a document: unknown keys are errors, but for those that begin with x-."""

    model_config = ConfigDict(strict=True, extra="allow", allow_inf_nan=False)
    #: Keys whose null says something.
    may_be_null: ClassVar[tuple[str, ...]] = ()

    @model_validator(mode="before")
    @classmethod
    def _no_nulls(cls, value: Any) -> Any:
        if isinstance(value, dict):
            for key, part in value.items():
                if part is None and key not in cls.may_be_null and not str(key).startswith("x-"):
                    raise refused("null says nothing; leave the key out, or give a value", str(key))
        return value

    @model_validator(mode="after")
    def _no_unknown_keys(self) -> Any:
        for key in self.model_extra or {}:
            if not key.startswith("x-"):
                known = ", ".join(sorted(field.alias or name for name, field in type(self).model_fields.items()))
                raise refused(
                    f"'{key}' is not known here; give one of {known}, or begin a key of your own with x-", key
                )
        return self


class Quantity(Section):
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
        raise refused(str(error), "unit" if unit not in UNITS[dimension].names else "value") from None
    least, most, closed = BOUNDS[dimension]
    low_enough = number > least if positive or not closed else number >= least * (1 - 1e-12)
    if not (low_enough and number <= most * (1 + 1e-12)):
        bottom, top = (from_si(bound, unit, dimension) for bound in (least, most))
        from_ = "above" if positive or not closed else "from"
        raise refused(
            f"{value:g} {unit} is {UNITS[dimension].noun} no machine has; give one {from_} {bottom:.4g} to {top:.4g} "
            f"{unit}",
            "value",
        )


def in_dimension(dimension: Dimension, positive: bool = False) -> Any:
    def check(quantity: Quantity) -> Quantity:
        check_quantity(quantity.value, quantity.unit, dimension, positive)
        return quantity

    return AfterValidator(check)


Flow = Annotated[Quantity, in_dimension("flow")]
Pressure = Annotated[Quantity, in_dimension("pressure", positive=True)]
Temperature = Annotated[Quantity, in_dimension("temperature")]
Length = Annotated[Quantity, in_dimension("length")]
Power = Annotated[Quantity, in_dimension("power")]
Voltage = Annotated[Quantity, in_dimension("voltage", positive=True)]
Rotation = Annotated[Quantity, in_dimension("rotation", positive=True)]
Mass = Annotated[Quantity, in_dimension("mass")]


def barometric(quantity: Quantity) -> Quantity:
    try:
        pressure = quantity.si("pressure")
    except UnitError as error:
        raise refused(str(error), "unit") from None
    if not 30_000 <= pressure <= 120_000:
        raise refused(
            f"{quantity.value:g} {quantity.unit} is no air pressure; give the barometer's, 300 to 1200 hPa", "value"
        )
    return quantity


def _number(value: Any) -> Any:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise refused(f"{value!r} is not a number; give one")
    if not math.isfinite(value):
        raise refused(f"{value} is not a finite number; give one")
    return float(value)


def between(least: float, most: float, what: str, below: bool = False) -> Any:
    def check(value: float) -> float:
        if not (least <= value < most if below else least <= value <= most):
            upper = f"below {most:g}" if below else f"{most:g}"
            raise refused(f"{value:g} is no {what}; give one from {least:g} to {upper}")
        return value

    return AfterValidator(check)


Number = Annotated[float, BeforeValidator(_number)]
Share = Annotated[Number, between(0, 1, "share")]
LeakShare = Annotated[Number, between(0, 1, "leak share", below=True)]
Years = Annotated[Number, between(0, 100, "age in years")]


def one_of(what: str, names: tuple[str, ...]) -> BeforeValidator:
    def check(value: Any) -> Any:
        if not isinstance(value, str) or value not in names:
            raise refused(f"{value!r} is not {what}; give one of {', '.join(names)}")
        return value

    return BeforeValidator(check)


def _uuid(value: Any) -> Any:
    try:
        if not isinstance(value, str) or str(uuid.UUID(value)) != value.lower():
            raise ValueError
    except ValueError:
        raise refused(f"{value!r} is not a UUID; give one such as 0190b2c4-7d1e-7a3b-8c5d-0123456789ab") from None
    return value.lower()


def _moment(value: Any) -> Any:
    if not isinstance(value, str):
        raise refused(f"{value!r} is not a moment; {WANTED}")
    try:
        moment_of(value)
    except ValueError as error:
        raise refused(str(error)) from None
    return value


Uuid = Annotated[str, BeforeValidator(_uuid)]
Moment = Annotated[str, BeforeValidator(_moment)]


class FactSection(Section):
    """Something recorded: all three may be left out by somebody who writes a file by hand."""

    id: Uuid | None = None
    at: Moment | None = None
    by: str | None = None
