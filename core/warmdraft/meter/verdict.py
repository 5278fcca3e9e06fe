"""What a meter's reading says of a part. Rules: common practice, no source, unless a constant says otherwise."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from warmdraft.meter.parts import ElectricalPart, Supply, parts, supplies
from warmdraft.units import ZERO_C_K

#: A closed contact, leads subtracted, ohms; less in the heater's circuit, where 1.8 Ω at 22 A are 900 W (I²R) (own
#: assumption).
CLOSED_OHM = 2.0
CLOSED_HEATER_OHM = 0.5
#: From here on a contact is as good as open, ohms (own assumption).
AS_OPEN_OHM = 1000.0
#: So many times the most a good one has counts as open as well (own assumption).
AS_OPEN_TIMES = 5.0
#: Below this a thermistor, element or winding is shorted, ohms (own assumption).
SHORTED_OHM = 0.3
#: A winding of a dryer's motor at 120 V, ohms (own assumption); at another voltage with its square, for the same power.
WINDING_OHM, WINDING_AT_V = (0.3, 20.0), 120.0
#: Insulation of a heating element to the cabinet: good from here on, ohms, and a shock hazard below the second.
#: 1 MΩ for class I appliances, 0.3 MΩ where elements are in: common practice in tests after repair, from memory.
INSULATED_OHM, SHOCK_OHM = 1e6, 0.3e6
#: Shares off what is expected within which a part is good, and within which it is suspect (own assumptions).
GOOD_SHARE = 0.10
SUSPECT_SHARE = 0.25
#: Supply within this share of its rating is as it should be (own assumption).
SUPPLY_SHARE = 0.10
#: Less than this share of the rating is none at all (own assumption).
NO_SUPPLY_SHARE = 0.10
HALF_SUPPLY = (0.40, 0.60)
#: Thermistor and element where the test says nothing: 10 kΩ, B 3977 K; 5400 W at 240 V. From memory.
R25_OHM, B_K = 10_000.0, 3977.0
RATED_POWER_W, RATED_AT_V = 5400.0, 240.0
_T25_K = 25.0 + ZERO_C_K

Verdict = Literal["good", "failed", "suspect", "repeat", "working_as_meant"]


@dataclass(frozen=True, slots=True)
class MeterTest:
    """One test. ohm: a resistance, math.inf for open; volt: a voltage; one of them is None."""

    part: str
    instrument: Literal["digital", "analogue"] = "digital"
    isolated: bool = True
    part_hot: bool = False
    ohm: float | None = None
    volt: float | None = None
    lead_ohm: float = 0.0
    rated_power_w: float | None = None
    r25_ohm: float = R25_OHM
    b_k: float = B_K
    temperature_c: float | None = None
    between: Literal["leg_leg", "leg_neutral"] = "leg_leg"


@dataclass(frozen=True, slots=True)
class MeterVerdict:
    """means and then are codes of words_en_meter; expected: what a good one would show, ohms or volts."""

    part: str
    verdict: Verdict
    means: str
    then: str
    expected: float | None = None


def thermistor_ohm(temperature_c: float, r25_ohm: float = R25_OHM, b_k: float = B_K) -> float:
    """R = R₂₅·exp(B(1/T − 1/298.15)).

    >>> [round(thermistor_ohm(t) / 1000, 2) for t in (40.0, 60.0)]
    [5.28, 2.46]
    """
    return r25_ohm * math.exp(b_k * (1 / (temperature_c + ZERO_C_K) - 1 / _T25_K))


def element_ohm(test: MeterTest, supply: Supply) -> float:
    """Resistance of an element from its power at the supply's voltage; V²/P."""
    if test.rated_power_w is None:
        return RATED_AT_V**2 / RATED_POWER_W
    return supply.leg_leg_v**2 / test.rated_power_w


def judge(test: MeterTest, supply_name: str) -> MeterVerdict:
    """The verdict on one test.

    supply_name: one of `supplies()`; resistances in ohms, voltages in volts.
    Source of the limits: common practice, in meter.toml.

    >>> [judge(MeterTest('thermal_fuse', ohm=ohm), 'two-leg-240').verdict for ohm in (0.2, float('inf'))]
    ['good', 'failed']
    """
    part, supply = parts()[test.part], supplies()[supply_name]
    if part.kind == "supply":
        return _supply(test, supply)
    if test.ohm is None:
        return MeterVerdict(test.part, "repeat", "wrong_reading", "read_again")
    if not test.isolated:
        return MeterVerdict(test.part, "repeat", "not_isolated", "isolate")
    ohm = max(test.ohm - test.lead_ohm, 0.0)
    match part.kind:
        case "continuity":
            return _continuity(part, test, ohm)
        case "insulation":
            return _insulation(test, ohm)
        case "winding":
            return _winding(test, ohm, supply)
        case "resistance":
            return _within(part, ohm)
        case "thermistor":
            if test.temperature_c is None:
                return MeterVerdict(test.part, "repeat", "wrong_reading", "read_again")
            return _beside(test, ohm, thermistor_ohm(test.temperature_c, test.r25_ohm, test.b_k),
                           ("as_table", "off_table", "far_off_table"))  # fmt: skip
        case _:
            return _beside(test, ohm, element_ohm(test, supply), ("element_right", "element_off", "element_failed"))


