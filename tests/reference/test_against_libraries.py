"""Our physics against general-purpose libraries and published figures. The source stands beside each check."""

import fluids
import numpy as np
import psychrolib
import pytest
from pytest import approx
from scipy.optimize import fsolve

from warmdraft.air import AirState, humidity_ratio, saturation_pressure_pa
from warmdraft.airway import solve
from warmdraft.faults import supposed_state
from warmdraft.machine import profile, profile_names
from warmdraft.vent import (
    Elbow,
    Flexible,
    Hood,
    Pinch,
    Straight,
    VentRun,
    piece_drops_pa,
    run_and_hood_drop_pa,
    step_drop_pa,
)
from warmdraft.vent.friction import friction_factor, velocity_pressure_pa, viscosity_pa_s
from warmdraft.vent.losses import flexible_multiplier, pinch_coefficient

psychrolib.SetUnitSystem(psychrolib.SI)
CFM, INH2O, FOOT = 4.719474432e-4, 249.0889, 0.3048


@pytest.mark.parametrize("reynolds", [500.0, 2000.0, 4000.0, 2e4, 1e5, 1e6])
@pytest.mark.parametrize("roughness", [1e-6, 0.09e-3 / 0.1016, 0.9e-3 / 0.1016])
def test_friction_factor_is_colebrooks(reynolds, roughness):
    # fluids: friction_factor(Method="Clamond") solves Colebrook to machine precision; laminar below
    ours = float(friction_factor(np.array(reynolds), roughness))
    theirs = 64 / reynolds if reynolds < 2300 else fluids.friction.Clamond(reynolds, roughness, False)
    assert ours == approx(theirs, rel=1e-6)


@pytest.mark.parametrize(("cfm", "inches"), [(100, 0.60), (150, 1.28)])
def test_galvanised_duct_loses_what_the_friction_chart_says(cfm, inches):
    # ASHRAE friction chart, round galvanised duct, 4 in, 21 °C, per 100 ft; 3 %: two readers differ by that much
    run = VentRun(0.1016, (Straight(100 * FOOT, "galvanised"),))
    loss = piece_drops_pa(run, cfm * CFM, 1.2)[0]
    assert loss / INH2O == approx(inches, rel=0.03)


@pytest.mark.parametrize("celsius", [0, 21, 60])
def test_viscosity_of_air(celsius):
    # fluids' standard atmosphere (US 1976, Sutherland)
    assert viscosity_pa_s(celsius) == approx(fluids.ATMOSPHERE_1976.viscosity(celsius + 273.15), rel=0.01)


@pytest.mark.parametrize("method", ["Rennels", "Miller"])
@pytest.mark.parametrize("radii", [0.75, 1.0, 1.5, 2.0, 2.5])
def test_smooth_bends_lose_what_two_published_correlations_say(radii, method):
    # fluids.fittings.bend_rounded: Rennels and Hudson 2012, Miller 1990; a 4 in bore at 60,000
    k = elbow_drop(90, radii) / velocity_pressure_pa(0.07, 0.1016, 1.2)
    theirs = fluids.fittings.bend_rounded(0.1016, 90, bend_diameters=radii, fd=0.022, Re=6e4, roughness=9e-5,
                                          method=method)  # fmt: skip
    assert k == approx(theirs, rel=0.2)


def test_half_a_smooth_bend_loses_what_one_of_them_says():
    # the two differ by more than half here
    k = elbow_drop(45, 1.0) / velocity_pressure_pa(0.07, 0.1016, 1.2)
    assert k == approx(
        fluids.fittings.bend_rounded(0.1016, 45, bend_diameters=1.0, fd=0.022, method="Rennels"), rel=0.2
    )


def elbow_drop(angle, radii):
    """Drop of a smooth 4 in bend, Pa."""
    return piece_drops_pa(VentRun(0.1016, (Elbow(angle, "smooth", radii * 0.1016),)), 0.07, 1.2)[0]


