"""A person's habits: units, theme, hand, keys; checked and completed."""

from typing import Literal

from ninja import Schema

from warmdraft.units import UNITS, Dimension
from warmdraft.words import UnitHabits


class Habits(Schema):
    """What one person likes; every key has a default."""

    flow: Literal["cfm", "L/s", "m3/h", "m3/s"] = "cfm"
    pressure: Literal["inH2O", "Pa", "hPa", "mbar", "mmH2O"] = "inH2O"
    temperature: Literal["degF", "degC"] = "degF"
    length: Literal["in", "mm"] = "in"
    theme: Literal["system", "linen", "cellar"] = "system"
    left_handed: bool = False
    single_keys: bool = True

    def units(self) -> UnitHabits:
        """Units by dimension, for the core's renderer."""
        difference = "delta_degF" if self.temperature == "degF" else "K"
        return {
            "flow": self.flow,
            "pressure": self.pressure,
            "temperature": self.temperature,
            "temperature_difference": difference,
            "length": self.length,
        }

    def unit_of(self, dimension: Dimension) -> str:
        """The unit a bare number of this dimension is taken in."""
        return self.units().get(dimension, UNITS[dimension].canonical)