def _continuity(part: ElectricalPart, test: MeterTest, ohm: float) -> MeterVerdict:
    if ohm <= (CLOSED_HEATER_OHM if part.circuit == "heater" else CLOSED_OHM):
        return MeterVerdict(part.name, "good", "closed", "nothing", 0.0)
    if ohm <= CLOSED_OHM:
        return MeterVerdict(part.name, "suspect", "heats_itself", "leads_first", 0.0)
    if ohm < AS_OPEN_OHM:
        return MeterVerdict(part.name, "suspect", "burnt_contact", "replace_soon", 0.0)
    if part.one_shot:
        return MeterVerdict(part.name, "failed", "open_one_shot", "replace_find_cause", 0.0)
    if part.opens_hot and test.part_hot:
        return MeterVerdict(part.name, "working_as_meant", "open_while_hot", "test_cool", 0.0)
    return MeterVerdict(part.name, "failed", "open" if math.isinf(ohm) else "high_resistance", "replace", 0.0)


def _insulation(test: MeterTest, ohm: float) -> MeterVerdict:
    if ohm >= INSULATED_OHM:
        return MeterVerdict(test.part, "good", "insulated", "nothing")
    if ohm >= SHOCK_OHM:
        return MeterVerdict(test.part, "suspect", "damp", "dry_and_read")
    return MeterVerdict(test.part, "failed", "shock", "stop_shock")


def _winding(test: MeterTest, ohm: float, supply: Supply) -> MeterVerdict:
    low, high = (limit * (supply.leg_neutral_v / WINDING_AT_V) ** 2 for limit in WINDING_OHM)
    if math.isinf(ohm):
        if test.part_hot:
            return MeterVerdict(test.part, "working_as_meant", "overload_open", "overload_cool")
        return MeterVerdict(test.part, "failed", "open", "replace")
    if ohm < low:
        return MeterVerdict(test.part, "failed", "shorted", "replace")
    if ohm <= high:
        return MeterVerdict(test.part, "good", "winding_right", "nothing")
    return MeterVerdict(test.part, "suspect", "winding_odd", "look_terminals")


def _within(part: ElectricalPart, ohm: float) -> MeterVerdict:
    low, high = part.ohms
    if ohm >= AS_OPEN_TIMES * high:
        return MeterVerdict(part.name, "failed", "open" if math.isinf(ohm) else "high_resistance", "replace")
    if ohm < SHORTED_OHM:
        return MeterVerdict(part.name, "failed", "shorted", "replace")
    if low <= ohm <= high:
        return MeterVerdict(part.name, "good", "as_its_kind", "nothing")
    return MeterVerdict(part.name, "suspect", "not_as_its_kind", "look_terminals")


def _beside(test: MeterTest, ohm: float, expected: float, means: tuple[str, str, str]) -> MeterVerdict:
    """A part that is judged by how far it is off what is expected; lower and higher alike."""
    if math.isinf(ohm):
        return MeterVerdict(test.part, "failed", "open", "replace", expected)
    if ohm < SHORTED_OHM:
        return MeterVerdict(test.part, "failed", "shorted", "replace", expected)
    off = abs(ohm / expected - 1)
    if off <= GOOD_SHARE:
        return MeterVerdict(test.part, "good", means[0], "nothing", expected)
    if off <= SUSPECT_SHARE:
        return MeterVerdict(test.part, "suspect", means[1], "look_terminals", expected)
    return MeterVerdict(test.part, "failed", means[2], "replace", expected)


def _supply(test: MeterTest, supply: Supply) -> MeterVerdict:
    if test.volt is None:
        return MeterVerdict(test.part, "repeat", "wrong_reading", "read_again")
    to_neutral = test.between == "leg_neutral"
    expected = supply.leg_neutral_v if to_neutral else supply.leg_leg_v
    two_legs = supply.leg_leg_v != supply.leg_neutral_v
    share = test.volt / expected

    def said(verdict: Verdict, means: str, then: str) -> MeterVerdict:
        return MeterVerdict(test.part, verdict, means, then, expected)

    if share < NO_SUPPLY_SHARE:
        return said("failed", "leg_lost" if two_legs else "no_supply", "check_breaker")
    if to_neutral and two_legs and abs(share - 1) <= SUPPLY_SHARE:
        return said("repeat", "perhaps_back_fed", "leg_to_leg")
    if abs(share - 1) <= SUPPLY_SHARE:
        return said("good", "supply_right", "nothing")
    if HALF_SUPPLY[0] <= share <= HALF_SUPPLY[1]:
        return said("failed", "half_voltage", "check_breaker")
    return said("suspect", "supply_low" if share < 1 else "supply_high", "tell_supplier")
