"""English words for codes, and numbers in the units a person is used to."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from warmdraft.checks import Check, instrument_names, instrument_words
from warmdraft.faults import catalogue
from warmdraft.heat import DryingRun
from warmdraft.tables import table
from warmdraft.trend import Trend
from warmdraft.units import UNITS, Dimension, from_si
from warmdraft.vent.losses import pinch_coefficient

#: A person's units by dimension; what is not named is shown in the canonical unit.
UnitHabits = dict[Dimension, str]
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

_SHARES_IN_WORDS = (
    (0.97, "nearly certain"), (0.85, "very likely"), (0.7, "about 3 in 4"), (0.58, "about 2 in 3"),
    (0.42, "about 1 in 2"), (0.29, "about 1 in 3"), (0.22, "about 1 in 4"), (0.15, "about 1 in 6"),
    (0.07, "about 1 in 10"), (0.0, "unlikely"),
)  # fmt: skip


def one_of(names: Iterable[str]) -> str:
    """A list as people say it: "run, transition or hood"."""
    words = list(names)
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} or {words[-1]}"


@dataclass(frozen=True, slots=True)
class English:
    """The renderer: words from data/words_en.toml, numbers in the habits given."""

    habits: UnitHabits = field(default_factory=lambda: dict(METRIC))

    def word(self, kind: str, code: str) -> Any:
        """The words of a code; `kind` is a table of the words file."""
        return table("words_en")[kind][code]

    def fault(self, name: str) -> str:
        """A fault's name."""
        return str(self.word("fault", name))

    def check(self, name: str) -> str:
        """What to do, as it stands on a button."""
        return str(self.check_words(name)["do"])

    def check_words(self, name: str) -> dict[str, Any]:
        """do: as it stands on a button; how: what hands and eyes do; node: where; results: their words."""
        words: dict[str, Any] = table("words_en_checks")[name]
        return words

    def hazard(self, check: Check) -> str:
        """What to mind, where the hands are; before a swap more than elsewhere."""
        said = str(self.word("hazard", check.hazard))
        return f"{said} {self.word('hazard', 'swap')}".strip() if check.swap else said

    def instrument(self, name: str) -> str:
        """What a check is done with: an instrument, or a sense."""
        return instrument_words(name) if name in instrument_names() else str(self.word("sense", name))

    def drying(self, healthy: DryingRun, now: DryingRun | None, cost_a_year: str) -> str:
        """What a load takes, and what that costs more a year."""
        words = table("words_en")["drying"]
        if now is None:
            return str(words["unknown"]).format(healthy=healthy.minutes or 0)
        if now.minutes is None:
            return str(words[f"stopped_{now.stopped_by}"])
        code = "longer" if now.minutes > 1.05 * (healthy.minutes or now.minutes) else "as_healthy"
        return str(words[code]).format(now=now.minutes, healthy=healthy.minutes or 0, cost=cost_a_year)

    def trend(self, trend: Trend) -> str:
        """What a log shows, with its numbers."""
        words = str(table("words_en")["trend"][trend.shape])
        return words.format(
            start=f"{trend.start_minute or 0:.0f} min",
            drop=f"{(trend.drop or 0) * 100:.0f} %",
            period=f"{trend.period_minutes or 0:.1f} min",
            sure=self.sure(trend.probability[trend.shape]),
        )

    def consequence(self, part: str, of: str | None) -> str:
        """What got hot, and for what."""
        words = table("words_en")["consequence"]
        cause = words["cause_not_found"] if of is None else words["because"].format(fault=self.fault(of).lower())
        return f"{words[part]}: {cause}"

    def meter_part(self, name: str) -> str:
        """An electrical part's name."""
        return str(table("words_en_meter")["part"][name])

    def meter_means(self, code: str) -> str:
        """What a meter's reading means."""
        return str(table("words_en_meter")["means"][code])

    def meter_then(self, code: str, part: str) -> str:
        """What to do after a meter's reading."""
        wanted = table("words_en_meter")["wanted"]
        return str(table("words_en_meter")["then"][code]).format(wanted=wanted.get(part, wanted["rest"]))

    def run_warning(self, code: str, value: float | None, limit: float | None) -> str:
        """What a run breaks, with its numbers in this person's units."""
        words = table("words_en_vent")["warning"][code]
        numbers = {
            key: "" if number is None else self.as_words_ask(words["in"], number)
            for key, number in (("value", value), ("limit", limit))
        }
        return str(words["text"]).format(**numbers)

    def as_words_ask(self, dimension: str, number: float) -> str:
        """A number in a dimension, or a share as percent."""
        if dimension == "share":
            return f"{number * 100:.0f} %"
        if dimension == "way":  # along a run people think in feet or metres, whatever they measure a bore in
            unit = "ft" if self.unit("length") == "in" else "m"
            return f"{from_si(number, unit, 'length'):.1f} {unit}"
        known: Dimension = next(name for name in UNITS if name == dimension)
        return self.quantity(number, known)

    def number(self, value: float, dimension: Dimension) -> str:
        """A number in canonical units as this person reads it, without its unit."""
        unit = self.unit(dimension)
        return f"{from_si(value, unit, dimension):.{UNIT_LOOK[unit][1]}f}"

    def unit(self, dimension: Dimension) -> str:
        """The file name of the unit this person uses."""
        return self.habits.get(dimension, UNITS[dimension].canonical)

    def quantity(self, value: float, dimension: Dimension) -> str:
        """Number and unit."""
        return f"{self.number(value, dimension)} {UNIT_LOOK[self.unit(dimension)][0]}"

    def sure(self, probability: float) -> str:
        """A probability in words."""
        return next(words for least, words in _SHARES_IN_WORDS if probability >= least)

    def severity(self, fault: str, severity: tuple[float, float, float] | None) -> str | None:
        """How bad, in words, from the low, middle and high severity; None where a fault has no severity."""
        if severity is None:
            return None
        low, middle, high = severity
        match catalogue()[fault].effect:
            case "resistance_times" if fault == "transition_crushed":
                return f"to about {_open_share_words(middle)} of its area"
            case "resistance_times":
                return f"{low:.0f} to {high:.0f} times its resistance"
            case "leak_times":
                return f"{low:.0f} to {high:.0f} times the healthy leak"
            case "bypass":
                return f"an opening {low:.1f} to {high:.1f} times its own way"
            case "room_deficit":
                return f"{self.number(low, 'pressure')} to {self.quantity(high, 'pressure')} below outdoors"
            case "head_lost":
                return f"{low * 100:.0f} to {high * 100:.0f} % of its pressure lost"
            case "speed_left":
                return f"{low * 100:.0f} to {high * 100:.0f} % of its speed left"
            case "power_left":
                return f"{low * 100:.0f} to {high * 100:.0f} % of its heat left"
        return None


#: p_v over the transition's healthy drop at rated flow on the reference machine: what turns a pinch into a severity.
_PINCH_TO_SEVERITY = 51.3 / 12.0
_AREAS = ((0.85, "nine tenths"), (0.7, "three quarters"), (0.6, "two thirds"), (0.46, "half"), (0.37, "two fifths"),
          (0.29, "a third"), (0.22, "a quarter"), (0.0, "a fifth"))  # fmt: skip


def _open_share_words(severity: float) -> str:
    """Open area of a crushed pipe from its severity, 1 + K·p_v/drop; by bisection, K falls as it opens."""
    low, high = 0.02, 1.0
    for _ in range(30):
        middle = (low + high) / 2
        if 1 + pinch_coefficient(middle) * _PINCH_TO_SEVERITY > severity:
            low = middle
        else:
            high = middle
    return next(words for least, words in _AREAS if low >= least)
