"""Laws of the airway: they hold for every machine, healthy or not."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pytest import approx

from strategies import FULL_SIZE, airways, elements, exact_readings, machines, suppositions
from warmdraft.air import AirState
from warmdraft.airway import (
    NODES,
    READING_KINDS,
    Conditions,
    healthy_state,
    heater_power_w,
    predict,
    profile_rows,
    solve,
)
from warmdraft.airway.state import leak_conductance
from warmdraft.errors import MachineError
from warmdraft.faults import supposed_state
from warmdraft.machine import ELEMENTS, Fan, profile

CFM, INH2O = 4.719474432e-4, 249.0889  # exact foot and minute; inch of water, conventional
TIGHT = 1e-9


def test_the_reference_machine_reads_what_the_physics_page_says():
    # own reference result for the default machine: 170 cfm, 0.38 and 0.60 inH2O, 62 K
    read = exact_readings(())
    assert read["outlet_flow"] / CFM == approx(170, abs=0.5)
    assert read["outlet_static_pressure"] / INH2O == approx(0.38, abs=0.005)
    assert read["blower_inlet_suction"] / INH2O == approx(0.60, abs=0.005)
    assert read["heater_rise"] == approx(62, abs=0.5)
    assert read["heater_current"] == approx(22.5)  # 5400 W at 240 V


@given(airway=airways(), suppose=suppositions(), density=st.floats(0.8, 1.3))
def test_air_in_is_air_out_at_every_junction_and_pressures_close(airway, suppose, density):
    state = supposed_state(airway, suppose)
    flow = solve(state, airway.fan, density)
    p = dict(zip(NODES, flow.pressures[0], strict=True))
    ratio = density / 1.2

    def leak(conductance, pressure):
        return conductance * np.sqrt(abs(pressure) / ratio)

    assert flow.screen[0] == approx(flow.heater[0] + leak(state.drum_seal[0], p["drum"]), rel=TIGHT, abs=1e-12)
    assert flow.wheel[0] == approx(flow.screen[0] + leak(state.lint_duct_seal[0], p["lint_duct"]), rel=TIGHT, abs=1e-12)
    assert flow.wheel[0] == approx(flow.outlet[0] + leak(state.parted_pipe[0], p["blower"]), rel=TIGHT, abs=1e-12)
    assert flow.outlet[0] == approx(
        flow.vent[0] + leak(state.detached_transition[0], p["exhaust_pipe"]), rel=TIGHT, abs=1e-12
    )
    # the fan gives what its curve gives at this flow
    n, head, free = state.speed_left[0], state.head_left[0], state.free_flow_left[0]
    curve = (
        airway.fan.shutoff_pressure_pa
        * head
        * ratio
        * (n**2 - (flow.wheel[0] / (airway.fan.free_flow_m3s * free)) ** 2)
    )
    starved = state.room_deficit_pa[0] > 0 and flow.vent[0] == 0
    if not starved:
        assert p["blower"] - p["lint_duct"] == approx(curve, rel=1e-8, abs=1e-7)
        assert p["hood"] == approx(state.room_deficit_pa[0], abs=1e-7)


@given(airway=airways(), suppose=suppositions())
def test_the_power_the_fan_gives_is_lost_in_elements_and_leaks(airway, suppose):
    state = supposed_state(airway, suppose)
    flow = solve(state, airway.fan)
    rows = {row.element: row for row in profile_rows(flow, (0,))}
    blower = rows.pop("blower")
    given_w = blower.flow_m3s * (blower.pressure_out_pa - blower.pressure_in_pa)
    lost_w = sum(row.flow_m3s * (row.pressure_in_pa - row.pressure_out_pa) for row in rows.values())
    p = dict(zip(NODES, flow.pressures[0], strict=True))
    lost_w += (flow.screen[0] - flow.heater[0]) * -p["drum"] + (flow.wheel[0] - flow.screen[0]) * -p["lint_duct"]
    lost_w += (flow.wheel[0] - flow.outlet[0]) * p["blower"] + (flow.outlet[0] - flow.vent[0]) * p["exhaust_pipe"]
    lost_w += flow.vent[0] * p["hood"]  # pushed out against outdoors
    assert given_w == approx(lost_w, rel=TIGHT, abs=1e-9)


@given(airway=airways(), element=elements, factor=st.floats(1.01, 200))
def test_more_resistance_never_means_more_air(airway, element, factor):
    healthy = healthy_state(airway)
    worse = healthy.with_resistance_of(element, factor)
    assert solve(worse, airway.fan).vent[0] <= solve(healthy, airway.fan).vent[0] * (1 + TIGHT)


@given(airway=airways(), speed=st.floats(0.3, 1.5))
def test_a_slower_wheel_follows_the_fan_laws(airway, speed):
    # Q ∝ n, Δp ∝ n²: fan laws, ASHRAE and AMCA
    healthy = healthy_state(airway)
    slow = solve(replace(healthy, speed_left=np.full(1, speed)), airway.fan)
    full = solve(healthy, airway.fan)
    assert slow.wheel == approx(full.wheel * speed, rel=TIGHT)
    assert slow.pressures == approx(full.pressures * speed**2, rel=TIGHT)


@given(airway=airways(), density=st.floats(0.7, 1.3))
def test_thin_air_keeps_its_volume_flow_and_loses_pressure(airway, density):
    thin, normal = solve(healthy_state(airway), airway.fan, density), solve(healthy_state(airway), airway.fan)
    assert thin.wheel == approx(normal.wheel, rel=TIGHT)
    assert thin.pressures == approx(normal.pressures * density / 1.2, rel=TIGHT)


def test_at_1500_m_pressures_are_five_sixths():
    # standard atmosphere: 84.6 kPa at 1500 m; own physics page: × 0.83 against sea level at the same temperature
    high, low = AirState.of_room(21, 84_556, 0.5), AirState.of_room(21, 101_325, 0.5)
    assert high.density_kg_m3 / low.density_kg_m3 == approx(0.83, abs=0.005)


def test_the_bisection_meets_the_closed_form_as_the_deficit_goes():
    airway = FULL_SIZE.airway
    off = supposed_state(airway, (("transition_detached", 2.0),))
    closed = solve(off, airway.fan)
    bisected = solve(replace(off, room_deficit_pa=np.full(1, 1e-7)), airway.fan)
    assert bisected.pressures == approx(closed.pressures, abs=1e-5)


def test_a_room_pulled_below_the_fans_pressure_lets_no_air_out():
    airway = FULL_SIZE.airway
    flow = solve(replace(healthy_state(airway), room_deficit_pa=np.full(1, 900.0)), airway.fan)
    assert flow.vent[0] == 0


# The pattern that tells zones apart; physics page, own model. up, down, same: against healthy, by 2 % or more.
PATTERN = [
    ("lint_screen_blinded", "down", "down", "up", "down", "up"),
    ("lint_duct_packed", "down", "down", "up", "down", "up"),
    ("inlet_blocked", "down", "down", "up", "down", "up"),
    ("vent_run_packed", "down", "up", "down", "same", "up"),
    ("transition_crushed", "down", "up", "down", "same", "up"),
    ("hood_blocked", "down", "up", "down", "same", "up"),
    ("room_starved", "down", "up", "down", "same", "up"),
    ("blower_wheel_fouled", "down", "down", "down", "down", "up"),
    ("blower_wheel_slipping", "down", "down", "down", "down", "up"),
    ("motor_fading", "down", "down", "down", "down", "up"),
    ("exhaust_pipe_blocked", "down", "down", "down", "down", "up"),
    ("drum_seal_leaking", "up", "up", "down", "up", "up"),
    ("lint_duct_seal_leaking", "up", "up", "down", "up", "up"),
    ("exhaust_pipe_parted", "down", "down", "up", "down", "down"),
    ("transition_detached", "up", "down", "up", "same", "down"),
    ("heat_source_weak", "same", "same", "same", "same", "down"),
]


@pytest.mark.parametrize(("fault", "flow", "pressure", "suction", "vent_off", "rise"), PATTERN)
def test_each_fault_moves_the_readings_as_the_pattern_says(fault, flow, pressure, suction, vent_off, rise):
    healthy, faulty = exact_readings(()), exact_readings(((fault, None),))
    kinds = ("outlet_flow", "outlet_static_pressure", "blower_inlet_suction", "vent_off_flow", "heater_rise")
    for kind, expected in zip(kinds, (flow, pressure, suction, vent_off, rise), strict=True):
        ratio = faulty[kind] / healthy[kind]
        moved = "up" if ratio > 1.002 else "down" if ratio < 0.998 else "same"
        assert moved == expected, f"{kind} went {ratio:.3f}"


@given(machine=machines, suppose=suppositions())
def test_every_profile_predicts_every_reading_it_can_give(machine, suppose):
    values = predict(machine, supposed_state(machine.airway, suppose), Conditions())[0]
    missing = [kind for kind, value in zip(READING_KINDS, values, strict=True) if not np.isfinite(value)]
    assert missing == (["heater_current"] if machine.heat.energy == "gas" else [])


def test_low_voltage_takes_heat_with_its_square():
    # 208 V on a 240 V element: 75 % of the power, 87 % of the current. Ohm's law.
    healthy = healthy_state(FULL_SIZE.airway)
    full = dict(zip(READING_KINDS, predict(FULL_SIZE, healthy, Conditions())[0], strict=True))
    low = dict(zip(READING_KINDS, predict(FULL_SIZE, healthy, Conditions(supply_voltage_v=208))[0], strict=True))
    assert low["heater_rise"] / full["heater_rise"] == approx(0.751, abs=0.001)
    assert low["heater_current"] / full["heater_current"] == approx(0.867, abs=0.001)


def test_the_drum_seals_share_is_what_leaks_at_rated_drops():
    airway = FULL_SIZE.airway
    assert leak_conductance(airway, "drum_seal") * np.sqrt(25 + 30) == approx(0.08 * airway.rated_flow_m3s)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"rated_flow_m3s": 0.0}, "finite and above 0"),
        ({"rated_flow_m3s": float("nan")}, "finite and above 0"),
        ({"drops_pa": (1.0,) * 7}, "8 drops"),
        ({"drops_pa": (1.0,) * 7 + (-1.0,)}, "hood"),
        ({"drum_seal_share": 1.0}, "below 1"),
    ],
)
def test_a_machine_that_cannot_be_is_refused(change, words):
    with pytest.raises(MachineError, match=words):
        replace(FULL_SIZE.airway, **change)


def test_a_fan_without_flow_is_refused():
    with pytest.raises(MachineError, match="free flow"):
        Fan(440.0, -0.1, 1725.0)


def test_a_compact_machine_moves_about_half_the_air():
    ratio = exact_readings((), profile("compact-electric-50hz"))["outlet_flow"] / exact_readings(())["outlet_flow"]
    assert ratio == approx(0.5, abs=0.05)
    assert len(ELEMENTS) == 8


def test_a_burner_high_up_gives_less_than_its_plate():
    # an unchanged orifice at 2000 m passes about 0.89 of the gas (from memory)
    gas = profile("full-size-gas")
    low, high = (heater_power_w(gas, Conditions(density_kg_m3=1.2 * left), np.ones(1))[0] for left in (1.0, 0.785))
    assert high / low == approx(0.89, abs=0.01)
