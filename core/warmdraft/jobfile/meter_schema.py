"""The shape of `warm-draft/meter`: what was tested on the electrical side, and what the meter showed."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from warmdraft.jobfile.parts import Power, Quantity, Section, Temperature, check_quantity, in_dimension, one_of, refused
from warmdraft.meter import MeterTest, parts, supplies
from warmdraft.meter.verdict import B_K, R25_OHM
from warmdraft.units import UNITS

#: What a needle or a display shows that is no number.
OPEN_WORDS = ("open", "needle_at_infinity")
NEEDLE_WORDS = ("needle_at_infinity", "needle_at_zero")


def _reading(value: Any) -> Any:
    words = ("open", *NEEDLE_WORDS)
    if isinstance(value, str) and value not in words:
        raise refused(f"{value!r} is no reading; give a quantity, or one of {', '.join(words)}")
    if not isinstance(value, str | dict | Quantity):
        raise refused(f"{value!r} is no reading; give a quantity, or one of {', '.join(words)}")
    return value


class MeterTestSection(Section):
    """One test of one part."""

    part: Annotated[str, one_of("a part to meter", tuple(parts()))]
    instrument: Annotated[str, one_of("a kind of meter", ("digital", "analogue"))]
    isolated: bool | None = None
    part_hot: bool | None = None
    reading: Annotated[str | Quantity, BeforeValidator(_reading)]
    lead_resistance: Annotated[Quantity, in_dimension("electrical_resistance")] | None = None
    rated_power: Power | None = None
    r25: Annotated[Quantity, in_dimension("electrical_resistance", positive=True)] | None = None
    b: Quantity | None = None
    temperature: Temperature | None = None
    between: Annotated[str, one_of("a pair of terminals", ("leg_leg", "leg_neutral"))] | None = None

    @model_validator(mode="after")
    def _possible(self) -> Any:
        live = parts()[self.part].kind == "supply"
        if self.reading in NEEDLE_WORDS and self.instrument == "digital":
            raise refused(f"'{self.reading}' is no reading of a digital meter; give a quantity or 'open'", "reading")
        if self.isolated is None and not live:
            raise refused("is missing; say whether one side was off when it was read", "isolated")
        if self.part == "thermistor" and self.temperature is None:
            raise refused("is missing; a thermistor is judged at its temperature", "temperature")
        if self.between is not None and not live:
            raise refused(f"'{self.part}' has no legs; leave it out", "between")
        if isinstance(self.reading, Quantity):
            self._check_reading(self.reading, live)
        if self.b is not None and (self.b.unit != "K" or not 500 <= self.b.value <= 10_000):
            raise refused(f"{self.b.value:g} {self.b.unit} is no B of a thermistor; give one from 500 to 10000 K", "b")
        return self

    def _check_reading(self, reading: Quantity, live: bool) -> None:
        either = (*UNITS["electrical_resistance"].names, *UNITS["voltage"].names)
        if reading.unit not in either:
            wanted = "a voltage" if live else "a resistance"
            raise refused(f"'{reading.unit}' is not {wanted}; give one of {', '.join(either)}", "reading")
        volt = reading.unit in UNITS["voltage"].names
        check_quantity(reading.value, reading.unit, "voltage" if volt else "electrical_resistance")

    def test(self) -> MeterTest:
        """As the core computes with it."""
        ohm: float | None = None
        volt: float | None = None
        if isinstance(self.reading, str):
            ohm = math.inf if self.reading in OPEN_WORDS else 0.0
        elif self.reading.unit in UNITS["voltage"].names:
            volt = self.reading.si("voltage")
        else:
            ohm = self.reading.si("electrical_resistance")
        return MeterTest(
            part=self.part,
            instrument="analogue" if self.instrument == "analogue" else "digital",
            isolated=bool(self.isolated),
            part_hot=bool(self.part_hot),
            ohm=ohm,
            volt=volt,
            lead_ohm=self.lead_resistance.si("electrical_resistance") if self.lead_resistance else 0.0,
            rated_power_w=self.rated_power.si("power") if self.rated_power else None,
            r25_ohm=self.r25.si("electrical_resistance") if self.r25 else R25_OHM,
            b_k=self.b.value if self.b else B_K,
            temperature_c=self.temperature.si("temperature") if self.temperature else None,
            between="leg_neutral" if self.between == "leg_neutral" else "leg_leg",
        )


SupplyName = Annotated[str, one_of("a supply", tuple(supplies()))]


class MeterDocument(Section):
    """Meter tests as a file: `warm-draft/meter`, version 1."""

    format: Literal["warm-draft/meter"]
    version: Literal[1]
    title: str | None = None
    notes: str | None = None
    supply: SupplyName
    tests: Annotated[list[MeterTestSection], Field(min_length=1)]
