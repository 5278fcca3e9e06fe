"""Drying of a load: heater, thermostats and water, from a wet load to a dry one.

Lumped and transient. The box and the sensors are linear between switchings and are stepped exactly; the load, which is
not, by Heun's rule. A switching inside a step ends that step there, so that trips are placed to a fraction of a second.
Source: standard mass-transfer analogy (heat and vapour leave the load with one effectiveness); coefficients our own
assumptions, set so that the published energy test (26 min, 3.3–3.6 lb a kWh) and its restricted runs come out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import lru_cache
from typing import NamedTuple

from warmdraft.air import SPECIFIC_HEAT_J_KGK, STANDARD_PRESSURE_PA, saturation_pressure_pa
from warmdraft.machine import Limits

#: Transfer units between air and load: effectiveness 1 − e^(−NTU) (own assumption).
TRANSFER_UNITS = 1.6
#: Water over dry mass below which the fibre holds on to its water, and how steeply (own assumptions, cotton).
CRITICAL_MOISTURE = 0.25
HOLDING_POWER = 0.75
#: A load is dry at this moisture. Source: US DOE 10 CFR 430 B, appendix D1, from memory.
DRY_MOISTURE = 0.04
#: Heat capacities, J/K and J/(kg K): heater box, drum and what turns with it (own assumptions); cotton and water, from
#: memory.
BOX_J_K = 2500.0
DRUM_J_K = 3000.0
FIBRE_J_KGK = 1340.0
WATER_J_KGK = 4186.0
#: Latent heat of water near 40 °C, J/kg, and specific heat of vapour, J/(kg K); from memory.
LATENT_J_KG = 2.406e6
VAPOUR_J_KGK = 1860.0
#: Ratio of the molar masses of water and dry air. ASHRAE Fundamentals, from memory.
MOLAR_RATIO = 0.621945
#: Lags of the sensors, s; a high limit closes this far below its opening, K (own assumptions; 20–40 s is usual).
EXHAUST_LAG_S = 30.0
LIMIT_LAG_S = 20.0
LIMIT_DIFFERENTIAL_K = 42.0
#: What the motor takes beside the heat, W (own assumption).
MOTOR_W = 220.0
#: Water vapour a gas burner adds to the air, kg per kWh of gross input. Natural gas, from memory.
GAS_VAPOUR_KG_KWH = 0.15
LONGEST_MINUTES = 240.0
STEP_S = 40.0
_REFINEMENTS = 3


@dataclass(frozen=True, slots=True)
class Load:
    """What is to be dried; moisture: water over dry mass. Default: the published energy test."""

    dry_mass_kg: float = 3.833
    moisture: float = 0.575


@dataclass(frozen=True, slots=True)
class DryingCase:
    """One machine with one load. Flows in kg/s of dry air while hot; leak: room air that joins after the drum.

    power_w: heat given to the air; input_w: what is paid for it; vapour_kg_s: water a burner adds while it burns.
    """

    heater_flow_kg_s: float
    leak_flow_kg_s: float
    power_w: float
    input_w: float
    limits: Limits
    load: Load = field(default_factory=Load)
    room_temperature_c: float = 21.0
    room_humidity_ratio: float = 0.008
    pressure_pa: float = STANDARD_PRESSURE_PA
    vapour_kg_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Trip:
    """A thermostat that opened, and when; minutes from the start."""

    limit: str
    minute: float


@dataclass(frozen=True, slots=True)
class Moment:
    """One row of the trace: minutes, temperatures in °C, water over dry mass, whether the heat is on."""

    minute: float
    box_c: float
    load_c: float
    exhaust_c: float
    moisture: float
    heat_on: bool


@dataclass(frozen=True, slots=True)
class DryingRun:
    """minutes to dry, or None with stopped_by: a one-shot part, or "time"."""

    minutes: float | None
    stopped_by: str | None
    energy_kwh: float
    heat_kwh: float
    trips: tuple[Trip, ...]
    trace: tuple[Moment, ...]


def water_activity(moisture: float) -> float:
    """Share of free water's vapour pressure that the load gives: 1 while wet, falling once the fibre holds on."""
    return 1.0 if moisture >= CRITICAL_MOISTURE else (moisture / CRITICAL_MOISTURE) ** HOLDING_POWER


