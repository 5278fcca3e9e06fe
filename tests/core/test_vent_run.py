"""A vent run against its allowance, and what it breaks."""

from dataclasses import replace

import pytest
from pytest import approx

from warmdraft.errors import VentError
from warmdraft.vent import Elbow, Flexible, Hood, Pinch, Straight, VentRun, allowance_of, code_profiles, judge_run

BORE = 0.1016
FOOT, INCH = 0.3048, 0.0254
PROFILE = code_profiles()["residential-model"]
FLOW = 0.07


def run(*pieces, lint=0.0):
    return VentRun(BORE, (*pieces, Hood("flap")), lint)


# Source: International Residential Code M1502, from memory: ft and in taken off by a bend
@pytest.mark.parametrize(
    ("style", "radius_in", "angle", "feet"),
    [("mitred", 4, 45, 2.5), ("mitred", 4, 90, 5), ("smooth", 6, 45, 1), ("smooth", 6, 90, 1.75),
     ("smooth", 8, 90, 1 + 7 / 12), ("smooth", 10, 45, 0.75), ("smooth", 10, 90, 1.5), ("smooth", 4, 90, 5),
     ("mitred", 4, 180, 10), ("smooth", 7, 90, 1.75)],
)  # fmt: skip
def test_what_a_bend_takes_off_the_length(style, radius_in, angle, feet):
    elbow = Elbow(angle, style, radius_in * INCH)
    found = allowance_of(run(Straight(3 * FOOT, "galvanised"), elbow), PROFILE)
    assert found.fittings_m == approx(feet * FOOT) and found.allowed_m == approx((35 - feet) * FOOT)
    assert found.length_m == approx(3 * FOOT) and found.within


def test_a_profile_without_a_bend_says_so():
    with pytest.raises(VentError, match="nothing of a bend"):
        bare = replace(PROFILE, fittings=())
        allowance_of(run(Elbow(90, "smooth", 0.1)), bare)


@pytest.mark.parametrize(
    ("pieces", "lint", "flow", "code"),
    [
        ((Straight(40 * FOOT, "galvanised"),), 0, FLOW, "too_long"),
        ((Straight(3, "galvanised"),), 0, 0.045, "lint_settles"),
        ((Straight(3, "galvanised"), Pinch(0.2)), 0, FLOW, "outlet_limit"),
        ((Straight(3, "galvanised"), Pinch(0.5)), 0, FLOW, "pinched"),
        ((Flexible(1, 0.0),), 0, FLOW, "flexible_in_run"),
        ((Flexible(1, 0.2),), 0, FLOW, "flexible_slack"),
        ((Hood("flap"), Straight(3, "galvanised")), 0, FLOW, "hood_inside"),
        ((Straight(3, "galvanised"),), 0.004, FLOW, "lint_layer"),
        ((Straight(3, "galvanised"),), 0, 0.1, "makeup_air"),
    ],
)
def test_what_a_run_breaks_is_named(pieces, lint, flow, code):
    assert code in {w.code for w in judge_run(run(*pieces, lint=lint), flow, PROFILE, 21.0).warnings}


def test_a_short_clean_rigid_run_breaks_nothing():
    found = judge_run(run(Straight(3, "galvanised"), Elbow(90, "smooth", 6 * INCH)), FLOW, PROFILE, 21.0)
    assert found.warnings == () and found.pressure_drop_pa == approx(sum(found.drops_pa))


@pytest.mark.parametrize(("pieces", "code"), [((), "no_hood"), ((Hood("open"),), "no_flap")])
def test_a_run_has_to_end_in_a_hood_with_a_flap(pieces, code):
    found = judge_run(VentRun(BORE, (Straight(3, "galvanised"), *pieces)), FLOW, PROFILE, 21.0)
    assert code in {w.code for w in found.warnings}


def test_hot_air_loses_less_pressure():
    cold, hot = (judge_run(run(Straight(10, "galvanised")), FLOW, PROFILE, t).pressure_drop_pa for t in (21.0, 60.0))
    assert 0.8 * cold < hot < cold
