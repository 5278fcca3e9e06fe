"""Units as people write them, turned into SI floats once, at the edge.

Inside the core every number is SI and carries its unit in its name. Here stand the names that files and people may
use, by dimension, and the two conversions. The factors are exact by definition: NIST Special Publication 811 (2008),
appendix B; a column of water is of 1000 kg/m³ under standard gravity, a Btu that of ISO 31-4. A units library holds
each of them in the tests; the program does not wait for it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from warmdraft.errors import UnitError

Dimension = Literal[
    "flow", "pressure", "temperature", "temperature_difference", "length", "power", "voltage", "current",
    "electrical_resistance", "rotation", "mass", "time", "air_speed",
]  # fmt: skip


FOOT_M, INCH_M = 0.3048, 0.0254
ZERO_C_K = 273.15
_POUND_KG = 0.45359237
GRAVITY_M_S2 = 9.80665
_WATER_KG_M3 = 1000.0
_BTU_J = 1055.056
_F = 5 / 9


@dataclass(frozen=True, slots=True)
class UnitChoice:
    """The units one dimension may be given in.

    noun: how an error speaks of it; canonical: the unit answers are given in; names: file name -> factor to the
    canonical unit; zero: of those units whose zero is elsewhere, where it lies in the canonical one.
    """

    noun: str
    canonical: str
    names: Mapping[str, float]
    zero: Mapping[str, float] = field(default_factory=dict)


UNITS: dict[Dimension, UnitChoice] = {
    "flow": UnitChoice("a flow", "m3/s", {"m3/s": 1.0, "L/s": 1e-3, "m3/h": 1 / 3600, "cfm": FOOT_M**3 / 60}),
    "pressure": UnitChoice(
        "a pressure",
        "Pa",
        {"Pa": 1.0, "kPa": 1e3, "hPa": 100.0, "mbar": 100.0, "inH2O": INCH_M * _WATER_KG_M3 * GRAVITY_M_S2,
         "mmH2O": 1e-3 * _WATER_KG_M3 * GRAVITY_M_S2, "psi": _POUND_KG * GRAVITY_M_S2 / INCH_M**2},
    ),
    "temperature": UnitChoice(
        "a temperature", "degC", {"degC": 1.0, "degF": _F, "K": 1.0}, {"degF": -32 * _F, "K": -ZERO_C_K}
    ),
    "temperature_difference": UnitChoice("a temperature difference", "K", {"K": 1.0, "delta_degF": _F}),
    "length": UnitChoice("a length", "m", {"m": 1.0, "mm": 1e-3, "cm": 1e-2, "in": INCH_M, "ft": FOOT_M}),
    "power": UnitChoice("a power", "W", {"W": 1.0, "kW": 1e3, "Btu/h": _BTU_J / 3600}),
    "voltage": UnitChoice("a voltage", "V", {"V": 1.0}),
    "current": UnitChoice("a current", "A", {"A": 1.0}),
    "electrical_resistance": UnitChoice("a resistance", "ohm", {"ohm": 1.0, "kohm": 1e3}),
    # A speed of rotation is counted, not an angle: 1 Hz is 60 rpm.
    "rotation": UnitChoice("a speed of rotation", "rpm", {"rpm": 1.0, "Hz": 60.0}),
    "mass": UnitChoice("a mass", "kg", {"kg": 1.0, "g": 1e-3, "lb": _POUND_KG, "oz": _POUND_KG / 16}),
    "time": UnitChoice("a time", "min", {"s": 1 / 60, "min": 1.0, "h": 60.0}),
    "air_speed": UnitChoice("an air speed", "m/s", {"m/s": 1.0, "ft/min": FOOT_M / 60}),
}  # fmt: skip

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
    """The unit names a file may use for a dimension, in the table's order."""
    return tuple(UNITS[dimension].names)


def scale_of(unit: str, dimension: Dimension) -> tuple[float, float]:
    """(factor, offset) with canonical = given · factor + offset. Raises UnitError for a unit of another dimension.

    >>> scale_of("kPa", "pressure"), scale_of("K", "temperature")
    ((1000.0, 0.0), (1.0, -273.15))
    """
    choice = UNITS[dimension]
    if unit not in choice.names:
        raise UnitError(f"'{unit}' is not {choice.noun}; give one of {', '.join(choice.names)}")
    return choice.names[unit], choice.zero.get(unit, 0.0)


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
    factor, offset = scale_of(unit, dimension)
    if not math.isfinite(value):
        raise UnitError(f"{value} is not a finite number; give {UNITS[dimension].noun} as it was read")
    return value * factor + offset


def from_si(value: float, unit: str, dimension: Dimension) -> float:
    """The inverse of `to_si`."""
    factor, offset = scale_of(unit, dimension)
    return (value - offset) / factor


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