def _lagged_decay(sensor: float, start: float, goal: float, dt: float, lag: float, decay: float) -> float:
    """First-order lag of something that nears `goal` from `start` with a lag `decay` of its own; exact."""
    if abs(decay - lag) < 1e-6 * lag:
        decay *= 1 + 1e-5  # the formula below has a removable pole there
    pull = (start - goal) * decay / (decay - lag)
    return goal + pull * math.exp(-dt / decay) + (sensor - goal - pull) * math.exp(-dt / lag)


@lru_cache(maxsize=16)
def _saturated_ratios(pressure_pa: float) -> tuple[float, ...]:
    """Humidity ratio of saturated air at 0, 1, … 99 °C, kg/kg."""
    pressures = [saturation_pressure_pa(float(t)) for t in range(100)]
    return tuple(MOLAR_RATIO * p / max(pressure_pa - p, 0.02 * pressure_pa) for p in pressures)


@dataclass(slots=True)
class _State:
    box: float
    load: float
    water: float
    exhaust: float  # what the exhaust sensor feels
    limit: float  # what the box's sensors feel

    @property
    def felt(self) -> tuple[float, float, float]:
        """What something switches by."""
        return self.water, self.exhaust, self.limit


class _Stepper:
    """The differential equations with everything constant worked out once."""

    def __init__(self, case: DryingCase) -> None:
        flow = case.heater_flow_kg_s
        self.case = case
        self.effectiveness = 1 - math.exp(-TRANSFER_UNITS)
        self.heat_rate = flow * (SPECIFIC_HEAT_J_KGK + VAPOUR_J_KGK * case.room_humidity_ratio)
        self.evaporation = self.effectiveness * flow
        self.box_lag = BOX_J_K / self.heat_rate
        self.mix = flow / (flow + case.leak_flow_kg_s)
        self.fixed_capacity = case.load.dry_mass_kg * FIBRE_J_KGK + DRUM_J_K
        self.saturated = _saturated_ratios(case.pressure_pa)

    def rates(self, box: float, load: float, water: float, inlet_ratio: float) -> tuple[float, float]:
        """d load / dt, K/s, and d water / dt, kg/s."""
        place = min(max(load, 0.0), 98.999)
        below = int(place)
        low = self.saturated[below]
        ratio = low + (self.saturated[below + 1] - low) * (place - below)
        activity = water_activity(water / self.case.load.dry_mass_kg)
        leaving = self.evaporation * (activity * ratio - inlet_ratio)
        if leaving < 0:
            leaving = 0.0  # no dew on the load: it is warmed through within a minute
        gained = self.effectiveness * self.heat_rate * (box - load)
        capacity = self.fixed_capacity + water * WATER_J_KGK
        return (gained - leaving * LATENT_J_KG) / capacity, -leaving

    def exhaust_air(self, box: float, load: float) -> float:
        """Air at the exhaust sensor, leaks mixed in, °C."""
        drum = box - self.effectiveness * (box - load)
        return self.mix * drum + (1 - self.mix) * self.case.room_temperature_c

    def step(self, state: _State, heat_on: bool, dt: float) -> _State:
        """The state dt seconds on, the heat on or off throughout."""
        case = self.case
        goal = case.room_temperature_c + (case.power_w / self.heat_rate if heat_on else 0.0)
        inlet = case.room_humidity_ratio + (case.vapour_kg_s / case.heater_flow_kg_s if heat_on else 0.0)
        box = goal + (state.box - goal) * math.exp(-dt / self.box_lag)
        warming, wetting = self.rates(state.box, state.load, state.water, inlet)
        warming2, wetting2 = self.rates(box, state.load + warming * dt, state.water + wetting * dt, inlet)
        load = state.load + dt * (warming + warming2) / 2
        water = state.water + dt * (wetting + wetting2) / 2
        exhaust = _lagged(state.exhaust, self.exhaust_air(state.box, state.load), self.exhaust_air(box, load), dt,
                          EXHAUST_LAG_S)  # fmt: skip
        limit = _lagged_decay(state.limit, state.box, goal, dt, LIMIT_LAG_S, self.box_lag)
        return _State(box, load, water, exhaust, limit)


def _lagged(sensor: float, before: float, after: float, dt: float, lag: float) -> float:
    """First-order lag of something that moves in a straight line from `before` to `after` in dt; exact."""
    slope = (after - before) / dt
    return after - slope * lag + (sensor - before + slope * lag) * math.exp(-dt / lag)


