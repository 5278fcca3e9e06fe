"""Numbers as a person reads them: in the units they are used to, rounded as each unit is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import ROUND_HALF_UP, Decimal

from warmdraft.tables import SOURCE_LANGUAGE
from warmdraft.units import INCH_M, UNITS, Dimension, from_si

#: A person's units by dimension; what is not named is shown in the canonical unit.
UnitHabits = Mapping[Dimension, str]
METRIC: UnitHabits = {"flow": "L/s", "pressure": "Pa", "temperature": "degC", "temperature_difference": "K"}

#: How units are written for people, and how many digits after the point they carry.
UNIT_LOOK: dict[str, tuple[str, int]] = {
    "m3/s": ("m³/s", 3), "L/s": ("L/s", 0), "m3/h": ("m³/h", 0), "cfm": ("cfm", 0),
    "Pa": ("Pa", 0), "kPa": ("kPa", 2), "hPa": ("hPa", 1), "mbar": ("mbar", 1), "inH2O": ("inH2O", 2),
    "mmH2O": ("mmH2O", 0), "psi": ("psi", 3),
    "degC": ("°C", 0), "degF": ("°F", 0), "K": ("K", 0), "delta_degF": ("°F", 0),
    "rpm": ("rpm", 0), "Hz": ("Hz", 1), "A": ("A", 1), "V": ("V", 0), "min": ("min", 0), "s": ("s", 0), "h": ("h", 1),
    "W": ("W", 0), "kW": ("kW", 1), "Btu/h": ("Btu/h", 0), "m": ("m", 2), "mm": ("mm", 0), "cm": ("cm", 1),
    "in": ("in", 1), "ft": ("ft", 1), "ohm": ("ohm", 1), "kohm": ("kohm", 2), "kg": ("kg", 2), "g": ("g", 0),
    "lb": ("lb", 2), "oz": ("oz", 1), "m/s": ("m/s", 1), "ft/min": ("ft/min", 0),
}  # fmt: skip


def decimals(value: float, digits: int) -> str:
    """A number with so many digits after the point: halves away from nothing, a minus as it is printed, never −0.

    The screens round the same way (web/src/ui/numbers.ts), and are held to this.

    >>> decimals(2.5, 0), decimals(-0.04, 1), decimals(-1.25, 1)
    ('3', '0.0', '−1.3')
    """
    exact = Decimal(value).quantize(Decimal(1).scaleb(-digits), ROUND_HALF_UP)
    return f"{abs(exact) if exact == 0 else exact:f}".replace("-", "−")


#: Squares from which on nobody reads a tenth.
_WHOLE_FROM = 20
_EIGHTHS = ("", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞")


@dataclass(frozen=True)
class Numbers:
    """Numbers in the habits given, for a language."""

    habits: UnitHabits = field(default_factory=lambda: dict(METRIC))
    language: str = SOURCE_LANGUAGE

    def unit(self, dimension: Dimension) -> str:
        """The file name of the unit this person uses."""
        return self.habits.get(dimension, UNITS[dimension].canonical)

    def way_unit(self) -> str:
        """The unit along a run: people think in feet or metres there, whatever they measure a bore in."""
        return "ft" if self.unit("length") == "in" else "m"

    def along(self, metres: float) -> str:
        """A length along a run."""
        unit = self.way_unit()
        return f"{decimals(from_si(metres, unit, 'length'), 1)} {unit}"

    def squares(self, square_metres: float) -> str:
        """In the squares of the unit that this person measures a bore in."""
        inches = self.way_unit() == "ft"
        number = square_metres / INCH_M**2 if inches else square_metres * 1e4
        return f"{decimals(number, 1 if number < _WHOLE_FROM and inches else 0)} {'in²' if inches else 'cm²'}"

    def sawn(self, metres: float) -> str:
        """A length as one marks it off to cut: to the millimetre, or to the eighth of an inch."""
        if self.way_unit() == "m":
            return f"{decimals(metres * 1000, 0)} mm"
        whole, eighths = divmod(round(from_si(metres, "in", "length") * 8), 8)
        part = _EIGHTHS[eighths]
        return f"{whole} {part} in" if whole and part else f"{part or whole} in"

    def number(self, value: float, dimension: Dimension) -> str:
        """A number in canonical units as this person reads it, without its unit."""
        unit = self.unit(dimension)
        return decimals(from_si(value, unit, dimension), UNIT_LOOK[unit][1])

    def quantity(self, value: float, dimension: Dimension) -> str:
        """Number and unit."""
        return f"{self.number(value, dimension)} {UNIT_LOOK[self.unit(dimension)][0]}"

    def as_words_ask(self, dimension: str, number: float) -> str:
        """A number in a dimension, a share as percent, or a way along a run."""
        if dimension == "share":
            return f"{decimals(number * 100, 0)} %"
        if dimension == "way":
            return self.along(number)
        known: Dimension = next(name for name in UNITS if name == dimension)
        return self.quantity(number, known)
