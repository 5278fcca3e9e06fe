"""The machine as frozen facts, checked when made."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from warmdraft.errors import MachineError

#: Elements of the airway that lose pressure, in the order the air meets them. The blower sits after the lint duct.
ELEMENTS = ("inlet", "drum", "lint_screen", "lint_duct", "exhaust_pipe", "transition", "run", "hood")
#: How many of them lie before the wheel.
UPSTREAM_ELEMENTS = 4


def _positive(what: str, value: float, unit: str) -> None:
    if not 0 < value < math.inf:  # written this way round: NaN is refused too
        raise MachineError(f"{what} is {value} {unit}; it has to be finite and above 0")


@dataclass(frozen=True, slots=True)
class Fan:
    """Wheel and housing: pressure against flow at the nominal speed, a parabola (decision 0004)."""

    shutoff_pressure_pa: float
    free_flow_m3s: float
    wheel_speed_rpm: float

    def __post_init__(self) -> None:
        _positive("the fan's shut-off pressure", self.shutoff_pressure_pa, "Pa")
        _positive("the fan's free flow", self.free_flow_m3s, "m³/s")
        _positive("the wheel's speed", self.wheel_speed_rpm, "rpm")


@dataclass(frozen=True, slots=True)
class Airway:
    """The air's way when healthy.

    drops_pa: static drop of each of ELEMENTS at rated flow; *_share: flow through a seal as a share of rated flow;
    run_within_allowance: whether the run, where it is known piece by piece, is short enough; None where it is not.
    unknown: elements of the vent that nobody drew, counted or gave: of them only what is usual is known. own: how far
    the logarithms of this very machine's drops lie from drops_pa, where it was measured healthy: the lower Cholesky
    factor of their covariance, 8 rows; None where it never was.
    """

    rated_flow_m3s: float
    fan: Fan
    drops_pa: tuple[float, ...]
    drum_seal_share: float
    lint_duct_seal_share: float
    run_within_allowance: bool | None = None
    unknown: tuple[str, ...] = ()
    own: tuple[tuple[float, ...], ...] | None = None

    def __post_init__(self) -> None:
        _positive("rated flow", self.rated_flow_m3s, "m³/s")
        if len(self.drops_pa) != len(ELEMENTS):
            raise MachineError(f"an airway has {len(ELEMENTS)} drops ({', '.join(ELEMENTS)}), not {len(self.drops_pa)}")
        for element, drop in zip(ELEMENTS, self.drops_pa, strict=True):
            _positive(f"the drop of {element}", drop, "Pa")
        for name, share in (("drum seal", self.drum_seal_share), ("lint-duct seal", self.lint_duct_seal_share)):
            if not 0 <= share < 1:
                raise MachineError(f"the leak share of the {name} is {share}; it has to be from 0 to below 1")

    def drop_pa(self, element: str) -> float:
        """Healthy drop of one element at rated flow."""
        return self.drops_pa[ELEMENTS.index(element)]


@dataclass(frozen=True, slots=True)
class Limits:
    """Openings of the thermostats and one-shot parts, °C."""

    cycling_opens_c: float
    cycling_closes_c: float
    high_limit_opens_c: float
    thermal_fuse_opens_c: float
    thermal_cutoff_opens_c: float


@dataclass(frozen=True, slots=True)
class Heat:
    """The heat source. power_w is at supply_voltage_v; gross input on gas."""

    energy: Literal["electric", "gas"]
    power_w: float
    supply_voltage_v: float
    limits: Limits

    def __post_init__(self) -> None:
        _positive("the heat source's power", self.power_w, "W")
        _positive("the supply voltage", self.supply_voltage_v, "V")


@dataclass(frozen=True, slots=True)
class Drive:
    """What turns, for speeds and sounds. speed_ratio = wheel / motor."""

    motor_speed_rpm: float
    vanes: int
    speed_ratio: float
    motor_pulley_diameter_m: float
    drum_diameter_m: float
    roller_diameter_m: float
    idler_diameter_m: float
    belt_length_m: float

    def __post_init__(self) -> None:
        for name in ("motor_speed_rpm", "speed_ratio", "motor_pulley_diameter_m", "drum_diameter_m"):
            _positive(name, getattr(self, name), "")
        if self.vanes < 1:
            raise MachineError(f"a wheel with {self.vanes} vanes moves no air; count them")


@dataclass(frozen=True, slots=True)
class Machine:
    """One machine: what its profile says, as far as nobody has said otherwise."""

    profile: str
    airway: Airway
    heat: Heat
    drive: Drive
    layout: str | None = None
    age_years: float | None = None
