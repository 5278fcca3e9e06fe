"""The operating point: where the fan's curve meets the airway.

All at reference density; at another density the volume flows stay and the pressures go with it, which `solve` does
at the end. Closed form, but for a starved room together with a leak after the wheel, which takes a bisection.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from warmdraft.air import REFERENCE_DENSITY_KG_M3, Floats
from warmdraft.airway.state import AirwayState
from warmdraft.machine import Fan

_BISECTIONS = 60  # halvings of the fan's whole pressure: far below a micropascal


@dataclass(frozen=True, slots=True)
class AirFlow:
    """Flows in m³/s and gauge pressures in Pa, one entry per hypothesis.

    heater: through inlet and drum; screen: through screen and lint duct; wheel: through the blower; outlet: at the
    collar, before a detached joint; vent: what reaches outdoors. pressures (..., 10) at NODES of profile.py.
    """

    heater: Floats
    screen: Floats
    wheel: Floats
    outlet: Floats
    vent: Floats
    pressures: Floats


def in_parallel(resistance: Floats, conductance: Floats) -> Floats:
    """Resistance of a way with a leak beside it; both begin and end at the same two pressures."""
    return np.asarray((1 / np.sqrt(resistance) + conductance) ** -2)


def solve(state: AirwayState, fan: Fan, density_kg_m3: float = REFERENCE_DENSITY_KG_M3) -> AirFlow:
    """Flows and pressures of every hypothesis in `state`. The hood has a backdraft flap: nothing comes back in; where
    outdoors lies below the room it draws the air out.

    Source: series and parallel resistances Δp = R·Q², Q = G·√Δp; parabolic fan curve under the fan laws
    (Q ∝ n, Δp ∝ n²ρ: ASHRAE, AMCA); own convention for the order of the leaks (docs/formats).

    >>> from warmdraft.airway import healthy_state
    >>> from warmdraft.machine import profile
    >>> airway = profile('full-size-electric').airway
    >>> flow = solve(healthy_state(airway), airway.fan)
    >>> round(float(flow.outlet[0]), 4)  # m³/s
    0.0804
    """
    ratio = density_kg_m3 / REFERENCE_DENSITY_KG_M3
    r = state.resistance
    way_in = r[..., 0] + r[..., 1]
    drum = in_parallel(way_in, state.drum_seal)
    to_wheel = drum + r[..., 2] + r[..., 3]
    suction_side = in_parallel(to_wheel, state.lint_duct_seal)
    pipe, vent = r[..., 4], r[..., 5] + r[..., 6] + r[..., 7]

    shutoff = fan.shutoff_pressure_pa * state.head_left * state.speed_left**2
    fan_slope = fan.shutoff_pressure_pa * state.head_left / (fan.free_flow_m3s * state.free_flow_left) ** 2
    deficit = state.room_deficit_pa / ratio
    internal = suction_side + fan_slope  # all that the shut-off pressure is spent on before the wheel's outlet

    after_collar = in_parallel(vent, state.detached_transition)
    after_wheel = in_parallel(pipe + after_collar, state.parted_pipe)
    wheel = np.sqrt(np.maximum(shutoff - deficit, 0) / (internal + after_wheel))
    leaks = (state.parted_pipe > 0) | (state.detached_transition > 0)
    if np.any(leaks & (deficit != 0)):
        shape = np.broadcast_shapes(wheel.shape, leaks.shape, deficit.shape)
        collar = _collar_pressure(state, shutoff, internal, pipe, vent, deficit, shape)
    else:
        wheel_outlet = shutoff - internal * wheel**2
        # with no deficit the collar takes its share of what is left; with no leak all of it is the vent's
        collar = np.where(deficit != 0, deficit + vent * wheel**2, wheel_outlet * after_collar / (pipe + after_collar))
    through_vent = np.sqrt(np.maximum(collar - deficit, 0) / vent)
    outlet = through_vent + state.detached_transition * _signed_root(collar)
    wheel_outlet = collar + pipe * outlet * np.abs(outlet)
    wheel = outlet + state.parted_pipe * _signed_root(wheel_outlet)

    wheel_inlet = -suction_side * wheel**2
    screen = np.sqrt(-wheel_inlet / to_wheel)
    after_drum = -drum * screen**2
    heater = np.sqrt(-after_drum / way_in)
    columns = (
        np.zeros_like(wheel),
        -r[..., 0] * heater**2,
        after_drum,
        after_drum - r[..., 2] * screen**2,
        wheel_inlet,
        wheel_outlet,
        collar,
        collar - r[..., 5] * through_vent**2,
        collar - (r[..., 5] + r[..., 6]) * through_vent**2,
        deficit,
    )
    pressures = np.stack(np.broadcast_arrays(*columns), axis=-1) * ratio
    return AirFlow(heater, screen, wheel, outlet, through_vent, pressures)


def _signed_root(pressure: Floats) -> Floats:
    """What an opening to the room passes of a pressure on its inner side, per conductance: in where it is below."""
    return np.asarray(np.sign(pressure) * np.sqrt(np.abs(pressure)))


def _collar_pressure(
    state: AirwayState, shutoff: Floats, internal: Floats, pipe: Floats, vent: Floats, deficit: Floats,
    shape: tuple[int, ...],
) -> Floats:  # fmt: skip
    """Collar pressure where a leak to the room and an outdoors above or below it stand side by side: by bisection.

    The pressure asked of the fan rises with the collar's, so there is exactly one crossing.
    """
    low = np.broadcast_to(np.minimum(deficit, 0), shape).astype(float)
    high = np.broadcast_to(shutoff, shape).astype(float)
    for _ in range(_BISECTIONS):
        collar = (low + high) / 2
        outlet = np.sqrt(np.maximum(collar - deficit, 0) / vent) + state.detached_transition * _signed_root(collar)
        wheel_outlet = collar + pipe * outlet * np.abs(outlet)
        wheel = outlet + state.parted_pipe * _signed_root(wheel_outlet)
        too_much = wheel_outlet + internal * wheel * np.abs(wheel) > shutoff
        high = np.where(too_much, collar, high)
        low = np.where(too_much, low, collar)
    return np.asarray((low + high) / 2)
