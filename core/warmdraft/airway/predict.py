"""What instruments would read under every hypothesis."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from warmdraft.air import REFERENCE_DENSITY_KG_M3, ROOM_TEMPERATURE_C, SPECIFIC_HEAT_J_KGK, Floats
from warmdraft.airway.kinds import READING_KINDS, TAPS
from warmdraft.airway.operating_point import AirFlow, solve
from warmdraft.airway.profile import NODES
from warmdraft.airway.state import AirwayState
from warmdraft.errors import CatalogueError
from warmdraft.machine import Machine

#: Share of a gas burner's gross input that heats the air; the rest leaves as water vapour. Natural gas, from memory.
GAS_SENSIBLE_SHARE = 0.90
#: Flow below which a heater's rise is no longer a number anyone would wait for, m³/s: keeps predictions finite.
_STILL_AIR_M3S = 1e-4


@dataclass(frozen=True, slots=True)
class Conditions:
    """What shifts every prediction and is predicted by none: the room's air, and the supply at the receptacle."""

    density_kg_m3: float = REFERENCE_DENSITY_KG_M3
    room_temperature_c: float = ROOM_TEMPERATURE_C
    supply_voltage_v: float | None = None


def heater_power_w(machine: Machine, conditions: Conditions, power_left: Floats) -> Floats:
    """Heat given to the air, W. Electric power goes with the square of the voltage; gas gives its sensible share, and
    through an orifice that nobody changed as much less as the root of the density.

    power_left: shares of the rated power, any shape; the answer has it too. Source: P = U²/R for a resistance; an
    orifice under the same pressure passes mass with the root of the density, Bernoulli.

    >>> import numpy as np
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> half = Conditions(supply_voltage_v=machine.heat.supply_voltage_v / 2)
    >>> float(heater_power_w(machine, half, np.array([1.0]))[0]) == machine.heat.power_w / 4
    True
    """
    heat = machine.heat
    if heat.energy == "gas":
        thin = math.sqrt(conditions.density_kg_m3 / REFERENCE_DENSITY_KG_M3)
        return GAS_SENSIBLE_SHARE * heat.power_w * thin * power_left
    voltage = conditions.supply_voltage_v or heat.supply_voltage_v
    return heat.power_w * (voltage / heat.supply_voltage_v) ** 2 * power_left


def predict(machine: Machine, state: AirwayState, conditions: Conditions, flow: AirFlow | None = None) -> Floats:
    """Cold-convention readings, (..., len(READING_KINDS)), canonical units; heater_current is NaN on gas.

    flow: the operating point of `state`, where the caller has it already.

    >>> from warmdraft.airway import healthy_state
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> readings = predict(machine, healthy_state(machine.airway), Conditions())[0]
    >>> round(float(readings[list(READING_KINDS).index('outlet_flow')]), 4)  # m³/s
    0.0804
    """
    airway, density = machine.airway, conditions.density_kg_m3
    flow = solve(state, airway.fan, density) if flow is None else flow
    power = heater_power_w(machine, conditions, state.power_left)
    warming = density * SPECIFIC_HEAT_J_KGK
    cycling = machine.heat.limits.cycling_opens_c + state.cycling_offset_k
    exhaust = conditions.room_temperature_c + power / (warming * np.maximum(flow.outlet, _STILL_AIR_M3S))
    current = np.full(1, np.nan)
    if machine.heat.energy == "electric":
        voltage = conditions.supply_voltage_v or machine.heat.supply_voltage_v
        current = power / voltage
    values = {
        "outlet_flow": flow.outlet,
        "hood_flow": flow.vent,
        "vent_off_flow": solve(state.vent_off(airway), airway.fan).outlet,
        "screen_out_flow": solve(state.screen_out(), airway.fan, density).outlet,
        "heater_rise": power / (warming * np.maximum(flow.heater, _STILL_AIR_M3S)),
        "exhaust_temperature": np.minimum(exhaust, cycling),
        "heater_current": current,
        "still_pressure": state.room_deficit_pa,  # no air moves that would lose any of it
        "blower_speed": airway.fan.wheel_speed_rpm * state.speed_left,
    }
    for kind, tap in TAPS.items():
        values[kind] = tap.sign * flow.pressures[..., NODES.index(tap.node)]
    missing = next((kind for kind in READING_KINDS if kind not in values), None)
    if missing is not None:
        raise CatalogueError(
            f"readings.toml, {missing}.given: 'predicted' asks for a value of that name in airway/predict.py; add it, "
            "or give a tap"
        )
    return np.stack(np.broadcast_arrays(*(values[kind] for kind in READING_KINDS)), axis=-1)