def test_mitred_bends_lose_what_a_fluids_library_says():
    # fluids.fittings.bend_miter, Rennels: 1.2 for a right angle
    run = VentRun(0.1016, (Elbow(90, "mitred"),))
    k = piece_drops_pa(run, 0.07, 1.2)[0] / velocity_pressure_pa(0.07, 0.1016, 1.2)
    assert k == approx(fluids.fittings.bend_miter(90, Di=0.1016, method="Rennels"), rel=0.1)


def test_density_of_dry_air_is_the_standard_atmospheres():
    # US Standard Atmosphere 1976 through fluids: density at its own temperature and pressure
    for height in (0, 500, 1500, 3000):
        air = fluids.ATMOSPHERE_1976(height)
        ours = AirState.of_room(air.T - 273.15, air.P, 0.0).density_kg_m3
        assert ours == approx(air.rho, rel=1e-3)


@pytest.mark.parametrize("temperature", [-20.0, 0.0, 21.0, 40.0, 68.0])
@pytest.mark.parametrize("humidity", [0.1, 0.5, 0.95])
def test_moist_air_is_the_second_librarys(temperature, humidity):
    # PsychroLib 2.5: ASHRAE Handbook Fundamentals 2017, ch. 1, eqn 5, 6, 20, 26
    assert saturation_pressure_pa(temperature) == approx(psychrolib.GetSatVapPres(temperature), rel=1e-3)
    ours = humidity_ratio(temperature, humidity, 101_325)
    theirs = psychrolib.GetHumRatioFromRelHum(temperature, humidity, 101_325)
    assert ours == approx(theirs, rel=2e-3)
    density = psychrolib.GetMoistAirDensity(temperature, theirs, 101_325)
    assert AirState.of_room(temperature, 101_325, humidity).density_kg_m3 == approx(density, rel=5e-4)


def test_a_faster_fan_moves_more_air_in_proportion_and_asks_the_cube_of_power():
    # fan laws (ASHRAE, AMCA): Q ∝ n, p ∝ n², power ∝ n³; through our operating point
    airway = profile("full-size-electric").airway
    full = solve(supposed_state(airway, ()), airway.fan)
    slow = solve(supposed_state(airway, (("blower_wheel_slipping", 0.8),)), airway.fan)

    def power(flow):
        return float(flow.wheel[0] * (flow.pressures[0, 5] - flow.pressures[0, 4]))

    assert slow.wheel[0] / full.wheel[0] == approx(0.8, rel=1e-9)
    assert power(slow) / power(full) == approx(0.8**3, rel=1e-9)


@pytest.mark.parametrize("name", profile_names())
@pytest.mark.parametrize(
    "suppose",
    [
        (),
        (("lint_screen_blinded", 12.0),),
        (("transition_detached", 2.0), ("drum_seal_leaking", 5.0)),
        (("exhaust_pipe_parted", 1.0), ("room_starved", 40.0)),
        (("transition_detached", 1.5), ("room_starved", 30.0), ("blower_wheel_fouled", 0.3)),
    ],
)
def test_the_closed_form_solves_the_network(name, suppose):
    # scipy's general root finder on the balances themselves, no series or parallel rule used
    airway = profile(name).airway
    state = supposed_state(airway, suppose)
    r = state.resistance[0]
    g_drum, g_duct = state.drum_seal[0], state.lint_duct_seal[0]
    g_parted, g_off, deficit = state.parted_pipe[0], state.detached_transition[0], state.room_deficit_pa[0]
    p0 = airway.fan.shutoff_pressure_pa * state.head_left[0]
    free = airway.fan.free_flow_m3s * state.free_flow_left[0]

    def root(x):
        return np.sign(x) * np.sqrt(abs(x))

    def balances(unknown):
        drum, wheel_in, wheel_out, collar = unknown * 100
        heater = root(-drum / (r[0] + r[1]))
        screen = heater + g_drum * root(-drum)
        wheel = screen + g_duct * root(-wheel_in)
        vent = root(max(collar - deficit, 0) / (r[5] + r[6] + r[7]))  # the flap lets nothing back
        outlet = vent + g_off * root(collar)
        return [
            (drum - wheel_in - (r[2] + r[3]) * screen**2) / 100,
            (wheel_out - wheel_in - p0 * (1 - (wheel / free) ** 2)) / 100,
            (wheel_out - collar - r[4] * outlet**2) / 100,
            (wheel - outlet - g_parted * root(wheel_out)) * 100,
        ]

    ours = solve(state, airway.fan).pressures[0]
    found, _, solved, _ = fsolve(balances, np.array([-0.4, -1.2, 1.3, 1.0]), full_output=True, xtol=1e-12)
    assert solved == 1
    assert ours[[2, 4, 5, 6]] == approx(found * 100, rel=1e-6, abs=1e-6)


