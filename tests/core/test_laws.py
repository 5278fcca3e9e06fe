"""Laws of the parts beside the airway: vents, faults, priors; for whatever somebody makes of the data."""

import dataclasses
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pytest import approx

from strategies import FULL_SIZE, suppositions
from warmdraft.airway import healthy_state, solve
from warmdraft.errors import UnitError, VentError
from warmdraft.faults import (
    Told,
    apply_fault,
    catalogue,
    circumstance_names,
    complaint_names,
    log_priors,
    severity_grid,
    supposed_state,
)
from warmdraft.machine import ELEMENTS
from warmdraft.units import to_si
from warmdraft.vent import Elbow, Flexible, Hood, Pinch, Straight, VentRun, piece_drops_pa

pieces = st.one_of(
    st.builds(Straight, st.floats(0.1, 20), st.sampled_from(["galvanised", "aluminium", "smooth"])),
    st.builds(Elbow, st.floats(5, 120), st.just("mitred")),
    st.builds(Elbow, st.floats(5, 120), st.just("smooth"), st.floats(0.03, 0.5)),
    st.builds(Flexible, st.floats(0.1, 5), st.floats(0, 0.3)),
    st.builds(Pinch, st.floats(0.05, 1)),
    st.builds(Hood, st.sampled_from(["flap", "open"])),
)


@given(st.lists(pieces, min_size=1, max_size=6), st.floats(0.02, 0.12), st.floats(1.05, 2))
def test_a_vent_never_loses_less_at_more_flow_or_with_lint_on_its_wall(run, flow, more):
    clean = VentRun(0.1016, tuple(run))
    drops = piece_drops_pa(clean, flow)
    assert all(drop >= 0 and math.isfinite(drop) for drop in drops)
    assert all(a <= b + 1e-9 for a, b in zip(drops, piece_drops_pa(clean, flow * more), strict=True))
    linty = piece_drops_pa(dataclasses.replace(clean, lint_layer_m=0.004), flow)
    for piece, drop, lint in zip(run, drops, linty, strict=True):
        if not isinstance(piece, Elbow):  # a tighter bore makes a bend's radius larger beside it
            assert lint >= drop - 1e-9


@given(st.floats(5, 30))
def test_friction_grows_about_with_the_fifth_power_as_lint_narrows_the_bore(millimetres):
    run = VentRun(0.1016, (Straight(10, "galvanised"),))
    thick = dataclasses.replace(run, lint_layer_m=millimetres / 1000)
    ratio = piece_drops_pa(thick, 0.05)[0] / piece_drops_pa(run, 0.05)[0]
    assert ratio == approx((0.1016 / (0.1016 - 2 * millimetres / 1000)) ** 5, rel=0.25)


def test_lint_that_fills_the_bore_is_refused():
    with pytest.raises(VentError, match="leaves no bore"):
        VentRun(0.1016, (), lint_layer_m=0.051)


@pytest.mark.parametrize("name", [n for n, f in catalogue().items() if f.range])
def test_a_graver_fault_takes_more(name):
    # severities run from mild to grave along the grid, or the other way for what is left of speed and power
    fault = catalogue()[name]
    grid = severity_grid(fault, 12)
    least = -fault.range[1] if fault.either_sign else fault.range[0]
    assert grid is not None and grid[0] >= least and grid[-1] <= fault.range[1]
    assert np.all(np.abs(grid) >= fault.range[0])
    flow = solve(apply_fault(healthy_state(FULL_SIZE.airway), FULL_SIZE.airway, fault, grid), FULL_SIZE.airway.fan)
    for values in (np.broadcast_to(flow.heater, grid.shape), np.broadcast_to(flow.vent, grid.shape)):
        steps = np.diff(values)
        assert np.all(steps <= 1e-12) or np.all(steps >= -1e-12)


@given(suppositions())
def test_faults_compound_in_any_order(suppose):
    airway = FULL_SIZE.airway
    one, other = supposed_state(airway, suppose), supposed_state(airway, suppose[::-1])
    for field in dataclasses.fields(one):
        assert getattr(one, field.name) == approx(getattr(other, field.name))
    assert one.resistance.shape[-1] == len(ELEMENTS)


@given(
    st.frozensets(st.sampled_from(circumstance_names()), max_size=6),
    st.frozensets(st.sampled_from(complaint_names()), max_size=4),
)
def test_priors_sum_to_one_whatever_is_known_and_complained_of(circumstances, complaints):
    prior = np.exp(log_priors(Told(circumstances=circumstances, complaints=complaints)))
    assert prior.sum() == approx(1)
    assert np.all(prior > 0)


@pytest.mark.parametrize(
    ("value", "unit", "dimension", "expected"),
    [
        # exact by definition: foot, inch, pound, Btu (international table), standard gravity
        (1, "ft", "length", 0.3048),
        (1, "in", "length", 0.0254),
        (1, "lb", "mass", 0.45359237),
        (1, "Btu/h", "power", 0.29307107),
        (1, "inH2O", "pressure", 249.08891),
        (1, "mmH2O", "pressure", 9.80665),
        (1, "psi", "pressure", 6894.757),
        (1, "m3/h", "flow", 1 / 3600),
        (32, "degF", "temperature", 0.0),
        (0, "K", "temperature", -273.15),
        (9, "delta_degF", "temperature_difference", 5.0),
        (1, "Hz", "rotation", 60.0),
        (1, "ft/min", "air_speed", 0.00508),
        (1, "h", "time", 60.0),
    ],
)
def test_units_are_what_their_definitions_say(value, unit, dimension, expected):
    assert to_si(value, unit, dimension) == approx(expected, rel=1e-4, abs=1e-9)


@pytest.mark.parametrize("value", [math.nan, math.inf, -math.inf])
def test_a_number_that_is_none_is_refused(value):
    with pytest.raises(UnitError, match="not a finite number"):
        to_si(value, "Pa", "pressure")


def test_a_unit_of_another_kind_is_refused_with_the_right_ones():
    with pytest.raises(UnitError, match="give one of m3/s, L/s, m3/h, cfm"):
        to_si(1, "Pa", "flow")