class _Switch(NamedTuple):
    """Something that happens when what is felt comes to a level, from below (rising) or from above."""

    event: str
    felt: int  # place in _State.felt
    level: float
    rising: bool

    def share(self, now: _State, then: _State) -> float:
        """At which share of the way from `now` to `then` the level is met, in a straight line."""
        before, after = now.felt[self.felt], then.felt[self.felt]
        return 1.0 if after == before else (self.level - before) / (after - before)


_WATER, _EXHAUST, _LIMIT = range(3)


def _switches(limits: Limits, dry_water: float, cycling_on: bool, limit_on: bool) -> tuple[_Switch, ...]:
    """Everything that may happen next, with the thermostats as they stand."""
    cycling = limits.cycling_opens_c if cycling_on else limits.cycling_closes_c
    limit = limits.high_limit_opens_c - (0.0 if limit_on else LIMIT_DIFFERENTIAL_K)
    return (
        _Switch("dry", _WATER, dry_water, rising=False),
        _Switch("cycling_thermostat", _EXHAUST, cycling, rising=cycling_on),
        _Switch("high_limit", _LIMIT, limit, rising=limit_on),
        _Switch("thermal_fuse", _EXHAUST, limits.thermal_fuse_opens_c, rising=True),
        _Switch("thermal_cutoff", _LIMIT, limits.thermal_cutoff_opens_c, rising=True),
    )


def _first(switches: tuple[_Switch, ...], now: _State, then: _State) -> tuple[float, _Switch] | None:
    """What happens first within a step, and at about which share of it."""
    before, after = now.felt, then.felt
    met = []
    for switch in switches:
        _, felt, level, rising = switch
        was, is_now = before[felt], after[felt]
        if was < level <= is_now if rising else was > level >= is_now:
            met.append((switch.share(now, then), switch))
    return min(met) if met else None


def dry(case: DryingCase, step_s: float = STEP_S) -> DryingRun:
    """Run a load until it is dry, a one-shot part opens, or four hours have passed.

    step_s: of the integration, s; times in the answer are minutes.
    Source: energy and water balance of the drum, own model.

    >>> from warmdraft.machine import profile
    >>> limits = profile('full-size-electric').heat.limits
    >>> run = dry(DryingCase(0.09, 0.005, 5300.0, 5600.0, limits))
    >>> round(run.minutes), run.stopped_by
    (27, None)
    """
    stepper, limits = _Stepper(case), case.limits
    room = case.room_temperature_c
    state = _State(room, room, case.load.dry_mass_kg * case.load.moisture, room, room)
    dry_water = DRY_MOISTURE * case.load.dry_mass_kg
    cycling_on = limit_on = True
    seconds, burning = 0.0, 0.0
    trips: list[Trip] = []
    trace: list[Moment] = []

    def note() -> None:
        trace.append(Moment(seconds / 60, state.box, state.load, state.exhaust, state.water / case.load.dry_mass_kg,
                            cycling_on and limit_on))  # fmt: skip

    note()
    stopped_by: str | None = None
    switches = _switches(limits, dry_water, cycling_on, limit_on)
    while state.water > dry_water:
        if seconds >= LONGEST_MINUTES * 60:
            stopped_by = "time"
            break
        heat_on = cycling_on and limit_on
        dt = step_s
        ahead = stepper.step(state, heat_on, dt)
        first = _first(switches, state, ahead)
        if first is not None:
            share, switch = first
            for _ in range(_REFINEMENTS):  # secant: what switches moves in a curve within a step
                dt = min(max(dt * share, 1e-6), step_s)
                ahead = stepper.step(state, heat_on, dt)
                share = switch.share(state, ahead)
        seconds += dt
        burning += dt if heat_on else 0.0
        state = ahead
        if first is not None:
            if switch.event == "dry":
                break
            if switch.rising:
                trips.append(Trip(switch.event, seconds / 60))
            if switch.event in ("thermal_fuse", "thermal_cutoff"):
                stopped_by = switch.event
                break
            if switch.event == "cycling_thermostat":
                state.exhaust = switch.level
                cycling_on = not cycling_on
            else:
                state.limit = switch.level
                limit_on = not limit_on
            switches = _switches(limits, dry_water, cycling_on, limit_on)
        note()
    note()
    heat = burning * case.input_w / 3.6e6
    return DryingRun(
        minutes=None if stopped_by else seconds / 60,
        stopped_by=stopped_by,
        energy_kwh=heat + seconds * MOTOR_W / 3.6e6,
        heat_kwh=heat,
        trips=tuple(trips),
        trace=tuple(trace),
    )
