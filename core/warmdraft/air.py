"""Moist air: how heavy it is, and what it takes to warm it.

Imports numpy only. Formulas of the ASHRAE Handbook Fundamentals, psychrometrics chapter.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from warmdraft.errors import MachineError
from warmdraft.units import ZERO_C_K

Floats = NDArray[np.float64]

#: Density that rated figures and the cold convention stand for, kg/m³ (own convention, see docs/formats).
REFERENCE_DENSITY_KG_M3 = 1.2
#: Specific heat of the air through the heater, J/(kg K); dry air near 300 K, from memory.
SPECIFIC_HEAT_J_KGK = 1006.0
#: Gas constant of dry air, J/(kg K). ASHRAE Fundamentals, psychrometrics, from memory.
GAS_CONSTANT_DRY_AIR = 287.042
#: Ratio of the gas constants of water vapour and dry air, 1/0.621945. Same source, from memory.
VAPOUR_RATIO = 1.607858
#: Standard pressure at sea level, Pa. Source: ISO 2533.
STANDARD_PRESSURE_PA = 101325.0
#: The room where nothing is said, °C. Common practice, no source.
ROOM_TEMPERATURE_C = 21.0
#: Humidity of the room where nothing is said. Common practice, no source.
ROOM_RELATIVE_HUMIDITY = 0.5


def saturation_pressure_pa(temperature_c: float) -> float:
    """Pressure of saturated vapour over water, or ice below 0 °C; Pa.

    Source: Hyland and Wexler 1983 as printed in ASHRAE Fundamentals, coefficients from memory.

    >>> round(saturation_pressure_pa(20.0))
    2339
    """
    t = temperature_c + ZERO_C_K
    if temperature_c < 0:
        powers = (-5.6745359e3 / t, 6.3925247, -9.677843e-3 * t, 6.2215701e-7 * t**2, 2.0747825e-9 * t**3)
        return float(np.exp(sum(powers) - 9.484024e-13 * t**4 + 4.1635019 * np.log(t)))
    powers = (-5.8002206e3 / t, 1.3914993, -4.8640239e-2 * t, 4.1764768e-5 * t**2, -1.4452093e-8 * t**3)
    return float(np.exp(sum(powers) + 6.5459673 * np.log(t)))


def humidity_ratio(temperature_c: float, relative_humidity: float, pressure_pa: float) -> float:
    """Water per dry air, kg/kg. Source: ASHRAE Fundamentals, psychrometrics.

    >>> round(humidity_ratio(20.0, 0.5, 101325.0), 5)
    0.00726
    """
    vapour = relative_humidity * saturation_pressure_pa(temperature_c)
    return vapour / (pressure_pa - vapour) / VAPOUR_RATIO


def moist_density_kg_m3(temperature_c: float, humidity_ratio: float, pressure_pa: float) -> float:
    """Mass of moist air (its water too) in a volume, kg/m³: ρ = p(1+w)/(R_a T (1+1.608 w)).

    >>> round(moist_density_kg_m3(20.0, 0.00726, 101325.0), 3)
    1.199
    """
    kelvin = temperature_c + ZERO_C_K
    moist = GAS_CONSTANT_DRY_AIR * kelvin * (1 + VAPOUR_RATIO * humidity_ratio)
    return pressure_pa * (1 + humidity_ratio) / moist


@dataclass(frozen=True, slots=True)
class AirState:
    """The air of the room, as far as it matters: its density and its temperature."""

    density_kg_m3: float = REFERENCE_DENSITY_KG_M3
    temperature_c: float = ROOM_TEMPERATURE_C

    def __post_init__(self) -> None:
        if not 0.3 < self.density_kg_m3 < 2.0:
            raise MachineError(f"air of {self.density_kg_m3:.3g} kg/m³ is not air; check its temperature and pressure")

    @classmethod
    def of_room(
        cls,
        temperature_c: float = ROOM_TEMPERATURE_C,
        pressure_pa: float = STANDARD_PRESSURE_PA,
        relative_humidity: float = 0.5,
    ) -> AirState:
        """The state a thermometer, a barometer and a hygrometer give. Sea level and half humid where not said."""
        water = humidity_ratio(temperature_c, relative_humidity, pressure_pa)
        return cls(moist_density_kg_m3(temperature_c, water, pressure_pa), temperature_c)


#: A sharp-edged opening passes this share of what an ideal one would (from memory: 0.60 to 0.62, as of ISO 5167).
DISCHARGE = 0.61


def opening_conductance(area_m2: float, density_kg_m3: float = REFERENCE_DENSITY_KG_M3) -> float:
    """What an opening passes, m³/s/√Pa: Q = G·√Δp. Source: orifice equation, Q = C·A·√(2Δp/ρ), Bernoulli.

    >>> round(opening_conductance(1e-4) * 250 ** 0.5 * 1000, 2)  # one square centimetre under 250 Pa, L/s
    1.25
    """
    return DISCHARGE * area_m2 * math.sqrt(2 / density_kg_m3)
