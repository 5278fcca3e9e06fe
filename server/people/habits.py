"""A person's habits: units, theme, hand, keys; checked and completed."""

from typing import Literal

from ninja import Field
from pydantic import field_validator

from shared.body import Body
from warmdraft.checks import instrument_names
from warmdraft.units import UNITS
from warmdraft.words import UnitHabits


class Habits(Body):
    """What one person likes; every key has a default."""

    flow: Literal["cfm", "L/s", "m3/h", "m3/s"] = "cfm"
    pressure: Literal["inH2O", "Pa", "hPa", "mbar", "mmH2O"] = "inH2O"
    temperature: Literal["degF", "degC"] = "degF"
    length: Literal["in", "mm"] = "in"
    theme: Literal["system", "linen", "cellar"] = "system"
    left_handed: bool = False
    single_keys: bool = True
    #: Instruments at hand; None while nobody said: then every check is offered.
    carries: list[str] | None = Field(default=None, max_length=60)

    @field_validator("carries")
    @classmethod
    def _known(cls, carries: list[str] | None) -> list[str] | None:
        known = frozenset(instrument_names())
        for name in carries or ():
            if name not in known:
                raise ValueError(f"'{name[:40]}' is no instrument; give some of {', '.join(sorted(known))}")
        return carries and sorted(set(carries))

    def units(self) -> UnitHabits:
        """The unit of every dimension, for the core's renderer and for the screens."""
        liked: UnitHabits = {
            "flow": self.flow,
            "pressure": self.pressure,
            "temperature": self.temperature,
            "temperature_difference": "delta_degF" if self.temperature == "degF" else "K",
            "length": self.length,
        }
        return {dimension: liked.get(dimension, choice.canonical) for dimension, choice in UNITS.items()}