@pytest.mark.parametrize(("compression", "times"), [(0.04, 2.4), (0.15, 6.25), (0.30, 11.5)])
def test_slack_flexible_duct_multiplies_friction(compression, times):
    # ASHRAE Fundamentals, duct design, as printed on the physics page for 102 mm; from memory
    assert flexible_multiplier(compression, 0.102) == approx(times, rel=0.01)


@pytest.mark.parametrize(("open_share", "coefficient"), [(0.5, 4.0), (0.25, 29), (0.15, 95)])
def test_a_pinch_loses_what_weisbach_says(open_share, coefficient):
    # Weisbach's contraction, from memory; fluids' sharp contraction is within a third at half open
    assert pinch_coefficient(open_share) == approx(coefficient, rel=0.02)


def test_a_mitred_elbow_is_near_the_fluids_librarys():
    # fluids.bend_miter: Miller's method, 90°; ours is one figure from memory
    run = VentRun(
        0.1016, (Elbow(90, "mitred"), Elbow(90, "smooth", 0.1524), Hood("flap"), Pinch(0.5), Flexible(2, 0.1))
    )
    mitred, smooth, hood, *_ = piece_drops_pa(run, 0.075)
    head = 0.5 * 1.2 * (0.075 / (np.pi * 0.1016**2 / 4)) ** 2
    assert mitred / head == approx(fluids.bend_miter(90), rel=0.15)
    assert smooth / head == approx(fluids.bend_rounded(Di=0.1016, angle=90, fd=0.02, rc=0.1524), rel=0.2)
    assert hood == approx(25, abs=1)  # the reference machine's hood


def test_runs_add_their_pieces_and_keep_the_hood_apart():
    run = VentRun(0.1016, (Straight(5.0, "galvanised"), Elbow(90, "mitred"), Hood("flap")))
    run_drop, hood_drop = run_and_hood_drop_pa(run, 0.075)
    assert run_drop == approx(sum(piece_drops_pa(run, 0.075)[:2]))
    assert hood_drop == approx(piece_drops_pa(run, 0.075)[2])


@pytest.mark.parametrize(("wide", "narrow"), [(0.1524, 0.1016), (0.127, 0.1016), (0.1016, 0.0762)])
def test_where_the_bore_changes_a_run_loses_what_a_fluids_library_says(wide, narrow):
    fast, slow = velocity_pressure_pa(0.06, narrow, 1.2), velocity_pressure_pa(0.06, wide, 1.2)
    widening = fluids.fittings.diffuser_sharp(narrow, wide) * fast  # of the velocity pressure before it
    assert step_drop_pa(fast, slow) == approx(widening + slow - fast, rel=1e-6)
    narrowing = fluids.fittings.contraction_sharp(wide, narrow) * fast  # of that behind it; two sources, 20 % apart
    assert step_drop_pa(slow, fast) - (fast - slow) == approx(narrowing, rel=0.2)


def test_a_piece_of_another_bore_loses_by_its_own():
    pieces = (Straight(3.0, "galvanised"), Straight(3.0, "galvanised"))
    four, three = VentRun(0.1016, pieces), VentRun(0.0762, pieces)
    mixed = VentRun(0.1016, pieces, own_bores_m=(None, 0.0762))
    first, second = piece_drops_pa(mixed, 0.06)
    assert first == piece_drops_pa(four, 0.06)[0]
    step = step_drop_pa(velocity_pressure_pa(0.06, 0.1016, 1.2), velocity_pressure_pa(0.06, 0.0762, 1.2))
    assert second == approx(piece_drops_pa(three, 0.06)[1] + step, rel=0.01)
