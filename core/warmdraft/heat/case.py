"""From an airway to what the drying of a load needs to know of it."""

from __future__ import annotations

from dataclasses import replace

from warmdraft.air import ROOM_RELATIVE_HUMIDITY, STANDARD_PRESSURE_PA, humidity_ratio
from warmdraft.airway import HOT_PRESSURE_FACTOR, AirwayState, Conditions, heater_power_w, solve
from warmdraft.heat.drying import GAS_VAPOUR_KG_KWH, DryingCase, Load
from warmdraft.machine import Machine

#: Mass flow with the heat on against cold: as the pressures, since volume flows stay.
HOT_MASS_FACTOR = HOT_PRESSURE_FACTOR
#: Air that no wheel moves still rises: least mass flow, kg/s (own assumption).
_STILL_KG_S = 1e-3


def drying_case(
    machine: Machine, state: AirwayState, conditions: Conditions, load: Load,
    relative_humidity: float = ROOM_RELATIVE_HUMIDITY, pressure_pa: float = STANDARD_PRESSURE_PA,
) -> DryingCase:  # fmt: skip
    """The one machine of `state` (its first hypothesis) with a load.

    relative_humidity: of the room, 0 to 1; pressure_pa: Pa.

    >>> from warmdraft.airway import Conditions, healthy_state
    >>> from warmdraft.machine import profile
    >>> machine = profile('full-size-electric')
    >>> case = drying_case(machine, healthy_state(machine.airway), Conditions(), Load())
    >>> round(case.heater_flow_kg_s, 3), round(case.power_w)
    (0.076, 5400)
    """
    flow = solve(state, machine.airway.fan)
    hot = HOT_MASS_FACTOR * conditions.density_kg_m3
    heater, wheel = float(flow.heater[0]), float(flow.wheel[0])
    power = float(heater_power_w(machine, conditions, state.power_left)[0])
    paid, vapour = power, 0.0
    if machine.heat.energy == "gas":
        paid = machine.heat.power_w * float(state.power_left[0])
        vapour = GAS_VAPOUR_KG_KWH * paid / 3.6e6
    limits = machine.heat.limits
    offset = float(state.cycling_offset_k[0])
    limits = replace(
        limits,
        cycling_opens_c=limits.cycling_opens_c + offset,
        cycling_closes_c=limits.cycling_closes_c + offset,
        high_limit_opens_c=limits.high_limit_opens_c + float(state.limit_offset_k[0]),
    )
    return DryingCase(
        heater_flow_kg_s=max(hot * heater, _STILL_KG_S),
        leak_flow_kg_s=hot * max(wheel - heater, 0.0),
        power_w=power,
        input_w=paid,
        limits=limits,
        load=load,
        room_temperature_c=conditions.room_temperature_c,
        room_humidity_ratio=humidity_ratio(conditions.room_temperature_c, relative_humidity, pressure_pa),
        pressure_pa=pressure_pa,
        vapour_kg_s=vapour,
    )
