"""Units as people write them, turned into SI floats once, at the edge.

Inside the core every number is SI and carries its unit in its name. Here stand the names that files and people may
use, by dimension, and the two conversions. The factors come from pint, imported on first use, so that the physics
does not wait for it.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Any, Literal

from warmdraft.errors import UnitError

Dimension = Literal[
    "flow", "pressure", "temperature", "temperature_difference", "length", "power", "voltage", "current",
    "electrical_resistance", "rotation", "mass", "time", "air_speed",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class UnitChoice:
    """The units one dimension may be given in.

    noun: how an error speaks of it; canonical: the unit answers are given in; names: file name -> pint's expression.
    """

    noun: str
    canonical: str
    names: dict[str, str]


UNITS: dict[Dimension, UnitChoice] = {
    "flow": UnitChoice(
        "a flow", "m3/s", {"m3/s": "m**3/s", "L/s": "liter/s", "m3/h": "m**3/hour", "cfm": "foot**3/minute"}
    ),
    "pressure": UnitChoice(
        "a pressure",
        "Pa",
        {"Pa": "Pa", "kPa": "kPa", "hPa": "hPa", "mbar": "mbar", "inH2O": "inH2O", "mmH2O": "mmH2O", "psi": "psi"},
    ),
    "temperature": UnitChoice("a temperature", "degC", {"degC": "degC", "degF": "degF", "K": "K"}),
    "temperature_difference": UnitChoice("a temperature difference", "K", {"K": "K", "delta_degF": "delta_degF"}),
    "length": UnitChoice("a length", "m", {"m": "m", "mm": "mm", "cm": "cm", "in": "inch", "ft": "foot"}),
    "power": UnitChoice("a power", "W", {"W": "W", "kW": "kW", "Btu/h": "Btu/hour"}),
    "voltage": UnitChoice("a voltage", "V", {"V": "V"}),
    "current": UnitChoice("a current", "A", {"A": "A"}),
    "electrical_resistance": UnitChoice("a resistance", "ohm", {"ohm": "ohm", "kohm": "kiloohm"}),
    # A speed of rotation is counted, not an angle: 1 Hz is 60 rpm.
    "rotation": UnitChoice("a speed of rotation", "rpm", {"rpm": "1/minute", "Hz": "1/s"}),
    "mass": UnitChoice("a mass", "kg", {"kg": "kg", "g": "g", "lb": "pound", "oz": "ounce"}),
    "time": UnitChoice("a time", "min", {"s": "s", "min": "minute", "h": "hour"}),
    "air_speed": UnitChoice("an air speed", "m/s", {"m/s": "m/s", "ft/min": "foot/minute"}),
}

# What people type or say, lower case and without spaces, for the names above.
TYPED: dict[Dimension, dict[str, str]] = {
    "flow": {"cfm": "cfm", "l/s": "L/s", "ls": "L/s", "m3/h": "m3/h", "m³/h": "m3/h", "m3/s": "m3/s", "m³/s": "m3/s"},
    "pressure": {
        "pa": "Pa", "kpa": "kPa", "hpa": "hPa", "mbar": "mbar", "in": "inH2O", '"': "inH2O", "inh2o": "inH2O",
        "inh₂o": "inH2O", "inwc": "inH2O", "inwg": "inH2O", "mmh2o": "mmH2O", "mm": "mmH2O", "psi": "psi",
    },
    "temperature": {"c": "degC", "°c": "degC", "degc": "degC", "f": "degF", "°f": "degF", "degf": "degF", "k": "K"},
    "temperature_difference": {
        "k": "K", "c": "K", "°c": "K", "f": "delta_degF", "°f": "delta_degF", "delta_degf": "delta_degF",
    },
    "length": {"m": "m", "mm": "mm", "cm": "cm", "in": "in", '"': "in", "ft": "ft", "'": "ft"},
    "power": {"w": "W", "kw": "kW", "btu/h": "Btu/h"},
    "voltage": {"v": "V", "volt": "V", "volts": "V"},
    "current": {"a": "A", "amp": "A", "amps": "A"},
    "electrical_resistance": {"ohm": "ohm", "ω": "ohm", "ohms": "ohm", "kohm": "kohm", "kω": "kohm"},
    "rotation": {"rpm": "rpm", "hz": "Hz", "1/min": "rpm"},
    "mass": {"kg": "kg", "g": "g", "lb": "lb", "lbs": "lb", "oz": "oz"},
    "time": {"s": "s", "sec": "s", "min": "min", "m": "min", "h": "h"},
    "air_speed": {"m/s": "m/s", "ft/min": "ft/min", "fpm": "ft/min"},
}  # fmt: skip


def unit_names(dimension: Dimension) -> tuple[str, ...]:
    """The unit names a file may use for a dimension, canonical ones first in their own order."""
    return tuple(UNITS[dimension].names)


@cache
def _line(unit: str, dimension: Dimension) -> tuple[float, float]:
    """Factor and offset that take a number in `unit` to the dimension's canonical unit."""
    choice = UNITS[dimension]
    if unit not in choice.names:
        raise UnitError(f"'{unit}' is not {choice.noun}; give one of {', '.join(choice.names)}")
    registry = _registry()
    wanted = choice.names[choice.canonical]

    def converted(number: float) -> float:
        return float(registry.Quantity(number, choice.names[unit]).to(wanted).magnitude)

    offset = converted(0.0)
    return converted(1.0) - offset, offset


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    return pint.UnitRegistry()


def to_si(value: float, unit: str, dimension: Dimension) -> float:
    """The number in the dimension's canonical unit (m3/s, Pa, degC, K, m, W, V, A, ohm, rpm, kg, min, m/s).

    Raises UnitError where the unit is not one of the dimension's or the number is not finite.

    >>> round(to_si(1, "cfm", "flow") * 1e6, 3)
    471.947
    >>> round(to_si(1, "inH2O", "pressure"), 3)
    249.089
    >>> round(to_si(212, "degF", "temperature"), 6)
    100.0
    """
    factor, offset = _line(unit, dimension)
    if not math.isfinite(value):
        raise UnitError(f"{value} is not a finite number; give {UNITS[dimension].noun} as it was read")
    return value * factor + offset


def from_si(value: float, unit: str, dimension: Dimension) -> float:
    """The inverse of `to_si`."""
    factor, offset = _line(unit, dimension)
    return (value - offset) / factor


def scale_of(unit: str, dimension: Dimension) -> tuple[float, float]:
    """(factor, offset) with canonical = given · factor + offset, for those who convert many numbers."""
    return _line(unit, dimension)


_TYPED_NUMBER = re.compile(r"^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(.*?)\s*$")


def parse_typed(text: str, dimension: Dimension, default_unit: str) -> tuple[float, str]:
    """What somebody typed, as (number, unit name); a bare number takes the default unit.

    Raises UnitError with what was given and what is wanted.

    >>> parse_typed("0.6 in", "pressure", "Pa")
    (0.6, 'inH2O')
    >>> parse_typed("150", "pressure", "Pa")
    (150.0, 'Pa')
    """
    match = _TYPED_NUMBER.match(text)
    noun = UNITS[dimension].noun
    if match is None:
        raise UnitError(f"'{text}' is not a number; give {noun} such as '12 {default_unit}'")
    number = float(match[1].replace(",", "."))
    said = match[2]
    if not said:
        return number, default_unit
    if said in UNITS[dimension].names:
        return number, said
    unit = TYPED[dimension].get(re.sub(r"[\s.]", "", said).lower())
    if unit is None:
        raise UnitError(f"'{said}' is not {noun}; give one of {', '.join(UNITS[dimension].names)}")
    return number, unit
